#include "arvek/game/random.hpp"

namespace arvek {

std::size_t weighted_draw(const std::vector<double>& weights, double at) {
    std::size_t last = 0;
    for (std::size_t i = 0; i < weights.size(); ++i) {
        if (weights[i] <= 0) continue;
        last = i;
        if (at < weights[i]) return i;
        at -= weights[i];
    }
    return last;
}

}  // namespace arvek
