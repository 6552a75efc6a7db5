#pragma once
// An alpha-beta for Windlass as a good programmer would write it for this one game: no concepts, no move list, no
// limits, no lines, only the value and the number of positions visited. The measure for the library's generic search.

#include <bit>
#include <cstdint>

namespace bench {

class HandWrittenWindlass {
   public:
    HandWrittenWindlass(int posts, int pegs) : posts_(posts), pegs_(pegs), hub_(1u << posts) {
        rim_ = hub_ - 1;
        for (int post = 0; post < posts; ++post) {
            near_[post] = hub_ | 1u << (post + 1) % posts | 1u << (post + posts - 1) % posts;
        }
        near_[posts] = rim_;
    }

    int solve(int depth) {
        nodes_ = 1;
        path_[0] = key(0, 0, pegs_, pegs_);
        int best = -limit;
        for (int place = 0; place <= posts_; ++place) {
            const int alpha = best > -limit ? best - 1 : best;
            const int score = -visit(0, 1u << place, pegs_, pegs_ - 1, depth - 1, 1, -limit, -alpha);
            if (score > best) best = score;
        }
        return best;
    }

    std::uint64_t nodes() const { return nodes_; }

   private:
    static constexpr int limit = 2'100'000'000;

    static std::uint64_t key(unsigned own, unsigned others, int hand, int others_hand) {
        return own | std::uint64_t{others} << 16 | static_cast<std::uint64_t>(hand) << 32 |
               static_cast<std::uint64_t>(others_hand) << 40;
    }

    /// Whether the position stood on the line before, with the same side to move.
    bool repeats(std::uint64_t position, int ply) const {
        for (int before = ply - 2; before >= 0; before -= 2)
            if (path_[before] == position) return true;
        return false;
    }

    bool has_line(unsigned pegs) const {
        const unsigned rim = pegs & rim_, twice = twice_round(rim);
        if ((rim & twice >> 1 & twice >> 2) != 0) return true;
        return posts_ % 2 == 0 && (pegs & hub_) != 0 && (rim & rim >> posts_ / 2) != 0;
    }

    bool can_slide(unsigned own, unsigned free) const {
        if ((own & hub_) != 0 && (free & rim_) != 0) return true;
        const unsigned rim = own & rim_;
        if (rim != 0 && (free & hub_) != 0) return true;
        const unsigned gaps = free & rim_;
        return ((rim & twice_round(gaps) >> 1) | (twice_round(rim) >> 1 & gaps)) != 0;
    }

    unsigned twice_round(unsigned rim) const { return rim | rim << posts_; }

    int promise(unsigned pegs, unsigned free) const {
        const unsigned r = pegs & rim_, r1 = twice_round(r) >> 1, r2 = twice_round(r) >> 2;
        const unsigned f = free & rim_, f1 = twice_round(f) >> 1, f2 = twice_round(f) >> 2;
        int pairs = std::popcount((r & r1 & f2) | (r & f1 & r2) | (f & r1 & r2));
        if (posts_ % 2 == 0) {
            const int half = posts_ / 2;
            if ((free & hub_) != 0) pairs += std::popcount(r & r >> half);
            if ((pegs & hub_) != 0) pairs += std::popcount(((r & f >> half) | (f & r >> half)) & ((1u << half) - 1));
        }
        return 4 * pairs + ((pegs & hub_) != 0 ? 1 : 0);
    }

    int visit(unsigned own, unsigned others, int hand, int others_hand, int depth, int ply, int alpha, int beta) {
        ++nodes_;
        if (has_line(others)) return -(1'000'010'000 - ply);
        const unsigned free = (rim_ | hub_) & ~(own | others);
        if (hand == 0 && !can_slide(own, free)) return -(1'000'010'000 - ply);
        const std::uint64_t position = key(own, others, hand, others_hand);
        if (repeats(position, ply)) return 0;
        if (depth == 0) return promise(own, free) - promise(others, free);
        path_[ply] = position;
        int best = -limit;
        if (hand > 0) {
            for (unsigned left = free; left != 0; left &= left - 1) {
                const unsigned placed = own | (left & -left);
                const int score = -visit(others, placed, others_hand, hand - 1, depth - 1, ply + 1, -beta, -alpha);
                if (score > best) {
                    best = score;
                    if (score > alpha) {
                        alpha = score;
                        if (alpha >= beta) return best;
                    }
                }
            }
            return best;
        }
        for (unsigned pegs = own; pegs != 0; pegs &= pegs - 1)
            for (unsigned left = free & near_[std::countr_zero(pegs)]; left != 0; left &= left - 1) {
                const unsigned moved = (own ^ (pegs & -pegs)) | (left & -left);
                const int score = -visit(others, moved, others_hand, 0, depth - 1, ply + 1, -beta, -alpha);
                if (score > best) {
                    best = score;
                    if (score > alpha) {
                        alpha = score;
                        if (alpha >= beta) return best;
                    }
                }
            }
        return best;
    }

    int posts_, pegs_;
    unsigned hub_, rim_ = 0;
    unsigned near_[13] = {};
    std::uint64_t path_[64] = {};
    std::uint64_t nodes_ = 0;
};

}  // namespace bench
