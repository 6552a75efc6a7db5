#pragma once
// Budget: counts the nodes of one decision and says when to stop. One count down a node while nothing is up.
//
// How many nodes go by between two looks at the clock and the stop token follows from how long the last ones took, so
// that a limit is kept in a game whose nodes are slow, and a quick one hardly notices.

#include <algorithm>
#include <cstdint>

#include "arvek/game/decision.hpp"
#include "arvek/search/limits.hpp"

namespace arvek::detail {

class Budget {
   public:
    /// Without limits.
    Budget() = default;
    explicit Budget(const Limits& limits) : limits_(limits), started_(limits.clock.seconds_or_0()) { grant(); }

    /// Counts one more node. False, and nothing counted, when the search must end instead.
    bool spend_node() {
        if (--left_ < 0) [[unlikely]]
            return may_go_on();
        return true;
    }

    /// For long work within one node: false when the search must end. Counts nothing, and looks at the clock as seldom.
    bool may_work() {
        if (stopped_) return false;
        if (!(limits_.seconds || limits_.stop.can_stop()) || --work_left_ > 0) return true;
        if (limits_.stop.stop_requested()) return stop(StoppedBy::Stop);
        const double now = seconds();
        if (limits_.seconds && now >= *limits_.seconds) return stop(StoppedBy::Time);
        const double took = now - worked_at_;
        worked_at_ = now;
        work_step_ = took < seconds_between_checks / 2
                         ? std::min<std::int64_t>(work_step_ * 2, most_nodes_between_checks)
                     : took > seconds_between_checks ? std::max<std::int64_t>(work_step_ / 2, 1)
                                                     : work_step_;
        work_left_ = work_step_;
        return true;
    }

    /// How many nodes may be spent before the next look at the limits.
    std::int64_t left() const { return left_; }
    /// Counts that many, at most left().
    void spend_nodes(std::int64_t nodes) { left_ -= nodes; }

    std::uint64_t nodes() const { return granted_ - static_cast<std::uint64_t>(left_); }
    std::uint64_t leaves = 0;
    std::uint64_t cutoffs = 0;  ///< may be counted on while the search unwinds after a stop
    std::uint64_t table_hits = 0;

    Counters counters() const { return {nodes(), leaves, stopped_ ? cutoffs_at_stop_ : cutoffs, table_hits}; }

    bool stopped() const { return stopped_; }
    StoppedBy reason() const { return reason_; }
    double seconds() const { return limits_.clock ? limits_.clock.seconds() - started_ : 0.0; }

   private:
    static constexpr std::int64_t first_nodes = 1, nodes_between_checks_without_clock = 16,
                                  most_nodes_between_checks = 512, unchecked = std::int64_t{1} << 62;
    static constexpr double seconds_between_checks = 0.0005;

    /// All that was granted is spent.
    bool may_go_on() {
        left_ = 0;
        if (stopped_) return false;
        if (limits_.nodes && nodes() >= *limits_.nodes) return stop(StoppedBy::Nodes);
        if (limits_.stop.stop_requested()) return stop(StoppedBy::Stop);
        const double now = seconds();
        if (limits_.seconds && now >= *limits_.seconds) return stop(StoppedBy::Time);
        pace(now);
        grant();
        --left_;
        return true;
    }

    bool stop(StoppedBy reason) {
        granted_ -= static_cast<std::uint64_t>(left_);
        left_ = 0;
        stopped_ = true;
        reason_ = reason;
        cutoffs_at_stop_ = cutoffs;
        return false;
    }

    /// As many nodes as took about `seconds_between_checks`; without a clock that cannot be told.
    void pace(double now) {
        const double took = now - checked_at_;
        checked_at_ = now;
        if (!limits_.clock) {
            between_checks_ = nodes_between_checks_without_clock;
            return;
        }
        const double most = static_cast<double>(most_nodes_between_checks);
        const double fitting = took > 0 ? static_cast<double>(between_checks_) * seconds_between_checks / took : most;
        // Not too many more than the last time: the first nodes may have been quicker than those that come.
        const double more = 2.0 * static_cast<double>(between_checks_);
        between_checks_ = static_cast<std::int64_t>(std::clamp(fitting, 1.0, std::min(most, more)));
    }

    /// So many more nodes until the next look at the limits.
    void grant() {
        left_ = limits_.seconds || limits_.stop.can_stop() ? between_checks_ : unchecked;
        if (limits_.nodes && *limits_.nodes - granted_ < static_cast<std::uint64_t>(left_))
            left_ = static_cast<std::int64_t>(*limits_.nodes - granted_);
        granted_ += static_cast<std::uint64_t>(left_);
    }

    std::int64_t left_ = 0;
    std::uint64_t granted_ = 0;
    std::int64_t between_checks_ = first_nodes;
    Limits limits_{};
    double started_ = 0.0;
    double checked_at_ = 0.0;  ///< seconds after the start
    std::int64_t work_left_ = 1, work_step_ = 1;
    double worked_at_ = 0.0;
    std::uint64_t cutoffs_at_stop_ = 0;
    bool stopped_ = false;
    StoppedBy reason_ = StoppedBy::Depth;
};

}  // namespace arvek::detail
