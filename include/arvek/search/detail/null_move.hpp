#pragma once
// Null move: a position that is good enough without moving is good enough. Less deep, and only where the game says that
// it is sound. Sources: Beal (1989), "Experiments with the Null Move"; Donninger (1993), "Null Move and Deep Search".

#include "arvek/game/score.hpp"

namespace arvek::detail {

inline constexpr int null_move_reduction = 2;
inline constexpr int null_move_least_depth = 3;

/// Whether a null move is worth trying in a position that is evaluated so.
constexpr bool null_move_is_promising(int depth, Score evaluation, Score beta) {
    return depth >= null_move_least_depth && !beta.is_proven() && beta < Score::highest() && evaluation >= beta;
}

}  // namespace arvek::detail
