#pragma once
// The positions between the one that a decision begins with and the one that is looked at: for the rule of repetition
// (game/repetition.hpp), which a position alone cannot tell. Costs nothing in a game without that rule.

#include <cstddef>
#include <span>

#include "arvek/search/detail/met_positions.hpp"

namespace arvek::detail {

template <Game G>
class WayDown {
   public:
    using Position = typename G::Position;

    /// `earlier`: of the game so far.
    WayDown(const G& game, std::span<const Position> earlier) : met_(game) {
        if constexpr (RepeatingGame<G>) {
            counts_ = draw_at_occurrence_of(game) > 0;
            if (!counts_) return;
            for (const Position& position : earlier) met_.push(position);
            earlier_ = met_.size();
        }
    }

    /// Whether the game has the rule at all. What a position is worth then depends on the way to it.
    bool counts() const { return counts_; }
    /// Whether the position was met before, on the way or in the game so far: then it counts as a draw.
    bool comes_back(const Position& position) const {
        if constexpr (RepeatingGame<G>) return counts_ && met_.has(position);
        return false;
    }
    void enter(const Position& position) {
        if constexpr (RepeatingGame<G>)
            if (counts_) met_.push(position);
    }
    void leave() {
        if constexpr (RepeatingGame<G>)
            if (counts_) met_.shorten(met_.size() - 1);
    }
    /// How many positions are on the way, and back to so many.
    std::size_t length() const { return met_.size() - earlier_; }
    void shorten(std::size_t length) {
        if constexpr (RepeatingGame<G>) met_.shorten(earlier_ + length);
    }

   private:
    bool counts_ = false;
    std::size_t earlier_ = 0;
    MetPositions<G> met_;
};

}  // namespace arvek::detail
