#include "arvek/link/child.hpp"

#include <fcntl.h>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <chrono>
#include <condition_variable>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <functional>
#include <mutex>
#include <thread>

#include "arvek/session/plain_text.hpp"

extern char** environ;

namespace arvek::link {

/// A file of a child's or of talking with it; closed with the object.
class ChildFile {
   public:
    ChildFile() = default;
    explicit ChildFile(int descriptor) : descriptor_(descriptor) {}
    ChildFile(ChildFile&& other) noexcept : descriptor_(std::exchange(other.descriptor_, -1)) {}
    ChildFile& operator=(ChildFile&& other) noexcept {
        std::swap(descriptor_, other.descriptor_);
        return *this;
    }
    ~ChildFile() { close(); }
    void close() {
        if (descriptor_ >= 0) ::close(std::exchange(descriptor_, -1));
    }
    int get() const { return descriptor_; }
    explicit operator bool() const { return descriptor_ >= 0; }

   private:
    int descriptor_ = -1;
};

namespace {

using SteadyClock = std::chrono::steady_clock;

SteadyClock::time_point moment_after(double seconds) {
    return SteadyClock::now() +
           std::chrono::duration_cast<SteadyClock::duration>(std::chrono::duration<double>(std::max(seconds, 0.0)));
}

int milliseconds_until(SteadyClock::time_point end) {
    const auto left = std::chrono::duration_cast<std::chrono::milliseconds>(end - SteadyClock::now()).count();
    return static_cast<int>(std::clamp<long long>(left + 1, 0, 1'000'000));
}

struct Pipe {
    ChildFile read, write;
};

/// Both ends above the standard streams, which the child puts them in place of, and closed when a program is run.
bool make_pipe(Pipe& pipe) {
    int ends[2];
    if (::pipe2(ends, O_CLOEXEC) != 0) return false;
    for (int& end : ends) {
        if (end > STDERR_FILENO) continue;
        const int above = ::fcntl(end, F_DUPFD_CLOEXEC, STDERR_FILENO + 1);
        ::close(end);
        end = above;
    }
    pipe.read = ChildFile(ends[0]);
    pipe.write = ChildFile(ends[1]);
    return static_cast<bool>(pipe.read) && static_cast<bool>(pipe.write);
}

/// A thread for all starts, which lives as long as the process: the system kills a child when the thread that started it
/// ends, and it must not end before.
class Starter {
   public:
    static Starter& instance() {
        static std::mutex making;
        static Starter* starter = nullptr;  // never destroyed: its thread uses it to the last
        const std::lock_guard lock(making);
        // After a fork its thread is in the other process.
        if (starter == nullptr || starter->process_ != ::getpid()) starter = new Starter;
        return *starter;
    }

    void run(const std::function<void()>& job) {
        const std::lock_guard one_at_a_time(callers_);
        std::unique_lock lock(mutex_);
        job_ = &job;
        changed_.notify_all();
        changed_.wait(lock, [&] { return job_ == nullptr; });
    }

   private:
    Starter() {
        sigset_t all, before;
        sigfillset(&all);
        pthread_sigmask(SIG_SETMASK, &all, &before);
        std::thread([this] {
            std::unique_lock lock(mutex_);
            for (;;) {
                changed_.wait(lock, [&] { return job_ != nullptr; });
                (*job_)();
                job_ = nullptr;
                changed_.notify_all();
            }
        }).detach();
        pthread_sigmask(SIG_SETMASK, &before, nullptr);
    }

    const pid_t process_ = ::getpid();
    std::mutex callers_, mutex_;
    std::condition_variable changed_;
    const std::function<void()>* job_ = nullptr;
};

/// Where a program of that name may be.
std::vector<std::string> candidates_for(const std::string& program) {
    if (program.find('/') != std::string::npos) return {program};
    std::vector<std::string> candidates;
    const char* path = std::getenv("PATH");
    std::string_view folders = path != nullptr ? path : "/usr/local/bin:/usr/bin:/bin";
    for (;;) {
        const auto colon = folders.find(':');
        if (const std::string here(folders.substr(0, colon)); !here.empty()) candidates.push_back(here + "/" + program);
        if (colon == std::string_view::npos) return candidates;
        folders.remove_prefix(colon + 1);
    }
}

/// All that the new process needs; made before it is, since little can be done in it.
struct StartPlan {
    std::vector<std::string> candidates, variables;
    std::vector<char*> argv, envp;
    const char* folder = nullptr;
    int in = -1, out = -1, error = -1, report = -1;
    pid_t parent = 0;

    explicit StartPlan(const ChildOptions& options) {
        candidates = candidates_for(options.command.front());
        for (const std::string& each : options.command) argv.push_back(const_cast<char*>(each.c_str()));
        argv.push_back(nullptr);
        for (char** variable = environ; variable != nullptr && *variable != nullptr; ++variable) {
            const std::string_view text = *variable;
            const std::string_view key = text.substr(0, text.find('='));
            const bool replaced = std::any_of(options.environment.begin(), options.environment.end(),
                                              [&](const auto& own) { return own.first == key; });
            if (!replaced) variables.emplace_back(text);
        }
        for (const auto& [key, value] : options.environment) variables.push_back(key + "=" + value);
        for (const std::string& each : variables) envp.push_back(const_cast<char*>(each.c_str()));
        envp.push_back(nullptr);
        if (!options.folder.empty()) folder = options.folder.c_str();
        parent = ::getpid();
    }
};

struct StartFailure {
    int error = 0;
    bool of_folder = false;
};

/// In the new process: only what is safe after a fork of a process with threads.
[[noreturn]] void become(const StartPlan& plan) {
    ::setpgid(0, 0);
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    if (::getppid() != plan.parent) ::_exit(127);  // it died before that
    struct sigaction usual {};
    usual.sa_handler = SIG_DFL;
    for (int number = 1; number < NSIG; ++number) ::sigaction(number, &usual, nullptr);
    sigset_t none;
    sigemptyset(&none);
    ::sigprocmask(SIG_SETMASK, &none, nullptr);
    ::dup2(plan.in, STDIN_FILENO);
    ::dup2(plan.out, STDOUT_FILENO);
    ::dup2(plan.error, STDERR_FILENO);
    constexpr unsigned close_on_run = 4;  // CLOSE_RANGE_CLOEXEC
    if (::syscall(SYS_close_range, 3u, ~0u, close_on_run) != 0) {
        const long most = ::sysconf(_SC_OPEN_MAX);
        for (int file = 3; file < (most > 0 ? most : 1'024); ++file) ::fcntl(file, F_SETFD, FD_CLOEXEC);
    }
    StartFailure failure;
    if (plan.folder != nullptr && ::chdir(plan.folder) != 0) {
        failure = {errno, true};
    } else {
        failure.error = ENOENT;
        for (const std::string& candidate : plan.candidates) {
            ::execve(candidate.c_str(), plan.argv.data(), plan.envp.data());
            if (errno != ENOENT && errno != ENOTDIR) failure.error = errno;
        }
    }
    (void)!::write(plan.report, &failure, sizeof failure);
    ::_exit(127);
}

/// In another process beside the program: ends all of its group as soon as nobody holds the other end of the pipe, which is when
/// the caller has died of whatever it was. Only what is safe after a fork of a process with threads.
[[noreturn]] void watch_over(pid_t group, int pipe) {
    ::setpgid(0, 0);  // what is sent to the caller's group is not for it
    sigset_t all;
    sigfillset(&all);
    ::sigprocmask(SIG_SETMASK, &all, nullptr);
    ::dup2(pipe, STDIN_FILENO);
    if (::syscall(SYS_close_range, 1u, ~0u, 0u) != 0) {
        const long most = ::sysconf(_SC_OPEN_MAX);
        for (int file = 1; file < (most > 0 ? most : 1'024); ++file) ::close(file);
    }
    char byte = 0;
    while (::read(STDIN_FILENO, &byte, 1) < 0 && errno == EINTR) {
    }
    for (int times = 0; times < 5 && ::kill(-group, SIGKILL) == 0; ++times) {
        const timespec while_they_end{0, 20'000'000};
        ::nanosleep(&while_they_end, nullptr);
    }
    ::_exit(0);
}

std::string signal_text(int signal) {
    const char* text = ::sigdescr_np(signal);
    return "signal " + std::to_string(signal) + (text != nullptr ? std::string(" (") + text + ")" : "");
}

}  // namespace

bool is_runnable(const std::string& program, const std::string& folder) {
    for (const std::filesystem::path candidate : candidates_for(program)) {
        const auto file = folder.empty() ? candidate : std::filesystem::path(folder) / candidate;
        if (std::error_code none; std::filesystem::is_regular_file(file, none) && ::access(file.c_str(), X_OK) == 0)
            return true;
    }
    return false;
}

const char* name_of(Trouble trouble) {
    switch (trouble) {
        case Trouble::NotStarted: return "not started";
        case Trouble::Silent: return "silent";
        case Trouble::ClosedOutput: return "closed its output";
        case Trouble::Exited: return "exited";
        case Trouble::Crashed: return "crashed";
        case Trouble::TooMuch: return "too much";
        case Trouble::Nonsense: return "nonsense";
        case Trouble::IllegalMove: return "illegal move";
        case Trouble::Refused: return "refused";
    }
    return "";
}

struct Child::State {
    ChildOptions options;
    std::string name;
    pid_t pid = -1;
    bool reaped = false;
    pid_t watcher = -1;  ///< the process that ends the group when this one dies
    ChildFile watch;     ///< what it waits for
    bool output_ended = false, error_ended = false;
    ChildFile in, out, error;
    std::string unread, errors;
    std::size_t begin = 0;     ///< of what is unread; what stands before was read
    std::size_t searched = 0;  ///< up to there it has no new line

    std::size_t unread_size() const { return unread.size() - begin; }

    /// Reads what is there of both outputs, without waiting.
    void drain() {
        std::array<char, 1 << 16> part;
        while (out && !output_ended && unread_size() <= options.most_unread) {
            const ssize_t size = ::read(out.get(), part.data(), part.size());
            if (size > 0) {
                unread.append(part.data(), static_cast<std::size_t>(size));
                continue;
            }
            if (size < 0 && errno == EINTR) continue;
            if (size == 0 || errno != EAGAIN) output_ended = true;
            break;
        }
        // A flood of complaints must not keep anybody from reading on.
        for (int parts = 0; parts < 64 && error && !error_ended; ++parts) {
            const ssize_t size = ::read(error.get(), part.data(), part.size());
            if (size > 0) {
                errors.append(part.data(), static_cast<std::size_t>(size));
                constexpr std::size_t kept = 4'096;
                if (errors.size() > 2 * kept) errors.erase(0, errors.size() - kept);
                continue;
            }
            if (size < 0 && errno == EINTR) continue;
            if (size == 0 || errno != EAGAIN) error_ended = true;
            break;
        }
    }

    /// Waits until something comes, `end`, or a while has passed.
    void wait(SteadyClock::time_point end, bool to_write) {
        std::array<pollfd, 3> files{};
        nfds_t count = 0;
        if (!output_ended && unread_size() <= options.most_unread) files[count++] = {out.get(), POLLIN, 0};
        if (!error_ended) files[count++] = {error.get(), POLLIN, 0};
        if (to_write) files[count++] = {in.get(), POLLOUT, 0};
        constexpr int slice = 20;  // milliseconds: an end of the program may show in nothing else
        (void)::poll(files.data(), count, std::min(milliseconds_until(end), slice));
    }

    /// Whether it has ended; it is not reaped by that, so that its number stays its own.
    bool has_ended(siginfo_t* how = nullptr) const {
        if (reaped) return true;
        siginfo_t info{};
        if (::waitid(P_PID, static_cast<id_t>(pid), &info, WEXITED | WNOHANG | WNOWAIT) != 0) return errno == ECHILD;
        if (how != nullptr) *how = info;
        return info.si_pid == pid;
    }

    std::optional<std::string> take_line() {
        const auto end = unread.find('\n', searched);
        if (end == std::string::npos) {
            unread.erase(0, std::exchange(begin, 0));
            searched = unread.size();
            return std::nullopt;
        }
        std::string line = unread.substr(begin, end - begin);
        if (!line.empty() && line.back() == '\r') line.pop_back();
        begin = searched = end + 1;
        return line;
    }

    void end_by_force() {
        if (reaped) return;
        if (!has_ended()) {
            ::kill(-pid, SIGTERM);
            ::kill(pid, SIGTERM);
            for (const auto end = moment_after(0.2); !has_ended() && SteadyClock::now() < end;) {
                drain();
                discard();
                wait(end, false);
            }
        }
        // Its process group goes with it; for as long as it is not reaped, nobody else can have its number.
        ::kill(-pid, SIGKILL);
        ::kill(pid, SIGKILL);
        int status = 0;
        while (::waitpid(pid, &status, 0) < 0 && errno == EINTR) {
        }
        reaped = true;
        if (watcher <= 0) return;
        ::kill(watcher, SIGKILL);  // there is nothing left to end
        watch.close();
        while (::waitpid(watcher, &status, 0) < 0 && errno == EINTR) {
        }
    }
    void discard() {
        unread.clear();
        begin = searched = 0;
    }
};

Child::Child(ChildOptions options) : state_(std::make_unique<State>()) {
    State& state = *state_;
    state.options = std::move(options);
    if (state.options.command.empty() || state.options.command.front().empty())
        throw ProgramError(Trouble::NotStarted, "no program is named");
    state.name = in_quotes(state.options.command.front());
    const auto fail_to_start = [&](const std::string& why) {
        throw ProgramError(Trouble::NotStarted, state.name + " could not be started: " + why);
    };
    Pipe in, out, error, report;
    if (!make_pipe(in) || !make_pipe(out) || !make_pipe(error) || !make_pipe(report))
        fail_to_start(std::strerror(errno));
    StartPlan plan(state.options);
    plan.in = in.read.get();
    plan.out = out.write.get();
    plan.error = error.write.get();
    plan.report = report.write.get();
    int why_not = 0;
    Starter::instance().run([&] {
        state.pid = ::fork();
        if (state.pid == 0) become(plan);
        why_not = errno;
    });
    if (state.pid < 0) fail_to_start(std::strerror(why_not));
    ::setpgid(state.pid, state.pid);  // whoever comes first
    if (Pipe watch; make_pipe(watch)) {
        Starter::instance().run([&] {
            state.watcher = ::fork();
            if (state.watcher == 0) watch_over(state.pid, watch.read.get());
        });
        state.watch = std::move(watch.write);
    }
    report.write.close();
    StartFailure failure;
    ssize_t told = 0;
    while ((told = ::read(report.read.get(), &failure, sizeof failure)) < 0 && errno == EINTR) {
    }
    if (told == static_cast<ssize_t>(sizeof failure)) {
        state.end_by_force();
        fail_to_start(failure.of_folder
                          ? "its folder " + in_quotes(state.options.folder) + ": " + std::strerror(failure.error)
                          : std::strerror(failure.error));
    }
    state.in = std::move(in.write);
    state.out = std::move(out.read);
    state.error = std::move(error.read);
    for (const int file : {state.in.get(), state.out.get(), state.error.get()})
        ::fcntl(file, F_SETFL, ::fcntl(file, F_GETFL) | O_NONBLOCK);
}

Child::~Child() { end(0.3); }

const std::string& Child::name() const { return state_->name; }
int Child::process_id() const { return state_->pid; }
bool Child::is_running() { return !state_->has_ended(); }

std::string Child::last_words() {
    state_->drain();
    std::string_view text = state_->errors;
    while (!text.empty() && (text.back() == '\n' || text.back() == '\r' || text.back() == ' ')) text.remove_suffix(1);
    const auto begin = text.find_last_of('\n');
    if (begin != std::string_view::npos) text.remove_prefix(begin + 1);
    constexpr std::size_t longest = 200;
    return plain_line(std::string(text.substr(0, longest)));
}

void Child::fail(Trouble trouble, const std::string& problem) {
    const std::string words = last_words();
    throw ProgramError(trouble, name() + " " + problem + (words.empty() ? "" : "; its last words: " + words));
}

void Child::write_line(std::string_view line, double seconds) {
    State& state = *state_;
    const std::string whole = std::string(line) + "\n";
    std::string_view left = whole;
    const auto end = moment_after(seconds);
    // The signal of a closed pipe is kept from this thread, and taken away if it came of this.
    sigset_t pipe_signal, before;
    sigemptyset(&pipe_signal);
    sigaddset(&pipe_signal, SIGPIPE);
    pthread_sigmask(SIG_BLOCK, &pipe_signal, &before);
    const bool was_blocked = sigismember(&before, SIGPIPE) == 1;
    int error = 0;
    bool late = false;
    while (!left.empty() && error == 0 && !late) {
        const ssize_t size = state.in ? ::write(state.in.get(), left.data(), left.size()) : -1;
        if (size >= 0) {
            left.remove_prefix(static_cast<std::size_t>(size));
        } else if (!state.in) {
            error = EPIPE;
        } else if (errno == EAGAIN) {
            // It may wait for its own output to be read.
            state.drain();
            late = SteadyClock::now() >= end;
            if (!late) state.wait(end, true);
        } else if (errno != EINTR) {
            error = errno;
        }
    }
    if (error == EPIPE && !was_blocked) {
        const timespec at_once{};
        while (::sigtimedwait(&pipe_signal, nullptr, &at_once) < 0 && errno == EINTR) {
        }
    }
    pthread_sigmask(SIG_SETMASK, &before, nullptr);
    if (late) fail(Trouble::Silent, "does not read what it is told");
    if (error == 0) return;
    // What ended it says more than that it does not read.
    for (const auto soon = moment_after(0.3); !state.has_ended() && SteadyClock::now() < soon;) {
        state.drain();
        state.wait(soon, false);
    }
    siginfo_t how{};
    if (!state.has_ended(&how)) fail(Trouble::ClosedOutput, "closed its input");
    if (how.si_code == CLD_EXITED) fail(Trouble::Exited, "ended with status " + std::to_string(how.si_status));
    fail(Trouble::Crashed, "was ended by " + signal_text(how.si_status));
}

std::optional<std::string> Child::read_line(double seconds) {
    State& state = *state_;
    const auto end = moment_after(seconds);
    for (;;) {
        if (auto line = state.take_line()) {
            if (line->size() > state.options.longest_line)
                fail(Trouble::TooMuch, "wrote a line of " + std::to_string(line->size()) + " bytes");
            return line;
        }
        if (state.unread_size() > std::min(state.options.longest_line, state.options.most_unread))
            fail(Trouble::TooMuch,
                 "wrote over " + std::to_string(state.options.longest_line) + " bytes without an end of line");
        const bool ended = state.has_ended();
        const std::size_t before = state.unread.size();
        state.drain();
        if (state.unread.size() != before) continue;
        if (ended) {
            siginfo_t how{};
            (void)state.has_ended(&how);
            if (how.si_code == CLD_KILLED || how.si_code == CLD_DUMPED)
                fail(Trouble::Crashed, "was ended by " + signal_text(how.si_status));
            fail(Trouble::Exited, "ended with status " + std::to_string(how.si_status));
        }
        if (state.output_ended) {
            // It may be about to end.
            const auto soon = moment_after(0.3);
            while (!state.has_ended() && SteadyClock::now() < soon) state.wait(soon, false);
            if (state.has_ended()) continue;
            fail(Trouble::ClosedOutput, "closed its output");
        }
        if (SteadyClock::now() >= end) return std::nullopt;
        state.wait(end, false);
    }
}

void Child::end(double seconds) {
    State& state = *state_;
    if (state.reaped || state.pid < 0) return;
    state.in.close();
    const auto end = moment_after(seconds);
    while (!state.has_ended() && SteadyClock::now() < end) {
        state.drain();
        state.discard();
        state.wait(end, false);
    }
    state.drain();
    state.end_by_force();
}

}  // namespace arvek::link
