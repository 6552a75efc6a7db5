#include "arvek/game/interval.hpp"

#include <algorithm>
#include <cmath>

namespace arvek {

namespace {

/// The larger of the shares under which `points` of `n` are not too unlikely beside the likeliest: by the ratio of
/// likelihoods. Requires points above 0 and below n.
double likely_upper_end(double points, double n) {
    const auto likelihood = [&](double share) { return points * std::log(share) + (n - points) * std::log1p(-share); };
    const double least = likelihood(points / n) - errors_to_each_side * errors_to_each_side / 2;
    double inside = points / n, outside = 1.0;
    for (int step = 0; step < 50; ++step) {
        const double middle = (inside + outside) / 2;
        (middle < 1.0 && likelihood(middle) >= least ? inside : outside) = middle;
    }
    return outside;
}

}  // namespace

Interval wilson_interval(double points, int games) {
    if (games <= 0) return {};
    constexpr double z = errors_to_each_side;
    const double n = games;
    const double share = points / n;
    const double centre = (share + z * z / (2 * n)) / (1 + z * z / n);
    const double half = z / (1 + z * z / n) * std::sqrt(share * (1 - share) / n + z * z / (4 * n * n));
    Interval interval{std::max(0.0, centre - half), std::min(1.0, centre + half)};
    // Of a few losses Wilson's leaves too little room above, of a few wins below.
    constexpr double few = 5.0;
    if (points > 0 && n - points > 0 && n - points < few)
        interval.high = std::max(interval.high, likely_upper_end(points, n));
    if (n - points > 0 && points > 0 && points < few)
        interval.low = std::min(interval.low, 1.0 - likely_upper_end(n - points, n));
    return interval;
}

}  // namespace arvek
