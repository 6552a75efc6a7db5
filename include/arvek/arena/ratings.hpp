#pragma once
// Ratings: how strong players are, from who scored how much against whom.
//
//     std::vector<PairScore> scores{{0, 1, 30.5, 100}, {1, 2, 22.0, 100}};
//     auto ratings = arvek::fit_ratings(3, scores, 0);      // player 0 stands at 0

#include <cstddef>
#include <span>
#include <vector>

namespace arvek {

/// What two players scored against each other.
struct PairScore {
    std::size_t a = 0;
    std::size_t b = 0;
    double points_a = 0.0;  ///< 0 to `games`, a draw counting half
    int games = 0;
};

/// On the scale on which 400 more stand for ten times the chance to win: an expected score of 10/11.
struct Rating {
    double rating = 0.0;
    double low = 0.0;  ///< of the 95 % confidence interval, against the player that stands at 0
    double high = 0.0;
};

/// The ratings of `players` players under which the scores are the likeliest, `anchor` standing at 0. To each pair that
/// met half a drawn game is added, so that who lost every game has a rating too. Throws InputError for a place outside
/// the players, points out of range, and players that no chain of games connects with the anchor.
/// Source: Bradley, Terry (1952), "Rank Analysis of Incomplete Block Designs: I. The Method of Paired Comparisons"; by
/// Newton's method, the intervals from the curvature there.
std::vector<Rating> fit_ratings(std::size_t players, std::span<const PairScore> scores, std::size_t anchor);

}  // namespace arvek
