#pragma once
// Ability: move count. Buys quicker counting of move sequences.
//
//     int count_moves(const Position&) const;
//
// How many legal moves there are, where a player is to move. Worth it where that is quicker to tell than to list.

#include <concepts>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept CountingGame = Game<G> && requires(const G& game, const typename G::Position& position) {
    { game.count_moves(position) } -> std::same_as<int>;
};

}  // namespace arvek
