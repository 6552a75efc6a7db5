#pragma once
// By which cells of a board a move goes.

#include <string>
#include <vector>

#include "arvek/game/board.hpp"

namespace arvek::detail {

/// The cells of each of those moves: as the board says, or else those that its text names, in their order. A name counts
/// where no letter or digit stands beside it; where two do, the longer.
std::vector<BoardMove> moves_on(const Board& board, const std::vector<std::string>& moves);

}  // namespace arvek::detail
