#pragma once
// Reductions: late moves are first tested a ply less deep. Changes what a depth means, so it is off by default.

#include <cstddef>

namespace arvek::detail {

/// By how many plies to reduce the `number`-th move (from 0) of a position with `depth` plies left.
constexpr int reduction(int depth, std::size_t number) { return depth >= 3 && number >= 4 ? 1 : 0; }

}  // namespace arvek::detail
