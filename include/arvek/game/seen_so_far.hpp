#pragma once
// What each player has seen of a game so far, kept by whoever runs it.

#include <array>
#include <span>
#include <vector>

#include "arvek/game/any_game.hpp"

namespace arvek {

/// What each player has seen of a game so far.
class SeenSoFar {
   public:
    /// What the player saw at each of the positions, oldest first. Only positions that came behind those of the last call
    /// are looked at, unless forget() was called since. The span holds until the next call.
    std::span<const AnyView> of(const AnyGame& game, std::span<const AnyPosition> positions, Player player) {
        auto& seen = seen_[has_views(game) ? index_of(player) : 0];
        for (std::size_t i = seen.size(); i < positions.size(); ++i) seen.push_back(game.view(positions[i], player));
        return {seen.data(), positions.size()};
    }
    /// Positions were taken back, or others took their places.
    void forget() {
        for (auto& seen : seen_) seen.clear();
    }

   private:
    std::array<std::vector<AnyView>, max_players> seen_;
};

}  // namespace arvek
