#pragma once
// Killers: the last two moves that cut off at a ply come early in its other positions. Source: Akl, Newborn
// (1977), "The Principal Continuation and the Killer Heuristic".

#include <array>
#include <optional>

#include "arvek/game/player.hpp"

namespace arvek::detail {

/// Of one ply; by player, since it may be either's where a player moves again.
template <class Move>
class Killers {
   public:
    static constexpr int first_value = 1 << 15, second_value = 1 << 14;

    void forget() { moves_ = {}; }

    int value_of(Player player, const Move& move) const {
        const auto& killers = of(player);
        return killers[0] == move ? first_value : killers[1] == move ? second_value : 0;
    }

    const std::array<std::optional<Move>, 2>& of(Player player) const { return moves_[index_of(player) & 1]; }

    void note(Player player, const Move& move) {
        auto& killers = moves_[index_of(player) & 1];
        if (killers[0] == move) return;
        killers[1] = killers[0];
        killers[0] = move;
    }

   private:
    std::array<std::array<std::optional<Move>, 2>, 2> moves_{};
};

}  // namespace arvek::detail
