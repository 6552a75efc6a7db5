#pragma once
// The ends of the one scale of difficulty. What a level does to an opponent: opponent/level.hpp. Rules and suggestions
// may be asleep below a level.

namespace arvek {

/// The levels of difficulty: 1 is the easiest, 10 an opponent's full strength.
inline constexpr int lowest_level = 1;
inline constexpr int highest_level = 10;  ///< the strongest

}  // namespace arvek
