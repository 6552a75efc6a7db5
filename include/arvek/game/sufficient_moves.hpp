#pragma once
// Ability: sufficient moves. Buys exact solving with far fewer positions, where rules or theory leave few moves worth a
// look: take a win at once, else stop the rival's, else whatever does not lose at once.
//
//     void generate_sufficient_moves(const Position&, arvek::MoveList<Move>&) const;
//
// Appends a part of the legal moves, at least one, that surely holds a move as good as any: the value of the best one,
// with best play to the end, is the value of the position. Only solving asks; searches of limited depth look at every
// move.

#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept SufficingGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, MoveList<typename G::Move>& moves) {
    { game.generate_sufficient_moves(position, moves) } -> std::same_as<void>;
};

}  // namespace arvek
