#pragma once
// Confidence intervals of means.

#include <span>

#include "arvek/game/interval.hpp"

namespace arvek {

/// How many standard errors a 95 % interval reaches to each side where the error itself is estimated with so many degrees of
/// freedom, 1 or more: Student's distribution, by the expansion around the normal one.
double errors_to_each_side_with(int freedom);

/// Wilson's 95 % confidence interval of a share, 0 to 1, that was found in as many independent games as `games`, which need be
/// no whole number.
Interval interval_of_share(double share, double games);

/// The 95 % confidence interval of the mean of independent values that lie between `least` and `most`: Wilson's, with as many
/// values as would differ so much if there were none but the two ends. Where all values are the same it is that of so many
/// wins. All between the ends for no values. A value that is rarer than one in so many was perhaps not among them.
Interval mean_interval(std::span<const double> values, double least, double most);

}  // namespace arvek
