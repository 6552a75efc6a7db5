#pragma once
// What the advice of several games needs.

#include <arvek/game/game.hpp>

namespace waterway {

/// Calls `each(move)` for every legal move of a position that is not finished.
template <class G, class Each>
void each_move(const G& game, const typename G::Position& now, Each each) {
    arvek::MoveList<typename G::Move> moves;
    game.generate_moves(now, moves);
    for (const auto& move : moves) each(move);
}

template <class G>
typename G::Position after(const G& game, typename G::Position now, const typename G::Move& move) {
    game.play(now, move);
    return now;
}

}  // namespace waterway
