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
        for (auto& row : counts_) row.fill(0);
    }

    int value_of(Player player, const Move& move) const { return counts_[index_of(player)][number_of(move)]; }

    /// The nearer to the bound, the less a further success or failure counts.
    void note(Player player, const Move& move, int change) {
        int& count = counts_[index_of(player)][number_of(move)];
        change = std::clamp(change, -most, most);
        count += change - count * std::abs(change) / most;
    }

   private:
    static constexpr int most = 1 << 14;

    std::array<std::array<int, move_numbers>, max_players> counts_{};
};

}  // namespace arvek::detail
