#pragma once
// SequentialTest: stop a match or a league as soon as it is sure who is better, with an interval that holds at every look.
//
//     const arvek::SequentialTest test; arvek::RoundSums seen;
//     seen.add(1.5, 2);                              // a round of two games, of which A scored one and a half
//     if (test.verdict(seen) != 0) ...               // 1: A is better; -1: B is; 0: no difference to be seen so far
//
// The games of a round belong together, such as two on one opening with the sides changed: what varies is measured from
// round to round, so draws and openings that even out make it sure sooner.

#include "arvek/game/interval.hpp"

namespace arvek {

/// The points of one side over rounds of games.
struct RoundSums {
    int rounds = 0;        ///< that were counted
    int comparisons = 0;   ///< games, or in a game for one pairs of games, over all rounds
    double points = 0.0;   ///< over all rounds, a comparison counting 0 to 1
    double squares = 0.0;  ///< of the points of each round

    /// Counts a round of that many comparisons.
    void add(double points_of_round, int comparisons_of_round);
    /// Of the points, by how the rounds differ. Two rounds are added that differ as games would that are won or lost: a few
    /// alike ones do not make it certain.
    double variance() const;
};

/// Tells which of two opponents scores more, looked at after every round. Two that are equal are told apart with a chance
/// of at most `error`, however long it goes on; of two that differ it names the worse one far more rarely.
/// Source: Robbins (1970), "Statistical Methods Related to the Law of the Iterated Logarithm": the boundary of a mixture of
/// normal distributions.
struct SequentialTest {
    double error = 0.05;  ///< more than 0, less than 0.5

    /// Before so many rounds nothing is said.
    static constexpr int least_rounds = 8;

    /// How many standard deviations from even settle it after so many rounds.
    double deviations_needed(int rounds) const;
    /// Between which A's score lies, 0 to 1, but for a chance of `error` over all looks together.
    Interval interval(const RoundSums& seen) const;
    /// 1: A is better; -1: B is; 0: no difference to be seen so far.
    int verdict(const RoundSums& seen) const;
};

/// Throws InputError when a number is out of its range.
void check_sequential_test(const SequentialTest& test);

}  // namespace arvek
