#pragma once
// What is known of a game, a decision and a match once the types of the game are gone: names, texts and numbers.

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/league.hpp"
#include "arvek/arena/match.hpp"
#include "arvek/arena/ratings.hpp"
#include "arvek/arena/record.hpp"
#include "arvek/game/decision.hpp"
#include "arvek/lab/count.hpp"
#include "arvek/lab/habits.hpp"
#include "arvek/lab/learning.hpp"
#include "arvek/lab/level_fit.hpp"
#include "arvek/lab/odds.hpp"
#include "arvek/lab/profile_check.hpp"
#include "arvek/lab/tuning.hpp"
#include "arvek/lab/weight_fit.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/search/solution.hpp"

namespace arvek {

enum class ParameterKind : std::uint8_t { Integer, Boolean, String };

/// A parameter of a game's rules.
struct ParameterInfo {
    std::string name;
    ParameterKind kind = ParameterKind::Integer;
    int least = 0;  ///< of an integer
    int most = 0;
    std::string default_value;
    std::string meaning;

    std::string range_text() const;  ///< "1 to 12", "true or false" or "any string"
};

/// A parameter with its value.
struct Setting {
    std::string name;
    std::string value;
    ParameterKind kind = ParameterKind::Integer;
};

/// Which game a report is about.
struct Subject {
    std::string game;
    std::vector<Setting> settings;
    std::string position;
};

/// How a finished game ended.
struct Ending {
    std::vector<std::pair<std::string, Payoff>> payoffs;  ///< by player
    /// The player with the largest payoff, if it is only one; nobody in a game for one.
    std::optional<std::string> winner;

    /// "Teal wins", "Amber wins by 3", "a draw", "Plum wins (Teal -1, Amber -1, Plum +2)", "Stower gets 233".
    std::string text() const;
};

struct MoveReport {
    std::string move;
    Score score;
    ScoreKind kind = ScoreKind::Estimate;
    std::vector<std::string> line;
    std::vector<std::string> reasons;
    double worth = 0.0;
    std::uint64_t visits = 0;  ///< as in a RankedMove
    double mean = 0.0, low = 0.0, high = 0.0;
    double probability = 0.0;
};

struct DecisionReport {
    std::string opponent;
    std::string title;  ///< the opponent, as people call it
    int level = highest_level;
    bool has_levels = true;
    std::string position;
    std::string drawing;
    std::string to_move;
    std::string move;
    std::vector<MoveReport> ranked;
    int rank = 1;
    DecisionStats stats;
    double scores_per_point = 0.0;  ///< as in a Decision
    bool has_scores = false;
    bool has_visits = false;
    bool has_probabilities = false;
    bool has_worths = false;
    std::string searched_by;  ///< the search that decided, where one says so
    std::string chosen_by;
    std::vector<RuleReport> rules;
    std::vector<std::string> overlooked;
    std::string state;  ///< what it remembers then, where its rules set states: "phase=2"
};

struct SolvedMoveReport {
    std::string move;
    Payoff value = 0;
    ScoreKind kind = ScoreKind::Exact;
    std::optional<int> plies;
};

/// A move or an event and its expected payoff.
struct ExpectedMoveReport {
    std::string move;
    double probability = 0.0;  ///< of an event, or of a move in a mixed strategy
    double value = 0.0;
};

/// What to do behind one view.
struct MixedReport {
    std::string player;
    std::string view;
    std::vector<ExpectedMoveReport> moves;
};

/// What may happen where chance is next.
struct OutlookReport {
    struct Event {
        std::string event;
        double probability = 0.0;
        double value = 0.0;    ///< for the first player of two, or the one; with more, for the player who is next
        std::string next;      ///< who is next; empty where nobody is
        std::string best;      ///< what that player does then; empty where play is over
        bool certain = false;  ///< the value holds whatever comes
    };
    std::string opponent;
    std::string title;
    std::string drawing;
    std::optional<double> value;  ///< of the whole, for the first player; nothing with more than two
    std::string of;               ///< that player
    std::vector<Event> events;
    DecisionStats stats;  ///< of all decisions together
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
    bool expects = false;  ///< whether the value is an expected payoff, of a game of chance or with views
    double value = 0.0, error = 0.0;
    std::string of;                            ///< whose value it is
    std::vector<ExpectedMoveReport> expected;  ///< moves or events
    bool mixes = false;                        ///< whether there is a strategy, as the game has views
    std::optional<double> exploitability;      ///< of it; nothing where that is not known
    std::vector<MixedReport> strategy;
};

/// One line of a comparison: a search with its limits and what came of it.
struct ComparisonRow {
    DecisionReport report;
    int depth_asked = -1;  ///< -1: none
};

struct CountReport {
    std::vector<SequenceCount> counts;
    /// Sequences of the greatest length; empty if not asked.
    std::vector<std::pair<std::string, LargeCount>> by_first_move;
};

/// A decision of a game, and who took it.
struct LoggedDecision {
    std::size_t ply = 0;  ///< how many moves and events came before
    int seat = 0;
    DecisionReport report;
};

/// A whole game with why everything in it was done.
struct GameLog {
    GameRecord record;
    std::vector<LoggedDecision> decisions;
};

struct MatchReport {
    std::string a;
    std::string b;
    std::string a_title;  ///< as people call them
    std::string b_title;
    std::uint64_t seed = 0;
    MatchResult result;
    std::vector<GameRecord> records;
    int games_asked = 0;
    bool until_sure = false;
    int taken_over = 0;                         ///< games that were played before
    std::vector<std::string> rules_a, rules_b;  ///< of the profiles, in their order, also those that never fired
};

/// A decision of a game, judged afterwards by a search: chances to win, 0 to 1, a draw counting half.
struct JudgedMove {
    std::size_t ply = 0;
    Player player = Player::First;
    std::string played, better;  ///< the best move, which may be the one that was played
    double chance = 0.5;         ///< of the mover, with the best move
    double chance_played = 0.5;  ///< with the one that was played
    double lost() const { return chance - chance_played; }
};

/// Weights that were fitted to games.
struct WeightReport {
    std::vector<std::string> features;
    WeightFit fit{};
    double ridge = 0.0;
    std::string written{};
};

/// A book that was built, as texts.
struct BookReport {
    struct Reply {
        std::string move;
        double lost = 0.0, weight = 1.0;
    };
    struct At {
        std::vector<std::string> moves;  ///< that lead there
        std::string position;
        std::vector<Reply> replies;
        bool is_given = false;  ///< as a position: no line leads to it
    };

    std::string judge;
    std::uint64_t seed = 0;
    std::vector<At> positions;
    std::size_t openings = 0, searched = 0, folded = 0;
    bool complete = true;               ///< false: interrupted, or as many positions as there may be
    double worst = 0.0;                 ///< the most that a reply loses
    std::optional<double> most_lost{};  ///< of a book that was checked: what a reply may lose
    std::string checked{};              ///< the book that was checked
    std::size_t known = 0;              ///< positions of the games and books that it is made of
    std::size_t dangers = 0;            ///< positions in which an opponent would err
    bool judged = true;
    std::string written{};
};

struct LeagueReport {
    std::vector<std::string> names;   ///< of the players, as they are asked for
    std::vector<std::string> titles;  ///< as people call them; no two alike
    LeagueShape shape = LeagueShape::EveryPair;
    int seats = 2;
    int games_asked = 0;  ///< of each pairing
    std::uint64_t seed = 0;
    LeagueResult result;
    bool until_sure = false;
    bool complete = true;  ///< false: interrupted
    int taken_over = 0;    ///< games that were played before
};

/// Levels that were fitted to a game.
/// Whether opponents repeat themselves, and what decides their moves.
struct HabitsReport {
    struct Of {
        std::string name, title;
        Habits habits{};
        double score = 0.5;  ///< against the partner; of no meaning against itself
    };
    std::vector<Of> opponents;
    std::string partner;  ///< empty: each plays itself
    int opening_plies = 6;
    std::uint64_t seed = 0;
    int games_asked = 0;
    std::vector<HabitDifference> differences;  ///< of the first two
    bool complete = true;                      ///< false: interrupted
};

/// What learning came to.
struct LearningReport {
    /// How strong it was after so many games.
    struct Point {
        int games = 0;
        LeagueResult result{};  ///< of what was learned, the first player, against the measure
        double error = 0.0;     ///< of the chances, see Learner::error()
    };

    std::string player, against;
    std::uint64_t seed = 0;
    LearningOptions options{};
    int games = 0;  ///< that were learned from
    std::size_t positions = 0, patterns = 0, weights = 0;
    std::vector<Point> points;
    double seconds = 0.0;
    bool complete = true;            ///< false: interrupted
    std::string written{}, model{};  ///< the profile and the model that were written
};

struct LevelFitReport {
    struct Measured {
        MeasuredStrength strength{};
        int games = 0;  ///< that it took part in
        double seconds_per_move = 0.0;
    };

    std::string opponent, title;
    std::uint64_t seed = 0;
    std::vector<Measured> measured;  ///< random moves first, with no place of their own
    FittedLevels levels{};
    double seconds = 0.0;   ///< that it took
    double farthest = 0.0;  ///< the farthest place that was measured
    bool complete = true;   ///< false: interrupted
    std::string written{};  ///< the profile that they were written to
};

struct TuningReport {
    std::string title;    ///< whose numbers they are
    std::string profile;  ///< the file
    std::uint64_t seed = 0;
    TuningOptions options{};
    int games = 0;  ///< of a step
    std::vector<TunedNumber> numbers;
    int steps = 0;                             ///< played
    std::vector<std::vector<double>> history;  ///< where the numbers stood after each step
    std::vector<double> best;                  ///< the candidate
    std::optional<LeagueResult> test;          ///< of the candidate, the first player, against the start
    bool accepted = false;
    std::optional<LeagueResult> confirmation;  ///< in fresh games, where it was accepted
    bool complete = true;                      ///< false: interrupted
    std::string written{};                     ///< the file that the new numbers were written to
};

/// A profile and what was found about it.
struct CheckedProfile {
    Profile profile;  ///< as far as it could be read
    ProfileReport report;
};

/// A match for each value that a number of a profile takes.
struct SweepRow {
    double value = 0.0;
    MatchResult result;
};
struct SweepReport {
    std::string a_title, b_title;  ///< the profile, and its rival, as people call them
    std::string key;               ///< which number
    int games = 0;                 ///< a value
    std::uint64_t seed = 0;
    std::vector<SweepRow> rows;
    bool complete = true;  ///< false: interrupted
};

/// What a lead is worth.
struct OddsReport {
    std::string opponent;
    std::string title;  ///< as people call it
    std::uint64_t seed = 0;
    OddsFound found;
    std::optional<double> declared;  ///< by the game
    bool complete = true;            ///< false: interrupted
};

/// One level of a measured ladder.
struct LevelRow {
    int level = 1;
    std::optional<Rating> rating;  ///< nothing where it was interrupted before
    std::optional<MatchResult> against_next_below, against_two_below, against_random;
};

struct LadderReport {
    std::string opponent;
    std::string title;  ///< as people call it
    int games = 0;
    std::uint64_t seed = 0;
    std::vector<LevelRow> rows;  ///< from the lowest level
    bool complete = true;        ///< false: interrupted
};

/// A game that a person played.
struct PlayReport {
    std::string side;
    std::string opponent;
    std::uint64_t seed = 0;
    std::vector<std::string> moves;
    std::string end_position;
    std::optional<Ending> ending;
};

}  // namespace arvek
