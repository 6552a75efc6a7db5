#pragma once
// How long a check may take, and telling how far it is.

#include <algorithm>
#include <chrono>
#include <string_view>

#include "arvek/lab/check_report.hpp"

namespace arvek::detail {

class CheckTime {
   public:
    explicit CheckTime(const CheckOptions& options)
        : options_(options),
          clock_(options.clock ? options.clock : Clock(machine_seconds)),
          begun_(clock_.seconds()),
          limit_(options.seconds ? *options.seconds
                 : options.games ? 0.0
                                 : 10.0) {}

    double seconds() const { return clock_.seconds() - begun_; }
    /// Whether it was stopped, or more than so much of the time is gone; never the latter without a limit of time.
    bool enough(double share) const {
        return options_.stop.stop_requested() || (limit_ > 0 && seconds() > share * limit_);
    }
    /// How much of the time is gone; 0 without a limit.
    double share() const { return limit_ > 0 ? seconds() / limit_ : 0.0; }

    /// Tells how far it is, a few times a second: `at_least`, or by the time.
    void tell(const char* stage, double at_least, int games, std::uint64_t positions, std::size_t faults) {
        if (!options_.progress) return;
        const double now = seconds();
        if (std::string_view(stage) == stage_ && now - told_ < 0.1) return;
        stage_ = stage;
        told_ = now;
        options_.progress({stage, std::clamp(std::max(at_least, share()), 0.0, 1.0), games, positions, faults});
    }

   private:
    static double machine_seconds() {
        return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
    }

    const CheckOptions& options_;
    Clock clock_;
    double begun_, limit_;
    std::string_view stage_{};
    double told_ = 0;
};

}  // namespace arvek::detail
