#include "mean_interval.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace arvek {

double errors_to_each_side_with(int freedom) {
    constexpr double z = errors_to_each_side;
    const double z3 = z * z * z, z5 = z3 * z * z, z7 = z5 * z * z, v = freedom;
    return z + (z3 + z) / (4 * v) + (5 * z5 + 16 * z3 + 3 * z) / (96 * v * v) +
           (3 * z7 + 19 * z5 + 17 * z3 - 15 * z) / (384 * v * v * v);
}

Interval interval_of_share(double share, double games) {
    const int whole = static_cast<int>(std::clamp(std::round(games), 1.0, 2e9));
    return wilson_interval(share * whole, whole);
}

Interval mean_interval(std::span<const double> values, double least, double most) {
    if (values.empty() || !(most > least)) return {least, most};
    const double n = static_cast<double>(values.size());
    const double mean = std::accumulate(values.begin(), values.end(), 0.0) / n;
    const double share = std::clamp((mean - least) / (most - least), 0.0, 1.0);
    double squares = 0;
    for (const double value : values) squares += (value - mean) * (value - mean);
    // Of values at the two ends alone with this mean; what does not reach so far counts as more of them.
    const double of_ends = share * (1 - share) * n * (most - least) * (most - least);
    double counted = n;
    if (squares > 0 && squares < (1 - 1e-9) * of_ends) {
        const double errors = errors_to_each_side_with(static_cast<int>(std::min(n - 1, 1e9))) / errors_to_each_side;
        counted = n * of_ends / squares / (errors * errors);
    }
    const Interval interval = interval_of_share(share, counted);
    return {least + interval.low * (most - least), least + interval.high * (most - least)};
}

}  // namespace arvek
