#pragma once
// Ability: level change. Buys a ladder of levels that fits the game.
//
//     arvek::LevelChange level_change(int level) const;
//
// What a level, 1 to 10, does otherwise in this game than in most, of opponents that look ahead by depth. Where random
// moves hardly ever win, as in chess, a lowest level that suits other games is far above them; where a game is short,
// the steps are too large. `arvek levels` measures the ladder. A profile's own [levels.3] goes before it.

#include <concepts>
#include <cstdint>
#include <optional>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

/// What is not given stays as it is at that level. The shares and measures are those of opponent/level.hpp.
struct LevelChange {
    std::optional<int> depth{};                        ///< plies, 1 or more
    std::optional<std::uint64_t> nodes{};              ///< 1 or more
    std::optional<double> overlooks{};                 ///< 0 to 1
    std::optional<double> noise{};                     ///< 0 or more
    std::optional<double> most_lost{};                 ///< 0 or more
    std::optional<double> sees_wins{}, sees_losses{};  ///< 0 to 1
    std::optional<double> deeper{};                    ///< 0 to 1
    std::optional<double> variety{};                   ///< 0 or more

    bool operator==(const LevelChange&) const = default;
};

template <class G>
concept ChangesLevels = Game<G> && requires(const G& game, int level) {
    { game.level_change(level) } -> std::same_as<LevelChange>;
};

}  // namespace arvek
