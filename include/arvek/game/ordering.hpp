#pragma once
// Abilities: ordering hint, forcing and quiet moves. Buy better pruning, and a quiet end to every line.
//
//     int order_hint(const Position&, const Move&) const;
//     void generate_forcing_moves(const Position&, arvek::MoveList<Move>&) const;
//     void generate_quiet_moves(const Position&, arvek::MoveList<Move>&) const;
//
// The hint orders the moves of one position before any is made: likely better ones get larger numbers. Put into it what
// the rules make plain at a glance and for little (captures by what they take, a line made longer), in a few steps;
// leave out what only looks exact, such as an evaluation of the position after the move. It may be wrong: the search
// measures whether the hint or what it has learned itself finds the move that cuts off, and follows the better of the
// two. `check` and `decide` say when a hint is not worth its cost.
//
// Forcing moves are a part of the legal ones, those that change the evaluation much (captures, say); at the horizon a
// search goes on with them alone until there are none. There it follows the hint without measuring it: with captures by
// what they take, it looks at a fraction of the positions.
//
// Quiet moves are the other legal ones. A standard search then looks at the forcing moves first and generates the quiet
// ones only where none of those cuts off. Worth it where generating moves takes long and forcing ones often refute.

#include "arvek/game/ability.hpp"
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

template <class G>
concept StagedGame = ForcingGame<G> &&
    requires(const G& game, const typename G::Position& position, MoveList<typename G::Move>& moves) {
    { game.generate_quiet_moves(position, moves) } -> std::same_as<void>;
};

}  // namespace arvek
