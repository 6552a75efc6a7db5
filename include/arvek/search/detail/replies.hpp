#pragma once
// Replies: the move that last cut off after the same move before it comes early. Source: Uiterwijk (1992), "The
// Countermove Heuristic".

#include <algorithm>
#include <array>
#include <optional>

#include "arvek/game/player.hpp"
#include "arvek/search/detail/move_order.hpp"

namespace arvek::detail {

template <class Move>
class Replies {
   public:
    void forget() {
        for (auto& row : moves_) std::fill_n(row.begin(), used_, std::nullopt);
        used_ = 0;
    }

    static constexpr int value = 1 << 14;

    const std::optional<Move>& to(const Move& previous, Player player) const {
        return moves_[index_of(player) & 1][number_of(previous)];
    }

    void note(Player player, const Move& previous, const Move& move) {
        const std::size_t number = number_of(previous);
        used_ = std::max(used_, number + 1);
        moves_[index_of(player) & 1][number] = move;
    }

   private:
    std::array<std::array<std::optional<Move>, move_numbers>, 2> moves_{};
    std::size_t used_ = 0;  ///< numbers from here on were never noted
};

}  // namespace arvek::detail
