#pragma once
// History: moves that cut off often come early, wherever they are met. Source: Schaeffer (1989), "The History Heuristic
// and Alpha-Beta Search Enhancements in Practice"; a move that was tried in vain loses what others gain.

#include <algorithm>
#include <array>
#include <cstdlib>

#include "arvek/game/player.hpp"
#include "arvek/search/detail/move_order.hpp"

namespace arvek::detail {

template <class Move>
class History {
   public:
    void forget() {
        for (auto& row : counts_) std::fill_n(row.begin(), used_, 0);
        used_ = 0;
    }

    int value_of(Player player, const Move& move) const { return counts_[index_of(player) & 1][number_of(move)]; }

    /// The counts of a player's moves, by number_of().
    int* row_of(Player player) { return counts_[index_of(player) & 1].data(); }

    /// The nearer to the bound, the less a further success or failure counts.
    void note(Player player, const Move& move, int change) {
        const std::size_t number = number_of(move);
        used_ = std::max(used_, number + 1);
        int& count = counts_[index_of(player) & 1][number];
        change = std::clamp(change, -most, most);
        count += change - count * std::abs(change) / most;
    }

    static constexpr int most = 1 << 14;

   private:
    std::array<std::array<int, move_numbers>, 2> counts_{};  ///< of the two players of a search
    std::size_t used_ = 0;                                   ///< numbers from here on were never noted
};

}  // namespace arvek::detail
