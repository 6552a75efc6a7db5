#pragma once
// Weights of an evaluation from the results of games: by how much each feature of a position moves the odds to win.
//
//   std::vector<WeightSample> samples = ...;           // one for each position of many games
//   const WeightFit fit = arvek::fit_weights(samples);
//   fit.weights[0].weight;                              // in units of which a hundred double the odds

#include <cstddef>
#include <span>
#include <vector>

namespace arvek {

/// The units of fitted weights: by so many the odds to win double (game/scale.hpp).
inline constexpr double fitted_units_per_doubling = 100.0;

/// A position of a game, for the player to move there.
struct WeightSample {
    std::vector<double> values;  ///< of the features
    double result = 0.5;         ///< what that player got: 1 won, 0.5 drawn, 0 lost
    std::size_t game = 0;        ///< positions of one game say less than as many of different ones
};

/// A weight, and how sure it is.
struct FittedWeight {
    double weight = 0.0;           ///< the likeliest
    double low = 0.0, high = 0.0;  ///< of the 95 % confidence interval; infinite where there are too few games to tell
};

/// What came of a fit.
struct WeightFit {
    std::vector<FittedWeight> weights;  ///< of the features
    FittedWeight to_move{};             ///< what it is worth to be to move, with nothing else different
    /// How much better than a coin the chances are, in bits a position, of 1 at the most.
    double bits = 0.0;
    std::size_t samples = 0, games = 0;  ///< that it comes from
};

/// The likeliest weights of a logistic regression, `ridge` (0 or more) holding back those that the games say little of: as if
/// so many positions had been seen that say nothing. Throws InputError for no samples, samples of different lengths or
/// values that are no numbers, and results out of range.
/// Source: Cox (1958), "The Regression Analysis of Binary Sequences"; the intervals go by games (Liang,
/// Zeger 1986), each left out in turn (Bell, McCaffrey 2002), and are Student's: with fewer than eight games more than weights
/// there are none.
WeightFit fit_weights(std::span<const WeightSample> samples, double ridge = 10.0);

}  // namespace arvek
