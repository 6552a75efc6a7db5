#pragma once
// What the searches share: going deeper within the limits, ranking the first moves, choosing among equals. It knows the
// first moves by their places in a list alone and is compiled once; first_moves.hpp connects it with a game.

#include <algorithm>
#include <cstdint>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/score.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// What a score is that was searched between alpha and beta.
inline ScoreKind kind_within(Score score, Score alpha, Score beta) {
    return score >= beta ? ScoreKind::Lower : score > alpha ? ScoreKind::Exact : ScoreKind::Upper;
}

/// The score of one first move, as a tree search found it.
struct FirstMoveScore {
    Score score;
    ScoreKind kind = ScoreKind::Exact;
};

/// What is asked about one first move.
struct RootWindow {
    Score best;     ///< of the moves before it
    Score floor;    ///< only scores above this matter
    Score ceiling;  ///< and below this
    Ranking ranking = Ranking::Equals;

    /// Scores up to here are bounds, above it they are exact.
    Score alpha() const {
        if (ranking == Ranking::All) return floor;
        return std::max(floor, ranking == Ranking::Best ? best : best.just_below());
    }
    FirstMoveScore judged(Score score) const { return {score, kind_within(score, alpha(), ceiling)}; }
};

/// One first move and what is known of it.
struct RankedPlace {
    static constexpr std::uint32_t no_line = UINT32_MAX;

    std::uint32_t place = 0;  ///< among the first moves
    Score score;
    ScoreKind kind = ScoreKind::Estimate;
    std::uint32_t line = no_line;  ///< of the lines that were kept
};

struct RootAnswer {
    std::vector<RankedPlace> ranked;  ///< best first
    DecisionStats stats;
};

/// A tree search as the common part sees it.
class RootTree {
   public:
    virtual void prepare(int depth) = 0;  ///< before each search to a depth
    virtual FirstMoveScore search_move(std::uint32_t place, const RootWindow& window) = 0;
    virtual std::uint32_t keep_line() = 0;     ///< of the move just searched; its number
    virtual bool reached_horizon() const = 0;  ///< whether a line was cut off by depth since prepare()
    virtual void begin_watching() = 0;         ///< the tree is seen from its root again
    virtual void finish_watching(int depth, int moves) = 0;
    virtual void tell(const RootAnswer& so_far) = 0;  ///< a depth is finished

   protected:
    ~RootTree() = default;
};

struct RootQuestion {
    std::uint32_t moves = 0;  ///< how many first moves there are
    Score evaluation;         ///< of the position, for the player to move
    std::uint64_t seed = 0;
    Ranking ranking = Ranking::Equals;
    bool margins = true;
    Payoff most_payoff = largest_payoff;  ///< that the game ever pays
    bool learns_order = false;            ///< whether each depth begins with the moves that the last one liked
    bool aspires = false;                 ///< whether to begin with a window around the last depth's value
    bool deepens = false;                 ///< whether a depth alone is gone to ply by ply
    bool tells = false;                   ///< whether somebody hears of each depth
};

/// Searches to one depth, or deeper and deeper within the limits.
RootAnswer decide_at_root(RootTree& tree, Budget& budget, const RootQuestion& question, const Limits& limits);

}  // namespace arvek::detail
