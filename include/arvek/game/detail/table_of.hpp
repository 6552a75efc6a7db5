#pragma once
// A game's functions behind those of GameTable: the one place where the library knows the game's type.

#include <cstring>
#include <memory>
#include <new>
#include <string>
#include <utility>

#include "arvek/game/move_key.hpp"
#include "arvek/game/playing_out.hpp"
#include "arvek/game/table.hpp"

namespace arvek::detail {

/// Of a game of type G.
template <Game G>
struct Thunks {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using At = GameTable::At;
    using Table = const GameTable&;

    static const G& game(Table table) { return *static_cast<const G*>(table.game); }
    static const Position& at(At bytes) { return *static_cast<const Position*>(bytes); }
    static Position& at(void* bytes) { return *static_cast<Position*>(bytes); }
    static decltype(auto) own(const AnyMove& move) { return move.get<Move>(); }
    static const Seen<G>& seen(const AnyView& view) { return view.get<Seen<G>>(); }

    /// A list of the game's own moves, with more room than one has by itself, so that it need not allocate.
    class OwnMoves {
       public:
        OwnMoves() : moves(room_, most) {}
        OwnMoves(const OwnMoves&) = delete;
        OwnMoves& operator=(const OwnMoves&) = delete;

       private:
        static constexpr std::size_t most = 4'096 / sizeof(Move) + 8;
        alignas(Move) std::byte room_[most * sizeof(Move)];

       public:
        MoveList<Move> moves;
    };

    static void add(const MoveList<Move>& own_moves, MoveList<AnyMove>& moves) {
        moves.append_at_most(own_moves.size(), [&](AnyMove* end) {
            for (const Move& move : own_moves) *end++ = AnyMove(move);
            return end;
        });
    }

    static std::shared_ptr<const GameTable> another(Table table);
    static AnyPosition initial_position(Table table) { return AnyPosition(game(table).initial_position()); }
    static Player player_to_move(Table table, At position) { return game(table).player_to_move(at(position)); }
    static void generate_moves(Table table, At position, MoveList<AnyMove>& moves) {
        OwnMoves own_moves;
        game(table).generate_moves(at(position), own_moves.moves);
        add(own_moves.moves, moves);
    }
    static void play(Table table, void* position, AnyMove move) { game(table).play(at(position), own(move)); }
    static std::optional<Outcome> outcome(Table table, At position) { return game(table).outcome(at(position)); }

    static int players(Table table) { return players_of(game(table)); }
    static Score evaluate(Table table, At position, Player player) {
        return evaluation_of(game(table), at(position), player);
    }
    static std::uint64_t hash(Table table, At position) {
        if constexpr (HashedGame<G>) return game(table).hash(at(position));
        throw_not_offered(Ability::Hash);
    }
    static std::uint64_t equivalence_hash(Table table, At position) {
        if constexpr (EquivalenceGame<G>) return game(table).equivalence_hash(at(position));
        throw_not_offered(Ability::Equivalence);
    }
    static std::shared_ptr<void> play_reversibly(Table table, void* position, AnyMove move) {
        if constexpr (ReversibleGame<G>) {
            auto undo = game(table).play_reversibly(at(position), own(move));
            return std::make_shared<decltype(undo)>(std::move(undo));
        }
        throw_not_offered(Ability::TakeBack);
    }
    static void take_back(Table table, void* position, AnyMove move, const void* undo) {
        if constexpr (ReversibleGame<G>) {
            using Undo = decltype(game(table).play_reversibly(at(position), own(move)));
            game(table).take_back(at(position), own(move), *static_cast<const Undo*>(undo));
        }
    }
    static int order_hint(Table table, At position, AnyMove move) {
        if constexpr (HintingGame<G>) return game(table).order_hint(at(position), own(move));
        return 0;
    }
    static void generate_forcing_moves(Table table, At position, MoveList<AnyMove>& moves) {
        if constexpr (ForcingGame<G>) {
            OwnMoves own_moves;
            game(table).generate_forcing_moves(at(position), own_moves.moves);
            add(own_moves.moves, moves);
        }
    }
    static void generate_quiet_moves(Table table, At position, MoveList<AnyMove>& moves) {
        if constexpr (StagedGame<G>) {
            OwnMoves own_moves;
            game(table).generate_quiet_moves(at(position), own_moves.moves);
            add(own_moves.moves, moves);
        }
    }
    static int count_moves(Table table, At position) {
        if constexpr (CountingGame<G>) return game(table).count_moves(at(position));
        throw_not_offered(Ability::MoveCount);
    }
    static void play_nothing(Table table, void* position) {
        if constexpr (NullMoveGame<G>) game(table).play_nothing(at(position));
    }
    static bool nothing_is_sound(Table table, At position) {
        if constexpr (NullMoveGame<G>) return game(table).nothing_is_sound(at(position));
        return false;
    }
    static int draw_at_occurrence(Table table) { return draw_at_occurrence_of(game(table)); }
    static std::uint64_t repetition_key(Table table, At position) {
        if constexpr (KeyedRepetitionGame<G>) return game(table).repetition_key(at(position));
        throw_not_offered(Ability::RepetitionKey);
    }
    static Payoff most_payoff(Table table) { return most_payoff_of(game(table)); }
    static PayoffBounds payoff_bounds(Table table, At position, Player player) {
        if constexpr (BoundedGame<G>) return game(table).payoff_bounds(at(position), player);
        return {};
    }
    static void generate_sufficient_moves(Table table, At position, MoveList<AnyMove>& moves) {
        OwnMoves own_moves;
        if constexpr (SufficingGame<G>)
            game(table).generate_sufficient_moves(at(position), own_moves.moves);
        else
            game(table).generate_moves(at(position), own_moves.moves);
        add(own_moves.moves, moves);
    }
    static void visit_moves(Table table, At position, const MoveVisitor& visitor) {
        if constexpr (VisitingGame<G>)
            game(table).visit_moves(at(position),
                                    [&](const Move& move) { return visitor.call(visitor.state, AnyMove(move)); });
    }
    static bool chance_is_next(Table table, At position) { return arvek::chance_is_next(game(table), at(position)); }
    static void generate_events(Table table, At position, MoveList<Event<AnyMove>>& events) {
        MoveList<Event<Move>> own_events;
        list_events(game(table), at(position), own_events);
        for (const auto& event : own_events) events.push_back({AnyMove(event.move), event.probability});
    }
    static AnyMove draw_event(Table table, At position, Random& random) {
        if constexpr (DrawnChanceGame<G>) return AnyMove(game(table).draw_event(at(position), random));
        throw_not_offered(Ability::DrawnEvents);
    }
    static AnyView view(Table table, At position, Player player) {
        if constexpr (ViewedGame<G>)
            if (has_views(game(table))) return AnyView(game(table).view(at(position), player));
        return AnyView(at(position));
    }
    static AnyPosition sample(Table table, const AnyView& view_seen, Random& random) {
        if constexpr (ViewedGame<G>)
            if (has_views(game(table))) return AnyPosition(game(table).sample(seen(view_seen), random));
        return AnyPosition(view_seen.get<Position>());
    }
    static std::string view_text(Table table, const AnyView& view_seen) {
        if constexpr (ViewTextGame<G>) return game(table).view_text(seen(view_seen));
        throw_not_offered(Ability::ViewText);
    }
    static AnyMove random_move(Table table, At position, Random& random) {
        if constexpr (RandomMoveGame<G>) return AnyMove(game(table).random_move(at(position), random));
        throw_not_offered(Ability::RandomMove);
    }
    static Outcome play_out(Table table, void* position, Random& random) {
        if constexpr (PlayOutGame<G>) return game(table).play_out(at(position), random);
        throw_not_offered(Ability::PlayOut);
    }
    static double units_per_doubling(Table table) {
        if constexpr (ScaledGame<G>) return game(table).units_per_doubling();
        throw_not_offered(Ability::Scale);
    }
    static std::string position_text(Table table, At position) {
        if constexpr (TextGame<G>) return game(table).position_text(at(position));
        return "";
    }
    static AnyPosition read_position(Table table, std::string_view text) {
        if constexpr (TextGame<G>) return AnyPosition(game(table).read_position(text));
        throw_not_offered(Ability::Text);
    }
    static std::string move_text(Table table, At position, AnyMove move) {
        return move_name_of(game(table), at(position), own(move));
    }
    static AnyMove read_move(Table table, At position, std::string_view text) {
        if constexpr (ReadsMoves<G>) return AnyMove(game(table).read_move(at(position), text));
        throw_not_offered(Ability::ReadMove);
    }
    static std::string coordinates(Table table, At position, AnyMove move) {
        if constexpr (CoordinatesGame<G>) return game(table).coordinates(at(position), own(move));
        throw_not_offered(Ability::Coordinates);
    }
    static std::string drawing(Table table, At position) {
        if constexpr (DrawnGame<G>) return game(table).drawing(at(position));
        return position_text(table, position);
    }
    static Board board(Table table, At position, Player viewer) {
        if constexpr (BoardGame<G>) return game(table).board(at(position), viewer);
        throw_not_offered(Ability::Board);
    }
    static std::string player_name(Table table, Player player) { return player_name_of(game(table), player); }
    static double salience(Table table, At position, AnyMove move) {
        if constexpr (SalientGame<G>) return game(table).salience(at(position), own(move));
        return 0.5;
    }
    static LevelChange level_change(Table table, int level) {
        if constexpr (ChangesLevels<G>) return game(table).level_change(level);
        return {};
    }
    static int preference(Table table, At position, AnyMove move) {
        if constexpr (PreferringGame<G>) return game(table).preference(at(position), own(move));
        return 0;
    }
    static double quantity(Table table, int place, At position, AnyMove move) {
        if constexpr (MeasuredGame<G>)
            return game(table).quantities()[static_cast<std::size_t>(place)].value(game(table), at(position),
                                                                                   own(move));
        return 0;
    }
    static void suggest(Table table, int place, At position, Proposals<AnyMove>& proposals) {
        if constexpr (SuggestingGame<G>) {
            Proposals<Move> own_proposals;
            game(table).suggesters()[static_cast<std::size_t>(place)].suggest(game(table), at(position), own_proposals);
            for (const auto& proposal : own_proposals.all())
                proposals.add(AnyMove(proposal.move), proposal.urgency, proposal.note);
        }
    }
    static std::vector<Pattern> patterns(Table table) {
        if constexpr (PatternedGame<G>) return game(table).patterns();
        throw_not_offered(Ability::Patterns);
    }
    static void read_patterns(Table table, At position, Player player, std::span<std::uint16_t> ways) {
        if constexpr (PatternedGame<G>) return game(table).read_patterns(at(position), player, ways);
        throw_not_offered(Ability::Patterns);
    }
    static ActNames act_names(Table table) {
        if constexpr (ActingGame<G>) return game(table).act_names();
        return {};
    }
    static Act act(Table table, At position, AnyMove move) {
        if constexpr (ActingGame<G>) return game(table).act(at(position), own(move));
        return {};
    }
    static std::uint64_t move_key(Table table, At position, AnyMove move, std::size_t place) {
        return arvek::move_key(game(table), at(position), own(move), place);
    }

    // ---- kernels ----

    [[gnu::always_inline]] static Turn turn_at(const G& own_game, const Position& position) {
        if (own_game.outcome(position)) return {Player::First, true, false};
        if (arvek::chance_is_next(own_game, position)) return {Player::First, false, true};
        return {own_game.player_to_move(position), false, false};
    }
    static Turn turn(Table table, At position) { return turn_at(game(table), at(position)); }
    static Turn play_on(Table table, void* position, AnyMove move) {
        game(table).play(at(position), own(move));
        return turn_at(game(table), at(position));
    }
    static Turn play_into(Table table, At from, void* to, AnyMove move) {
        if constexpr (lies_inside<Position>)
            ::new (to) Position(at(from));
        else
            at(to) = at(from);
        return play_on(table, to, move);
    }
    /// A position of at most 8 bytes that tell is its own mark.
    static constexpr bool is_its_mark =
        sizeof(Position) <= sizeof(std::uint64_t) && std::has_unique_object_representations_v<Position>;
    static std::uint64_t repetition_mark(Table table, At position) {
        if constexpr (KeyedRepetitionGame<G>)
            if (wants_used<Ability::RepetitionKey>(game(table))) return game(table).repetition_key(at(position));
        if constexpr (is_its_mark) {
            std::uint64_t mark = 0;
            std::memcpy(&mark, position, sizeof(Position));
            return mark;
        } else if constexpr (HashedGame<G>) {
            if (has_hash(game(table))) return game(table).hash(at(position));
        }
        return 0;
    }
    static bool mark_tells(const G& own_game) {
        if constexpr (KeyedRepetitionGame<G>)
            if (wants_used<Ability::RepetitionKey>(own_game)) return true;
        return is_its_mark;
    }
    static AnyMove drawn_event(Table table, At position, Random& random) {
        return AnyMove(arvek::drawn_event(game(table), at(position), random));
    }
    [[gnu::flatten]] static bool leaf(Table table, At position, AnyMove move, Player player, Score& evaluation,
                                      Outcome& end) {
        Position next = at(position);
        game(table).play(next, own(move));
        if (const auto ended = game(table).outcome(next)) {
            end = *ended;
            return true;
        }
        evaluation = evaluation_of(game(table), next, player);
        return false;
    }
    /// As LineOfPlay::place_before() finds it.
    [[gnu::always_inline]] static bool comes_back(Table table, const Position& position, Player mover,
                                                  const HorizonPly& asked) {
        const std::uint64_t mark = repetition_mark(table, &position);
        const int step = asked.alternating && asked.last_mover != mover ? 2 : 1;
        for (int before = asked.ply - step; before >= 0; before -= step)
            if (asked.marks[before] == mark) return true;
        for (int before = -1; before >= -asked.earlier; --before)
            if (asked.marks[before] == mark) return true;
        return false;
    }
    [[gnu::flatten]] static bool last_ply(Table table, At position, HorizonPly& asked) {
        const G& own_game = game(table);
        const Position& here = at(position);
        Score alpha = asked.alpha, best = Score::lowest();
        const Score beta = asked.beta;
        std::int64_t nodes = 0;
        bool is_enough = true;
        const auto step = [&](const Move& move) {
            if (nodes == asked.most) return is_enough = false;
            ++nodes;
            Position next = here;
            own_game.play(next, move);
            Score score;
            if (const auto ended = own_game.outcome(next)) {
                score = asked.ends.score(*ended, asked.player, asked.ply);
            } else {
                const Player mover = own_game.player_to_move(next);
                if (RepeatingGame<G> && asked.marks != nullptr && comes_back(table, next, mover, asked)) {
                    score = asked.repetition;
                } else {
                    asked.horizon = true;
                    score = evaluation_of(own_game, next, mover);
                    if (mover != asked.player) score = -score;
                }
            }
            if (best < score) best = score;
            if (score <= alpha) return true;
            alpha = score;
            asked.move = AnyMove(move).number;
            asked.improved = true;
            asked.cut = alpha >= beta;
            return !asked.cut;
        };
        bool visits = false;
        if constexpr (VisitingGame<G>) {
            visits = wants_used<Ability::Visiting>(own_game);
            if (visits) own_game.visit_moves(here, step);
        }
        if (!visits) {
            OwnMoves moves;
            own_game.generate_moves(here, moves.moves);
            for (const Move& move : moves.moves)
                if (!step(move)) break;
        }
        if (!is_enough || nodes == 0) return false;
        asked.best = best;
        asked.nodes = nodes;
        return true;
    }
    [[gnu::flatten]] static CountedPly count_ply(Table table, At position) {
        const G& own_game = game(table);
        OwnMoves moves;
        own_game.generate_moves(at(position), moves.moves);
        CountedPly counted{moves.moves.size(), 0};
        for (const Move& move : moves.moves) {
            Position next = at(position);
            own_game.play(next, move);
            counted.ends += own_game.outcome(next) ? 1 : 0;
        }
        if (counted.moves == 0) throw_no_move();
        return counted;
    }
    static int play_out_plies(Table table, void* position, Random& random, int most, Outcome& end, bool& is_over) {
        OwnMoves moves;
        int plies = 0;
        for (is_over = false; plies < most && !is_over;) {
            ++plies;
            play_at_random(game(table), at(position), random, moves.moves);
            if (const auto ended = game(table).outcome(at(position))) {
                end = *ended;
                is_over = true;
            }
        }
        return plies;
    }

    static GameTable table_for(std::shared_ptr<const G> owned) {
        GameTable table;
        table.game = owned.get();
        for (const AbilityInfo& info : ability_table())
            if (offers(*owned, info.ability)) table.abilities |= bit_of(info.ability);
        table.another = another;
        table.initial_position = initial_position;
        table.player_to_move = player_to_move;
        table.generate_moves = generate_moves;
        table.play = play;
        table.outcome = outcome;
        table.players = players;
        table.evaluate = evaluate;
        table.hash = hash;
        table.equivalence_hash = equivalence_hash;
        table.play_reversibly = play_reversibly;
        table.take_back = take_back;
        table.order_hint = order_hint;
        table.generate_forcing_moves = generate_forcing_moves;
        table.generate_quiet_moves = generate_quiet_moves;
        table.count_moves = count_moves;
        table.play_nothing = play_nothing;
        table.nothing_is_sound = nothing_is_sound;
        table.draw_at_occurrence = draw_at_occurrence;
        table.repetition_key = repetition_key;
        table.most_payoff = most_payoff;
        table.payoff_bounds = payoff_bounds;
        table.generate_sufficient_moves = generate_sufficient_moves;
        table.visit_moves = visit_moves;
        table.chance_is_next = chance_is_next;
        table.generate_events = generate_events;
        table.draw_event = draw_event;
        table.view = view;
        table.sample = sample;
        table.view_text = view_text;
        table.random_move = random_move;
        table.play_out = play_out;
        table.units_per_doubling = units_per_doubling;
        table.position_text = position_text;
        table.read_position = read_position;
        table.move_text = move_text;
        table.read_move = read_move;
        table.coordinates = coordinates;
        table.drawing = drawing;
        table.board = board;
        table.player_name = player_name;
        table.salience = salience;
        table.level_change = level_change;
        table.preference = preference;
        table.quantity = quantity;
        table.suggest = suggest;
        table.patterns = patterns;
        table.read_patterns = read_patterns;
        table.act_names = act_names;
        table.act = act;
        table.move_key = move_key;
        if constexpr (MeasuredGame<G>) {
            int place = 0;
            for (const auto& each : owned->quantities())
                table.quantities.push_back({each.name, each.unit, each.doc, each.of, {place++}, each.least, each.most});
        }
        if constexpr (SuggestingGame<G>) {
            int place = 0;
            for (const auto& each : owned->suggesters()) table.suggesters.push_back({each.reason, each.doc, {place++}});
        }
        table.turn = turn;
        table.play_on = play_on;
        table.play_into = play_into;
        table.repetition_mark = repetition_mark;
        table.mark_tells = mark_tells(*owned);
        table.drawn_event = drawn_event;
        table.leaf = leaf;
        table.last_ply = last_ply;
        table.count_ply = count_ply;
        table.play_out_plies = play_out_plies;
        table.owner = std::move(owned);
        return table;
    }
};

}  // namespace arvek::detail

namespace arvek {

/// A copy of the game as a table; each ability that the game offers is there.
template <class G>
requires(!std::is_same_v<G, AnyGame>) && Game<G> std::shared_ptr<const GameTable> table_of(G game) {
    return std::make_shared<const GameTable>(detail::Thunks<G>::table_for(std::make_shared<const G>(std::move(game))));
}

template <Game G>
std::shared_ptr<const GameTable> detail::Thunks<G>::another(Table table) {
    return table_of(game(table));
}

}  // namespace arvek
