#pragma once
// A game with hidden hands, played with all hands open.

#include <cstdint>
#include <vector>

#include "arvek/game/view.hpp"

namespace arvek::detail {

/// The game without its views. The class of the game must not be final.
template <class G>
struct Opened : G {
    using AllInSight = void;  ///< see ViewedGame

    explicit Opened(const G& game) : G(game) {}

    // These are of the game's own type, and no search asks for them.
    void quantities() const = delete;
    void suggesters() const = delete;
};

/// Places with the largest value first, equals by the seed; `per_point`: units of a score that make a point.
std::vector<std::uint32_t> best_first(const std::vector<double>& values, std::uint64_t seed, double& per_point);

}  // namespace arvek::detail
