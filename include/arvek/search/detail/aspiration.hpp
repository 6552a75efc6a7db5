#pragma once
// Aspiration: each depth begins with a narrow window around the value of the one before, which is opened on the side
// where the value turns out to lie. Source: Marsland (1986), "A Review of Game-Tree Pruning".

#include <algorithm>
#include <cstdint>
#include <cstdlib>

#include "arvek/game/score.hpp"

namespace arvek::detail {

class Aspiration {
   public:
    Score floor() const { return floor_; }
    Score ceiling() const { return ceiling_; }

    /// Before a search: wide open, or around the last value.
    void begin(bool narrow) {
        width_ = std::max<std::int64_t>(2 * last_change_, 2);
        narrow = narrow && !last_value_.is_proven();
        floor_ = narrow ? Score::estimate(last_value_.number() - width_) : Score::lowest();
        ceiling_ = narrow ? Score::estimate(last_value_.number() + width_) : Score::highest();
    }

    /// Whether the value lies inside; if not, that side is opened, a little at first, and the search must be repeated.
    bool holds(Score value) {
        if (value > floor_ && value < ceiling_) {
            const bool proven = value.is_proven() || last_value_.is_proven();
            last_change_ = proven ? 0 : std::abs(std::int64_t{value.number()} - last_value_.number());
            last_value_ = value;
            return true;
        }
        width_ *= 8;
        const bool wide = width_ > 1'000 || value.is_proven();
        if (value <= floor_)
            floor_ = wide ? Score::lowest() : Score::estimate(std::int64_t{value.number()} - width_);
        else
            ceiling_ = wide ? Score::highest() : Score::estimate(std::int64_t{value.number()} + width_);
        return false;
    }

   private:
    Score floor_ = Score::lowest();
    Score ceiling_ = Score::highest();
    std::int64_t width_ = 2;
    Score last_value_;
    std::int64_t last_change_ = 0;
};

}  // namespace arvek::detail
