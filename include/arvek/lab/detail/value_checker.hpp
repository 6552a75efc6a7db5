#pragma once
// The part of checking that compares values: searches against plain minimax, and what a game claims about values
// against looking at every line.

#include <algorithm>
#include <string>
#include <vector>

#include "arvek/game/equivalence.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/sufficient_moves.hpp"
#include "arvek/lab/check_report.hpp"
#include "arvek/search/alpha_beta.hpp"
#include "arvek/search/minimax.hpp"
#include "arvek/search/solver.hpp"
#include "arvek/search/standard.hpp"

namespace arvek::detail {

/// `fault(law, what, path)` is told what does not hold, and the moves that lead there.
template <Game G, class Fault>
class ValueChecker {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Path = std::vector<Move>;

    ValueChecker(const G& game, const CheckOptions& options, const Fault& fault)
        : game_(game), options_(options), fault_(fault) {}

    void check() {
        compare_searches();
        compare_claims();
        compare_equivalents();
    }

   private:
    /// Shallow alpha-beta and the standard search against plain minimax.
    void compare_searches() {
        constexpr std::uint64_t most_nodes = 30'000;
        Techniques plain_values;
        plain_values.table = false;
        plain_values.quiescence = false;
        Random random(derived_seed(options_.seed, 1'000'003));
        for (int i = 0; i < options_.compared; ++i) {
            Path path;
            Position position = game_.initial_position();
            for (int ply = 0; ply < i; ++ply) {
                const MoveList<Move> moves = legal_moves(game_, position);
                const Move move = moves[static_cast<std::size_t>(random.below(moves.size()))];
                Position after = position;
                game_.play(after, move);
                if (game_.outcome(after)) break;
                position = after;
                path.push_back(move);
            }
            for (int depth = 1; depth <= 4; ++depth) {
                Limits limits{.depth = depth};
                const auto known = Minimax<G>(game_).decide(position, limits);
                if (known.stats.nodes > most_nodes) break;
                const Score value = known.ranked.front().score;
                if (AlphaBeta<G>(game_).decide(position, limits).ranked.front().score != value)
                    fault_("search",
                           "alpha-beta to depth " + std::to_string(depth) + " finds another value than minimax", path);
                if constexpr (!RepeatingGame<G>)
                    if (Standard<G>(game_, {.techniques = plain_values})
                            .decide(position, limits)
                            .ranked.front()
                            .score != value)
                        fault_("search",
                               "the standard search to depth " + std::to_string(depth) +
                                   " finds another value than minimax",
                               path);
                if (known.stats.nodes > most_nodes / 20) break;
            }
        }
    }

    /// What a game claims about the value of a position, against the value found by looking at every line to the end.
    void compare_claims() {
        if constexpr (!RepeatingGame<G> && (BoundedGame<G> || SufficingGame<G> || HashedGame<G>)) {
            for (int number = 0; number < options_.compared; ++number) {
                Random random(derived_seed(options_.seed, 2'000'003 + static_cast<std::uint64_t>(number)));
                Path path;
                std::vector<Position> history{game_.initial_position()};
                while (!game_.outcome(history.back()) && static_cast<int>(path.size()) < options_.longest_game) {
                    const MoveList<Move> moves = legal_moves(game_, history.back());
                    path.push_back(moves[static_cast<std::size_t>(random.below(moves.size()))]);
                    history.push_back(history.back());
                    game_.play(history.back(), path.back());
                }
                // From the end backwards, for as long as all lines can be followed.
                for (bool known = true; known && !path.empty();) {
                    history.pop_back();
                    path.pop_back();
                    known = compare_claims_at(history.back(), path);
                }
            }
        }
    }

    /// False when there are too many lines to tell.
    bool compare_claims_at(const Position& position, const Path& path) {
        constexpr int most_positions = 3'000;
        const Player player = game_.player_to_move(position);
        int left = most_positions;
        Payoff best = -largest_payoff, best_sufficient = -largest_payoff;
        MoveList<Move> sufficient = legal_moves(game_, position);
        const MoveList<Move> moves = sufficient;
        if constexpr (SufficingGame<G>) {
            sufficient.clear();
            game_.generate_sufficient_moves(position, sufficient);
        }
        for (const Move& move : moves) {
            Position after = position;
            game_.play(after, move);
            const Payoff payoff = payoff_at_end(after, player, left);
            best = std::max(best, payoff);
            if (sufficient.contains(move)) best_sufficient = std::max(best_sufficient, payoff);
        }
        if (left < 0) return false;
        if (best_sufficient != best)
            fault_("sufficient moves",
                   "the best of them is worth " + std::to_string(best_sufficient) + ", the best of all " +
                       std::to_string(best),
                   path);
        if constexpr (BoundedGame<G>) {
            for (const Player viewer : {player, rival_of(player)}) {
                const PayoffBounds bounds = game_.payoff_bounds(position, viewer);
                const Payoff payoff = viewer == player ? best : -best;
                if (payoff < bounds.least || payoff > bounds.most)
                    fault_("payoff bounds",
                           "with best play the payoff is " + std::to_string(payoff) + ", not between " +
                               std::to_string(bounds.least) + " and " + std::to_string(bounds.most),
                           path);
            }
        }
        if constexpr (HashedGame<G>) {
            const auto solution = Solver<G>(game_, {.memory_mebibytes = 1}).solve(position);
            if (solution.least != best || solution.most != best)
                fault_("search",
                       "exact solving finds " + std::to_string(solution.least) + ", looking at every line " +
                           std::to_string(best),
                       path);
        }
        return true;
    }

    /// By looking at every line; `left` falls below 0 when there are too many.
    Payoff payoff_at_end(const Position& position, Player viewer, int& left) {
        if (--left < 0) return 0;
        if (const auto outcome = game_.outcome(position)) return outcome->payoff(viewer);
        const bool own = game_.player_to_move(position) == viewer;
        Payoff best = own ? -largest_payoff : largest_payoff;
        for (const Move& move : legal_moves(game_, position)) {
            Position after = position;
            game_.play(after, move);
            const Payoff payoff = payoff_at_end(after, viewer, left);
            if (left < 0) return 0;
            best = own ? std::max(best, payoff) : std::min(best, payoff);
        }
        return best;
    }

    /// Positions that share an equivalence hash must be worth the same.
    void compare_equivalents() {
        if constexpr (EquivalenceGame<G>) {
            constexpr std::size_t most_positions = 300;
            constexpr int depth = 2;
            struct Known {
                Path path;
                Position position;
                std::uint64_t hash;
            };
            std::vector<Known> known{{{}, game_.initial_position(), 0}};
            for (std::size_t i = 0; i < known.size(); ++i) {
                known[i].hash = game_.equivalence_hash(known[i].position);
                for (std::size_t j = 0; j < i; ++j) {
                    if (known[j].hash != known[i].hash || known[j].position == known[i].position) continue;
                    const auto value = [&](const Position& position) {
                        return game_.outcome(position)
                                   ? Score{}
                                   : Minimax<G>(game_).decide(position, {.depth = depth}).ranked.front().score;
                    };
                    if (value(known[i].position) != value(known[j].position))
                        fault_("equivalence", "it shares an equivalence hash with a position of another value",
                               known[i].path);
                    break;
                }
                if (game_.outcome(known[i].position)) continue;
                for (const Move& move : legal_moves(game_, known[i].position)) {
                    if (known.size() >= most_positions) break;
                    Known next = known[i];
                    game_.play(next.position, move);
                    next.path.push_back(move);
                    known.push_back(std::move(next));
                }
            }
        }
    }

    const G& game_;
    const CheckOptions& options_;
    const Fault& fault_;
};

}  // namespace arvek::detail
