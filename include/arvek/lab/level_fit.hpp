#pragma once
// Levels that fit a game: ten places on a scale of settings, such that the steps between them are even.
//
//   std::vector<MeasuredStrength> measured = ...;      // ratings at some places, random moves first
//   const FittedLevels levels = arvek::fit_levels(measured, {});
//   levels.places[3];                                   // where level 4 stands

#include <array>
#include <span>
#include <vector>

#include "arvek/arena/ratings.hpp"
#include "arvek/opponent/level.hpp"

namespace arvek {

/// How strong an opponent is that is let down so far; see settings_between().
struct MeasuredStrength {
    double place = 0.0;
    Rating rating{};  ///< random moves at 0
};

struct LevelFitOptions {
    double lowest_score = 0.58;  ///< of level 1 against random moves
    double most_against_two_below =
        0.78;                  ///< of each level; where the game has room for more, the highest levels are left out
    bool whole_range = false;  ///< level 10 is the full strength, however large the steps become
};

struct FittedLevels {
    std::array<double, highest_level> places{};   ///< of levels 1 to 10
    std::array<double, highest_level> ratings{};  ///< expected, random moves at 0
    double full_strength = 0.0;                   ///< the rating at the last place
    /// Levels that hardly differ from the one two below: less than 60 % is expected.
    std::vector<int> hardly_apart;
    /// The expected score, 0 to 1, of a level against another.
    double expected(int level, int other) const;
};

/// `measured` in the order of the places, at least two. What is weaker at a farther place is taken for as strong (weighted
/// by how sure it is). Throws InputError for options out of range and places out of order.
FittedLevels fit_levels(std::span<const MeasuredStrength> measured, const LevelFitOptions& options);

inline constexpr double lowest_place = 0.0, highest_place = highest_level;

/// The settings of a place between 0, where next to nothing is seen, and 10: those of the usual levels at whole numbers,
/// with `of_game` at each level what the game itself changes, and between them between.
LevelSettings settings_between(double place, LevelTable table, const std::array<LevelChange, highest_level>& of_game);

}  // namespace arvek
