#pragma once
// Ratings: how strong players are, from who scored how much against whom.
//
//     std::vector<PairScore> scores{{0, 1, 30.5, 100}, {1, 2, 22.0, 100}};
//     auto table = arvek::rate_players(3, scores, 0);      // player 0 stands at 0
//     table.ratings[2].rating; table.chance_above(1, 2);

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace arvek {

/// What two players scored against each other.
struct PairScore {
    std::size_t a = 0;      ///< a player, from 0
    std::size_t b = 0;      ///< another
    double points_a = 0.0;  ///< 0 to `games`, a draw counting half
    int games = 0;          ///< between the two
    /// Of points_a, as the games show it: draws, and games on the same opening that even out, make it smaller than it
    /// would be otherwise. Nothing: as if every game were won or lost, and none had to do with another.
    std::optional<double> variance{};
};

/// On the scale on which 400 more stand for ten times the chance to win: an expected score of 10/11.
struct Rating {
    double rating = 0.0;  ///< the likeliest
    double low = 0.0;     ///< of the 95 % confidence interval
    double high = 0.0;    ///< of the same interval
};

/// The ratings of players, and how sure they are.
struct RatingTable {
    std::vector<Rating> ratings;  ///< by player
    /// Of the estimates, one row after another.
    std::vector<double> covariance;

    double spread_between(std::size_t a, std::size_t b) const;  ///< the standard deviation of their difference
    /// How probable it is that a is stronger than b, by the normal distribution around their difference.
    double chance_above(std::size_t a, std::size_t b) const;
};

/// The ratings of `players` players under which the scores are the likeliest, `anchor` standing at 0, or without one
/// their mean. To each pair that met half a drawn game is added, so that who lost every game has a rating too. Throws
/// InputError for a place outside the players, points or a variance out of range, and players that no chain of games
/// connects. `intervals`: false leaves them out, which takes a part of the time.
/// Source: Bradley, Terry (1952), "Rank Analysis of Incomplete Block Designs: I. The Method of Paired Comparisons"; by
/// Newton's method. The covariance is the curvature's, corrected by what the games show (White 1982, "Maximum Likelihood
/// Estimation of Misspecified Models"). An interval holds the ratings that a test of the score function does not reject (Rao
/// 1948, "Large Sample Tests of Statistical Hypotheses Concerning Several Parameters"), or the ratio of likelihoods does not:
/// for two players about Wilson's interval of the share of points. Where one side wins nearly all it reaches farther up than
/// down, or the other way round.
RatingTable rate_players(std::size_t players, std::span<const PairScore> scores,
                         std::optional<std::size_t> anchor = std::nullopt, bool intervals = true);

/// rate_players(...).ratings
std::vector<Rating> fit_ratings(std::size_t players, std::span<const PairScore> scores, std::size_t anchor);

}  // namespace arvek
