#pragma once
// Habits: whether an opponent repeats itself, and what decides its moves, counted over many games.
//
//   arvek::HabitCounter counter(game, game.initial_position(), 6);
//   for (const arvek::GameRecord& played : games) counter.add(played, arvek::WhoseHabits::OfA);
//   counter.habits().effective_openings;                  // as many as so many that are equally likely

#include <cstdint>
#include <map>
#include <string>
#include <unordered_map>
#include <vector>

#include "arvek/arena/record.hpp"
#include "arvek/game/any_game.hpp"

namespace arvek {

/// Whose decisions in a game count.
enum class WhoseHabits : std::uint8_t {
    OfA,    ///< those of A alone
    OfBoth  ///< those of A and of B, as of one
};

/// A beginning of games.
struct CountedOpening {
    std::vector<std::string> moves;  ///< from the start of the game
    int games = 0;                   ///< that begin so
};

/// How often a rule or a reason decided.
struct HabitShare {
    std::string reason;            ///< the rule or the reason, as the opponent names it
    std::uint64_t moves = 0;       ///< that it decided
    double share = 0.0;            ///< of all decisions, 0 to 1
    double low = 0.0, high = 0.0;  ///< of its 95 % interval, by how much games differ
};

/// What was counted.
struct Habits {
    int games = 0;                       ///< that were counted
    std::uint64_t moves = 0;             ///< decisions of whose habits they are
    int different_games = 0;             ///< by all that was played
    int openings = 0;                    ///< different ones
    double effective_openings = 0.0;     ///< as many as so many that are equally likely: exp of their entropy
    std::vector<CountedOpening> common;  ///< the most frequent ones, at most five
    std::vector<std::pair<std::string, int>> first_moves;  ///< of its own in each game, the most frequent first
    std::size_t positions_again = 0;                       ///< decisions in positions that came up more than once
    double same_reply = 0.0;          ///< of those: how often the reply was the most frequent one there, 0 to 1
    int repetitions = 0;              ///< games that ended as a position came up again too often
    std::vector<HabitShare> reasons;  ///< the most frequent first
    /// Whether it is worth a warning: half of the games, ten at least, begin alike, or are alike.
    bool repeats_openings() const { return games >= 10 && !common.empty() && 2 * common.front().games >= games; }
    /// Whether half of the games, ten at least, are alike.
    bool repeats_games() const { return games >= 10 && 2 * different_games <= games; }
};

/// How two differ in what decides.
struct HabitDifference {
    std::string reason;                                   ///< the rule or the reason
    double a = 0.0, b = 0.0;                              ///< shares
    double low = 0.0, high = 0.0;                         ///< 95 % interval of a - b
    bool is_sure() const { return low > 0 || high < 0; }  ///< whether the interval leaves no doubt who has more
};

/// Counts games and what decided their moves.
class HabitCounter {
   public:
    /// `opening_plies`: so many moves of players are an opening, 1 to 100. Throws InputError for a number out of range.
    HabitCounter(const AnyGame& game, const AnyPosition& start, int opening_plies);

    /// Throws InputError for moves that are not legal. Games in which the rules broke are left out.
    void add(const GameRecord& game, WhoseHabits whose);
    /// Of all games so far.
    Habits habits() const;
    /// By reason, those that differ the most first.
    std::vector<HabitDifference> differences(const HabitCounter& other) const;

   private:
    struct Shares {
        double mean = 0.0, error = 0.0;  ///< of the share, and its standard error
        std::uint64_t moves = 0;
    };
    std::map<std::string, Shares> shares() const;

    AnyGame game_;
    AnyPosition start_;
    int opening_plies_;
    std::map<std::string, CountedOpening> openings_;
    std::map<std::string, int> first_moves_;
    std::map<std::uint64_t, int> courses_;
    std::unordered_map<std::uint64_t, std::map<std::string, int>> replies_;  ///< by position
    std::vector<std::pair<std::map<std::string, std::uint64_t>, std::uint64_t>>
        chosen_;  ///< by game, and its decisions
    int repetitions_ = 0;
};

}  // namespace arvek
