#pragma once
// Ability: payoff bounds. Buys exact solving with far fewer positions, where the end can be bounded before it comes.
//
//     arvek::PayoffBounds payoff_bounds(const Position&, arvek::Player) const;
//
// The least and the most that the player can be paid with best play from here: anything that is certain, from what is
// already stored away to a theorem about who can still win. Being too wide is never wrong. Only solving asks,
// and only in positions that are not finished.

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

/// Between which the payoff of a player lies however play goes on.
struct PayoffBounds {
    Payoff least = -largest_payoff;  ///< what the player gets at the least
    Payoff most = largest_payoff;    ///< what the player gets at the most
};

template <class G>
concept BoundedGame = Game<G> && requires(const G& game, const typename G::Position& position, Player player) {
    { game.payoff_bounds(position, player) } -> std::same_as<PayoffBounds>;
};

/// A game that says how much it pays at the most, 1 to largest_payoff:  arvek::Payoff most_payoff() const { return 1; }
/// Buys searches that stop at a win which nothing can be better than, and exact solving that begins with less to ask.
template <class G>
concept CappedGame = Game<G> && requires(const G& game) {
    { game.most_payoff() } -> std::same_as<Payoff>;
};

/// The most that the game pays anybody; largest_payoff where it does not say.
template <Game G>
Payoff most_payoff_of(const G& game) {
    if constexpr (CappedGame<G>) {
        if (wants_used<Ability::MostPayoff>(game)) return game.most_payoff();
    }
    return largest_payoff;
}

}  // namespace arvek
