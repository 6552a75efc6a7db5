#pragma once
// Reluctance to repeat: by how much a draw by repetition is less than even to an opponent that would rather play on.
//
// To a search a repetition is worth as much as an even position, so an opponent that is a little behind, and by its own
// evaluation it often is after the rival's best answer, would go back and forth for a draw, also against a rival who
// blunders at every turn. A draw is worth it only where it is clearly behind: by more than first moves usually differ.

#include <cstdint>
#include <cstdlib>

#include "arvek/game/repetition.hpp"
#include "arvek/game/text.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek {

/// A score for SearchRequest::repetition: below even by twice the mean distance of the evaluations after the legal
/// moves from their mean, at least by 1; even where the game has no rule of repetition.
template <Game G>
Score reluctance_to_repeat(const G& game, const typename G::Position& position, const Evaluator<G>* evaluator) {
    if (draw_at_occurrence_of(game) == 0 || game.outcome(position)) return {};
    const Player player = game.player_to_move(position);
    std::int64_t sum = 0, count = 0;
    const auto moves = legal_moves(game, position);
    const auto evaluation_after = [&](const auto& move, std::int64_t& number) {
        auto after = position;
        game.play(after, move);
        if (game.outcome(after) || chance_is_next(game, after)) return false;
        number = evaluation_by(evaluator, game, after, player).number();
        return true;
    };
    std::int64_t number = 0;
    for (const auto& move : moves)
        if (evaluation_after(move, number)) {
            sum += number;
            ++count;
        }
    if (count == 0) return Score::estimate(-1);
    const std::int64_t mean = sum / count;
    std::int64_t apart = 0;
    for (const auto& move : moves)
        if (evaluation_after(move, number)) apart += std::abs(number - mean);
    return Score::estimate(-1 - 2 * apart / count);
}

}  // namespace arvek
