#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <exception>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/random.hpp"
#include "arvek/lab/check.hpp"
#include "chance_checker.hpp"
#include "value_checker.hpp"

namespace arvek {

namespace detail {

namespace {

class RuleChecker {
   public:
    using Position = AnyPosition;
    using Move = AnyMove;

    RuleChecker(const GameKit& kit, const CheckOptions& options) : kit_(kit), game_(kit.game), options_(options) {}

    CheckReport check() {
        guarded({}, "exception", [&] { players_ = players_of(game_); });
        if (!report_.sound()) return std::move(report_);
        guarded({}, "exception", [&] {
            if (!(game_.initial_position() == game_.initial_position()))
                fault("left-over state", "initial_position() gives another position the second time", {});
            play_random_game(0);
            look_at_short_sequences();
            for (int number = 1; number < options_.games && endless_games_ < most_endless_games; ++number)
                play_random_game(number);
            // After everything else that has happened, the first game must still go as it went.
            replay(first_path_, first_history_);
            if (report_.sound()) compare_chances();
            if (!has_chance(game_) && !has_views(game_) && players_ == 2)
                if (report_.sound()) compare_values();  // what broke may break a search as well, and is the better lead
        });
        if (moves_after_end_)
            report_.remarks.push_back(
                "generate_moves gives moves in finished positions; nobody here asks, other callers might");
        return std::move(report_);
    }

   private:
    using Path = std::vector<Move>;

    /// Runs `act`; what it throws is a fault of the game.
    template <class Act>
    void guarded(const Path& path, const char* law, Act act) {
        try {
            act();
        } catch (const std::exception& error) {
            fault(law, std::string("a function of the game threw: ") + error.what(), path);
        } catch (...) {
            fault(law, "a function of the game threw what is no std::exception", path);
        }
    }

    void fault(const std::string& law, const std::string& what, const Path& path) {
        for (const Fault& known : report_.faults)
            if (known.law == law && known.moves.size() <= path.size()) return;
        Fault found{law, what, {}, {}};
        try {
            Position position = game_.initial_position();
            for (const Move& move : path) {
                found.moves.push_back(move_name_of(game_, position, move));
                game_.play(position, move);
            }
            if (offers(game_, Ability::Text)) found.position = game_.position_text(position);
        } catch (...) {
            found.position = "(the position cannot be written)";
        }
        report_.add(std::move(found));
    }

    void look_at_short_sequences() {
        std::vector<Path> paths{{}};
        for (std::size_t i = 0; i < paths.size(); ++i) {
            const Path path = paths[i];
            guarded(path, "exception", [&] {
                Position position = game_.initial_position();
                for (const Move& move : path) game_.play(position, move);
                const MoveList<Move> moves = examine(position, path);
                for (const Move& move : moves) {
                    if (paths.size() >= static_cast<std::size_t>(options_.short_positions)) break;
                    paths.push_back(path);
                    paths.back().push_back(move);
                }
            });
        }
    }

    void play_random_game(int number) {
        Random random(derived_seed(options_.seed, static_cast<std::uint64_t>(number)));
        Path path;
        std::vector<Position> history;
        guarded(path, "exception", [&] { history.push_back(game_.initial_position()); });
        if (history.empty()) return;
        bool ended = false;
        for (int ply = 0; !ended && ply < options_.longest_game; ++ply) {
            bool stuck = true;
            guarded(path, "exception", [&] {
                const MoveList<Move> moves = examine(history.back(), path);
                ended = moves.empty();
                if (ended) return;
                Move move = moves[static_cast<std::size_t>(random.below(moves.size()))];
                if (has_chance(game_))
                    if (game_.chance_is_next(history.back())) move = drawn_event(game_, history.back(), random);
                Position after = history.back();
                path.push_back(move);
                game_.play(after, move);
                history.push_back(after);
                if (offers(game_, Ability::Repetition)) ended = outcome_with_history(game_, history).has_value();
                stuck = false;
            });
            if (stuck && !ended) return;
        }
        ++report_.games;
        endless_games_ += ended ? 0 : 1;
        if (!ended)
            fault("endless play",
                  "a random game was not over after " + std::to_string(options_.longest_game) + " plies", {});
        replay(path, history);
        if (number == 0) {
            first_path_ = path;
            first_history_ = history;
        }
    }

    /// The same moves again, after everything else that has happened, must lead to the same positions.
    void replay(const Path& path, const std::vector<Position>& history) {
        Path so_far;
        guarded(path, "exception", [&] {
            Position position = game_.initial_position();
            for (std::size_t ply = 0; ply <= path.size() && ply < history.size(); ++ply) {
                if (!(position == history[ply])) {
                    fault("left-over state", "the same moves led to another position the second time", so_far);
                    return;
                }
                if (ply == path.size()) return;
                so_far.push_back(path[ply]);
                game_.play(position, path[ply]);
            }
        });
    }

    /// Holds one position to the laws. The legal moves; none when the game is over there.
    MoveList<Move> examine(const Position& position, const Path& path) {
        ++report_.positions;
        const Position before = position;
        examine_hash(position, path);
        examine_text(position, path);
        MoveList<Move> moves;
        const auto outcome = game_.outcome(position);
        if (outcome != game_.outcome(position))
            fault("left-over state", "outcome() answers differently the second time", path);
        if (outcome) {
            for (std::size_t i = static_cast<std::size_t>(players_); i < max_players; ++i)
                if (outcome->payoff(static_cast<Player>(i)) != 0)
                    fault(
                        "payoffs",
                        "a player that is not there is paid " + std::to_string(outcome->payoff(static_cast<Player>(i))),
                        path);
            const Payoff first = outcome->payoff(Player::First), second = outcome->payoff(Player::Second);
            const Payoff most = most_payoff_of(game_);
            for (int i = 0; i < players_; ++i)
                if (const Payoff payoff = outcome->payoff(static_cast<Player>(i)); std::abs(payoff) > most)
                    fault("payoffs",
                          "a payoff of " + std::to_string(payoff) + " is beyond most_payoff(), " + std::to_string(most),
                          path);
            if (players_ == 2 && std::int64_t{first} + second != 0)
                fault("payoffs",
                      "the payoffs " + std::to_string(first) + " and " + std::to_string(second) + " do not sum to zero",
                      path);
            if (!moves_after_end_) {
                guarded(path, "exception", [&] {
                    MoveList<Move> late;
                    game_.generate_moves(position, late);
                    moves_after_end_ = !late.empty();
                });
            }
            return moves;
        }
        if (chance_is_next(game_, position)) {
            examine_events(position, path);
            generate_what_is_next(game_, position, moves);
            for (const Move& event : moves) examine_move(position, event, path);
            return moves;
        }
        const Player player = game_.player_to_move(position);
        if (static_cast<int>(index_of(player)) >= players_)
            fault("player",
                  "player_to_move() names a player that is not there: the game has " + std::to_string(players_), path);
        game_.generate_moves(position, moves);
        if (moves.empty()) {
            fault("no move",
                  "outcome() says that play goes on, but generate_moves() gives no move: is a stalemate forgotten?",
                  path);
            return moves;
        }
        MoveList<Move> again;
        game_.generate_moves(position, again);
        if (!(moves == again)) fault("left-over state", "generate_moves() gives other moves the second time", path);
        for (std::size_t i = 0; i < moves.size(); ++i)
            for (std::size_t j = i + 1; j < moves.size(); ++j)
                if (moves[i] == moves[j])
                    fault("duplicate move",
                          "generate_moves() gives " + move_name_of(game_, position, moves[i]) + " twice", path);
        examine_visits(position, moves, path);
        examine_views(position, moves, player, path);
        examine_evaluation(position, path);
        for (const Move& move : moves) examine_move(position, move, path);
        examine_parts(position, moves, path);
        // A position that shares something with its copies may even compare equal, but it no longer moves as it did.
        MoveList<Move> afterwards;
        const bool same = position == before && !game_.outcome(position);
        if (same) game_.generate_moves(position, afterwards);
        if (!same || !(afterwards == moves))
            fault("copying", "looking at a position, or playing from a copy of it, changed it", path);
        return moves;
    }

    /// What is drawn from a view agrees with it, and what the player to move may do follows from what it sees.
    void examine_views(const Position& position, const MoveList<Move>& moves, Player to_move, const Path& path) {
        if (!has_views(game_)) return;
        Random random(derived_seed(options_.seed, path.size()));
        for (int i = 0; i < players_; ++i) {
            const Player player = static_cast<Player>(i);
            const AnyView view = game_.view(position, player);
            if (!(view == game_.view(position, player)))
                fault("left-over state", "view() gives another view the second time", path);
            for (int draw = 0; draw < 2; ++draw) {
                const Position drawn = game_.sample(view, random);
                if (!(game_.view(drawn, player) == view)) {
                    fault("samples",
                          "a position drawn from a view of " + game_.player_name(player) +
                              " does not give the view again",
                          path);
                    continue;
                }
                if (game_.outcome(drawn).has_value() || chance_is_next(game_, drawn) ||
                    game_.player_to_move(drawn) != to_move) {
                    fault("views",
                          "who is next, or whether play is over, does not follow from what " +
                              game_.player_name(player) + " sees",
                          path);
                    continue;
                }
                if (player != to_move) continue;
                MoveList<Move> others;
                game_.generate_moves(drawn, others);
                bool same = others.size() == moves.size();
                for (const Move& move : moves) same = same && others.contains(move);
                if (!same)
                    fault("views",
                          "the legal moves of " + game_.player_name(player) +
                              " do not follow from what it sees: a position drawn from its view has others",
                          path);
                if (!same || !offers(game_, Ability::Text)) continue;
                for (const Move& move : moves)
                    if (game_.move_text(position, move) != game_.move_text(drawn, move))
                        fault("views",
                              "the text of a move of " + game_.player_name(player) + " depends on what it does not see",
                              path);
            }
        }
    }

    /// Events have probabilities that sum to one.
    void examine_events(const Position& position, const Path& path) {
        if (has_chance(game_)) {
            if (!lists_events(game_)) return;
            MoveList<Event<Move>> events;
            game_.generate_events(position, events);
            if (events.empty()) fault("probabilities", "chance is next, but generate_events() gives no event", path);
            double sum = 0;
            for (std::size_t i = 0; i < events.size(); ++i) {
                const double probability = events[i].probability;
                sum += probability;
                if (!(probability > 0 && probability <= 1))
                    fault("probabilities",
                          move_name_of(game_, position, events[i].move) + " has the probability " +
                              std::to_string(probability) + ", not more than 0 and at most 1",
                          path);
                for (std::size_t j = i + 1; j < events.size(); ++j)
                    if (events[i].move == events[j].move)
                        fault("probabilities",
                              "generate_events() gives " + move_name_of(game_, position, events[i].move) + " twice",
                              path);
            }
            constexpr double rounding = 1e-9;
            if (!events.empty() && !(sum >= 1 - rounding && sum <= 1 + rounding))
                fault("probabilities", "the probabilities sum to " + std::to_string(sum) + ", not to 1", path);
        }
    }

    /// Moves one at a time are the same ones, and end when they are told to.
    void examine_visits(const Position& position, const MoveList<Move>& moves, const Path& path) {
        if (offers(game_, Ability::Visiting)) {
            for (const std::size_t wanted : {moves.size() + 1, (moves.size() + 1) / 2}) {
                MoveList<Move> visited;
                game_.visit_moves(position, [&](const Move& move) {
                    visited.push_back(move);
                    return visited.size() < wanted;
                });
                const std::size_t expected = std::min(wanted, moves.size());
                if (visited.size() != expected || !std::equal(visited.begin(), visited.end(), moves.begin()))
                    fault("visited moves",
                          "visit_moves() gives other moves than generate_moves(), another order, or more than asked",
                          path);
            }
        }
    }

    void examine_move(const Position& position, const Move& move, const Path& path) {
        Path with_move = path;
        with_move.push_back(move);
        guarded(with_move, "exception", [&] {
            Position after = position;
            game_.play(after, move);
            Position twin = position;
            game_.play(twin, move);
            if (!(after == twin))
                fault("left-over state", "the same move leads to another position the second time", with_move);
            (void)game_.outcome(after);
            if (offers(game_, Ability::TakeBack)) {
                Position changed = position;
                const auto undo = game_.play_reversibly(changed, move);
                if (!(changed == after))
                    fault("take-back", "play_reversibly() and play() lead to different positions", with_move);
                game_.take_back(changed, move, undo);
                if (!(changed == position)) fault("take-back", "take_back() does not restore the position", with_move);
                if (offers(game_, Ability::Hash)) {
                    if (game_.hash(changed) != game_.hash(position))
                        fault("take-back", "take_back() does not restore the hash", with_move);
                }
            }
        });
    }

    void examine_hash(const Position& position, const Path& path) {
        if (offers(game_, Ability::Hash)) {
            const std::uint64_t hash = game_.hash(position);
            if (hash != game_.hash(Position(position))) fault("hash", "equal positions have different hashes", path);
            // Two different positions with one hash: remembered by a number of the hash, so that it costs little.
            constexpr std::size_t remembered = 1 << 14;
            if (seen_.empty()) seen_.resize(remembered);
            auto& entry = seen_[mix_bits(hash) % remembered];
            if (entry.known && entry.hash == hash && !(entry.position == position))
                fault("hash", "different positions have one hash; does the player to move count in it?", path);
            // Equal positions reached another way must have the same hash.
            auto& other = seen_by_text_of(position);
            if (other.known && other.position == position && other.hash != hash)
                fault("hash", "equal positions have different hashes", path);
            entry = {true, hash, position};
            other = entry;
        }
    }

    void examine_text(const Position& position, const Path& path) {
        if (offers(game_, Ability::Text)) {
            const std::string text = game_.position_text(position);
            guarded(path, "position text", [&] {
                if (!(game_.read_position(text) == position))
                    fault("position text", "'" + text + "' is read back as another position", path);
            });
            if (text.find('\n') != std::string::npos) fault("position text", "the text has more than one line", path);
            if (game_.outcome(position)) return;
            std::vector<std::string> texts;
            MoveList<Move> moves;
            generate_what_is_next(game_, position, moves);
            for (const Move& move : moves) texts.push_back(game_.move_text(position, move));
            std::vector<std::string> sorted = texts;
            std::sort(sorted.begin(), sorted.end());
            for (std::size_t i = 0; i < sorted.size(); ++i) {
                if (sorted[i].empty() || sorted[i].find_first_of(" \n\t") != std::string::npos)
                    fault("move text", "the move text '" + sorted[i] + "' is empty or has a space in it", path);
                if (i > 0 && sorted[i] == sorted[i - 1] && !has_twice(moves))
                    fault("move text", "two different moves are both written '" + sorted[i] + "'", path);
            }
            if (offers(game_, Ability::ReadMove))
                for (std::size_t i = 0; i < moves.size(); ++i)
                    guarded(path, "move text", [&] {
                        if (!(game_.read_move(position, texts[i]) == moves[i]))
                            fault("move text", "'" + texts[i] + "' is read back as another move", path);
                    });
        }
    }

    void examine_evaluation(const Position& position, const Path& path) {
        if (offers(game_, Ability::Evaluation)) {
            const Score first = game_.evaluate(position, Player::First),
                        second = players_ > 1 ? game_.evaluate(position, Player::Second) : -first;
            if (first.is_proven() || second.is_proven())
                fault("evaluation", "evaluate() claims a proven win or loss where play goes on", path);
            else if (players_ == 2 && first != -second)
                fault("evaluation",
                      "evaluate() gives " + std::to_string(first.number()) + " for the first player and " +
                          std::to_string(second.number()) + " for the second, not the opposite",
                      path);
        }
    }

    /// Forcing and sufficient moves are a part of the legal ones.
    void examine_parts(const Position& position, const MoveList<Move>& legal, const Path& path) {
        MoveList<Move> part;
        if (offers(game_, Ability::ForcingMoves)) {
            game_.generate_forcing_moves(position, part);
            for (const Move& move : part)
                if (!legal.contains(move))
                    fault("forcing moves", move_name_of(game_, position, move) + " is forcing but not legal", path);
        }
        if (offers(game_, Ability::SufficientMoves)) {
            part.clear();
            game_.generate_sufficient_moves(position, part);
            if (part.empty()) fault("sufficient moves", "there is none, and yet the game goes on", path);
            for (const Move& move : part)
                if (!legal.contains(move))
                    fault("sufficient moves", move_name_of(game_, position, move) + " is sufficient but not legal",
                          path);
        }
    }

    void compare_values() {
        const auto fault_here = [this](const std::string& law, const std::string& what, const Path& path) {
            fault(law, what, path);
        };
        ValueChecker(kit_, options_, fault_here, [this](std::string remark) {
            report_.remarks.push_back(std::move(remark));
        }).check();
    }

    void compare_chances() {
        const auto fault_here = [this](const std::string& law, const std::string& what, const Path& path) {
            fault(law, what, path);
        };
        ChanceChecker(game_, options_, fault_here).check();
    }

    static bool has_twice(const MoveList<Move>& moves) {
        for (std::size_t i = 0; i < moves.size(); ++i)
            for (std::size_t j = i + 1; j < moves.size(); ++j)
                if (moves[i] == moves[j]) return true;
        return false;
    }

    struct Seen {
        bool known = false;
        std::uint64_t hash = 0;
        Position position{};
    };

    /// Where an equal position was kept, found without its hash: by its text, or by the moves it has.
    Seen& seen_by_text_of(const Position& position) {
        std::uint64_t key = 0;
        const auto take = [&](const std::string& text) {
            for (const char letter : text) key = mix_bits(key ^ static_cast<unsigned char>(letter));
        };
        if (offers(game_, Ability::Text)) take(game_.position_text(position));
        constexpr std::size_t remembered = 1 << 14;
        if (seen_by_text_.empty()) seen_by_text_.resize(remembered);
        return seen_by_text_[key % remembered];
    }

    const GameKit& kit_;
    const AnyGame& game_;
    int players_ = 2;
    CheckOptions options_;
    CheckReport report_;
    std::vector<Seen> seen_, seen_by_text_;
    bool moves_after_end_ = false;
    Path first_path_;
    std::vector<Position> first_history_;
    static constexpr int most_endless_games = 3;
    int endless_games_ = 0;
};

}  // namespace

}  // namespace detail

CheckReport check_kit(const GameKit& kit, const CheckOptions& options) {
    require_in_range(options);
    return detail::RuleChecker(kit, options).check();
}

}  // namespace arvek
