#pragma once
// Child: another program, started without a shell, with which one talks in lines over two pipes. It cannot hang whoever
// uses it: every wait has an end. It does not stay behind: it gets a process group of its own, which is ended with it, and
// the system kills it when this process dies, by whatever signal.
//
//   arvek::link::Child child({.command = {"weir_player", "--quiet"}});
//   child.write_line("hello", 1.0);
//   const std::optional<std::string> answer = child.read_line(2.0);   // nothing: it said nothing in time
//   child.end(0.5);
//
// It inherits no open file, no blocked and no ignored signal. What it writes to its error output is kept apart, and the
// last of it goes into the message where something goes wrong.

#include <cstddef>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace arvek::link {

/// What can go wrong with a program.
enum class Trouble {
    NotStarted,    ///< there is no such program, or it cannot be run
    Silent,        ///< it said nothing in time, or did not read
    ClosedOutput,  ///< it closed its output and went on running
    Exited,        ///< it ended by itself
    Crashed,       ///< a signal ended it
    TooMuch,       ///< it says more than anybody could mean
    Nonsense,      ///< it says what the protocol does not have
    IllegalMove,   ///< its move is none
    Refused        ///< it does not have what is asked of it
};

/// "not started", "silent", "closed its output", "exited", "crashed", "too much", "nonsense", "illegal move", "refused".
const char* name_of(Trouble trouble);

/// One line: the program, what it did, and its last words.
class ProgramError : public std::runtime_error {
   public:
    /// Of what went wrong, and what to say.
    ProgramError(Trouble trouble, const std::string& message) : std::runtime_error(message), trouble_(trouble) {}
    Trouble trouble() const { return trouble_; }  ///< what went wrong

   private:
    Trouble trouble_;
};

/// Which program, and what it may do.
struct ChildOptions {
    std::vector<std::string> command{};  ///< the program, looked for in PATH where it has no slash, and its arguments
    std::string folder{};                ///< where it works; empty: here
    std::vector<std::pair<std::string, std::string>> environment{};  ///< besides, or instead of, the variables of here
    std::size_t longest_line = std::size_t{1} << 20;                 ///< in bytes; a longer one is too much
    std::size_t most_unread = std::size_t{1} << 24;                  ///< in bytes, of lines that nobody has read
};

/// Whether there is a file of that name that this user may run: in PATH where the name has no slash, else as seen from
/// `folder` (empty: from here).
bool is_runnable(const std::string& program, const std::string& folder = {});

/// Another program, which one talks with in lines.
class Child {
   public:
    /// Throws ProgramError where it cannot be started.
    explicit Child(ChildOptions options);
    /// Ends it, in a second at the most.
    ~Child();
    Child(const Child&) = delete;
    Child& operator=(const Child&) = delete;

    /// Writes the line and a new line. Throws ProgramError where it has ended, and where it reads nothing for so long.
    void write_line(std::string_view line, double seconds);
    /// The next line of its output, without its end; nothing when `seconds` have passed before there is one. Throws
    /// ProgramError where no more can come, and where too much does.
    std::optional<std::string> read_line(double seconds);
    /// Whether it has not ended.
    bool is_running();
    /// Closes its input, waits `seconds` for it to end, and then ends it and its process group by force.
    void end(double seconds);

    /// The program's name, as messages have it.
    const std::string& name() const;
    /// Of the operating system.
    int process_id() const;
    /// The last line that it wrote to its error output; empty where it wrote none.
    std::string last_words();
    /// Throws ProgramError with the name, the problem and the last words.
    [[noreturn]] void fail(Trouble trouble, const std::string& problem);

   private:
    struct State;
    std::unique_ptr<State> state_;
};

}  // namespace arvek::link
