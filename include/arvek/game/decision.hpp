#pragma once
// Decision: a chosen move and everything about why, from the very computation that chose it.

#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/score.hpp"

namespace arvek {

/// What the score of a ranked move says.
enum class ScoreKind : std::uint8_t {
    Exact,  ///< the minimax value at the searched depth
    Lower,  ///< the value is this or better
    Upper,  ///< the value is this or worse
    Shallow,  ///< a value or bound at a smaller depth than the best move's, as the search was stopped before it came to it
    Estimate  ///< not searched: the position's evaluation, or nothing known
};

/// Why a decision ended where it did.
enum class StoppedBy : std::uint8_t {
    End,       ///< every line was followed to the end of the game, or nothing better was possible
    Depth,     ///< the depth that was asked for was reached
    Nodes,     ///< the node limit
    Playouts,  ///< the limit of playouts
    Time,      ///< the time limit
    Stop,      ///< the stop token
    Rule,      ///< a rule chose
    Draw       ///< a random draw chose
};

/// "exact", "lower", "upper", "estimate".
const char* name_of(ScoreKind kind);
/// "end", "depth", "nodes", "playouts", "time", "stop", "rule", "draw".
const char* name_of(StoppedBy reason);

/// What a search counts.
struct Counters {
    std::uint64_t nodes = 0;       ///< positions visited, the first one included
    std::uint64_t leaves = 0;      ///< of those: finished games and positions at the greatest depth
    std::uint64_t cutoffs = 0;     ///< positions whose remaining moves were proven irrelevant
    std::uint64_t table_hits = 0;  ///< positions answered from a transposition table

    /// Adds what another has counted.
    Counters& operator+=(const Counters& more) {
        nodes += more.nodes;
        leaves += more.leaves;
        cutoffs += more.cutoffs;
        table_hits += more.table_hits;
        return *this;
    }

    friend bool operator==(const Counters&, const Counters&) = default;
};

/// What a decision took.
struct DecisionStats : Counters {
    int depth = 0;  ///< plies of the deepest search that was finished; of a search by playouts, of its tree
    std::uint64_t playouts = 0;               ///< where playouts decided
    double seconds = 0.0;                     ///< 0 where no clock was passed in
    StoppedBy stopped_by = StoppedBy::Depth;  ///< what ended the search
    /// Where the standard search weighed the game's ordering hint against what it learned itself: how many moves it tried,
    /// in the mean, until one cut off, near the leaves, where the hint led the order and where it did not. 0 where it
    /// did not weigh them. What needs fewer leads.
    double tries_with_hint = 0.0;
    double tries_without_hint = 0.0;  ///< the same without the hint
};

/// A move that was looked at, and what was found out about it.
template <class Move>
struct RankedMove {
    Move move{};  ///< which
    Score score;  ///< for the player to move; proven scores count plies from the decision's position
    ScoreKind kind = ScoreKind::Estimate;  ///< whether the score is exact, a bound or an estimate
    std::vector<Move> line;                ///< what the search expects, beginning with the move itself
    std::vector<std::string> reasons{};    ///< said by rules and suggestions
    double worth = 0.0;                    ///< by suggestions or features, in their own units, where those chose
    std::string reason{};                  ///< the one that weighs most, where suggestions or features chose
    std::uint64_t visits = 0;              ///< how many playouts began with the move, where playouts decided
    /// Where playouts decided: their mean in points, and where that would lie again (95 %, as if they were independent).
    double mean = 0.0, low = 0.0, high = 0.0;
    double probability = 0.0;  ///< with which it is played, where a mixed strategy chose
};

/// What an entry among the rules of a decision is.
enum class RuleKind : std::uint8_t {
    Rule,      ///< a rule of the opponent's
    Change,    ///< a change of its states that was due or not; it chooses nothing
    Fallback,  ///< what is done where no rule applies
    TieBreak,  ///< the seed chose among moves that are equal to the rule that fired
    Care,      ///< the level kept it from the worst
    Book       ///< the opening book
};

/// "rule", "change", "fallback", "tie-break", "care", "book".
const char* name_of(RuleKind kind);

/// One rule that was asked, and what came of it.
struct RuleReport {
    std::string rule;                ///< by name
    bool fired = false;              ///< whether it chose
    std::string why;                 ///< why it fired, or why it did not
    RuleKind kind = RuleKind::Rule;  ///< what kind of entry it is
};

/// A chosen move and everything about why.
template <class Move>
struct Decision {
    Move move{};                           ///< always a legal move
    std::vector<RankedMove<Move>> ranked;  ///< best first; the first one is `move`, unless a level took it away
    int rank = 1;                          ///< the place of `move` among them, from 1
    DecisionStats stats;                   ///< what it took
    /// Where it is not 0, scores that are not proven are expected payoffs, in that many units a point.
    double scores_per_point = 0.0;
    bool has_scores = false;         ///< whether the scores mean anything: only where a search chose
    std::vector<RuleReport> rules;   ///< the rules asked, in order, where rules chose
    bool has_visits = false;         ///< whether visits, means and intervals mean anything: where playouts decided
    bool has_probabilities = false;  ///< whether the probabilities do
    std::string searched_by{};       ///< the search that decided, where one did: "montecarlo"
    bool has_worths = false;         ///< whether the worths of the ranked moves mean anything
    std::string chosen_by;           ///< the rule, or the reason, that weighed most where those chose
    std::vector<Move> overlooked;    ///< of the ranked moves: those that a level kept out of sight
    /// What the player remembers once the move is played, where rules set states: "phase=2"; and what it remembers
    /// where another move is played in the end.
    std::string state{}, state_before{};
};

/// The same decision with moves of another type; `converted(move)` gives one.
template <class To, class From, class Converted>
Decision<To> converted_decision(Decision<From> from, const Converted& converted) {
    Decision<To> to;
    to.move = converted(from.move);
    to.ranked.reserve(from.ranked.size());
    for (auto& entry : from.ranked) {
        auto& ranked = to.ranked.emplace_back();
        ranked.move = converted(entry.move);
        ranked.score = entry.score;
        ranked.kind = entry.kind;
        ranked.line.reserve(entry.line.size());
        for (const From& move : entry.line) ranked.line.push_back(converted(move));
        ranked.reasons = std::move(entry.reasons);
        ranked.worth = entry.worth;
        ranked.reason = std::move(entry.reason);
        ranked.visits = entry.visits;
        ranked.mean = entry.mean;
        ranked.low = entry.low;
        ranked.high = entry.high;
        ranked.probability = entry.probability;
    }
    to.rank = from.rank;
    to.stats = from.stats;
    to.has_scores = from.has_scores;
    to.scores_per_point = from.scores_per_point;
    to.has_visits = from.has_visits;
    to.has_probabilities = from.has_probabilities;
    to.searched_by = std::move(from.searched_by);
    to.rules = std::move(from.rules);
    to.state = std::move(from.state);
    to.state_before = std::move(from.state_before);
    to.has_worths = from.has_worths;
    to.chosen_by = std::move(from.chosen_by);
    to.overlooked.reserve(from.overlooked.size());
    for (const From& move : from.overlooked) to.overlooked.push_back(converted(move));
    return to;
}

}  // namespace arvek
