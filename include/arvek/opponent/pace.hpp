#pragma once
// Pace: how long an opponent takes to answer at the least, so that it does not answer inhumanly fast. The core only
// says how long to wait; whoever shows the game waits.

#include "arvek/game/random.hpp"

namespace arvek {

/// How long an answer takes at the least.
struct Pace {
    double least_seconds = 0.0;  ///< from the rival's move to the answer
    double variation = 0.3;      ///< the least time is longer by up to this share of it, at random
};

/// The pace at which people find an opponent pleasant to play in a terminal.
inline constexpr Pace unhurried_pace{0.7, 0.5};

/// Seconds still to wait before an answer that took `seconds_used` to find is shown; never less than 0.
inline double seconds_to_wait(const Pace& pace, double seconds_used, Random& random) {
    const double wanted = pace.least_seconds * (1.0 + pace.variation * random.unit());
    return wanted > seconds_used ? wanted - seconds_used : 0.0;
}

}  // namespace arvek
