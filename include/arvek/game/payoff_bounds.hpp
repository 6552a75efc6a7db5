#pragma once
// Ability: payoff bounds. Buys exact solving with far fewer positions, where the end can be bounded before it comes.
//
//     arvek::PayoffBounds payoff_bounds(const Position&, arvek::Player) const;
//
// The least and the most that the player can be paid with best play from here: anything that is certain, from what is
// already stored away to a theorem about who can still win. Being too wide is never wrong. Only solving asks,
// and only in positions that are not finished.

#include "arvek/game/game.hpp"

namespace arvek {

struct PayoffBounds {
    Payoff least = -largest_payoff;
    Payoff most = largest_payoff;
};

template <class G>
concept BoundedGame = Game<G> && requires(const G& game, const typename G::Position& position, Player player) {
    { game.payoff_bounds(position, player) } -> std::same_as<PayoffBounds>;
};

/// A game that says how much it pays at the most:  static constexpr arvek::Payoff most_payoff = 1;
template <class G>
concept CappedGame = Game<G> && requires {
    { G::most_payoff } -> std::convertible_to<Payoff>;
};

}  // namespace arvek
