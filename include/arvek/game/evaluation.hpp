#pragma once
// Ability: evaluation. Buys depth-limited search that knows more than wins and losses.
//
//     arvek::Score evaluate(const Position&, arvek::Player) const;
//
// How good the position is for that player, as an estimate in the game's own units. Only positions that are not
// finished are asked. For a two-player game it is the exact opposite for the two players. Without it a search treats
// every position at its horizon as even, and still sees every win and loss within its depth.

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/score.hpp"

namespace arvek {

template <class G>
concept EvaluatedGame = Game<G> && requires(const G& game, const typename G::Position& position, Player player) {
    { game.evaluate(position, player) } -> std::same_as<Score>;
};

/// The game's evaluation, or an even score if the game has none.
template <Game G>
Score evaluation_of(const G& game, const typename G::Position& position, Player player) {
    if constexpr (EvaluatedGame<G>) {
        if (wants_used<Ability::Evaluation>(game)) return game.evaluate(position, player);
    }
    return Score{};
}

}  // namespace arvek
