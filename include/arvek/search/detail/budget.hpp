#pragma once
// Budget: counts the nodes of one decision and says when to stop. One comparison a node while nothing is up.

#include <algorithm>
#include <cstdint>
#include <limits>

#include "arvek/game/decision.hpp"
#include "arvek/search/limits.hpp"

namespace arvek::detail {

class Budget {
   public:
    explicit Budget(const Limits& limits) : limits_(limits), started_(limits.clock != nullptr ? limits.clock() : 0.0) {
        plan_next_check();
    }

    /// Counts one more node. False, and nothing counted, when the search must end instead.
    bool spend_node() {
        if (counters.nodes >= next_check_) [[unlikely]]
            if (!may_go_on()) return false;
        ++counters.nodes;
        return true;
    }

    bool stopped() const { return stopped_; }
    StoppedBy reason() const { return reason_; }
    double seconds() const { return limits_.clock != nullptr ? limits_.clock() - started_ : 0.0; }

    Counters counters;

   private:
    static constexpr std::uint64_t nodes_between_checks = 512;

    bool may_go_on() {
        if (stopped_) return false;
        if (limits_.nodes && counters.nodes >= *limits_.nodes) return stop(StoppedBy::Nodes);
        if (limits_.stop.stop_requested()) return stop(StoppedBy::Stop);
        if (limits_.seconds && seconds() >= *limits_.seconds) return stop(StoppedBy::Time);
        plan_next_check();
        return true;
    }

    bool stop(StoppedBy reason) {
        stopped_ = true;
        reason_ = reason;
        next_check_ = 0;
        return false;
    }

    void plan_next_check() {
        next_check_ = std::numeric_limits<std::uint64_t>::max();
        if (limits_.seconds || limits_.stop.can_stop()) next_check_ = counters.nodes + nodes_between_checks;
        if (limits_.nodes) next_check_ = std::min(next_check_, *limits_.nodes);
    }

    Limits limits_;
    double started_;
    std::uint64_t next_check_ = 0;
    bool stopped_ = false;
    StoppedBy reason_ = StoppedBy::Depth;
};

}  // namespace arvek::detail
