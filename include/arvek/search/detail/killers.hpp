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
    void forget() { moves_ = {}; }

    int value_of(Player player, const Move& move) const {
        const auto& killers = moves_[index_of(player)];
        return killers[0] == move ? 1 << 15 : killers[1] == move ? 1 << 14 : 0;
    }

    void note(Player player, const Move& move) {
        auto& killers = moves_[index_of(player)];
        if (killers[0] == move) return;
        killers[1] = killers[0];
        killers[0] = move;
    }

   private:
    std::array<std::array<std::optional<Move>, 2>, max_players> moves_{};
};

}  // namespace arvek::detail
