#pragma once
// SequentialTest: stop a match as soon as it is sure who is better.

namespace arvek {

/// Tells which of two opponents wins more of the games that are won at all; draws say nothing. Where the better one
/// wins at least 0.5 + `margin` of those, the other is named with a chance of at most `error`. Nearer to equal, either
/// may be named, and it takes long.
/// Source: Wald (1945), "Sequential Tests of Statistical Hypotheses".
struct SequentialTest {
    double margin = 0.05;  ///< more than 0, less than 0.5
    double error = 0.05;   ///< more than 0, less than 0.5

    /// How many more wins than losses settle it; at least 1.
    int lead_needed() const;
    /// 1: A is better; -1: B is; 0: not sure yet.
    int verdict(int wins_a, int wins_b) const {
        const int lead = wins_a - wins_b;
        return lead >= lead_needed() ? 1 : -lead >= lead_needed() ? -1 : 0;
    }
};

/// Throws InputError when a number is out of its range.
void check_sequential_test(const SequentialTest& test);

}  // namespace arvek
