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
    : players_(static_cast<std::size_t>(players)), units_(1.0 / units), margins_(margins) {
    if (!(units > 0) || !std::isfinite(units))
        throw InputError("units per doubling", std::to_string(units) + " is out of range", "a number above 0");
    const bool says = most < largest_payoff;
    most_ = !margins ? 1.0 : says ? static_cast<double>(most) : 1e30;
    if (!margins) {
        range_ = axis_ = {-1, 1};
        per_point_ = 0.5;
        return;
    }
    range_ = {static_cast<double>(lines.lowest), static_cast<double>(lines.highest)};
    const double apart = std::max(1.0, range_.width());
    if (!(range_.width() > 0)) range_ = {range_.low - 0.5, range_.high + 0.5};
    if (players == 1) {
        // What is found is better than what happens by chance.
        axis_ = {range_.low, says ? most_ : range_.low + 5.0 * apart};
    } else if (players == 2) {
        const double high = says ? most_ : 2.0 * static_cast<double>(lines.largest);
        axis_ = {-high, high};
        usual_ = lines.usual;
    } else {
        // A few random games need not have shown the worst, nor the best.
        axis_ = says ? PayoffRange{-most_, most_} : PayoffRange{range_.low - apart, range_.high + apart};
        win_ = says ? most_ : static_cast<double>(lines.highest);
        loss_ = -win_ / static_cast<double>(players - 1);
    }
    per_point_ = 1.0 / std::max(axis_.width(), 1e-9);
}

double ValueAxis::value_of(Score estimate) const {
    const double number = static_cast<double>(estimate.number());
    double payoff = number;  // of one player the estimate is one of the payoff
    if (players_ > 1) {
        const double chance = 1.0 / (1.0 + std::exp2(-number * units_));
        payoff = (margins_ ? usual_ : 1.0) * (2.0 * chance - 1.0);
    }
    // An estimate is no payoff that was reached: it stays within what the game declares.
    return std::clamp(payoff, -most_, most_);
}

SampledValues ValueAxis::values_of(const std::array<Score, max_players>& estimates) const {
    SampledValues values{};
    if (players_ <= 2) {
        values[0] = value_of(estimates[0]);
        values[1] = -values[0];
        return values;
    }
    // Each one's share of the odds.
    double best = -1e300, total = 0;
    for (std::size_t i = 0; i < players_; ++i)
        best = std::max(best, static_cast<double>(estimates[i].number()) * units_);
    for (std::size_t i = 0; i < players_; ++i)
        total += values[i] = std::exp2(static_cast<double>(estimates[i].number()) * units_ - best);
    // The one who wins is paid for all others.
    for (std::size_t i = 0; i < players_; ++i)
        values[i] = std::clamp(loss_ + values[i] / total * (win_ - loss_), -most_, most_);
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
        // No more workers than nodes.
        if (limits.nodes) workers_ = static_cast<std::size_t>(std::min<std::uint64_t>(workers_, *limits.nodes));
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
            if (wants_room_.load()) may_grow_ = has_time_for_room() && search_.make_room();
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
            if (came == PlayoutSearch::Came::AtLimit) return end(worker, search_.reason(worker));
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

    /// To drop what was visited least takes time; where there is none, the tree stays as it is.
    bool has_time_for_room() const {
        if (!limits_.seconds) return true;
        return search_.room_seconds() < (*limits_.seconds - (limits_.clock.seconds() - started_)) / 2;
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

Limits limits_of_worker(const Limits& limits, std::size_t worker, std::size_t workers) {
    Limits own = limits;
    if (limits.nodes) {
        workers = static_cast<std::size_t>(std::min<std::uint64_t>(workers, *limits.nodes));
        const std::uint64_t each = *limits.nodes / workers;
        own.nodes = worker == 0 ? *limits.nodes - each * (workers - 1) - 1 : worker < workers ? each : 0;
    }
    return own;
}

Limits limits_left(const Limits& limits, double started) {
    Limits left = limits;
    if (limits.seconds) left.seconds = std::max(1e-9, *limits.seconds - (limits.clock.seconds() - started));
    return left;
}

void weigh_first_moves(std::vector<SampledMove>& moves, const ValueAxis& axis) {
    double sum = 0, visits = 0;
    for (const auto& entry : moves) {
        if (entry.exact) continue;
        sum += entry.value * static_cast<double>(entry.visits);
        visits += static_cast<double>(entry.visits);
    }
    const auto most =
        std::max_element(moves.begin(), moves.end(), [](const auto& a, const auto& b) { return a.worth < b.worth; });
    if (most == moves.end()) return;
    const double seems = most->value;
    for (auto& entry : moves) {
        if (visits > 0 && entry.exact && entry.value >= seems && !axis.is_worst(entry.value))
            entry.worth = 1e12 + entry.value;
        if (entry.exact || entry.visits > 0) continue;
        if (visits > 0)
            entry.value = sum / visits;
        else
            entry.worth += 0.5 * axis.share(entry.value);  // all that is known
    }
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

double scores_per_point_on(const ValueAxis& axis) { return scores_per_point(std::max(1.0, axis.most())); }

std::vector<SampledRank> rank_sampled(std::span<const SampledMove> moves, const ValueAxis& axis, const PayoffRange& met,
                                      std::uint64_t seed, double& per_point) {
    per_point = scores_per_point_on(axis);
    PayoffRange range = met;
    for (const SampledMove& move : moves) range.include(move.value);
    std::vector<Interval> intervals;
    double surest = -1e300;
    for (const SampledMove& move : moves) {
        Interval interval{move.value, move.value};
        if (!move.exact && range.width() > 0) {
            const double share = (move.value - range.low) / range.width();
            interval = wilson_interval(share * static_cast<double>(move.visits),
                                       static_cast<int>(std::min<std::uint64_t>(move.visits, INT32_MAX)));
            interval = {range.low + interval.low * range.width(), range.low + interval.high * range.width()};
        }
        intervals.push_back(interval);
        surest = std::max(surest, interval.low);
    }
    std::vector<double> worths;
    for (const SampledMove& move : moves) worths.push_back(move.worth);
    std::vector<std::uint32_t> order = largest_first(worths, seed);
    std::stable_partition(order.begin(), order.end(), [&](std::uint32_t i) { return intervals[i].high >= surest; });
    std::vector<SampledRank> ranked;
    for (const std::uint32_t place : order) {
        const SampledMove& move = moves[place];
        SampledRank& entry = ranked.emplace_back();
        entry.place = place;
        entry.mean = move.value;
        const auto payoff = static_cast<Payoff>(std::lround(entry.mean));
        if (move.exact && move.proven && payoff != 0) {
            entry.score = Score::proven(payoff, std::min(move.plies, max_score_plies));
            entry.kind = ScoreKind::Exact;
        } else {
            entry.score = Score::estimate(std::llround(entry.mean * per_point));
            entry.kind = move.exact && move.sure ? ScoreKind::Exact : ScoreKind::Estimate;
        }
        entry.low = intervals[place].low;
        entry.high = intervals[place].high;
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
