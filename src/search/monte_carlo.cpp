#include "arvek/search/monte_carlo.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <numeric>

#include "arvek/game/interval.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/scale.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/many_players.hpp"
#include "arvek/search/transposition_table.hpp"
#include "arvek/search/worker_threads.hpp"
#include "arvek/search/worlds.hpp"

namespace arvek::detail {

ValueAxis::ValueAxis(int players, Payoff most, const RandomLines& lines, double units, bool margins)
    : players_(static_cast<std::size_t>(players)), units_(static_cast<float>(1.0 / units)), margins_(margins) {
    if (!(units > 0) || !std::isfinite(units))
        throw InputError("units per doubling", std::to_string(units) + " is out of range", "a number above 0");
    const bool says = most < largest_payoff;
    float high = 1;
    if (!margins) {
        capped_ = true;
    } else if (players == 1) {
        // What is found is better than what happens by chance.
        low_ = static_cast<float>(lines.lowest);
        const float apart = std::max(1.0f, static_cast<float>(lines.highest - lines.lowest));
        high = says ? static_cast<float>(most) : low_ + 5.0f * apart;
        capped_ = says;
    } else if (players == 2) {
        high = static_cast<float>(says ? most : 2 * lines.largest);
        low_ = -high;
        capped_ = says;
        usual_ = static_cast<float>(lines.usual);
    } else {
        // A few random games need not have shown the worst, nor the best.
        const float apart = std::max(1.0f, static_cast<float>(lines.highest - lines.lowest));
        low_ = says ? -static_cast<float>(most) : static_cast<float>(lines.lowest) - apart;
        high = says ? static_cast<float>(most) : static_cast<float>(lines.highest) + apart;
        capped_ = says;
        win_ = says ? high : static_cast<float>(lines.highest);
        loss_ = -win_ / static_cast<float>(players - 1);
    }
    per_point_ = 1.0f / (high - low_);
    if (margins && lines.highest > lines.lowest)
        spread_ = std::min(1.0f, static_cast<float>(lines.highest - lines.lowest) * per_point_);
}

float ValueAxis::value_of(Score estimate) const {
    const float number = static_cast<float>(estimate.number());
    float payoff = number;  // of one player the estimate is one of the payoff
    if (players_ > 1) {
        const float chance = 1.0f / (1.0f + std::exp2(-number * units_));
        if (!margins_) return chance;
        payoff = usual_ * (2.0f * chance - 1.0f);
    }
    return std::clamp((payoff - low_) * per_point_, 0.0f, 1.0f);
}

SampledValues ValueAxis::values_of(const std::array<Score, max_players>& estimates) const {
    SampledValues values{};
    if (players_ <= 2) {
        values[0] = value_of(estimates[0]);
        values[1] = 1.0f - values[0];
        return values;
    }
    // Each one's share of the odds.
    float best = -1e30f, total = 0;
    for (std::size_t i = 0; i < players_; ++i)
        best = std::max(best, static_cast<float>(estimates[i].number()) * units_);
    for (std::size_t i = 0; i < players_; ++i)
        total += values[i] = std::exp2(static_cast<float>(estimates[i].number()) * units_ - best);
    // The one who wins is paid for all others.
    for (std::size_t i = 0; i < players_; ++i)
        values[i] = std::clamp((loss_ + values[i] / total * (win_ - loss_) - low_) * per_point_, 0.0f, 1.0f);
    return values;
}

namespace {

/// The work of all threads between two moments at which nobody is at work.
class Playouts {
   public:
    Playouts(PlayoutSearch& search, const Limits& limits, std::size_t workers, bool tells)
        : search_(search),
          limits_(limits),
          workers_(workers),
          started_(limits.clock.seconds_or_0()),
          last_(started_),
          until_told_(tells ? 128 : UINT64_MAX) {
        left_.assign(workers, 0);
        if (limits.nodes) {
            // No more workers than nodes, and none gets a node too many.
            workers_ = static_cast<std::size_t>(std::min<std::uint64_t>(workers_, *limits.nodes));
            const std::uint64_t each = *limits.nodes / workers_;
            for (std::size_t i = 1; i < workers_; ++i) search_.give_nodes(i, each);
            search_.give_nodes(0, *limits.nodes - each * (workers_ - 1));
        }
    }

    PlayoutReport run() {
        for (;;) {
            pauses_ = wants_room_ = false;
            StopFlag rest;
            const auto help = [&](std::size_t i) { work(i + 1, rest); };
            WorkerThreads helpers(workers_ - 1, help, rest);
            work(0, rest);
            helpers.finish();
            if (!pauses_.load() || over_.load()) break;
            if (wants_room_.load()) may_grow_ = search_.make_room();
            if (made_ >= until_told_) {
                search_.tell();
                until_told_ = made_ + std::max<std::uint64_t>(64, made_ / 4);
            }
        }
        return {reason_.load(), limits_.clock.seconds_or_0() - started_};
    }

   private:
    void work(std::size_t worker, StopFlag& rest) {
        const bool shared = workers_ > 1;
        std::uint64_t left = left_[worker];
        make_playouts(worker, shared, rest, left);
        search_.rest(worker);
        left_[worker] = left;
    }

    /// Those that a worker has taken are made, unless all is over or the tree is to be made smaller first.
    void make_playouts(std::size_t worker, bool shared, StopFlag& rest, std::uint64_t& left) {
        for (;;) {
            if (over_.load(std::memory_order_relaxed)) return;
            if (rest.stop_requested() && (left == 0 || pauses_.load(std::memory_order_relaxed))) return;
            if (limits_.playouts && left == 0) {
                // Some at a time, as the counter is everybody's.
                constexpr std::uint64_t some = 16;
                const std::uint64_t taken = begun_.fetch_add(some, std::memory_order_relaxed);
                if (taken >= *limits_.playouts) {
                    if (worker == 0) reason_ = StoppedBy::Playouts;  // the others make theirs
                    return;
                }
                left = std::min(some, *limits_.playouts - taken);
            }
            --left;
            bool full = false;
            const auto came = search_.play_out(worker, shared, full);
            if (came == PlayoutSearch::Came::OutOfNodes) return end(worker, StoppedBy::Nodes);
            if (came == PlayoutSearch::Came::Settled) {
                reason_ = StoppedBy::End;
                over_ = true;
                return;
            }
            if (worker == 0 && is_time_up()) return;
            if (full && may_grow_.load(std::memory_order_relaxed)) {
                wants_room_ = true;
                return pause(rest);
            }
            if (worker == 0 && ++made_ >= until_told_) return pause(rest);
        }
    }

    /// Has all come to rest, and go on afterwards.
    void pause(StopFlag& rest) {
        pauses_ = true;
        rest.set();
    }

    /// Of the playouts or nodes of one worker; the others have theirs.
    void end(std::size_t worker, StoppedBy why) {
        if (worker != 0) return;
        reason_ = why;
        over_ = true;
    }

    /// Looks at the clock about every 0.2 ms, however long a playout takes.
    bool is_time_up() {
        if (--until_look_ > 0) return false;
        if (limits_.stop.stop_requested()) {
            end(0, StoppedBy::Stop);
            return true;
        }
        if (limits_.seconds) {
            const double now = limits_.clock.seconds();
            if (now - started_ >= *limits_.seconds) {
                end(0, StoppedBy::Time);
                return true;
            }
            const double took = now - last_;
            last_ = now;
            if (took < 0.0001) step_ = std::min(step_ * 2, 4096);
            if (took > 0.0003) step_ = std::max(1, static_cast<int>(step_ * 0.0002 / took));
        } else {
            step_ = 16;
        }
        until_look_ = step_;
        return false;
    }

    PlayoutSearch& search_;
    const Limits& limits_;
    std::size_t workers_;
    double started_, last_;
    alignas(64) std::atomic<std::uint64_t> begun_{0};
    alignas(64) std::atomic<bool> over_{false}, pauses_{false}, wants_room_{false}, may_grow_{true};
    std::atomic<StoppedBy> reason_{StoppedBy::End};
    int step_ = 1, until_look_ = 1;
    std::uint64_t made_ = 0, until_told_;  ///< by the first worker
    std::vector<std::uint64_t> left_;      ///< playouts that each worker has taken and not made
};

}  // namespace

PlayoutReport run_playouts(PlayoutSearch& search, const Limits& limits, std::size_t workers, bool tells) {
    return Playouts(search, limits, workers, tells).run();
}

namespace {

/// Places with the largest value first, equals by the seed.
std::vector<std::uint32_t> largest_first(std::span<const double> values, std::uint64_t seed) {
    std::vector<std::uint32_t> order(values.size());
    std::iota(order.begin(), order.end(), 0u);
    Random(seed).shuffle(order);
    std::stable_sort(order.begin(), order.end(),
                     [&](std::uint32_t a, std::uint32_t b) { return values[a] > values[b]; });
    return order;
}

}  // namespace

double scores_per_point_on(const ValueAxis& axis) {
    return scores_per_point(std::max({1.0, std::abs(axis.payoff_of(0)), std::abs(axis.payoff_of(1))}));
}

std::vector<SampledRank> rank_sampled(std::span<const SampledMove> moves, const ValueAxis& axis, std::uint64_t seed,
                                      double& per_point) {
    per_point = scores_per_point_on(axis);
    std::vector<double> worths;
    for (const SampledMove& move : moves) worths.push_back(move.worth);
    std::vector<SampledRank> ranked;
    for (const std::uint32_t place : largest_first(worths, seed)) {
        const SampledMove& move = moves[place];
        SampledRank& entry = ranked.emplace_back();
        entry.place = place;
        entry.mean = axis.payoff_of(move.value);
        const auto payoff = static_cast<Payoff>(std::lround(entry.mean));
        if (move.exact && payoff != 0) {
            entry.score = Score::proven(payoff, std::min(move.plies, max_score_plies));
            entry.kind = ScoreKind::Exact;
        } else {
            entry.score = Score::estimate(std::llround(entry.mean * per_point));
            entry.kind = move.exact ? ScoreKind::Exact : ScoreKind::Estimate;
        }
        const Interval interval =
            move.exact ? Interval{move.value, move.value}
                       : wilson_interval(move.value * static_cast<double>(move.visits),
                                         static_cast<int>(std::min<std::uint64_t>(move.visits, INT32_MAX)));
        entry.low = axis.payoff_of(interval.low);
        entry.high = axis.payoff_of(interval.high);
    }
    return ranked;
}

}  // namespace arvek::detail

namespace arvek {

void check_options(const MonteCarloOptions& options) {
    if (options.memory_mebibytes < 1 || options.memory_mebibytes > most_tree_mebibytes)
        throw InputError("memory", std::to_string(options.memory_mebibytes) + " MiB is out of range",
                         "1 to " + std::to_string(most_tree_mebibytes) + " MiB");
    if (options.threads < 1 || options.threads > most_threads)
        throw InputError("threads", std::to_string(options.threads) + " is out of range",
                         "1 to " + std::to_string(most_threads));
    if (!(options.exploration > 0 && options.exploration <= 10))
        throw InputError("exploration", std::to_string(options.exploration) + " is out of range",
                         "more than 0, at most 10");
}

void check_options(const WorldsOptions& options) {
    if (options.worlds < 1)
        throw InputError("worlds", std::to_string(options.worlds) + " is out of range", "1 or more");
}

namespace detail {

std::vector<std::uint32_t> best_first(const std::vector<double>& values, std::uint64_t seed, double& per_point) {
    double largest = 1;
    for (const double value : values) largest = std::max(largest, std::abs(value));
    per_point = scores_per_point(largest);
    return largest_first(values, seed);
}

void require_table_size(std::size_t mebibytes) {
    if (mebibytes < 1 || mebibytes > most_table_mebibytes)
        throw InputError("memory", std::to_string(mebibytes) + " MiB is out of range",
                         "1 to " + std::to_string(most_table_mebibytes) + " MiB");
}

void require_no_depth(const Limits& limits) {
    if (limits.depth)
        throw InputError("depth", "montecarlo has no depth that could be limited",
                         "a limit of playouts, nodes or time");
}

}  // namespace detail

}  // namespace arvek
