#pragma once
// Ability: quantities. Buys rules and features that can be written as data, by the names of numbers.
//
//     std::span<const arvek::Quantity<MyGame>> quantities() const;
//
// What the span shows must outlive the game: a static array, as below, or a member of the game. (A function that
// returns a container by value is refused: it would be gone before it is read.)
//
// A quantity is a number that a rule may ask about: of the position, of who acts, of a possible action or of its
// target. All are asked with a legal move of the position; one of the position does not look at it.
//
//     static const arvek::Quantity<MyGame> all[] = {
//         {"target stamina", "points", "what the target has left", arvek::QuantityOf::Target,
//          [](const MyGame& game, const MyGame::Position& now, const MyGame::Move& move) {
//              return double(now.hand(move.target).stamina);
//          }},
//     };
//     return all;

#include <concepts>
#include <cstdint>
#include <span>
#include <string_view>
#include <utility>

#include "arvek/game/game.hpp"

namespace arvek {

/// What a number is a number of: the position alone, or of a move who acts, what is done, or at whom.
enum class QuantityOf : std::uint8_t { Position, Actor, Action, Target };

/// More than any number: where a quantity has no end.
inline constexpr double without_end = __builtin_huge_val();  // <limits> would be in every source of a user's

/// A number that rules and features can name.
template <class G>
struct Quantity {
    const char* name = "";                 ///< in lower case, unique in the game: "target stamina"
    const char* unit = "";                 ///< "points"; empty for a plain number; "0 or 1" for yes and no
    const char* doc = "";                  ///< what it is, for whoever writes rules
    QuantityOf of = QuantityOf::Position;  ///< what it is a number of
    /// What it is; a move need not be one where it is of a position.
    double (*value)(const G&, const typename G::Position&, const typename G::Move&) = nullptr;
    /// What it can be at the least and at the most, where that is known; "0 or 1" and "0 to 1" as a unit say so too.
    double least = -without_end;
    double most = without_end;  ///< the most that it can be
};

/// From what to what a quantity goes; without end where the game does not say.
template <class G>
std::pair<double, double> range_of(const Quantity<G>& quantity) {
    const std::string_view unit = quantity.unit;
    if (unit == "0 or 1" || unit == "0 to 1") return {0.0, 1.0};
    return {quantity.least, quantity.most};
}

template <class G>
concept MeasuredGame = Game<G> && requires(const G& game) {
    { game.quantities() } -> std::same_as<std::span<const Quantity<G>>>;
};

}  // namespace arvek
