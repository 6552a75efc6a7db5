#pragma once
// What Monte Carlo searches share and need no game for: values, rules of the tree, the running of playouts within limits
// and the ranking of the first moves. Compiled once.

#include <algorithm>
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

/// What each player is paid, in the game's points.
using SampledValues = std::array<double, max_players>;

struct SampledStep {
    std::uint32_t node;
    std::uint8_t chooser;  ///< who chose the move into the node
};

/// How the tree grows and how its values are weighed. The figures are measured; docs/monte_carlo.md has the tables.
struct SamplingRules {
    static constexpr int longest_playout = 1'000;  ///< plies; then the evaluation counts
    static constexpr float prior_heat = 6.0f;      ///< how much a good evaluation counts in a prior
    static constexpr float prior_floor = 0.01f;    ///< of all prior: shared out evenly, so that no move has none
    static constexpr double untried_loss = 0.1;    ///< what a move is thought to be worse than its siblings
    /// After so many visits what the children evaluate to weighs half of what it did at first.
    static constexpr float guess_half = 65'536.0f;
    static constexpr std::uint32_t first_draws =
        32;  ///< room for so many children where events are drawn; a power of two

    bool evaluates = false;  ///< a leaf counts by its evaluation, without playing on
    bool looks = false;      ///< new children are looked at at once: an end? and their evaluation
    bool by_prior = false;   ///< selection by priors
    float exploration = 0.7f;
    float implicit = 0.0f;  ///< share of the backed-up evaluation in a value, at first
    std::uint32_t expand_at = 1;

    /// Share of the backed-up evaluation in a value after so many visits: in the end the visits alone count.
    float guess_share(std::uint32_t visits) const {
        return implicit * guess_half / (guess_half + static_cast<float>(visits));
    }
};

/// The least and the largest payoff that were met.
struct PayoffRange {
    double low = 0, high = 0;

    void include(double value) {
        low = std::min(low, value);
        high = std::max(high, value);
    }
    void include(const PayoffRange& other) {
        low = std::min(low, other.low);
        high = std::max(high, other.high);
    }
    double width() const { return high - low; }
};

/// What payoffs and evaluations are worth, in the game's points. Nothing is cut to a range but what a declared bound
/// excludes, and no payoff that was reached.
class ValueAxis {
   public:
    /// `most`: most_payoff of the game, or largest_payoff where it does not say. `units`: by which the odds double.
    ValueAxis(int players, Payoff most, const RandomLines& lines, double units, bool margins);

    SampledValues values_of(const Outcome& outcome) const {
        SampledValues values{};
        for (std::size_t i = 0; i < players_; ++i) values[i] = value_of(outcome.payoff(static_cast<Player>(i)));
        return values;
    }
    double value_of(Payoff payoff) const {
        if (!margins_) return payoff > 0 ? 1.0 : payoff < 0 ? -1.0 : 0.0;
        return payoff;
    }
    /// Of an estimate, in a game of one or two players.
    double value_of(Score estimate) const;
    /// Of an estimate for each player; where there are two, the first alone is asked for.
    SampledValues values_of(const std::array<Score, max_players>& estimates) const;

    /// Whether nothing can be better, or worse: by what the game declares.
    bool is_best(double value) const { return value >= most_; }
    bool is_worst(double value) const { return value <= -most_; }
    /// The largest payoff there can be.
    double most() const { return most_ < largest_payoff ? most_ : largest_payoff; }
    /// Between which payoffs lie that are usual: for the unit of exploration until more is known.
    const PayoffRange& usual_range() const { return range_; }
    /// How far apart ends usually lie, the unit of exploration: as random games show it, or a part of all that was met where
    /// that is far more.
    float spread(const PayoffRange& met) const { return static_cast<float>(std::max(range_.width(), met.width() / 3)); }
    /// From 0 to 1 over what evaluations can be worth; for priors.
    float share(double value) const {
        const double share = (value - axis_.low) * per_point_;
        return static_cast<float>(share < 0 ? 0 : share > 1 ? 1 : share);
    }

   private:
    std::size_t players_;
    double usual_ = 1;            ///< what an evaluation without doubt is worth, in points
    double win_ = 1, loss_ = -1;  ///< of three and more: what the one who wins is paid, and the others
    double units_;
    double most_;  ///< declared, or more than any payoff
    PayoffRange range_, axis_;
    double per_point_ = 0.5;
    bool margins_;
};

/// Playouts that are made where only one move is worth a look: enough to tell how things stand.
inline constexpr std::uint32_t enough_for_the_only_move = 100;

/// A search by playouts as the common part sees it.
class PlayoutSearch {
   public:
    enum class Came : std::uint8_t { Back, AtLimit, Settled };

    /// One playout by a worker; `shared` where others are at work. Sets `full` where the tree could not grow.
    virtual Came play_out(std::size_t worker, bool shared, bool& full) = 0;
    /// Where nobody is at work; false where there is nothing to drop.
    virtual bool make_room() = 0;
    /// About as long as that would take.
    virtual double room_seconds() const = 0;
    /// At which limit the worker came.
    virtual StoppedBy reason(std::size_t worker) const = 0;
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

/// What of the limits one of several workers has: all of the time, and its share of the nodes. The first position is one.
Limits limits_of_worker(const Limits& limits, std::size_t worker, std::size_t workers);
/// The same with what is left of the time.
Limits limits_left(const Limits& limits, double started);

/// Throws InputError for a limit of depth, which means nothing to playouts.
void require_no_depth(const Limits& limits);

/// What is known of one first move.
struct SampledMove {
    std::uint64_t visits = 0;
    double value = 0;    ///< in points, for the player who decides
    bool exact = false;  ///< all below it is known
    bool sure = true;    ///< whether an exact one holds whatever chance brings
    bool proven = true;  ///< whether it is; false as well where it rests on what others are taken to want
    int plies = 0;       ///< of an exact one: to the end of the game on the line that is expected
    double worth = 0;    ///< the most is chosen
};

/// What is exact, and as good as what was visited most seems to be, goes before it; what was not tried is thought to be
/// as good as the rest.
void weigh_first_moves(std::vector<SampledMove>& moves, const ValueAxis& axis);

struct SampledRank {
    std::uint32_t place = 0;
    Score score;
    ScoreKind kind = ScoreKind::Estimate;
    double mean = 0, low = 0, high = 0;  ///< expected payoff and its interval, in points
};

/// Units of a score that make a point, so that every payoff fits.
double scores_per_point_on(const ValueAxis& axis);

/// The moves in the order in which they are chosen, equals by the seed; scores in `per_point` a point. A move whose
/// interval lies wholly below another's comes behind all that are not so. `met`: all payoffs that were met.
std::vector<SampledRank> rank_sampled(std::span<const SampledMove> moves, const ValueAxis& axis, const PayoffRange& met,
                                      std::uint64_t seed, double& per_point);

}  // namespace detail

}  // namespace arvek
