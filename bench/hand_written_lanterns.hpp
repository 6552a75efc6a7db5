#pragma once
// An alpha-beta for Lanterns as a good programmer would write it for this one game: no concepts, no move list, no
// limits, no lines, only the value and the number of positions visited. The measure for the library's generic search.

#include <array>
#include <bit>
#include <cstdint>
#include <vector>

namespace bench {

class HandWrittenLanterns {
   public:
    HandWrittenLanterns(int columns, int rows, int line, bool evaluates)
        : columns_(columns), rows_(rows), line_(line), evaluates_(evaluates) {
        full_ = columns * rows == 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << (columns * rows)) - 1;
        const int steps[4][2] = {{1, 0}, {0, 1}, {1, 1}, {1, -1}};
        for (int d = 0; d < 4; ++d) {
            step_[d] = steps[d][0] * rows + steps[d][1];
            for (int c = 0; c < columns; ++c)
                for (int r = 0; r < rows; ++r) {
                    const int end_c = c + (line - 1) * steps[d][0];
                    const int end_r = r + (line - 1) * steps[d][1];
                    if (end_c < columns && end_r >= 0 && end_r < rows) starts_[d] |= std::uint64_t{1} << (c * rows + r);
                }
            int have = 1;
            for (int& shift : shifts_[d]) {
                const int more = have < line - have ? have : line - have;
                shift = starts_[d] != 0 ? more * step_[d] : 0;
                have += more;
            }
        }
        // Middle hooks first, the same order as the library's game.
        for (int distance = 0; distance < 1000; ++distance)
            for (int h = 0; h < columns * rows; ++h) {
                const int across = 2 * (h / rows) + 1 - columns;
                const int up = 2 * (h % rows) + 1 - rows;
                if (across * across + up * up == distance) order_.push_back(h);
            }
    }

    /// The value for the side to move of the empty frame, every first move searched with the same window as the
    /// library.
    int solve(int depth) {
        nodes_ = 1;
        int best = -limit;
        for (const int h : order_) {
            const int score =
                -visit(0, std::uint64_t{1} << h, depth - 1, 1, -limit, -(best > -limit ? best - 1 : best));
            if (score > best) best = score;
        }
        return best;
    }

    std::uint64_t nodes() const { return nodes_; }

   private:
    static constexpr int limit = 2'100'000'000;
    static constexpr int win = 1'000'010'000;

    bool has_line(std::uint64_t b) const {
        std::uint64_t found = 0;
        for (int d = 0; d < 4; ++d) {
            std::uint64_t x = b;
            x &= x >> shifts_[d][0];
            x &= x >> shifts_[d][1];
            x &= x >> shifts_[d][2];
            found |= x & starts_[d];
        }
        return found != 0;
    }

    int evaluate(std::uint64_t own, std::uint64_t others) const {
        int sum = 0;
        for (int d = 0; d < 4; ++d) {
            std::uint64_t own_any = 0, own_1 = 0, own_2 = 0, own_3 = 0;
            std::uint64_t others_any = 0, others_1 = 0, others_2 = 0, others_3 = 0;
            for (int i = 0, shift = 0; i < line_; ++i, shift += step_[d]) {
                const std::uint64_t x = own >> shift, y = others >> shift;
                own_3 |= own_2 & ~x;
                own_2 |= own_1 & ~x;
                own_1 |= ~x;
                own_any |= x;
                others_3 |= others_2 & ~y;
                others_2 |= others_1 & ~y;
                others_1 |= ~y;
                others_any |= y;
            }
            const std::uint64_t own_open = starts_[d] & ~others_any, others_open = starts_[d] & ~own_any;
            sum += 8 * std::popcount(own_open & ~own_2) + 2 * std::popcount(own_open & own_2 & ~own_3);
            sum -= 8 * std::popcount(others_open & ~others_2) + 2 * std::popcount(others_open & others_2 & ~others_3);
        }
        return sum;
    }

    int visit(std::uint64_t own, std::uint64_t others, int depth, int ply, int alpha, int beta) {
        ++nodes_;
        if (has_line(others)) return -(win - ply);
        const std::uint64_t taken = own | others;
        if (taken == full_) return 0;
        if (depth == 0) return evaluates_ ? evaluate(own, others) : 0;
        int best = -limit;
        for (const int h : order_) {
            const std::uint64_t hook = std::uint64_t{1} << h;
            if ((taken & hook) != 0) continue;
            const int score = -visit(others, own | hook, depth - 1, ply + 1, -beta, -alpha);
            if (score > best) {
                best = score;
                if (score > alpha) {
                    alpha = score;
                    if (alpha >= beta) break;
                }
            }
        }
        return best;
    }

    int columns_, rows_, line_;
    bool evaluates_;
    std::uint64_t full_ = 0;
    std::array<int, 4> step_{};
    std::array<std::uint64_t, 4> starts_{};
    int shifts_[4][3] = {};
    std::vector<int> order_;
    std::uint64_t nodes_ = 0;
};

}  // namespace bench
