#pragma once
// Replies: the move that last cut off after the same move before it comes early. Source: Uiterwijk (1992), "The
// Countermove Heuristic".

#include <array>
#include <optional>

#include "arvek/game/player.hpp"
#include "arvek/search/detail/move_order.hpp"

namespace arvek::detail {

template <class Move>
class Replies {
   public:
    void forget() {
        for (auto& row : moves_) row.fill(std::nullopt);
    }

    int value_of(Player player, const Move& previous, const Move& move) const {
        return moves_[index_of(player)][number_of(previous)] == move ? 1 << 14 : 0;
    }

    void note(Player player, const Move& previous, const Move& move) {
        moves_[index_of(player)][number_of(previous)] = move;
    }

   private:
    std::array<std::array<std::optional<Move>, move_numbers>, max_players> moves_{};
};

}  // namespace arvek::detail
