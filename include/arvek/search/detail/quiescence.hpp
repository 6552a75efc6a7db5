#pragma once
// Quiescence: at the horizon, forcing moves go on until there are none, so that nothing is judged in the middle of an
// exchange. Source: Harris (1975), "The Heuristic Search and the Game of Chess".

#include <algorithm>

#include "arvek/game/ordering.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/move_order.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek::detail {

inline constexpr int quiescence_plies = 24;

/// `by_hint`: whether the moves are looked at in the order of the game's hint.
template <ForcingGame G, Stepping S>
struct Quiescence {
    const G& game;
    const Evaluator<G>* evaluator;
    Budget& budget;
    const EndScores& ends;
    bool by_hint;

    /// The evaluation for `player`, whose turn it is, or a forcing move that is better. `frame` is followed by those of
    /// the plies after it.
    template <class Frame>
    Score score(typename G::Position& position, Player player, Frame& frame, int plies, Score alpha, Score beta) const {
        Score best = evaluation_by(evaluator, game, position, player);
        frame.moves.clear();
        if (best < beta && plies > 0) game.generate_forcing_moves(position, frame.moves);
        if (frame.moves.empty()) {
            ++budget.leaves;
            return best;
        }
        alpha = std::max(alpha, best);
        const bool ordered = by_hint && frame.moves.size() > 1;
        if (ordered) order_by_hint(game, position, frame.moves, SIZE_MAX, frame.order);
        Frame& next_frame = *(&frame + 1);
        for (std::size_t place = 0; place < frame.moves.size(); ++place) {
            if (ordered) frame.order.bring_best_forward(place);
            const auto& move = frame.moves[ordered ? frame.order.index_at(place) : place];
            Step<G, S> step(game, position, move);
            auto& next = step.position();
            if (!budget.spend_node()) return best;
            next_frame.line.clear();
            Score found;
            if (const auto outcome = game.outcome(next)) {
                ++budget.leaves;
                found = ends.score(*outcome, player, next_frame.ply);
            } else if (const Player mover = game.player_to_move(next); mover == player) {
                found = score(next, mover, next_frame, plies - 1, alpha, beta);
            } else {
                found = -score(next, mover, next_frame, plies - 1, -beta, -alpha);
            }
            if (budget.stopped()) return best;
            if (found <= best) continue;
            best = found;
            if (found <= alpha) continue;
            alpha = found;
            if (alpha >= beta) {
                ++budget.cutoffs;
                break;
            }
            frame.set_line(move, next_frame.line);
        }
        return best;
    }
};

}  // namespace arvek::detail
