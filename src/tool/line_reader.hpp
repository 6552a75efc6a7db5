#pragma once
// Reading what a person types, line by line; an interrupt ends it.

#include <istream>
#include <memory>
#include <optional>
#include <string>

#include "arvek/search/limits.hpp"
#include "arvek/tool/tool.hpp"

namespace arvek::tool {

/// While one lives, Ctrl-C sets a flag instead of ending the process. At most one at a time.
class InterruptGuard {
   public:
    /// Does nothing unless `active`.
    explicit InterruptGuard(bool active);
    ~InterruptGuard();
    InterruptGuard(const InterruptGuard&) = delete;
    InterruptGuard& operator=(const InterruptGuard&) = delete;

    static bool interrupted();
    /// Stops a search when Ctrl-C was pressed.
    static StopToken stop_token();

   private:
    struct Saved;
    std::unique_ptr<Saved> saved_;
};

class LineReader {
   public:
    virtual ~LineReader() = default;

    /// The next line without its end; nothing at the end of the input and after an interrupt.
    virtual std::optional<std::string> next(const std::string& prompt) = 0;
};

/// Editing and history at a terminal; else plain lines from the console's input, each shown after its prompt so that
/// what is written reads like a session.
std::unique_ptr<LineReader> make_line_reader(const Console& console, std::ostream& out);

/// Waits, but not past an interrupt.
void wait_seconds(double seconds);

}  // namespace arvek::tool
