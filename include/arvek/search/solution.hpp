#pragma once
// Solution, LuckSolution: what exact solving found out about a position.

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

/// How far a position is solved.
struct SolveOptions {
    std::size_t memory_mebibytes = 1'024;  ///< for the table, or for the positions of a game that can go round
    std::optional<double> seconds{};       ///< more than 0; needs a clock
    Clock clock{};                         ///< for the seconds
    StopToken stop{};                      ///< asked now and then
    bool margins = true;                   ///< false: settle only win, draw or loss
    /// Whether a search to the end follows the game's ordering hint. Without it, and among moves that the hint takes for
    /// alike, those come first that leave the rival the fewest replies; a weak hint costs more than it brings.
    bool hint = true;
    /// 1 to most_threads. Several search to the end at once and share the table; with one, the same solution has the same
    /// counters. A game whose positions can come back is always solved by one.
    int threads = 1;
    /// Told from time to time what is known so far: the least and the most that the position is worth, and the
    /// positions seen.
    std::function<void(Payoff least, Payoff most, std::uint64_t positions)> progress{};
};

/// What is known of a move.
template <class Move>
struct SolvedMove {
    Move move{};                        ///< which
    Payoff value = 0;                   ///< for the player to move
    ScoreKind kind = ScoreKind::Exact;  ///< or Upper: at most that much
    std::optional<int> plies{};         ///< to the end with best play, where it is known
};

/// What is known of the position, whatever the moves are.
struct SolutionFigures {
    bool complete = false;  ///< whether the value is known
    /// The position is worth between these to the player to move; equal when it is solved. -largest_payoff and
    /// largest_payoff stand for "nothing known". With margins off: 1, 0 and -1.
    Payoff least = -largest_payoff;
    Payoff most = largest_payoff;  ///< the other end of the same
    std::optional<int> plies{};    ///< to the end with best play, where it is known
    const char* method = "";       ///< "search to the end" or "retrograde analysis"
    const char* stopped_by = "";   ///< "solved", "time", "stop" or "memory"
    Counters counters;             ///< what was counted
    double seconds = 0.0;          ///< that it took
};

/// What exact solving found out about a position.
template <class Move>
struct Solution : SolutionFigures {
    std::vector<SolvedMove<Move>> moves;  ///< every legal move, best first; those that keep the value are exact
};

/// What is known of one move, or event, of a position that was solved.
template <class Move>
struct LuckMove {
    Move move{};               ///< which
    double probability = 0.0;  ///< of an event
    double value = 0.0;        ///< for the player to move; where chance is next, for the first player
};

/// What is known of a position of a game of chance.
template <class Move>
struct LuckSolution {
    double value = 0.0;  ///< the expected payoff of the player to move; where chance is next, of the first player
    double error = 0.0;  ///< it lies no farther off
    std::vector<LuckMove<Move>> moves;  ///< the best first; events in their order
    bool complete = false;              ///< whether the error is as small as was asked for
    std::uint64_t positions = 0;        ///< that were looked at
    int sweeps = 0;                     ///< how often all values were worked out anew
    double seconds = 0.0;               ///< that it took
    std::string stopped_by;             ///< "end", "memory", "time" or "stop"
};

/// How far a game of chance is solved.
struct LuckSolveOptions {
    double error = 1e-11;                  ///< as large as the error may be; more than 0
    std::size_t memory_mebibytes = 1'024;  ///< 1 or more
    std::optional<double> seconds{};       ///< that it may take; needs a clock
    Clock clock{};                         ///< for the seconds
    StopToken stop{};                      ///< asked now and then
    bool margins = true;                   ///< false: an end counts 1, 0 or -1
};

}  // namespace arvek
