#pragma once
// What checking the rules of a game takes and gives: see lab/check.hpp.

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "arvek/search/limits.hpp"

namespace arvek {

/// How far a check is.
struct CheckProgress {
    const char* stage = "";       ///< what is being done, such as "short sequences"
    double share = 0.0;           ///< of the whole, 0 to 1, by the time or the games
    int games = 0;                ///< played so far
    std::uint64_t positions = 0;  ///< looked at so far
    std::size_t faults = 0;       ///< found so far
};

/// How long and how far rules are checked.
struct CheckOptions {
    /// Games at the most, at least 1. Without `seconds` they are the only limit, and a check repeats exactly.
    std::optional<int> games{};
    /// More than 0; 10 where neither is given. Small games end sooner, when nothing new is met any more.
    std::optional<double> seconds{};
    std::uint64_t seed = 0;       ///< of the games that are played
    int longest_game = 2'000;     ///< plies after which play counts as endless
    int short_positions = 4'000;  ///< how many positions of the shortest sequences are looked at
    int compared = 60;            ///< positions at which the searches are compared with plain minimax
    Clock clock{};                ///< the machine's where none is given
    StopToken stop{};             ///< what was found until then is reported
    /// Told now and then how far it is.
    std::function<void(const CheckProgress&)> progress{};
};

/// A law that a game breaks, and how to see it.
struct Fault {
    std::string law;                 ///< such as "take-back"
    std::string function;            ///< of the game, the one to blame: "take_back"
    std::string what;                ///< what was seen
    std::vector<std::string> moves;  ///< from the initial position; none of them can be left out
    std::string position;            ///< its text where the game has texts
    /// Where two positions are at odds: the way to the other, and its text.
    bool of_two = false;
    std::vector<std::string> other_moves{};  ///< from the initial position
    std::string other_position{};            ///< its text where the game has texts
    /// Whether it was seen again when the moves were played afresh. If not, the answer depends on what was asked
    /// before, and the moves are all that had been played.
    bool repeats = true;
};

/// What came of a check.
struct CheckReport {
    std::vector<Fault> faults;         ///< at most one for each law and function
    std::vector<std::string> remarks;  ///< what is allowed but worth knowing
    int games = 0;                     ///< that were played
    std::uint64_t positions = 0;       ///< that were looked at
    double seconds = 0.0;              ///< that it took
    bool complete = true;              ///< false where it was stopped from outside

    bool sound() const { return faults.empty(); }  ///< whether nothing was found
    /// Some lines for people.
    std::string text() const;
};

/// Throws InputError when an option is out of its range.
void require_in_range(const CheckOptions& options);

}  // namespace arvek
