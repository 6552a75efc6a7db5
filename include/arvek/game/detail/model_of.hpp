#pragma once
// A game's functions behind those of GameModel: the one place where AnyGame knows the game's type.

#include <memory>
#include <string>
#include <utility>

#include "arvek/game/any_game.hpp"

namespace arvek::detail {

template <Game G>
class ModelOf final : public GameModel {
    using Position = typename G::Position;
    using Move = typename G::Move;

   public:
    explicit ModelOf(G game) : game_(std::move(game)) {
        if constexpr (MeasuredGame<G>) {
            int place = 0;
            for (const auto& quantity : game_.quantities())
                quantities.push_back({quantity.name,
                                      quantity.unit,
                                      quantity.doc,
                                      quantity.of,
                                      {place++},
                                      quantity.least,
                                      quantity.most});
        }
        if constexpr (SuggestingGame<G>) {
            int place = 0;
            for (const auto& suggester : game_.suggesters())
                suggesters.push_back({suggester.reason, suggester.doc, {place++}});
        }
    }

    bool offers(Ability ability) const override { return arvek::offers(game_, ability); }
    const void* game() const override { return &game_; }
    std::shared_ptr<const GameModel> another() const override { return std::make_shared<const ModelOf>(game_); }

    AnyPosition initial_position() const override { return AnyPosition(game_.initial_position()); }
    Player player_to_move(const AnyPosition& position) const override { return game_.player_to_move(of(position)); }
    void generate_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        MoveList<Move> own;
        game_.generate_moves(of(position), own);
        add(own, moves);
    }
    void play(AnyPosition& position, const AnyMove& move) const override {
        game_.play(position.get<Position>(), of(move));
    }
    std::optional<Outcome> outcome(const AnyPosition& position) const override { return game_.outcome(of(position)); }

    int players() const override { return players_of(game_); }
    Score evaluate(const AnyPosition& position, Player player) const override {
        return evaluation_of(game_, of(position), player);
    }
    std::uint64_t hash(const AnyPosition& position) const override {
        if constexpr (HashedGame<G>) return game_.hash(of(position));
        throw_not_offered(Ability::Hash);
    }
    std::uint64_t equivalence_hash(const AnyPosition& position) const override {
        if constexpr (EquivalenceGame<G>) return game_.equivalence_hash(of(position));
        throw_not_offered(Ability::Equivalence);
    }
    std::shared_ptr<void> play_reversibly(AnyPosition& position, const AnyMove& move) const override {
        if constexpr (ReversibleGame<G>) {
            auto undo = game_.play_reversibly(position.get<Position>(), of(move));
            return std::make_shared<decltype(undo)>(std::move(undo));
        }
        throw_not_offered(Ability::TakeBack);
    }
    void take_back(AnyPosition& position, const AnyMove& move, const void* undo) const override {
        if constexpr (ReversibleGame<G>) {
            using Undo = decltype(game_.play_reversibly(position.get<Position>(), of(move)));
            game_.take_back(position.get<Position>(), of(move), *static_cast<const Undo*>(undo));
        }
    }
    int order_hint(const AnyPosition& position, const AnyMove& move) const override {
        if constexpr (HintingGame<G>) return game_.order_hint(of(position), of(move));
        return 0;
    }
    void generate_forcing_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        if constexpr (ForcingGame<G>) {
            MoveList<Move> own;
            game_.generate_forcing_moves(of(position), own);
            add(own, moves);
        }
    }
    void generate_quiet_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        if constexpr (StagedGame<G>) {
            MoveList<Move> own;
            game_.generate_quiet_moves(of(position), own);
            add(own, moves);
        }
    }
    int count_moves(const AnyPosition& position) const override {
        if constexpr (CountingGame<G>) return game_.count_moves(of(position));
        throw_not_offered(Ability::MoveCount);
    }
    std::string coordinates(const AnyPosition& position, const AnyMove& move) const override {
        if constexpr (CoordinatesGame<G>) return game_.coordinates(of(position), of(move));
        throw_not_offered(Ability::Coordinates);
    }
    void play_nothing(AnyPosition& position) const override {
        if constexpr (NullMoveGame<G>) game_.play_nothing(position.get<Position>());
    }
    bool nothing_is_sound(const AnyPosition& position) const override {
        if constexpr (NullMoveGame<G>) return game_.nothing_is_sound(of(position));
        return false;
    }
    int draw_at_occurrence() const override { return draw_at_occurrence_of(game_); }
    std::uint64_t repetition_key(const AnyPosition& position) const override {
        if constexpr (KeyedRepetitionGame<G>) return game_.repetition_key(of(position));
        throw_not_offered(Ability::RepetitionKey);
    }
    Payoff most_payoff() const override { return most_payoff_of(game_); }
    PayoffBounds payoff_bounds(const AnyPosition& position, Player player) const override {
        if constexpr (BoundedGame<G>) return game_.payoff_bounds(of(position), player);
        return {};
    }
    void generate_sufficient_moves(const AnyPosition& position, MoveList<AnyMove>& moves) const override {
        MoveList<Move> own;
        if constexpr (SufficingGame<G>)
            game_.generate_sufficient_moves(of(position), own);
        else
            game_.generate_moves(of(position), own);
        add(own, moves);
    }
    void visit_moves(const AnyPosition& position, const MoveVisitor& visitor) const override {
        if constexpr (VisitingGame<G>)
            game_.visit_moves(of(position),
                              [&](const Move& move) { return visitor.call(visitor.state, AnyMove(move)); });
    }
    bool chance_is_next(const AnyPosition& position) const override {
        return arvek::chance_is_next(game_, of(position));
    }
    void generate_events(const AnyPosition& position, MoveList<Event<AnyMove>>& events) const override {
        MoveList<Event<Move>> own;
        list_events(game_, of(position), own);
        for (const auto& event : own) events.push_back({AnyMove(event.move), event.probability});
    }
    AnyMove draw_event(const AnyPosition& position, Random& random) const override {
        if constexpr (DrawnChanceGame<G>) return AnyMove(game_.draw_event(of(position), random));
        throw_not_offered(Ability::DrawnEvents);
    }
    AnyView view(const AnyPosition& position, Player player) const override {
        return AnyView(seen_by(game_, of(position), player));
    }
    AnyPosition sample(const AnyView& view, Random& random) const override {
        if constexpr (ViewedGame<G>) return AnyPosition(game_.sample(view.get<Seen<G>>(), random));
        return AnyPosition(view.get<Seen<G>>());
    }
    std::string view_text(const AnyView& view) const override {
        if constexpr (ViewTextGame<G>) return game_.view_text(view.get<Seen<G>>());
        throw_not_offered(Ability::ViewText);
    }
    AnyMove random_move(const AnyPosition& position, Random& random) const override {
        if constexpr (RandomMoveGame<G>) return AnyMove(game_.random_move(of(position), random));
        throw_not_offered(Ability::RandomMove);
    }
    Outcome play_out(AnyPosition& position, Random& random) const override {
        if constexpr (PlayOutGame<G>) return game_.play_out(position.get<Position>(), random);
        throw_not_offered(Ability::PlayOut);
    }
    double units_per_doubling() const override {
        if constexpr (ScaledGame<G>) return game_.units_per_doubling();
        throw_not_offered(Ability::Scale);
    }
    std::string position_text(const AnyPosition& position) const override {
        if constexpr (TextGame<G>) return game_.position_text(of(position));
        return "";
    }
    AnyPosition read_position(std::string_view text) const override {
        if constexpr (TextGame<G>) return AnyPosition(game_.read_position(text));
        throw_not_offered(Ability::Text);
    }
    std::string move_text(const AnyPosition& position, const AnyMove& move) const override {
        return move_name_of(game_, of(position), of(move));
    }
    AnyMove read_move(const AnyPosition& position, std::string_view text) const override {
        if constexpr (ReadsMoves<G>) return AnyMove(game_.read_move(of(position), text));
        throw_not_offered(Ability::ReadMove);
    }
    std::string drawing(const AnyPosition& position) const override {
        if constexpr (DrawnGame<G>) return game_.drawing(of(position));
        return position_text(position);
    }
    Board board(const AnyPosition& position, Player viewer) const override {
        if constexpr (BoardGame<G>) return game_.board(of(position), viewer);
        throw_not_offered(Ability::Board);
    }
    std::string player_name(Player player) const override { return player_name_of(game_, player); }
    double salience(const AnyPosition& position, const AnyMove& move) const override {
        if constexpr (SalientGame<G>) return game_.salience(of(position), of(move));
        return 0.5;
    }
    LevelChange level_change(int level) const override {
        if constexpr (ChangesLevels<G>) return game_.level_change(level);
        return {};
    }
    int preference(const AnyPosition& position, const AnyMove& move) const override {
        if constexpr (PreferringGame<G>) return game_.preference(of(position), of(move));
        return 0;
    }
    double quantity(int place, const AnyPosition& position, const AnyMove& move) const override {
        if constexpr (MeasuredGame<G>)
            return game_.quantities()[static_cast<std::size_t>(place)].value(game_, of(position), of(move));
        return 0;
    }
    void suggest(int place, const AnyPosition& position, Proposals<AnyMove>& proposals) const override {
        if constexpr (SuggestingGame<G>) {
            Proposals<Move> own;
            game_.suggesters()[static_cast<std::size_t>(place)].suggest(game_, of(position), own);
            for (const auto& proposal : own.all())
                proposals.add(AnyMove(proposal.move), proposal.urgency, proposal.note);
        }
    }
    std::vector<Pattern> patterns() const override {
        if constexpr (PatternedGame<G>) return game_.patterns();
        throw_not_offered(Ability::Patterns);
    }
    void read_patterns(const AnyPosition& position, Player player, std::span<std::uint16_t> ways) const override {
        if constexpr (PatternedGame<G>) return game_.read_patterns(of(position), player, ways);
        throw_not_offered(Ability::Patterns);
    }
    ActNames act_names() const override {
        if constexpr (ActingGame<G>) return game_.act_names();
        return {};
    }
    Act act(const AnyPosition& position, const AnyMove& move) const override {
        if constexpr (ActingGame<G>) return game_.act(of(position), of(move));
        return {};
    }
    std::uint64_t move_key(const AnyPosition& position, const AnyMove& move, std::size_t place) const override {
        return arvek::move_key(game_, of(position), of(move), place);
    }

   private:
    static const Position& of(const AnyPosition& position) { return position.get<Position>(); }
    static const Move& of(const AnyMove& move) { return move.get<Move>(); }
    static void add(const MoveList<Move>& own, MoveList<AnyMove>& moves) {
        for (const Move& move : own) moves.push_back(AnyMove(move));
    }

    G game_;
};

}  // namespace arvek::detail

namespace arvek {

// Not inline, so that `extern template` keeps it from being made once more.
template <class G>
requires(!std::is_same_v<G, AnyGame>) && Game<G> AnyGame::AnyGame(G game)
    : model_(std::make_shared<const detail::ModelOf<G>>(std::move(game))) {}

}  // namespace arvek
