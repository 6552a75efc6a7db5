#include "progress.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <ostream>

#include "arvek/arena/steady_clock.hpp"

namespace arvek::tool {

namespace {

constexpr int bar_width = 30;
constexpr std::size_t line_width = 78;
constexpr double seconds_between = 0.2;

}  // namespace

ProgressBar::ProgressBar(const Console& console, int all)
    : console_(console), all_(std::max(all, 1)), started_(steady_seconds()) {}

ProgressBar::~ProgressBar() {
    if (drawn_ >= 0) console_.err << "\r" << std::string(line_width, ' ') << "\r" << std::flush;
}

void ProgressBar::show(int done, const std::string& words) {
    if (!console_.shows_progress) return;
    if (done_at_start_ < 0) done_at_start_ = std::max(done - 1, 0);
    const double now = steady_seconds();
    if (now - drawn_ < seconds_between && done < all_) return;
    drawn_ = now;
    const int filled = std::min(bar_width, done * bar_width / all_);
    const int fresh = done - done_at_start_;
    const double left = fresh > 0 ? (now - started_) / fresh * (all_ - done) : 0.0;
    std::string line =
        fmt::format("[{}{}] {} of {}  {}  {}:{:02} left", std::string(static_cast<std::size_t>(filled), '='),
                    std::string(static_cast<std::size_t>(bar_width - filled), ' '), done, all_, words,
                    static_cast<int>(left) / 60, static_cast<int>(left) % 60);
    line.resize(line_width, ' ');
    console_.err << "\r" << line << std::flush;
}

}  // namespace arvek::tool
