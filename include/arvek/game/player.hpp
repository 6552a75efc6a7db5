#pragma once
// Player: who moves, who wins, whose payoff.
//
// A two-player game uses First and Second. The names that people see ("Teal", "Amber") belong to the game:
// see game/text.hpp.

#include <cstddef>
#include <cstdint>

#include "arvek/version.hpp"

namespace arvek {

/// A seat of a game, in the order in which seats are counted.
enum class Player : std::uint8_t { First, Second, Third, Fourth };

/// The most players a game may have.
inline constexpr std::size_t max_players = 4;

/// 0 for the first player, 1 for the second, and so on.
constexpr std::size_t index_of(Player player) { return static_cast<std::size_t>(player); }

/// The other player of a two-player game. Requires: First or Second.
constexpr Player rival_of(Player player) { return player == Player::First ? Player::Second : Player::First; }

}  // namespace arvek
