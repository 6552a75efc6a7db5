#pragma once
// Confidence intervals.

namespace arvek {

/// Between which a share lies, 0 to 1, or another number.
struct Interval {
    double low = 0.0;   ///< the lower end
    double high = 1.0;  ///< the upper end
};

/// How many standard errors a 95 % interval reaches to each side: the quantile of the normal distribution at 97.5 %.
inline constexpr double errors_to_each_side = 1.959963984540054;

/// The 95 % confidence interval of a share of `points` in `games`, points counting 0 to 1 a game.
/// Source: Wilson (1927), "Probable Inference, the Law of Succession, and Statistical Inference". With draws among the
/// games the interval is wider than it need be, never narrower. Of fewer than five wins or losses it reaches as far as the
/// ratio of likelihoods allows, where Wilson's falls short. The whole of 0 to 1 for no games.
Interval wilson_interval(double points, int games);

}  // namespace arvek
