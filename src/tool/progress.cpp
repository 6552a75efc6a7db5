#include "progress.hpp"

#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <ostream>

#include "arvek/arena/steady_clock.hpp"
#include "wrapping.hpp"

namespace arvek::tool {

namespace {

constexpr int bar_width = 30;
constexpr double seconds_between = 0.2;

/// Of the line, so that it never breaks: one letter less than the terminal has.
std::size_t line_width() {
    constexpr std::size_t usual = 79;
    const std::size_t terminal = terminal_width(STDERR_FILENO);
    return std::min(usual, terminal == 0 ? usual : terminal) - 1;
}

}  // namespace

ProgressBar::ProgressBar(const Console& console, int all)
    : console_(console), all_(std::max(all, 1)), started_(steady_seconds()) {}

ProgressBar::~ProgressBar() {
    if (drawn_ >= 0) console_.err << "\r" << std::string(line_width(), ' ') << "\r" << std::flush;
}

void ProgressBar::show(int done, const std::string& words) {
    if (!console_.shows_progress) return;
    if (done_at_start_ < 0) done_at_start_ = std::max(done - 1, 0);
    const double now = steady_seconds();
    if (now - drawn_ < seconds_between && done < all_) return;
    drawn_ = now;
    const std::size_t width = line_width();
    const int fresh = done - done_at_start_;
    const double left = fresh > 0 ? (now - started_) / fresh * (all_ - done) : 0.0;
    std::string line;
    if (width >= 60) {
        const int filled = std::min(bar_width, done * bar_width / all_);
        line = fmt::format("[{}{}] ", std::string(static_cast<std::size_t>(filled), '='),
                           std::string(static_cast<std::size_t>(bar_width - filled), ' '));
    }
    line += fmt::format("{} of {}  {}  {}:{:02} left", done, all_, words, static_cast<int>(left) / 60,
                        static_cast<int>(left) % 60);
    line.resize(width, ' ');
    console_.err << "\r" << line << std::flush;
}

}  // namespace arvek::tool
