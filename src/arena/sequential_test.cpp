#include "arvek/arena/sequential_test.hpp"

#include <algorithm>
#include <cmath>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

void RoundSums::add(double points_of_round, int comparisons_of_round) {
    ++rounds;
    comparisons += comparisons_of_round;
    points += points_of_round;
    squares += points_of_round * points_of_round;
}

double RoundSums::variance() const {
    constexpr double added = 2.0;
    const double n = rounds;
    const double share = std::clamp(points / comparisons, 0.5 / comparisons, 1.0 - 0.5 / comparisons);
    const double of_round = share * (1.0 - share) * comparisons / n;
    const double differing = std::max(0.0, squares - points * points / n);
    return n * (differing + added * of_round) / (n - 1.0 + added);
}

double SequentialTest::deviations_needed(int rounds) const {
    constexpr double tuned_for = 16.0;  // rounds at which it is the narrowest
    const double n = rounds;
    return std::sqrt((1.0 + tuned_for / n) * (std::log1p(n / tuned_for) + 2.0 * std::log(1.0 / error)));
}

Interval SequentialTest::interval(const RoundSums& seen) const {
    if (seen.rounds < 1 || seen.comparisons < 1) return {0.0, 1.0};
    // As Wilson's, with that many deviations to each side, and as many games as would vary so much.
    const double z = deviations_needed(seen.rounds), n = seen.comparisons, share = seen.points / n;
    const double smoothed = (seen.points + 0.5) / (n + 1.0);
    const double ratio = std::clamp(seen.variance() / (n * smoothed * (1.0 - smoothed)), 0.05, 2.0);
    const double games = n / ratio;
    const double middle = (share + z * z / (2 * games)) / (1 + z * z / games);
    const double half = z / (1 + z * z / games) * std::sqrt(share * (1 - share) / games + z * z / (4 * games * games));
    return {std::max(0.0, middle - half), std::min(1.0, middle + half)};
}

int SequentialTest::verdict(const RoundSums& seen) const {
    if (seen.rounds < least_rounds) return 0;
    const Interval share = interval(seen);
    return share.low > 0.5 ? 1 : share.high < 0.5 ? -1 : 0;
}

void check_sequential_test(const SequentialTest& test) {
    if (!(test.error > 0 && test.error < 0.5))
        throw InputError("sequential test", "an error of " + std::to_string(test.error) + " is out of range",
                         "more than 0 and less than 0.5");
}

}  // namespace arvek
