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

/// What a parameter's values are.
enum class ParameterKind : std::uint8_t { Integer, Boolean, String };

/// A parameter of a game's rules.
struct ParameterInfo {
    std::string name;                             ///< as it is set
    ParameterKind kind = ParameterKind::Integer;  ///< what its values are
    int least = 0;                                ///< of an integer
    int most = 0;                                 ///< of an integer
    std::string default_value;                    ///< as text
    std::string meaning;                          ///< what it does, in a sentence
    std::vector<std::string> choices{};           ///< of a string: all that it can be; empty: any

    std::string range_text() const;  ///< "1 to 12", "true or false", "none, r or w" or "any string"
};

/// A parameter with its value.
struct Setting {
    std::string name;                             ///< of the parameter
    std::string value;                            ///< as text
    ParameterKind kind = ParameterKind::Integer;  ///< what it is
};

/// Which game a report is about.
struct Subject {
    std::string game;               ///< by name
    std::vector<Setting> settings;  ///< every parameter
    std::string position;           ///< as text
};

/// How a finished game ended.
struct Ending {
    std::vector<std::pair<std::string, Payoff>> payoffs;  ///< by player
    /// The player with the largest payoff, if it is only one; nobody in a game for one.
    std::optional<std::string> winner;

    /// "Teal wins", "Amber wins by 3", "a draw", "Plum wins (Teal -1, Amber -1, Plum +2)", "Stower gets 233".
    std::string text() const;
};

/// A move that was looked at: a RankedMove as texts.
struct MoveReport {
    std::string move;                          ///< as text
    Score score;                               ///< for the player to move
    ScoreKind kind = ScoreKind::Estimate;      ///< exact, a bound or an estimate
    std::vector<std::string> line;             ///< what is expected, beginning with the move
    std::vector<std::string> reasons;          ///< said by rules and suggestions
    double worth = 0.0;                        ///< by suggestions or features
    std::uint64_t visits = 0;                  ///< as in a RankedMove
    double mean = 0.0, low = 0.0, high = 0.0;  ///< as in a RankedMove
    double probability = 0.0;                  ///< with which it is played, where a mixed strategy chose
};

/// What a longer search without the level says of a move that a level played: the best move, and what it and the one played
/// are worth to the player, both to the same depth.
struct DeeperLook {
    std::string best;                ///< the one played where nothing is better
    Score best_score, played_score;  ///< in the units of the decision's scores
    int depth = 0;                   ///< of either, in plies
    std::uint64_t nodes = 0;         ///< in all
    bool was_overlooked = false;     ///< whether the level kept the best move out of sight
};

/// A decision as texts.
struct DecisionReport {
    std::string opponent;                 ///< as it is asked for
    std::string title;                    ///< the opponent, as people call it
    int level = highest_level;            ///< that it played at
    bool has_levels = true;               ///< whether it has any
    std::string position;                 ///< where it was taken, as text
    std::string drawing;                  ///< the same, as people see it
    std::string to_move;                  ///< who decided
    std::string move;                     ///< that was chosen
    std::vector<MoveReport> ranked;       ///< the best first
    int rank = 1;                         ///< the place of the chosen move among them, from 1
    DecisionStats stats;                  ///< what it took
    double scores_per_point = 0.0;        ///< as in a Decision
    bool has_scores = false;              ///< whether scores mean anything
    bool has_visits = false;              ///< whether visits, means and intervals do
    bool has_probabilities = false;       ///< whether probabilities do
    bool has_worths = false;              ///< whether worths do
    std::string searched_by;              ///< the search that decided, where one says so
    std::string chosen_by;                ///< the rule or the reason that weighed most
    std::vector<RuleReport> rules;        ///< those that were asked
    std::vector<std::string> overlooked;  ///< moves that a level kept out of sight
    std::string state;                    ///< what it remembers then, where its rules set states: "phase=2"
    std::optional<DeeperLook> deeper;     ///< where one was asked for and there was something to look at
};

/// A move of a solved position.
struct SolvedMoveReport {
    std::string move;                   ///< as text
    Payoff value = 0;                   ///< for the player to move
    ScoreKind kind = ScoreKind::Exact;  ///< or Upper: at most that much
    std::optional<int> plies;           ///< to the end with best play, where it is known
};

/// A move or an event and its expected payoff.
struct ExpectedMoveReport {
    std::string move;          ///< as text
    double probability = 0.0;  ///< of an event, or of a move in a mixed strategy
    double value = 0.0;        ///< the expected payoff
};

/// What to do behind one view.
struct MixedReport {
    std::string player;                     ///< who sees it
    std::string view;                       ///< what is seen, as text
    std::vector<ExpectedMoveReport> moves;  ///< those that may be played
};

/// Who is next where chance follows chance.
inline constexpr const char* chance_again = "chance again";

/// What may happen where chance is next.
struct OutlookReport {
    /// An event and what comes after it.
    struct Event {
        std::string event;         ///< as text
        double probability = 0.0;  ///< with which it happens
        double value = 0.0;        ///< for the first player of two, or the one; with more, for the player who is next
        std::string next;          ///< who is next, `chance_again`, or empty where play is over
        std::string best;          ///< what that player does then; empty where play is over
        bool certain = false;      ///< the value holds whatever comes
    };
    std::string opponent;         ///< as it is asked for
    std::string title;            ///< as people call it
    std::string drawing;          ///< how it stands, as people see it
    std::optional<double> value;  ///< of the whole, for the first player; nothing with more than two
    std::string of;               ///< that player
    std::vector<Event> events;    ///< in the order of the game
    DecisionStats stats;          ///< of all decisions together
};

/// What solving found out, as texts.
struct SolutionReport {
    bool complete = false;                ///< whether the value is known
    Payoff least = 0;                     ///< the value at the least, for the player to move
    Payoff most = 0;                      ///< the value at the most
    std::optional<int> plies;             ///< to the end with best play, where it is known
    std::vector<SolvedMoveReport> moves;  ///< the best first
    std::string method;                   ///< how it was solved
    std::string stopped_by;               ///< what ended it
    Counters counters;                    ///< what was counted
    double seconds = 0.0;                 ///< that it took
    std::string drawing;                  ///< how it stands, as people see it
    std::string to_move;                  ///< who is next
    bool expects = false;             ///< whether the value is an expected payoff, of a game of chance or with views
    double value = 0.0, error = 0.0;  ///< the expected payoff, and how far it may be off
    std::string of;                   ///< whose value it is
    std::vector<ExpectedMoveReport> expected;  ///< moves or events
    bool mixes = false;                        ///< whether there is a strategy, as the game has views
    std::optional<double> exploitability;      ///< of it; nothing where that is not known
    std::vector<MixedReport> strategy;         ///< what to do behind each view, where it is not too long
};

/// One line of a comparison: a search with its limits and what came of it.
struct ComparisonRow {
    DecisionReport report;  ///< what it came to
    int depth_asked = -1;   ///< -1: none
};

/// How many sequences of moves there are.
struct CountReport {
    std::vector<SequenceCount> counts;  ///< by length, 0 first
    /// Sequences of the greatest length; empty if not asked.
    std::vector<std::pair<std::string, LargeCount>> by_first_move;
};

/// A decision of a game, and who took it.
struct LoggedDecision {
    std::size_t ply = 0;    ///< how many moves and events came before
    int seat = 0;           ///< whose it is
    DecisionReport report;  ///< the decision itself
};

/// A whole game with why everything in it was done.
struct GameLog {
    GameRecord record;                      ///< what was played, and how it ended
    std::vector<LoggedDecision> decisions;  ///< in order
};

/// A match as texts.
struct MatchReport {
    std::string a;                              ///< as it is asked for
    std::string b;                              ///< as it is asked for
    std::string a_title;                        ///< as people call them
    std::string b_title;                        ///< the same of B
    std::uint64_t seed = 0;                     ///< of all luck
    MatchResult result;                         ///< what came of it
    std::vector<GameRecord> records;            ///< of the games, in their order
    int games_asked = 0;                        ///< how many there were to be
    bool until_sure = false;                    ///< whether it could stop when it was sure who is better
    int taken_over = 0;                         ///< games that were played before
    std::vector<std::string> rules_a, rules_b;  ///< of the profiles, in their order, also those that never fired
};

/// A decision of a game, judged afterwards by a search: chances to win, 0 to 1, a draw counting half.
struct JudgedMove {
    std::size_t ply = 0;                                    ///< how many moves and events came before
    Player player = Player::First;                          ///< who decided
    std::string played, better;                             ///< a move and the best one, which may be the same
    double chance = 0.5;                                    ///< of the mover, with the best move
    double chance_played = 0.5;                             ///< with the one that was played
    double lost() const { return chance - chance_played; }  ///< of the chance to win
};

/// Weights that were fitted to games.
struct WeightReport {
    std::vector<std::string> features;  ///< by name
    WeightFit fit{};                    ///< their weights
    double ridge = 0.0;                 ///< how strongly weights were held to 0
    std::string written{};              ///< the file that they were written to
};

/// A book that was built, as texts.
struct BookReport {
    /// A reply.
    struct Reply {
        std::string move;                 ///< as text
        double lost = 0.0, weight = 1.0;  ///< what it loses of the chance to win, and how likely it is to be drawn
    };
    /// A position.
    struct At {
        std::vector<std::string> moves;  ///< that lead there
        std::string position;            ///< as text
        std::vector<Reply> replies;      ///< the best first
        bool is_given = false;           ///< as a position: no line leads to it
    };

    std::string judge;          ///< who judged the replies, where somebody did
    std::uint64_t seed = 0;     ///< of what the judge leaves to chance
    std::vector<At> positions;  ///< those nearest to the start first
    /// Ways through it, and positions that were looked at or left out as alike.
    std::size_t openings = 0, searched = 0, folded = 0;
    bool complete = true;               ///< false: interrupted, or as many positions as there may be
    double worst = 0.0;                 ///< the most that a reply loses
    std::optional<double> most_lost{};  ///< of a book that was checked: what a reply may lose
    std::string checked{};              ///< the book that was checked
    std::size_t known = 0;              ///< positions of the games and books that it is made of
    std::size_t blunders = 0;           ///< positions in which an opponent would err
    bool judged = true;                 ///< whether replies were judged, or taken as they were played
    std::string written{};              ///< the file that it was written to
};

/// A league as texts.
struct LeagueReport {
    std::vector<std::string> names;              ///< of the players, as they are asked for
    std::vector<std::string> titles;             ///< as people call them; no two alike
    LeagueShape shape = LeagueShape::EveryPair;  ///< who meets whom
    int seats = 2;                               ///< of the game
    int games_asked = 0;                         ///< of each pairing
    std::uint64_t seed = 0;                      ///< of all luck
    LeagueResult result;                         ///< what came of it
    bool until_sure = false;                     ///< whether it could stop when the order is sure
    bool complete = true;                        ///< false: interrupted
    int taken_over = 0;                          ///< games that were played before
};

/// Whether opponents repeat themselves, and what decides their moves.
struct HabitsReport {
    /// One opponent.
    struct Of {
        std::string name, title;  ///< as it is asked for, and as people call it
        Habits habits{};          ///< what was counted
        double score = 0.5;       ///< against the partner; of no meaning against itself
    };
    std::vector<Of> opponents;                 ///< those that were looked at
    std::string partner;                       ///< empty: each plays itself
    int opening_plies = 6;                     ///< so many moves are an opening
    std::uint64_t seed = 0;                    ///< of all luck
    int games_asked = 0;                       ///< how many there were to be
    std::vector<HabitDifference> differences;  ///< of the first two
    bool complete = true;                      ///< false: interrupted
};

/// What learning came to.
struct LearningReport {
    /// How strong it was after so many games.
    struct Point {
        int games = 0;          ///< that it had learned from
        LeagueResult result{};  ///< of what was learned, the first player, against the measure
        double error = 0.0;     ///< of the chances, see Learner::error()
    };

    std::string player, against;                           ///< who plays, and who measures
    std::uint64_t seed = 0;                                ///< of all luck
    LearningOptions options{};                             ///< how it was learned
    int games = 0;                                         ///< that were learned from
    std::size_t positions = 0, patterns = 0, weights = 0;  ///< that were learned from, and of which the model is made
    std::vector<Point> points;                             ///< as games went on
    double seconds = 0.0;                                  ///< that it took
    bool complete = true;                                  ///< false: interrupted
    std::string written{}, model{};                        ///< the profile and the model that were written
};

/// Levels that were fitted to a game.
struct LevelFitReport {
    /// Settings that were measured.
    struct Measured {
        MeasuredStrength strength{};    ///< where they stand, and how strong they are
        int games = 0;                  ///< that it took part in
        double seconds_per_move = 0.0;  ///< thinking
    };

    std::string opponent, title;     ///< as it is asked for, and as people call it
    std::uint64_t seed = 0;          ///< of all luck
    std::vector<Measured> measured;  ///< random moves first, with no place of their own
    FittedLevels levels{};           ///< what was fitted
    double seconds = 0.0;            ///< that it took
    double farthest = 0.0;           ///< the farthest place that was measured
    bool complete = true;            ///< false: interrupted
    std::string written{};           ///< the profile that they were written to
};

/// What a tuning came to.
struct TuningReport {
    std::string title;                         ///< whose numbers they are
    std::string profile;                       ///< the file
    std::uint64_t seed = 0;                    ///< of all luck
    TuningOptions options{};                   ///< how they were tuned
    int games = 0;                             ///< of a step
    std::vector<TunedNumber> numbers;          ///< those that were tuned
    int steps = 0;                             ///< played
    std::vector<std::vector<double>> history;  ///< where the numbers stood after each step
    std::vector<double> best;                  ///< the candidate
    std::optional<LeagueResult> test;          ///< of the candidate, the first player, against the start
    bool accepted = false;                     ///< whether the test found the candidate better
    std::optional<LeagueResult> confirmation;  ///< in fresh games, where it was accepted
    bool complete = true;                      ///< false: interrupted
    std::string written{};                     ///< the file that the new numbers were written to
};

/// A profile and what was found about it.
struct CheckedProfile {
    Profile profile;       ///< as far as it could be read
    ProfileReport report;  ///< what was found
};

/// A match for each value that a number of a profile takes.
struct SweepRow {
    double value = 0.0;  ///< that the number took
    MatchResult result;  ///< what came of it
};
/// A match for each value of a number.
struct SweepReport {
    std::string a_title, b_title;  ///< the profile, and its rival, as people call them
    std::string key;               ///< which number
    int games = 0;                 ///< a value
    std::uint64_t seed = 0;        ///< of all luck
    std::vector<SweepRow> rows;    ///< in the order of the values
    bool complete = true;          ///< false: interrupted
};

/// What a lead is worth.
struct OddsReport {
    std::string opponent;            ///< as it is asked for
    std::string title;               ///< as people call it
    std::uint64_t seed = 0;          ///< of all luck
    OddsFound found;                 ///< what the games say
    std::optional<double> declared;  ///< by the game
    bool complete = true;            ///< false: interrupted
};

/// One level of a measured ladder.
struct LevelRow {
    int level = 1;                 ///< which
    std::optional<Rating> rating;  ///< nothing where it was interrupted before
    /// Nothing where there is none such, or it was not played.
    std::optional<MatchResult> against_next_below, against_two_below, against_random;
};

/// A ladder of levels, measured.
struct LadderReport {
    std::string opponent;        ///< as it is asked for
    std::string title;           ///< as people call it
    int games = 0;               ///< a level and a rival
    std::uint64_t seed = 0;      ///< of all luck
    std::vector<LevelRow> rows;  ///< from the lowest level
    bool complete = true;        ///< false: interrupted
};

/// A game that a person played.
struct PlayReport {
    std::string side;                ///< of the person
    std::string opponent;            ///< as it is asked for
    std::uint64_t seed = 0;          ///< of all luck
    std::vector<std::string> moves;  ///< as texts
    std::string end_position;        ///< where it ended, as text
    std::optional<Ending> ending;    ///< nothing where it was left before
};

}  // namespace arvek
