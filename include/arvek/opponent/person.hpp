#pragma once
// How strong a person is, from a few games, and which level is even with that.
//
//   const PersonRating rating = arvek::rate_person(games, ratings);
//   rating.mean, rating.spread;                      // on the scale of the levels' ratings
//   arvek::level_of_rating(rating.mean, ratings);    // 3.7: between the third and the fourth level

#include <array>
#include <span>

#include "arvek/opponent/level.hpp"

namespace arvek {

struct Profile;

/// Of levels 1 to 10, in points: 400 for ten times the chance to win.
using LevelRatings = std::array<double, highest_level>;

/// Those that the profile gives ([levels.3] rating), as `levels --fit` measures them; between and beyond them, and where there is no
/// profile, as far apart as levels are in most games.
LevelRatings level_ratings(const Profile* profile);

/// A game that a person finished.
struct PersonGame {
    double rating = 0.0;  ///< of the level that it was played against
    double result = 0.5;  ///< of the person: 1 won, 0.5 drawn, 0 lost
};

/// How strong a person is, on the scale of the opponents' ratings.
struct PersonRating {
    double mean = 0.0, spread = 0.0;  ///< of what is probable, the latter as a standard deviation
    double low = 0.0, high = 0.0;     ///< between which it is with 95 %
};

/// What is probable after those games, the oldest first, of which earlier ones count a little less, since people change.
/// Before any, a person is taken for about as strong as the fourth level, with a standard deviation of 350 points.
/// Source: the chance to win goes by Bradley, Terry (1952); a draw is half a win and half a loss.
PersonRating rate_person(std::span<const PersonGame> games, const LevelRatings& ratings);

/// Which level is as strong, between 1 and 10, with what is between two levels.
double level_of_rating(double rating, const LevelRatings& ratings);

/// A person as a level, for what follows one.
struct PersonStrength {
    double level = 4.0, spread = 2.0;  ///< on the scale of levels: the mean, and a standard deviation
};
/// The same on the scale of levels, between which it is interpolated.
PersonStrength strength_of(const PersonRating& rating, const LevelRatings& ratings);

}  // namespace arvek
