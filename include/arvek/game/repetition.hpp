#pragma once
// Ability: repetition. Buys endless play handled: a game whose positions can come back ends in a draw.
//
//     static constexpr int draw_at_occurrence = 3;   // the third time a position occurs, the game is a draw
//
// Positions are compared whole, the player to move included. The rule is the library's to apply, since a position does
// not know its past: matches and the tool end such a game, and searches see it coming. outcome() says nothing of it.

#include <concepts>
#include <vector>

#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept RepeatingGame = Game<G> && requires {
    { G::draw_at_occurrence } -> std::convertible_to<int>;
};

/// The outcome at the end of a game's history: the game's own, or a draw by repetition of the last position.
/// `history` holds every position of the game in order, the current one last; it must not be empty.
template <Game G>
std::optional<Outcome> outcome_with_history(const G& game, const std::vector<typename G::Position>& history) {
    if (const auto outcome = game.outcome(history.back())) return outcome;
    if constexpr (RepeatingGame<G>) {
        int occurrences = 0;
        for (const auto& position : history) occurrences += position == history.back() ? 1 : 0;
        if (occurrences >= G::draw_at_occurrence) return Outcome::draw();
    }
    return std::nullopt;
}

}  // namespace arvek
