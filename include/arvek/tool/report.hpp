#pragma once
// What the tool knows of a game, a decision and a match once the types of the game are gone: names, texts and numbers.

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/match.hpp"
#include "arvek/game/decision.hpp"
#include "arvek/lab/count.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/search/solution.hpp"

namespace arvek::tool {

enum class ParameterKind : std::uint8_t { WholeNumber, TrueOrFalse, Text };

/// A rule parameter that --set can change.
struct ParameterInfo {
    std::string name;
    ParameterKind kind = ParameterKind::WholeNumber;
    int least = 0;  ///< of a whole number
    int most = 0;
    std::string default_value;
    std::string meaning;

    std::string range_text() const;  ///< "1 to 12", "true or false" or "text"
};

/// A parameter with its value.
struct Setting {
    std::string name;
    std::string value;
    ParameterKind kind = ParameterKind::WholeNumber;
};

/// How a finished game ended.
struct Ending {
    std::vector<std::pair<std::string, Payoff>> payoffs;  ///< by player
    std::optional<std::string> winner;                    ///< the player with the largest payoff, if it is only one

    std::string text() const;  ///< "Teal wins", "Amber wins by 3", "a draw"
};

struct MoveReport {
    std::string move;
    Score score;
    ScoreKind kind = ScoreKind::Estimate;
    std::vector<std::string> line;
    std::vector<std::string> reasons;
    double worth = 0.0;
};

struct DecisionReport {
    std::string opponent;
    std::string title;  ///< the opponent, as people call it
    int level = highest_level;
    std::string position;
    std::string drawing;
    std::string to_move;
    std::string move;
    std::vector<MoveReport> ranked;
    int rank = 1;
    DecisionStats stats;
    bool has_scores = false;
    bool has_worths = false;
    std::string chosen_by;
    std::vector<RuleReport> rules;
    std::vector<std::string> overlooked;
};

struct SolvedMoveReport {
    std::string move;
    Payoff value = 0;
    ScoreKind kind = ScoreKind::Exact;
    std::optional<int> plies;
};

struct SolutionReport {
    bool complete = false;
    Payoff least = 0;
    Payoff most = 0;
    std::optional<int> plies;
    std::vector<SolvedMoveReport> moves;
    std::string method;
    std::string stopped_by;
    Counters counters;
    double seconds = 0.0;
    std::string drawing;
    std::string to_move;
};

/// One game of a match, as text.
struct GameRecord {
    std::string first;  ///< the name of the opponent that moved first
    std::string second;
    std::vector<std::string> moves;
    std::string end_drawing;
    std::string result;
    GameResult counted;
};

}  // namespace arvek::tool
