#pragma once
// Levels that fit a game: ten places on a scale of settings, such that the steps between them are even.
//
//   std::vector<MeasuredStrength> measured = ...;      // ratings at some places, random moves first
//   const FittedLevels levels = arvek::fit_levels(measured, {});
//   levels.places[3];                                   // where level 4 stands

#include <array>
#include <optional>
#include <span>
#include <vector>

#include "arvek/arena/ratings.hpp"
#include "arvek/opponent/level.hpp"

namespace arvek {

/// How strong an opponent is that is let down so far; see settings_between().
struct MeasuredStrength {
    double place = 0.0;  ///< on the scale of settings, lowest_place to highest_place
    Rating rating{};     ///< random moves at 0
};

/// What the levels are to be like.
struct LevelFitOptions {
    double lowest_score = 0.58;  ///< of level 1 against random moves
    double most_against_two_below =
        0.74;                  ///< of each level; where the game has room for more, the highest levels are left out
    bool whole_range = false;  ///< level 10 is the full strength, however large the steps become
};

/// Ten levels, and what is expected of them.
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

/// Sets the levels one after another by games against the level two below (level 1: random moves, level 2: level 1), which
/// is what the steps are to be even in; strengths alone do not tell it, as those who are alike in strength may play
/// different opponents differently well. The curve of strengths says how far to go.
///
///     arvek::LevelSteps steps(measured, {});
///     for (; !steps.done(); steps.next())
///         while (there_is_time()) {
///             const auto [points, games] = play(steps.place(), steps.against());
///             steps.add(points, games);
///         }
///     steps.levels();
class LevelSteps {
   public:
    /// Throws as fit_levels().
    LevelSteps(std::span<const MeasuredStrength> measured, const LevelFitOptions& options);

    bool done() const { return level_ > highest_level; }  ///< whether all are set
    int level() const { return level_; }                  ///< which one is being set
    /// Where the level stands as far as is known. Requires !done().
    double place() const { return levels_.places[static_cast<std::size_t>(level_ - lowest_level)]; }
    /// The place of the one that it is measured against; nothing: random moves.
    std::optional<double> against() const;
    /// Games of the two: points of the level, a win 1 and a draw 0.5.
    void add(double points, int games);
    /// Goes on to the next level.
    void next();

    /// With no games of a level: where strengths alone put it.
    const FittedLevels& levels() const { return levels_; }

   private:
    struct Batch {
        double ahead = 0.0;  ///< by so much rating the level was expected to be ahead
        double points = 0.0;
        int games = 0;
    };

    double strength_at(double place) const;
    double place_of(double rating) const;  ///< no farther than it takes to be as strong as it becomes
    void place_again();

    std::vector<double> places_, ratings_;
    FittedLevels levels_{};
    double lowest_ = 0.0, step_ = 0.0;
    int level_ = lowest_level;
    std::vector<Batch> batches_;  ///< of the level that is being set
};

/// The ends of the scale of settings.
inline constexpr double lowest_place = 0.0, highest_place = highest_level;

/// The settings of a place between 0, where next to nothing is seen, and 10: those of the usual levels at whole numbers,
/// with `of_game` at each level what the game itself changes, and between them between.
LevelSettings settings_between(double place, LevelTable table, const std::array<LevelChange, highest_level>& of_game);

}  // namespace arvek
