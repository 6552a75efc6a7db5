#pragma once
// Opponent: what every computer player is to whoever runs a game. make_opponent.hpp makes them; derive from it for one
// of your own that no name or level is needed for, or else add a chooser (chooser.hpp).

#include <cstdint>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/view.hpp"
#include "arvek/search/limits.hpp"
#include "arvek/search/request.hpp"
#include "arvek/search/searched_tree.hpp"

namespace arvek {

/// A computer player, to whoever runs a game.
template <class G>
class Opponent {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    virtual ~Opponent() = default;

    /// A legal move and why. `seen`: the position, or, in a game with views, what the player to move sees of it, so that
    /// nothing can be peeked at (seen_by(game, position, player) gives either). `earlier`: what the same player saw of
    /// the game before, oldest first, which matters where positions repeat. `seed`: of the game. Pass the same all game long, and the earlier positions: choices by chance
    /// then differ from move to move, and what a level overlooks stays overlooked for a while. `stop` ends the decision
    /// soon after it asks to; a legal move comes back all the same. Throws InputError for a finished position, and
    /// where chance is next.
    virtual Decision<Move> decide(const Seen<G>& seen, std::uint64_t seed, std::span<const Seen<G>> earlier = {},
                                  StopToken stop = {}) = 0;

    /// Has the searches of the decisions that follow fill `tree`, until it is called with nullptr. An opponent that
    /// does not look ahead leaves it as it is.
    void watch(SearchedTree<Move>* tree) { watched_ = tree; }

    /// Whether the decisions that follow say why in words, as they do at first. Without, rules take about half the time;
    /// what is played is the same.
    void explain(bool explains) { explains_ = explains; }

    /// Has the searches of the decisions that follow tell how they stand, until it is called with nullptr. An opponent that
    /// does not look ahead tells nothing.
    void tell(const Progress<Move>* progress) { progress_ = progress; }

    /// What the decisions that follow choose among, legal moves of the position each time, and how many of the first moves
    /// get a score of their own; until it is called again. Without moves: among all.
    void choose_among(std::vector<Move> only, Ranking ranking = Ranking::Equals) {
        only_ = std::move(only);
        ranking_ = ranking;
    }

   protected:
    SearchedTree<Move>* watched_ = nullptr;     ///< what it is to fill; null: nothing
    const Progress<Move>* progress_ = nullptr;  ///< who is told how it goes; null: nobody
    std::vector<Move> only_{};                  ///< the moves to choose from; empty: all
    Ranking ranking_ = Ranking::Equals;         ///< how many of the first moves get a score of their own
    bool explains_ = true;                      ///< whether it is to say why
};

}  // namespace arvek
