#pragma once
// Quiescence: at the horizon, forcing moves go on until there are none, so that nothing is judged in the middle of an
// exchange. Source: Harris (1975), "The Heuristic Search and the Game of Chess".

#include <algorithm>

#include "arvek/game/ordering.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek::detail {

inline constexpr int quiescence_plies = 24;

/// The evaluation for `player`, whose turn it is, or a forcing move that is better. `frame` is followed by those of
/// the plies after it.
template <ForcingGame G, Stepping S, class Frame>
Score quiet_score(const G& game, const Evaluator<G>* evaluator, Budget& budget, typename G::Position& position,
                  Player player, Frame& frame, int plies, Score alpha, Score beta, const EndScores& ends) {
    Score best = evaluation_by(evaluator, game, position, player);
    frame.moves.clear();
    if (best < beta && plies > 0) game.generate_forcing_moves(position, frame.moves);
    if (frame.moves.empty()) {
        ++budget.leaves;
        return best;
    }
    alpha = std::max(alpha, best);
    Frame& next_frame = *(&frame + 1);
    for (const auto& move : frame.moves) {
        Step<G, S> step(game, position, move);
        auto& next = step.position();
        if (!budget.spend_node()) return best;
        next_frame.line.clear();
        Score score;
        if (const auto outcome = game.outcome(next)) {
            ++budget.leaves;
            score = ends.score(*outcome, player, next_frame.ply);
        } else if (const Player mover = game.player_to_move(next); mover == player) {
            score = quiet_score<G, S>(game, evaluator, budget, next, mover, next_frame, plies - 1, alpha, beta, ends);
        } else {
            score =
                -quiet_score<G, S>(game, evaluator, budget, next, mover, next_frame, plies - 1, -beta, -alpha, ends);
        }
        if (budget.stopped()) return best;
        if (score <= best) continue;
        best = score;
        if (score <= alpha) continue;
        alpha = score;
        if (alpha >= beta) {
            ++budget.cutoffs;
            break;
        }
        frame.set_line(move, next_frame.line);
    }
    return best;
}

}  // namespace arvek::detail
