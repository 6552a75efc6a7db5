#pragma once
// Ability: moves one at a time. Buys alpha-beta at the speed of a search that is written for the one game: after a
// cutoff the moves that nobody will look at are not even generated.
//
//     template <class Visit>
//     void visit_moves(const Position&, Visit visit) const;
//
// Calls visit(move) for the moves of generate_moves(), in the same order, until it returns false. Between two calls
// the position is what it was, but while visit() runs it may be another one: keep what is needed in variables of your
// own. A game can have the list for nothing then:
//
//     void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
//         visit_moves(p, [&](const Move& move) { return moves.push_back(move), true; });
//     }

#include "arvek/game/game.hpp"

namespace arvek {

namespace detail {

/// Stands for whatever a search passes to visit_moves().
template <class Move>
struct AnyVisit {
    bool operator()(const Move&) const { return false; }
};

}  // namespace detail

template <class G>
concept VisitingGame = Game<G> && requires(const G& game, const typename G::Position& position) {
    { game.visit_moves(position, detail::AnyVisit<typename G::Move>{}) } -> std::same_as<void>;
};

}  // namespace arvek
