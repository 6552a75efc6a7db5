#include "arvek/lab/watched.hpp"

#include <fcntl.h>
#include <poll.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <chrono>
#include <cmath>
#include <csignal>
#include <cstring>
#include <new>
#include <optional>
#include <system_error>
#include <thread>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "checking.hpp"

namespace arvek {

namespace detail {

namespace {

[[noreturn]] void throw_system(const char* what) { throw std::system_error(errno, std::generic_category(), what); }

/// What both processes see.
struct Shared {
    static constexpr std::size_t most_moves = 4'096;

    CallNote note;
    std::atomic<const char*> stage{""};
    std::atomic<bool> stop{false};
    std::atomic<std::uint32_t> length{0};
    std::array<std::uint32_t, most_moves> places{};  ///< of the moves of the path in hand, among those that are next
    std::atomic<double> share{0};
    std::atomic<int> games{0};
    std::atomic<std::uint64_t> positions{0}, faults{0};
};

class SharedMemory {
   public:
    SharedMemory() {
        void* where = ::mmap(nullptr, sizeof(Shared), PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
        if (where == MAP_FAILED) throw_system("memory that two processes share");
        shared_ = ::new (where) Shared;
    }
    ~SharedMemory() { ::munmap(shared_, sizeof(Shared)); }
    SharedMemory(const SharedMemory&) = delete;
    SharedMemory& operator=(const SharedMemory&) = delete;
    Shared& operator*() const { return *shared_; }
    Shared* operator->() const { return shared_; }

   private:
    Shared* shared_;
};

// ---- reports as bytes ----

class Writing {
   public:
    void add(std::uint64_t number) { bytes_.append(reinterpret_cast<const char*>(&number), sizeof number); }
    void add(double number) { bytes_.append(reinterpret_cast<const char*>(&number), sizeof number); }
    void add(const std::string& text) {
        add(static_cast<std::uint64_t>(text.size()));
        bytes_ += text;
    }
    void add(const std::vector<std::string>& texts) {
        add(static_cast<std::uint64_t>(texts.size()));
        for (const std::string& text : texts) add(text);
    }
    void add(const Fault& fault) {
        for (const std::string* text :
             {&fault.law, &fault.function, &fault.what, &fault.position, &fault.other_position})
            add(*text);
        add(fault.moves);
        add(fault.other_moves);
        add(static_cast<std::uint64_t>(fault.of_two) + 2 * static_cast<std::uint64_t>(fault.repeats));
    }
    const std::string& bytes() const { return bytes_; }

   private:
    std::string bytes_;
};

class Reading {
   public:
    explicit Reading(std::string_view bytes) : left_(bytes) {}

    bool is_sound() const { return sound_; }
    std::uint64_t number() {
        std::uint64_t number = 0;
        take(&number, sizeof number);
        return number;
    }
    double real() {
        double number = 0;
        take(&number, sizeof number);
        return number;
    }
    std::string text() {
        const std::uint64_t size = number();
        if (size > left_.size()) {
            sound_ = false;
            return "";
        }
        std::string text(left_.substr(0, size));
        left_.remove_prefix(size);
        return text;
    }
    std::vector<std::string> texts() {
        std::vector<std::string> all;
        for (std::uint64_t left = number(); left > 0 && sound_; --left) all.push_back(text());
        return all;
    }
    Fault fault() {
        Fault fault;
        for (std::string* each : {&fault.law, &fault.function, &fault.what, &fault.position, &fault.other_position})
            *each = text();
        fault.moves = texts();
        fault.other_moves = texts();
        const std::uint64_t flags = number();
        fault.of_two = (flags & 1u) != 0;
        fault.repeats = (flags & 2u) != 0;
        return fault;
    }

   private:
    void take(void* to, std::size_t size) {
        if (left_.size() < size) {
            sound_ = false;
            return;
        }
        std::memcpy(to, left_.data(), size);
        left_.remove_prefix(size);
    }

    std::string_view left_;
    bool sound_ = true;
};

/// In the process that is watched: notes where it is.
class Noting final : public CheckWatcher {
   public:
    Noting(const AnyGame& game, Shared& shared) : game_(game), shared_(shared) {}

    void stage(const char* name) override { shared_.stage.store(name); }
    void path(const Path& path) override {
        std::size_t alike = 0;
        while (alike < path.size() && alike < noted_.size() && noted_[alike] == path[alike]) ++alike;
        noted_.resize(alike);
        positions_.resize(std::min(positions_.size(), alike + 1));
        shared_.length.store(static_cast<std::uint32_t>(std::min(alike, Shared::most_moves)));
        if (positions_.empty()) positions_.push_back(game_.initial_position());
        for (; alike < path.size() && alike < Shared::most_moves; ++alike) {
            // Up to the position before the move: the move itself may be what breaks.
            while (positions_.size() <= alike) {
                AnyPosition after = positions_.back();
                game_.play(after, noted_[positions_.size() - 1]);
                positions_.push_back(std::move(after));
            }
            MoveList<AnyMove> moves;
            generate_what_is_next(game_, positions_.back(), moves);
            std::uint32_t place = 0;
            while (place < moves.size() && !(moves[place] == path[alike])) ++place;
            shared_.places[alike] = place;
            shared_.length.store(static_cast<std::uint32_t>(alike + 1));
            noted_.push_back(path[alike]);
        }
    }

   private:
    AnyGame game_;
    Shared& shared_;
    Path noted_;
    std::vector<AnyPosition> positions_;
};

/// How a process ended.
struct Ending {
    bool of_its_own = false;
    bool too_long = false;  ///< it was stopped since a call took too long
    int signal = 0, status = 0;
    std::string bytes;  ///< what it wrote
};

double now() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

void silence() {
    const int nowhere = ::open("/dev/null", O_WRONLY);
    if (nowhere >= 0) {
        ::dup2(nowhere, 2);
        ::close(nowhere);
    }
}

/// Runs `work(write)` in a process of its own, and ends it where one call of the game takes longer than `seconds`.
/// `seconds` may depend on the stage; `meanwhile` is called now and then.
template <class Work, class Meanwhile>
Ending in_a_process(Shared& shared, double seconds, bool silent, const Work& work, const Meanwhile& meanwhile) {
    int ends[2];
    if (::pipe(ends) != 0) throw_system("a pipe");
    const pid_t child = ::fork();
    if (child < 0) {
        ::close(ends[0]);
        ::close(ends[1]);
        throw_system("another process");
    }
    if (child == 0) {
        ::close(ends[0]);
        if (silent) silence();
        const auto write_all = [&](const std::string& bytes) {
            for (std::size_t done = 0; done < bytes.size();) {
                const ssize_t written = ::write(ends[1], bytes.data() + done, bytes.size() - done);
                if (written < 0 && errno != EINTR) ::_exit(3);
                if (written > 0) done += static_cast<std::size_t>(written);
            }
        };
        try {
            work(write_all);
        } catch (...) {
            ::_exit(4);
        }
        ::_exit(0);
    }
    ::close(ends[1]);
    Ending ending;
    std::uint64_t calls = shared.note.calls.load();
    double since = now();
    for (bool open = true; open;) {
        pollfd waiting{ends[0], POLLIN, 0};
        if (::poll(&waiting, 1, 20) > 0) {
            char some[4'096];
            const ssize_t got = ::read(ends[0], some, sizeof some);
            if (got > 0) ending.bytes.append(some, static_cast<std::size_t>(got));
            if (got == 0 || (got < 0 && errno != EINTR)) open = false;
        }
        meanwhile();
        // A search asks the game's functions by itself, and is given more time.
        const bool searches = std::string_view(shared.stage.load()) == "values";
        const std::uint64_t calls_now = shared.note.calls.load();
        if (calls_now != calls) {
            calls = calls_now;
            since = now();
        } else if (open && now() - since > seconds * (searches ? 6 : 1)) {
            ending.too_long = true;
            ::kill(child, SIGKILL);
            open = false;
        }
    }
    ::close(ends[0]);
    int status = 0;
    while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    ending.signal = WIFSIGNALED(status) ? WTERMSIG(status) : 0;
    ending.status = WIFEXITED(status) ? WEXITSTATUS(status) : 0;
    ending.of_its_own = WIFEXITED(status) && ending.status == 0;
    return ending;
}

class WatchedCheck {
   public:
    WatchedCheck(const GameKit& kit, const CheckOptions& options, const WatchOptions& watch)
        : kit_(kit), options_(options), watch_(watch) {}

    CheckReport check() {
        const double begun = now();
        CheckOptions inner = options_;
        Shared& shared = *memory_;
        inner.stop =
            StopToken([](const void* state) { return static_cast<const Shared*>(state)->stop.load(); }, &shared);
        inner.progress = [&shared](const CheckProgress& progress) {
            shared.share = progress.share;
            shared.games = progress.games;
            shared.positions = progress.positions;
            shared.faults = progress.faults;
        };
        const Ending ending = in_a_process(
            shared, watch_.seconds_a_call, false,
            [&](const auto& write) {
                Noting noting(noted_game(kit_.game, shared.note), shared);
                const CheckReport report = check_noted(kit_, inner, shared.note, &noting);
                write(bytes_of(report));
            },
            [&] {
                if (options_.stop.stop_requested()) shared.stop = true;
                tell();
            });
        Reading reading(ending.bytes);
        if (ending.of_its_own) return report_of(reading);
        CheckReport report;
        report.games = shared.games;
        report.positions = shared.positions;
        report.faults.push_back(fault_of(ending));
        if (shared.faults > 0)
            report.remarks.push_back(std::to_string(shared.faults) +
                                     " other faults had been found before; they are reported once this one is mended");
        report.seconds = now() - begun;
        report.complete = !options_.stop.stop_requested();
        return report;
    }

   private:
    void tell() const {
        if (!options_.progress) return;
        const Shared& shared = *memory_;
        options_.progress({shared.stage.load(), shared.share.load(), shared.games.load(), shared.positions.load(),
                           static_cast<std::size_t>(shared.faults.load())});
    }

    static std::string bytes_of(const CheckReport& report) {
        Writing writing;
        writing.add(static_cast<std::uint64_t>(report.faults.size()));
        for (const Fault& fault : report.faults) writing.add(fault);
        writing.add(report.remarks);
        writing.add(static_cast<std::uint64_t>(report.games));
        writing.add(report.positions);
        writing.add(report.seconds);
        writing.add(static_cast<std::uint64_t>(report.complete));
        return writing.bytes();
    }
    static CheckReport report_of(Reading& reading) {
        CheckReport report;
        for (std::uint64_t left = reading.number(); left > 0 && reading.is_sound(); --left)
            report.faults.push_back(reading.fault());
        report.remarks = reading.texts();
        report.games = static_cast<int>(reading.number());
        report.positions = reading.number();
        report.seconds = reading.real();
        report.complete = reading.number() != 0;
        return report;
    }

    /// Of what the process ended with: the moves are followed, and made fewer, in further processes.
    Fault fault_of(const Ending& ending) {
        Shared& shared = *memory_;
        const std::string stage = shared.stage.load();
        const std::vector<std::uint32_t> places(shared.places.begin(), shared.places.begin() + shared.length.load());
        const bool endless = ending.too_long;
        Fault fault;
        fault.law = endless ? "endless call" : "crash";
        fault.function = shared.note.function.load();
        fault.what = said(ending, stage);
        fault.repeats = false;
        // How the moves are called, and fewer of them, may break as well.
        const Ending found = in_a_process(
            shared, 60.0, true,
            [&](const auto& write) {
                Path path = path_of(places);
                const auto in_hand = breaks(path, stage, endless);
                const bool again = in_hand.has_value();
                if (in_hand && in_hand->size() <= path.size()) path = *in_hand;
                if (again) shorten(path, stage, endless);
                Writing writing;
                writing.add(static_cast<std::uint64_t>(again));
                std::string text;
                writing.add(names_of(path, text));
                writing.add(text);
                write(writing.bytes());
            },
            [] {});
        Reading reading(found.bytes);
        const bool again = reading.number() != 0;
        std::vector<std::string> moves = reading.texts();
        std::string position = reading.text();
        if (!reading.is_sound()) {
            fault.what += " (after " + std::to_string(places.size()) + " plies, which cannot be played once more)";
            return fault;
        }
        fault.repeats = again;
        fault.moves = std::move(moves);
        fault.position = std::move(position);
        return fault;
    }

    std::string said(const Ending& ending, const std::string& stage) const {
        const std::string where = " while it was " + stage_text(stage);
        if (ending.too_long) return "one call took more than " + number_text(watch_.seconds_a_call) + " s" + where;
        if (ending.signal != 0) return std::string("the process died: ") + ::strsignal(ending.signal) + where;
        return "the process ended with status " + std::to_string(ending.status) + where +
               "; what it said stands on its error stream";
    }
    static std::string stage_text(const std::string& stage) {
        if (stage == "values") return "compared with what searches find";
        if (stage == "draws") return "asked for what is drawn at random";
        if (stage == "asking in threads") return "asked by several threads at once";
        return "asked about a position, or about what comes after it";
    }

    Path path_of(const std::vector<std::uint32_t>& places) const {  // the last move is not played
        Path path;
        AnyPosition position = kit_.game.initial_position();
        for (std::size_t i = 0; i < places.size(); ++i) {
            MoveList<AnyMove> moves;
            generate_what_is_next(kit_.game, position, moves);
            if (places[i] >= moves.size()) break;
            path.push_back(moves[places[i]]);
            if (i + 1 < places.size()) kit_.game.play(position, path.back());
        }
        return path;
    }

    std::vector<std::string> names_of(const Path& path, std::string& text) const {
        std::vector<std::string> names;
        AnyPosition position = kit_.game.initial_position();
        for (std::size_t i = 0; i < path.size(); ++i) {
            names.push_back(move_name_of(kit_.game, position, path[i]));
            if (i + 1 == path.size()) break;
            kit_.game.play(position, path[i]);
        }
        // The last move itself may be what breaks; then the position before it is shown by nothing.
        const Ending last = in_a_process(
            *memory_, 1.0, true,
            [&](const auto& write) {
                AnyPosition after = position;
                if (!path.empty()) kit_.game.play(after, path.back());
                if (offers(kit_.game, Ability::Text)) write(kit_.game.position_text(after));
            },
            [] {});
        text = last.of_its_own ? last.bytes : "";
        return names;
    }

    /// What was in hand when looking at the end of the path ended a process in the same way; nothing if it does not.
    std::optional<Path> breaks(const Path& path, const std::string& stage, bool endless) {
        Shared& shared = *memory_;
        shared.length = 0;
        const Ending ending = in_a_process(
            shared, endless ? std::min(watch_.seconds_a_call, 1.0) : watch_.seconds_a_call, true,
            [&](const auto&) {
                Noting noting(noted_game(kit_.game, shared.note), shared);
                examine_path(kit_, options_, path, stage, shared.note, &noting);
            },
            [] {});
        if (endless ? !ending.too_long : ending.of_its_own || ending.too_long) return std::nullopt;
        return path_of({shared.places.begin(), shared.places.begin() + shared.length.load()});
    }

    void shorten(Path& path, const std::string& stage, bool endless) {
        int left = endless ? 20 : 600;
        const double until = now() + 20.0;
        const auto without = [&](std::size_t from, std::size_t many, std::optional<std::size_t> other = {}) {
            Path shorter = path;
            if (other) shorter.erase(shorter.begin() + static_cast<std::ptrdiff_t>(*other));
            shorter.erase(shorter.begin() + static_cast<std::ptrdiff_t>(from),
                          shorter.begin() + static_cast<std::ptrdiff_t>(from + many));
            if (left <= 0 || now() > until || !is_line_of_play(kit_.game, shorter)) return false;
            --left;
            auto in_hand = breaks(shorter, stage, endless);
            if (!in_hand || in_hand->size() >= path.size()) return false;
            path = std::move(*in_hand);
            return true;
        };
        for (bool any = true; any && left > 0;) {
            any = false;
            for (std::size_t many = std::max<std::size_t>(1, path.size() / 2);; many /= 2) {
                for (std::size_t from = 0; from + many <= path.size();)
                    if (without(from, many))
                        any = true;
                    else
                        ++from;
                if (many <= 1) break;
            }
            for (std::size_t i = 0; i < path.size(); ++i)
                for (std::size_t j = i + 2; j < path.size(); ++j)
                    if (without(i, 1, j)) {
                        any = true;
                        i = 0;
                        j = 1;
                    }
        }
    }

    const GameKit& kit_;
    const CheckOptions& options_;
    const WatchOptions& watch_;
    SharedMemory memory_;
};

}  // namespace

}  // namespace detail

CheckReport check_kit_watched(const GameKit& kit, const CheckOptions& options, const WatchOptions& watch) {
    require_in_range(options);
    if (!(watch.seconds_a_call > 0) || !std::isfinite(watch.seconds_a_call))
        throw InputError("seconds a call", number_text(watch.seconds_a_call) + " is out of range", "more than 0");
    return detail::WatchedCheck(kit, options, watch).check();
}

}  // namespace arvek
