#pragma once
// How conditions compare and rules choose, without any game.

#include <cstdint>

namespace arvek {

enum class Comparison : std::uint8_t { Is, Below, AtMost, Above, AtLeast };

/// "is", "below", "at most", "above", "at least".
const char* words_of(Comparison comparison);

/// Which of the moves that meet the conditions a rule is for.
enum class TargetChoice : std::uint8_t {
    Any,     ///< all of them; later preferences and the seed choose
    Lowest,  ///< those with the lowest value of a quantity
    Highest  ///< those with the highest
};

}  // namespace arvek
