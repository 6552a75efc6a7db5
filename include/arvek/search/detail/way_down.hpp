#pragma once
// The positions between the one that a decision begins with and the one that is looked at: for the rule of repetition
// (game/repetition.hpp), which a position alone cannot tell. Costs nothing in a game without that rule.

#include <algorithm>
#include <cstddef>
#include <span>
#include <vector>

#include "arvek/game/repetition.hpp"

namespace arvek::detail {

template <Game G>
class WayDown {
   public:
    using Position = typename G::Position;

    /// `earlier`: of the game so far; must outlive this.
    WayDown(const G& game, std::span<const Position> earlier) : game_(game) {
        if constexpr (RepeatingGame<G>) {
            counts_ = draw_at_occurrence_of(game) > 0;
            earlier_ = earlier;
        }
    }

    /// Whether the game has the rule at all. What a position is worth then depends on the way to it.
    bool counts() const { return counts_; }
    /// Whether the position was met before, on the way or in the game so far: then it counts as a draw.
    bool comes_back(const Position& position) const {
        if constexpr (RepeatingGame<G>) {
            if (!counts_) return false;
            const auto is_same = [&](const Position& met) { return is_same_for_repetition(game_, met, position); };
            return std::any_of(way_.rbegin(), way_.rend(), is_same) ||
                   std::any_of(earlier_.begin(), earlier_.end(), is_same);
        }
        return false;
    }
    void enter(const Position& position) {
        if constexpr (RepeatingGame<G>)
            if (counts_) way_.push_back(position);
    }
    void leave() {
        if constexpr (RepeatingGame<G>)
            if (counts_) way_.pop_back();
    }
    /// How many positions are on the way, and back to so many.
    std::size_t length() const { return way_.size(); }
    void shorten(std::size_t length) {
        if constexpr (RepeatingGame<G>) way_.resize(length);
    }

   private:
    const G& game_;
    bool counts_ = false;
    std::span<const Position> earlier_{};
    std::vector<Position> way_;
};

}  // namespace arvek::detail
