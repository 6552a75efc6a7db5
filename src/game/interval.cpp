#include "arvek/game/interval.hpp"

#include <algorithm>
#include <cmath>

namespace arvek {

Interval wilson_interval(double points, int games) {
    if (games <= 0) return {};
    constexpr double z = errors_to_each_side;
    const double n = games;
    const double share = points / n;
    const double centre = (share + z * z / (2 * n)) / (1 + z * z / n);
    const double half = z / (1 + z * z / n) * std::sqrt(share * (1 - share) / n + z * z / (4 * n * n));
    return {std::max(0.0, centre - half), std::min(1.0, centre + half)};
}

}  // namespace arvek
