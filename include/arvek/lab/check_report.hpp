#pragma once
// What checking the rules of a game takes and gives: see lab/check.hpp.

#include <cstdint>
#include <string>
#include <vector>

namespace arvek {

struct CheckOptions {
    int games = 200;  ///< random games, at least 1
    std::uint64_t seed = 0;
    int longest_game = 2'000;     ///< plies after which play counts as endless
    int short_positions = 4'000;  ///< how many positions of the shortest sequences are looked at
    int compared = 60;            ///< positions at which the searches are compared with plain minimax
};

/// A law that a game breaks, and how to see it.
struct Fault {
    std::string law;                 ///< such as "take-back"
    std::string what;                ///< what was seen
    std::vector<std::string> moves;  ///< from the initial position; the shortest sequence that was found
    std::string position;            ///< its text where the game has texts
};

struct CheckReport {
    std::vector<Fault> faults;         ///< at most one for each law
    std::vector<std::string> remarks;  ///< what is allowed but worth knowing
    int games = 0;
    std::uint64_t positions = 0;

    bool sound() const { return faults.empty(); }
    /// Some lines for people.
    std::string text() const;
    /// Keeps the shortest sequence for each law.
    void add(Fault fault);
};

/// Throws InputError when an option is out of its range.
void require_in_range(const CheckOptions& options);

}  // namespace arvek
