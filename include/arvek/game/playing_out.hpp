#pragma once
// Two abilities that make random play quick, which Monte Carlo search lives on. Both draw what random play over
// generate_moves() would draw, only sooner.
//
//     Move random_move(const Position&, arvek::Random&) const;   // any legal move, each as likely
//     Outcome play_out(Position&, arvek::Random&) const;         // random moves and events to the end of the game
//
// Both are asked of positions that are not finished, random_move() where a player is to move. play_out() may leave the
// position as it likes. With chance it draws events by their probabilities.

#include <concepts>

#include "arvek/game/ability.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"

namespace arvek {

template <class G>
concept RandomMoveGame = Game<G> && requires(const G& game, const typename G::Position& position, Random& random) {
    { game.random_move(position, random) } -> std::same_as<typename G::Move>;
};

template <class G>
concept PlayOutGame = Game<G> && requires(const G& game, typename G::Position& position, Random& random) {
    { game.play_out(position, random) } -> std::same_as<Outcome>;
};

namespace detail {

/// Makes a random move, or what chance does. `moves` is room for them. Requires: the game is not over.
template <Game G>
void play_at_random(const G& game, typename G::Position& position, Random& random, MoveList<typename G::Move>& moves) {
    if constexpr (ChanceGame<G>) {
        if (chance_is_next(game, position)) {
            game.play(position, drawn_event(game, position, random));
            return;
        }
    }
    if constexpr (RandomMoveGame<G>) {
        if (wants_used<Ability::RandomMove>(game)) {
            game.play(position, game.random_move(position, random));
            return;
        }
    }
    moves.clear();
    game.generate_moves(position, moves);
    if (moves.empty()) throw_no_move();
    game.play(position, moves[static_cast<std::size_t>((random.next() >> 32) * moves.size() >> 32)]);
}

}  // namespace detail

}  // namespace arvek
