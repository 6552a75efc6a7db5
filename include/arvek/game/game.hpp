#pragma once
// Game: what a type must offer so that Arvek can play it. Start here.
//
// A game is a small object that holds the parameters of the rules (such as the board size). It has two nested types
// and five functions; everything else is an optional ability with a header of its own:
//
//     struct MyGame {
//         struct Position { ... };                  // a regular value, as small as it can be
//         using Move = int;                         // a small regular value
//
//         Position initial_position() const;
//         arvek::Player player_to_move(const Position&) const;
//         void generate_moves(const Position&, arvek::MoveList<Move>&) const;   // appends every legal move
//         void play(Position&, const Move&) const;                              // a legal move
//         std::optional<arvek::Outcome> outcome(const Position&) const;         // nothing while play goes on
//     };
//
// What holds for every game:
// - outcome() comes first: generate_moves(), player_to_move() as "who is next" and play() are only asked of positions
//   that are not finished. A position that is not finished has at least one move.
// - The same player may move again: whoever player_to_move() names after a move is next.
// - There are two players, unless players() says otherwise (players.hpp).
// - All functions are const and deterministic, and may be called from several threads at once.
//
// Everything optional, with what it buys: abilities.hpp.

#include <concepts>
#include <optional>

#include "arvek/game/move_list.hpp"
#include "arvek/game/outcome.hpp"
#include "arvek/game/player.hpp"

namespace arvek {

namespace detail {

template <class G>
concept HasPosition = std::regular<typename G::Position>;

template <class G>
concept HasMove = std::regular<typename G::Move>;

template <class G>
concept HasInitialPosition = requires(const G& game) {
    { game.initial_position() } -> std::same_as<typename G::Position>;
};

template <class G>
concept HasPlayerToMove = requires(const G& game, const typename G::Position& position) {
    { game.player_to_move(position) } -> std::same_as<Player>;
};

template <class G>
concept HasGenerateMoves = requires(const G& game, const typename G::Position& position,
                                    MoveList<typename G::Move>& moves) {
    { game.generate_moves(position, moves) } -> std::same_as<void>;
};

template <class G>
concept HasPlay = requires(const G& game, typename G::Position& position, const typename G::Move& move) {
    { game.play(position, move) } -> std::same_as<void>;
};

/// What plays in a position that cannot change does not change it.
template <class G>
concept PlaysOnACopy = requires(const G& game, const typename G::Position& position, const typename G::Move& move) {
    game.play(position, move);
};

template <class G>
concept HasOutcome = requires(const G& game, const typename G::Position& position) {
    { game.outcome(position) } -> std::same_as<std::optional<Outcome>>;
};

}  // namespace detail

/// A type that Arvek can play. Where it is not met, the front doors of the library (the searches, the opponents, the
/// tool) say in the compiler's message which functions are missing and how they are declared.
template <class G>
concept Game =
    std::copy_constructible<G> && detail::HasPosition<G> && detail::HasMove<G> && detail::HasInitialPosition<G> &&
    detail::HasPlayerToMove<G> && detail::HasGenerateMoves<G> && detail::HasPlay<G> && detail::HasOutcome<G>;

}  // namespace arvek
