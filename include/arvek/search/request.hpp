#pragma once
// SearchRequest: what a caller may ask of a search besides its limits.

#include <cstdint>
#include <span>

#include "arvek/game/decision.hpp"
#include "arvek/game/score.hpp"
#include "arvek/search/searched_tree.hpp"

namespace arvek {

/// How many of the first moves get an exact score rather than a bound. Matters to searches that prune.
enum class Ranking : std::uint8_t {
    Best,    ///< only the best: the fewest nodes; of equally good moves the first generated is chosen
             ///< (in the standard search: the first in an order drawn from the seed)
    Equals,  ///< every move that is as good as the best, so that the seed can choose among them
    All      ///< every move: the most nodes
};

/// Is told how a decision stands: after each depth that a search has finished, or now and then as playouts go on. Called in
/// the thread that asked for the decision; what it throws ends the search.
template <class Move>
class Progress {
   public:
    /// Calls `tell(so_far)`, to which it keeps a reference.
    template <class Tell>
    explicit Progress(const Tell& tell)
        : call_([](const void* state, const Decision<Move>& so_far) { (*static_cast<const Tell*>(state))(so_far); }),
          state_(&tell) {}

    /// Tells how the decision stands.
    void operator()(const Decision<Move>& so_far) const { call_(state_, so_far); }

   private:
    void (*call_)(const void* state, const Decision<Move>& so_far);
    const void* state_;
};

/// What a caller may ask of a search besides its limits.
template <class Move>
struct SearchRequest {
    std::uint64_t seed = 0;             ///< decides among equally good moves
    std::uint64_t game_seed = 0;        ///< the same all game long, for what is dealt once a game
    Ranking ranking = Ranking::Equals;  ///< how many of the first moves get a score of their own
    std::span<const Move> only{};       ///< the moves to choose from; empty: every legal move
    /// False: only whether a game is won, drawn or lost counts at its end, not by how much.
    bool margins = true;
    /// What a draw by repetition counts, for the player who decides, where the game has that rule. Below even for one
    /// who would rather play on; see reluctance_to_repeat().
    Score repetition{};
    SearchedTree<Move>* tree = nullptr;        ///< is filled with the upper part of the tree that was searched
    const Progress<Move>* progress = nullptr;  ///< who is told how it goes; null: nobody
    bool explains = true;                      ///< whether to say why in words, where that costs anything
};

}  // namespace arvek
