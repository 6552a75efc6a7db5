#pragma once
// Abilities: ordering hint and forcing moves. Buy better pruning, and a quiet end to every line.
//
//     int order_hint(const Position&, const Move&) const;                                // likely better moves larger
//     void generate_forcing_moves(const Position&, arvek::MoveList<Move>&) const;        // moves that change the
//     evaluation much
//
// The hint only orders: it is asked before a move is made, should cost little, and may be wrong. Forcing moves are a
// part of the legal ones (captures, say); at the horizon a search goes on with them alone until there are none.

#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept HintingGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, const typename G::Move& move) {
    { game.order_hint(position, move) } -> std::same_as<int>;
};

template <class G>
concept ForcingGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, MoveList<typename G::Move>& moves) {
    { game.generate_forcing_moves(position, moves) } -> std::same_as<void>;
};

}  // namespace arvek
