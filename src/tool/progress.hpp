#pragma once
// A bar on a terminal that says how far a long command is.

#include <string>

#include "arvek/tool/tool.hpp"

namespace arvek::tool {

/// Draws on the console's error stream where that is a terminal, a few times a second; wipes itself off at its end.
class ProgressBar {
   public:
    ProgressBar(const Console& console, int all);
    ~ProgressBar();
    ProgressBar(const ProgressBar&) = delete;
    ProgressBar& operator=(const ProgressBar&) = delete;

    /// `done` of all, and a few words about how it stands.
    void show(int done, const std::string& words);

   private:
    const Console& console_;
    int all_;
    double started_;
    double drawn_ = -1e9;
    int done_at_start_ = -1;
};

}  // namespace arvek::tool
