#pragma once
// Ability: repetition. Buys endless play handled: a game whose positions can come back ends in a draw.
//
//     int draw_at_occurrence() const { return 3; }   // the third time a position occurs, the game is a draw
//
// 0: no such rule, for a game in which that depends on its parameters. Positions are compared whole, the player to move
// included. A game whose positions also hold what grows with every move, such as a count of moves, says what counts:
//
//     std::uint64_t repetition_key(const Position&) const;   // alike for positions that are the same for this rule
//
// Like hash(), it must tell apart what is to be told apart: two positions with one key are the same to the rule.
//
// The rule is the library's to apply, since a position does not know its past: matches and the tool end such
// a game; searches count a position that comes back, on the line or from the game so far, as a draw; exact solving
// counts endless play as one. outcome() says nothing of it.

#include <concepts>
#include <cstdint>
#include <vector>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept RepeatingGame = Game<G> && requires(const G& game) {
    { game.draw_at_occurrence() } -> std::same_as<int>;
};

template <class G>
concept KeyedRepetitionGame = RepeatingGame<G> && requires(const G& game, const typename G::Position& position) {
    { game.repetition_key(position) } -> std::same_as<std::uint64_t>;
};

/// At which occurrence of a position the game is a draw; 0 where there is no such rule.
template <Game G>
int draw_at_occurrence_of(const G& game) {
    if constexpr (RepeatingGame<G>) {
        const int occurrence = wants_used<Ability::Repetition>(game) ? game.draw_at_occurrence() : 0;
        return occurrence > 0 ? occurrence : 0;
    } else {
        return 0;
    }
}

/// Whether two positions are the same for the rule of repetition.
template <Game G>
bool is_same_for_repetition(const G& game, const typename G::Position& one, const typename G::Position& other) {
    if constexpr (KeyedRepetitionGame<G>)
        if (wants_used<Ability::RepetitionKey>(game)) return game.repetition_key(one) == game.repetition_key(other);
    return one == other;
}

/// Whether the last position of a game's history has come back often enough for a draw. `history` holds every position
/// of the game in order, the current one last; it must not be empty.
template <Game G>
bool is_draw_by_repetition(const G& game, const std::vector<typename G::Position>& history) {
    if constexpr (RepeatingGame<G>) {
        const int wanted = draw_at_occurrence_of(game);
        if (wanted == 0) return false;
        int occurrences = 0;
        for (const auto& position : history)
            occurrences += is_same_for_repetition(game, position, history.back()) ? 1 : 0;
        return occurrences >= wanted;
    } else {
        (void)game;
        (void)history;
        return false;
    }
}

/// The outcome at the end of a game's history: the game's own, or a draw by repetition of the last position.
template <Game G>
std::optional<Outcome> outcome_with_history(const G& game, const std::vector<typename G::Position>& history) {
    if (const auto outcome = game.outcome(history.back())) return outcome;
    if (is_draw_by_repetition(game, history)) return Outcome::draw();
    return std::nullopt;
}

}  // namespace arvek
