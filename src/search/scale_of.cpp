#include "arvek/search/scale_of.hpp"

#include <algorithm>

#include "arvek/search/detail/sampled_scale.hpp"

namespace arvek {

double units_per_doubling_of(const AnyGame& game) {
    return std::max(1.0, detail::units_of(game, detail::random_lines(game, 1)));
}

}  // namespace arvek
