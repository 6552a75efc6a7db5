#pragma once
// What Monte Carlo searches share and need no game for: values, rules of the tree, the running of playouts within limits
// and the ranking of the first moves. Compiled once.

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/outcome.hpp"
#include "arvek/game/player.hpp"
#include "arvek/game/score.hpp"
#include "arvek/search/detail/random_lines.hpp"
#include "arvek/search/detail/rounding.hpp"
#include "arvek/search/limits.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

/// By whose view positions are told apart in the tree.
enum class TreeSight : std::uint8_t {
    Mover,    ///< each player's by what that player sees: rivals know their hands, and are learned about slowly
    Decider,  ///< all by what the player who decides sees: quicker, and rivals' plans are a mean over their hands
};

namespace detail {

// Of the compiler's own, as <cmath> is as long as all the rest of a search.
inline float root_of(float x) { return __builtin_sqrtf(x); }
inline float logarithm_of(float x) { return __builtin_logf(x); }
inline float exponential_of(float x) { return __builtin_expf(x); }

/// One value for each player, 0 to 1.
using SampledValues = std::array<float, max_players>;

struct SampledStep {
    std::uint32_t node;
    std::uint8_t chooser;  ///< who chose the move into the node
};

/// How the tree grows and how its values are weighed. The figures are measured; docs/monte_carlo.md has the tables.
struct SamplingRules {
    static constexpr int longest_playout = 1'000;  ///< plies; then the evaluation counts
    static constexpr std::uint16_t most_children = 65'535;
    static constexpr float prior_heat = 6.0f;    ///< how much a good evaluation counts in a prior
    static constexpr float untried_loss = 0.1f;  ///< what a move is thought to be worse than its siblings

    bool evaluates = false;  ///< a leaf counts by its evaluation, without playing on
    bool looks = false;      ///< new children are looked at at once: an end? and their evaluation
    bool by_prior = false;   ///< selection by priors
    float exploration = 0.7f;
    float implicit = 0.0f;  ///< share of the minimaxed evaluation in a value
    std::uint32_t expand_at = 1;
};

/// Payoffs as values from 0 to 1, and back.
class ValueAxis {
   public:
    /// `most`: most_payoff of the game, or largest_payoff where it does not say. `units`: by which the odds double.
    ValueAxis(int players, Payoff most, const RandomLines& lines, double units, bool margins);

    SampledValues values_of(const Outcome& outcome) const {
        SampledValues values{};
        for (std::size_t i = 0; i < players_; ++i) values[i] = value_of(outcome.payoff(static_cast<Player>(i)));
        return values;
    }
    float value_of(Payoff payoff) const {
        if (!margins_) return payoff > 0 ? 1.0f : payoff < 0 ? 0.0f : 0.5f;
        const float value = (static_cast<float>(payoff) - low_) * per_point_;
        return value < 0 ? 0.0f : value > 1 ? 1.0f : value;
    }
    /// Of an estimate, in a game of one or two players.
    float value_of(Score estimate) const;
    /// Of an estimate for each player; where there are two, the first alone is asked for.
    SampledValues values_of(const std::array<Score, max_players>& estimates) const;

    /// In points.
    double payoff_of(double value) const { return low_ + value / per_point_; }
    double points() const { return 1.0 / per_point_; }  ///< from the least to the largest value
    /// Whether nothing can be better, or worse.
    bool is_best(float value) const { return capped_ && value >= 1.0f; }
    bool is_worst(float value) const { return capped_ && value <= 0.0f; }
    /// How far apart the ends of games lie: the unit of exploration.
    float spread() const { return spread_; }

   private:
    std::size_t players_;
    float low_ = -1, per_point_ = 0.5f;
    float usual_ = 1;            ///< what an evaluation without doubt is worth, in points
    float win_ = 1, loss_ = -1;  ///< of three and more: what the one who wins is paid, and the others
    float units_;
    float spread_ = 1;
    bool margins_;
    bool capped_ = false;
};

/// A search by playouts as the common part sees it.
class PlayoutSearch {
   public:
    enum class Came : std::uint8_t { Back, OutOfNodes, Settled };

    /// One playout by a worker; `shared` where others are at work. Sets `full` where the tree could not grow.
    virtual Came play_out(std::size_t worker, bool shared, bool& full) = 0;
    /// Where nobody is at work; false where there is nothing to drop.
    virtual bool make_room() = 0;
    virtual void give_nodes(std::size_t worker, std::uint64_t nodes) = 0;
    /// The worker makes no more for now; what it has not told the others it tells them.
    virtual void rest(std::size_t worker) = 0;
    /// Where nobody is at work, now and then if somebody wants to be told how it stands.
    virtual void tell() const = 0;

   protected:
    ~PlayoutSearch() = default;
};

struct PlayoutReport {
    StoppedBy stopped_by = StoppedBy::End;
    double seconds = 0.0;
};

/// Playouts within the limits; with none at all, until everything is settled. At least one. `tells`: whether somebody
/// wants to be told how it stands, after the first hundred or so, and each time that there are a quarter more.
PlayoutReport run_playouts(PlayoutSearch& search, const Limits& limits, std::size_t workers, bool tells);

/// Throws InputError for a limit of depth, which means nothing to playouts.
void require_no_depth(const Limits& limits);

/// What is known of one first move.
struct SampledMove {
    std::uint64_t visits = 0;
    double value = 0.5;  ///< 0 to 1, for the player who decides
    bool exact = false;
    int plies = 0;     ///< of an exact one: to the end of the game on the line that is expected
    double worth = 0;  ///< the most is chosen
};

struct SampledRank {
    std::uint32_t place = 0;
    Score score;
    ScoreKind kind = ScoreKind::Estimate;
    double mean = 0, low = 0, high = 0;  ///< expected payoff and its interval, in points
};

/// Units of a score that make a point, so that every payoff fits.
double scores_per_point_on(const ValueAxis& axis);

/// The moves in the order in which they are chosen, equals by the seed; scores in `per_point` a point.
std::vector<SampledRank> rank_sampled(std::span<const SampledMove> moves, const ValueAxis& axis, std::uint64_t seed,
                                      double& per_point);

}  // namespace detail

}  // namespace arvek
