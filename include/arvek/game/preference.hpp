#pragma once
// Ability: preference. Buys sensible play by rules without any evaluation.
//
//     int preference(const Position&, const Move&) const;
//
// How much a player of some experience would like the look of a move, larger being better; only the order matters.

#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept PreferringGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, const typename G::Move& move) {
    { game.preference(position, move) } -> std::same_as<int>;
};

}  // namespace arvek
