#include "line_reader.hpp"

#include <fcntl.h>
#include <histedit.h>
#include <poll.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cerrno>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <ostream>

#include "arvek/session/plain_text.hpp"

namespace arvek::tool {

namespace {

/// Set by the signal handler, and asked by every thread that plays.
std::atomic<int> interrupt_flag = 0;
static_assert(std::atomic<int>::is_always_lock_free, "a signal handler may touch nothing else");
/// An interrupt also makes this pipe readable, so that it cannot slip in between a look at the flag and a wait.
std::array<int, 2> wake_pipe{-1, -1};

void note_interrupt(int) {
    const int kept = errno;
    interrupt_flag = 1;
    const char byte = 0;
    [[maybe_unused]] const ssize_t written = ::write(wake_pipe[1], &byte, 1);
    errno = kept;
}

/// Waits until standard input can be read, or `seconds` have passed when that is not negative. False after an
/// interrupt.
bool wait_for_input(bool input, double seconds) {
    const int milliseconds = seconds < 0 ? -1 : static_cast<int>(std::lround(seconds * 1e3));
    std::array<pollfd, 2> ends{pollfd{wake_pipe[0], POLLIN, 0}, pollfd{input ? STDIN_FILENO : -1, POLLIN, 0}};
    while (!InterruptGuard::interrupted()) {
        const int ready = ::poll(ends.data(), ends.size(), milliseconds);
        if (ready < 0 && errno == EINTR) continue;
        break;
    }
    return !InterruptGuard::interrupted();
}

/// Lines from a terminal, with libedit.
class EditingReader final : public LineReader {
   public:
    explicit EditingReader(const std::string& program)
        : edit_(el_init(program.c_str(), stdin, stdout, stderr)), history_(history_init()) {
        HistEvent event;
        history(history_, &event, H_SETSIZE, 200);
        el_set(edit_, EL_CLIENTDATA, this);
        el_set(edit_, EL_PROMPT, &EditingReader::prompt_of);
        el_set(edit_, EL_EDITOR, "emacs");
        el_set(edit_, EL_HIST, history, history_);
        el_set(edit_, EL_SIGNAL, 0);
        el_set(edit_, EL_GETCFN, &EditingReader::next_character);
    }
    ~EditingReader() override {
        history_end(history_);
        el_end(edit_);
    }
    EditingReader(const EditingReader&) = delete;
    EditingReader& operator=(const EditingReader&) = delete;

    std::optional<std::string> next(const std::string& prompt) override {
        prompt_ = prompt;
        int length = 0;
        const char* line = el_gets(edit_, &length);
        if (line == nullptr || length <= 0 || InterruptGuard::interrupted()) return std::nullopt;
        std::string text(line, static_cast<std::size_t>(length));
        HistEvent event;
        if (text != "\n") history(history_, &event, H_ENTER, line);
        while (!text.empty() && (text.back() == '\n' || text.back() == '\r')) text.pop_back();
        return text;
    }

   private:
    static char* prompt_of(EditLine* edit) {
        void* self = nullptr;
        el_get(edit, EL_CLIENTDATA, &self);
        return static_cast<EditingReader*>(self)->prompt_.data();
    }

    /// The library's own reader would sit through an interrupt.
    static int next_character(EditLine*, wchar_t* character) {
        while (wait_for_input(true, -1)) {
            unsigned char byte = 0;
            const ssize_t got = ::read(STDIN_FILENO, &byte, 1);
            if (got < 0 && errno == EINTR) continue;
            if (got == 1) *character = byte;
            return got == 1 ? 1 : 0;
        }
        return 0;
    }

    EditLine* edit_;
    History* history_;
    std::string prompt_;
};

/// Lines from a pipe or a stream.
class PlainReader final : public LineReader {
   public:
    PlainReader(std::istream& in, bool standard_input, std::ostream& out)
        : in_(in), standard_input_(standard_input), out_(out) {}

    std::optional<std::string> next(const std::string& prompt) override {
        out_ << prompt << std::flush;
        std::string line;
        const bool got = standard_input_ ? read_standard_input(line) : static_cast<bool>(std::getline(in_, line));
        if (!got) {
            out_ << "\n";
            return std::nullopt;
        }
        if (!line.empty() && line.back() == '\r') line.pop_back();
        out_ << message_line(line, 300) << "\n";
        return line;
    }

   private:
    /// std::cin would sit through an interrupt, so standard input is read directly. Of a line that does not end only so
    /// much is kept as tells that it is too long.
    bool read_standard_input(std::string& line) {
        bool any = false;
        for (;;) {
            if (at_ == filled_) {
                if (!wait_for_input(true, -1)) return false;
                const ssize_t got = ::read(STDIN_FILENO, block_.data(), block_.size());
                if (got < 0 && errno == EINTR) continue;
                if (got <= 0) return any;
                at_ = 0;
                filled_ = static_cast<std::size_t>(got);
            }
            const char* const first = block_.data() + at_;
            const char* const last = block_.data() + filled_;
            const char* const end = std::find(first, last, '\n');
            any = true;
            line.append(first, std::min<std::size_t>(static_cast<std::size_t>(end - first),
                                                     most_kept - std::min(most_kept, line.size())));
            at_ += static_cast<std::size_t>(end - first) + (end != last ? 1 : 0);
            if (end != last) return true;
        }
    }

    static constexpr std::size_t most_kept = 4'096;

    std::istream& in_;
    bool standard_input_;
    std::ostream& out_;
    std::array<char, 4'096> block_{};
    std::size_t at_ = 0, filled_ = 0;  ///< what of the block is still to be read
};

}  // namespace

struct InterruptGuard::Saved {
    struct sigaction before {};
};

InterruptGuard::InterruptGuard(bool active) {
    interrupt_flag = 0;
    if (!active || ::pipe2(wake_pipe.data(), O_CLOEXEC | O_NONBLOCK) != 0) return;
    saved_ = std::make_unique<Saved>();
    struct sigaction action {};
    action.sa_handler = note_interrupt;
    sigemptyset(&action.sa_mask);
    sigaction(SIGINT, &action, &saved_->before);
}

InterruptGuard::~InterruptGuard() {
    if (!saved_) return;
    sigaction(SIGINT, &saved_->before, nullptr);
    for (int& end : wake_pipe) {
        ::close(end);
        end = -1;
    }
}

bool InterruptGuard::interrupted() { return interrupt_flag != 0; }

StopToken InterruptGuard::stop_token() {
    return StopToken([](const void*) { return interrupted(); }, nullptr);
}

std::unique_ptr<LineReader> make_line_reader(const Console& console, std::ostream& out) {
    if (console.line_editing) return std::make_unique<EditingReader>("arvek");
    return std::make_unique<PlainReader>(console.in, console.reads_standard_input, out);
}

void wait_seconds(double seconds) {
    if (seconds > 0) (void)wait_for_input(false, seconds);
}

}  // namespace arvek::tool
