#pragma once
// Ability: null move. Buys deeper search where the right to move is always worth something.
//
//     void play_nothing(Position&) const;                 // as if the player to move had moved without any effect
//     bool nothing_is_sound(const Position&) const;       // is there always a move at least as good as none?
//
// A search may then conclude that a position is good enough when it is good even without a move. Where a player can be
// worse off for having to move, nothing_is_sound() must say no.

#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept NullMoveGame = Game<G> &&
    requires(const G& game, typename G::Position& position, const typename G::Position& before) {
    { game.play_nothing(position) } -> std::same_as<void>;
    { game.nothing_is_sound(before) } -> std::same_as<bool>;
};

}  // namespace arvek
