#pragma once
// Ability: equivalence. Buys recognising positions that differ and yet are worth the same, such as mirror images.
//
//     std::uint64_t equivalence_hash(const Position&) const;
//
// A hash like hash(), but shared by positions that have the same value at every depth, for the player to move, and the
// same evaluation. A hash of its own for each position is always right. Search tables use it instead of hash(); a
// game that names it needs hash() as well, by which positions are told apart elsewhere. Worth its cost where many lines
// meet again: it may as well be shared only early in a game and equal hash() later.

#include "arvek/game/hashing.hpp"

namespace arvek {

template <class G>
concept EquivalenceGame = HashedGame<G> && requires(const G& game, const typename G::Position& position) {
    { game.equivalence_hash(position) } -> std::same_as<std::uint64_t>;
};

/// The hash by which a search table knows a position.
template <HashedGame G>
std::uint64_t table_hash(const G& game, const typename G::Position& position) {
    if constexpr (EquivalenceGame<G>) {
        if (wants_used<Ability::Equivalence>(game)) return game.equivalence_hash(position);
    }
    return game.hash(position);
}

}  // namespace arvek
