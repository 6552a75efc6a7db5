#pragma once
// Ability: salience. Buys lower levels that overlook what people overlook.
//
//     double salience(const Position&, const Move&) const;
//
// How far a legal move stands out to a person, 0 to 1: a capture next to where the rival has just moved is near 1, a
// quiet, far, backward or diagonal one near 0. Where a game does not say, levels go by what every game tells: whether
// the move ends the game, changes the evaluation, forces, has only just become possible, or is one of few that keep the
// rival from winning at once.

#include <concepts>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept SalientGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, const typename G::Move& move) {
    { game.salience(position, move) } -> std::same_as<double>;
};

}  // namespace arvek
