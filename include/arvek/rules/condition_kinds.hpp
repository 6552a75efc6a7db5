#pragma once
// How conditions compare and rules choose, without any game.

#include <cstdint>

namespace arvek {

/// How the left number stands to the right one.
enum class Comparison : std::uint8_t { Is, Below, AtMost, Above, AtLeast };

/// "is", "below", "at most", "above", "at least".
const char* words_of(Comparison comparison);

/// What one number does to another.
enum class Arithmetic : std::uint8_t {
    Plus,   ///< the sum
    Minus,  ///< the difference
    Times,  ///< the product
    Over    ///< divided by; not defined for 0
};

/// "plus", "minus", "times", "over".
const char* words_of(Arithmetic operation);

/// Whose earlier actions are meant.
enum class DoneBy : std::uint8_t {
    Own,    ///< of the side whose turn it is
    Rival,  ///< of any other side
    Actor   ///< of the side whose turn it is, by who would act now
};

/// "own ", "a rival's ", "the actor's ".
const char* words_of(DoneBy by);

/// Which of the moves that meet the conditions a rule is for.
enum class TargetChoice : std::uint8_t {
    Lowest,  ///< those with the lowest value of a quantity
    Highest  ///< those with the highest
};

}  // namespace arvek
