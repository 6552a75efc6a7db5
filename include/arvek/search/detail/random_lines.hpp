#pragma once
// What some random lines of a game tell of its evaluation and payoffs, where the game does not say it.

#include <algorithm>
#include <cstdint>

#include "arvek/game/chance.hpp"
#include "arvek/game/evaluation.hpp"
#include "arvek/game/players.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek::detail {

struct RandomLines {
    double spread = 1;   ///< the standard deviation of the evaluation, at least 1
    Payoff largest = 1;  ///< the largest payoff at an end, at least 1
    Payoff lowest = 0;   ///< of all payoffs at an end
    Payoff highest = 0;
    double usual = 1;  ///< the root of the mean of their squares, at least 1
};

/// Of values with that mean and that mean of their squares; at least 1.
double standard_deviation(double mean, double mean_of_squares);

/// Sixteen lines from the start, drawn from the seed. `spread`: whether to ask for evaluations. `budget`: ends it early.
template <Game G>
RandomLines random_lines(const G& game, std::uint64_t seed, const Evaluator<G>* evaluator = nullptr, bool spread = true,
                         Budget* budget = nullptr) {
    constexpr int lines = 16, longest = 400;
    Random random(seed);
    RandomLines seen;
    double sum = 0, squares = 0, count = 0, payoff_squares = 0, payoffs = 0;
    const int players = players_of(game);
    for (int line = 0; line < lines; ++line) {
        auto position = game.initial_position();
        for (int ply = 0; ply < longest && (budget == nullptr || budget->may_work()); ++ply) {
            if (const auto outcome = game.outcome(position)) {
                for (int i = 0; i < players; ++i) {
                    const Payoff payoff = outcome->payoff(static_cast<Player>(i));
                    seen.largest = std::max({seen.largest, payoff, -payoff});
                    seen.lowest = payoffs == 0 ? payoff : std::min(seen.lowest, payoff);
                    seen.highest = payoffs == 0 ? payoff : std::max(seen.highest, payoff);
                    payoff_squares += static_cast<double>(payoff) * payoff;
                    payoffs += 1;
                }
                break;
            }
            if (chance_is_next(game, position)) {
                game.play(position, drawn_event(game, position, random));
                continue;
            }
            if (spread) {
                const double units = evaluation_by(evaluator, game, position, Player::First).number();
                sum += units;
                squares += units * units;
                count += 1;
            }
            MoveList<typename G::Move> moves;
            game.generate_moves(position, moves);
            if (moves.empty()) break;
            game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
    }
    if (payoffs > 0) seen.usual = standard_deviation(0, payoff_squares / payoffs);
    if (count > 0) seen.spread = standard_deviation(sum / count, squares / count);
    return seen;
}

}  // namespace arvek::detail
