// The program as a process: pipes, terminals, interrupts.

#include <fcntl.h>
#include <gtest/gtest.h>
#include <poll.h>
#include <pty.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <chrono>
#include <csignal>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <set>
#include <sstream>
#include <string>
#include <thread>
#include <vector>

#include "support/json.hpp"
#include "support/sanitized.hpp"

namespace {

using namespace std::chrono_literals;
using testing_support::parsed;

/// The program with its input and output in the test's hands.
class Program {
   public:
    enum class Ends { Pipes, Terminal };

    /// `lines`: of a terminal of so many columns; 0: it does not say how large it is. `largest_file`: in bytes; 0: any.
    Program(std::vector<std::string> arguments, Ends ends, bool no_colour = false, unsigned short lines = 0,
            unsigned short columns = 80, rlim_t largest_file = 0) {
        arguments.insert(arguments.begin(), ARVEK_PROGRAM);
        std::vector<char*> raw;
        for (std::string& argument : arguments) raw.push_back(argument.data());
        raw.push_back(nullptr);
        std::array<int, 2> to{}, from{};
        if (ends == Ends::Pipes) {
            if (pipe2(to.data(), O_CLOEXEC) != 0 || pipe2(from.data(), O_CLOEXEC) != 0) std::abort();
            process_ = fork();
        } else {
            int terminal = -1;
            winsize size{lines, columns, 0, 0};
            process_ = forkpty(&terminal, nullptr, nullptr, lines > 0 ? &size : nullptr);
            to[1] = from[0] = terminal;
        }
        if (process_ == 0) {
            if (ends == Ends::Pipes) {
                dup2(to[0], STDIN_FILENO);
                dup2(from[1], STDOUT_FILENO);
                dup2(from[1], STDERR_FILENO);
            }
            setenv("TERM", "xterm", 1);
            const rlimit files{largest_file, largest_file};
            if (largest_file > 0) setrlimit(RLIMIT_FSIZE, &files);
            no_colour ? setenv("NO_COLOR", "1", 1) : unsetenv("NO_COLOR");
            execv(raw[0], raw.data());
            _exit(127);
        }
        if (ends == Ends::Pipes) {
            close(to[0]);
            close(from[1]);
        }
        in_ = to[1];
        out_ = from[0];
    }

    ~Program() {
        if (process_ > 0) {
            kill(process_, SIGKILL);
            waitpid(process_, nullptr, 0);
        }
        close_input();
        close(out_);
    }

    void type(const std::string& typed) {
        ASSERT_EQ(write(in_, typed.data(), typed.size()), static_cast<ssize_t>(typed.size()));
    }
    void close_input() {
        if (in_ != out_ && in_ >= 0) close(in_);
        in_ = -1;
    }
    void interrupt() const { kill(process_, SIGINT); }
    /// Ends it at once, as a power cut would; false when it had ended by itself.
    bool end_at_once() {
        kill(process_, SIGKILL);
        int status = 0;
        waitpid(process_, &status, 0);
        process_ = -1;
        return WIFSIGNALED(status);
    }

    /// Reads until `part` has come, or the end.
    bool read_until(const std::string& part) {
        const auto deadline = std::chrono::steady_clock::now() + 20s;
        while (text.find(part) == std::string::npos && std::chrono::steady_clock::now() < deadline) {
            pollfd ready{out_, POLLIN, 0};
            if (poll(&ready, 1, 100) <= 0) continue;
            std::array<char, 4096> block{};
            const ssize_t got = read(out_, block.data(), block.size());
            if (got <= 0) break;
            text.append(block.data(), static_cast<std::size_t>(got));
        }
        return text.find(part) != std::string::npos;
    }

    /// The exit status; -1 when it was ended by a signal or does not end.
    int wait_for_end() {
        read_until("\xff nothing writes this");
        for (int i = 0; i < 1'000; ++i) {
            int status = 0;
            if (waitpid(process_, &status, WNOHANG) == process_) {
                process_ = -1;
                return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
            }
            std::this_thread::sleep_for(10ms);
        }
        return -1;
    }

    std::string text;

   private:
    pid_t process_ = -1;
    int in_ = -1;
    int out_ = -1;
};

}  // namespace

TEST(Process, PlaysThroughAPipeWithoutColours) {
    Program program({"play", "lanterns", "--seed", "1"}, Program::Ends::Pipes);
    program.type("c3\nquit");
    program.close_input();
    EXPECT_EQ(program.wait_for_end(), 0);
    EXPECT_NE(program.text.find("teal> c3"), std::string::npos);
    EXPECT_NE(program.text.find("Amber plays"), std::string::npos);
    EXPECT_EQ(program.text.find('\x1b'), std::string::npos);
}

TEST(Process, LeavesCleanlyOnAnInterruptAtThePrompt) {
    for (const auto ends : {Program::Ends::Pipes, Program::Ends::Terminal}) {
        Program program({"play", "lanterns"}, ends);
        ASSERT_TRUE(program.read_until("teal> "));
        program.interrupt();
        EXPECT_EQ(program.wait_for_end(), 0) << program.text;
        EXPECT_NE(program.text.find("The game is left as it is."), std::string::npos) << program.text;
    }
}

TEST(Process, LeavesCleanlyOnAnInterruptWhileTheOpponentTakesItsTime) {
    Program program({"play", "lanterns", "--as", "amber", "--pace", "600"}, Program::Ends::Pipes);
    ASSERT_TRUE(program.read_until("a  b  c  d  e\n"));
    std::this_thread::sleep_for(200ms);
    program.interrupt();
    EXPECT_EQ(program.wait_for_end(), 0) << program.text;
}

TEST(Process, LeavesCleanlyOnAnInterruptInTheMiddleOfASearch) {
    Program program({"play", "lanterns", "--as", "amber", "--opponent", "alphabeta", "--pace", "0"},
                    Program::Ends::Pipes);
    ASSERT_TRUE(program.read_until("a  b  c  d  e\n"));
    program.interrupt();
    EXPECT_EQ(program.wait_for_end(), 0) << program.text;
}

TEST(Process, PaintsOnATerminalAndNotWithNoColor) {
    for (const bool no_colour : {false, true}) {
        Program program({"play", "lanterns", "--pace", "0"}, Program::Ends::Terminal, no_colour);
        ASSERT_TRUE(program.read_until("teal> "));
        program.type("c3\n");
        ASSERT_TRUE(program.read_until("plays"));
        program.type("quit\n");
        EXPECT_EQ(program.wait_for_end(), 0) << program.text;
        EXPECT_EQ(program.text.find("\x1b[1;38;5;30m") != std::string::npos, !no_colour);
    }
}

TEST(Process, DrawsOverTheBoardWhereTheTerminalHasRoom) {
    const std::string over = "\x1b[H\x1b[J";
    const auto played = [&](std::vector<std::string> more, unsigned short lines) {
        std::vector<std::string> arguments{"play", "lanterns", "--pace", "0", "--seed", "1"};
        arguments.insert(arguments.end(), more.begin(), more.end());
        Program program(arguments, Program::Ends::Terminal, true, lines);
        EXPECT_TRUE(program.read_until("teal> "));
        program.type("c3\n");
        EXPECT_TRUE(program.read_until("Amber plays"));
        program.type("back\n");
        EXPECT_TRUE(program.read_until("Taken back."));
        program.type("z9\n");
        EXPECT_TRUE(program.read_until("'z9'"));
        program.type("quit\n");
        EXPECT_EQ(program.wait_for_end(), 0) << program.text;
        return program.text;
    };
    const std::string text = played({}, 30);
    // The board at first, after the person's move, after the answer, and taken back; each with what was said below it.
    const auto screens = [&] {
        std::vector<std::string> all;
        for (std::size_t at = text.find(over); at != std::string::npos;) {
            const std::size_t next = text.find(over, at + 1);
            all.push_back(text.substr(at, next == std::string::npos ? next : next - at));
            at = next;
        }
        return all;
    }();
    ASSERT_EQ(screens.size(), 4u) << text;
    for (const std::string& screen : screens) {
        EXPECT_NE(screen.find("You are Teal"), std::string::npos) << screen;
        EXPECT_NE(screen.find("a  b  c  d  e"), std::string::npos) << screen;
    }
    EXPECT_LT(screens[1].find("a  b  c  d  e"), screens[1].find("Teal plays c3.")) << screens[1];
    EXPECT_LT(screens[2].find("Teal plays c3."), screens[2].find("Amber plays")) << screens[2];
    EXPECT_EQ(screens[3].find("Amber plays"), std::string::npos) << screens[3];
    // One after another where it is asked for, and where the board would not fit.
    EXPECT_EQ(played({"--scroll"}, 30).find(over), std::string::npos);
    EXPECT_EQ(played({}, 9).find(over), std::string::npos);
}

TEST(Process, GivesTheExitStatusOfItsErrors) {
    Program program({"decide", "lanterns", "--depth", "-3"}, Program::Ends::Pipes);
    EXPECT_EQ(program.wait_for_end(), 2);
    EXPECT_EQ(program.text, "arvek: --depth: -3 is out of range (expected 0 to 1000)\n");
}

TEST(Process, AMatchThatIsKilledAtAnyMomentGoesOnToTheSameResult) {
    namespace fs = std::filesystem;
    const std::string path =
        (fs::temp_directory_path() / ("arvek_kill_" + std::to_string(getpid()) + ".jsonl")).string();
    const std::vector<std::string> command{"match",    "lanterns", "standard@6",      "ruled@7", "--games",   "120",
                                           "--seed",   "4",        "--opening-plies", "2",       "--threads", "2",
                                           "--format", "json"};
    const auto counted = [](const std::string& text) {
        auto json = parsed(text);
        for (const char* key : {"seconds_per_move_a", "seconds_per_move_b"}) json.erase(key);
        return json;
    };
    Program whole(command, Program::Ends::Pipes);
    const auto started = std::chrono::steady_clock::now();
    ASSERT_EQ(whole.wait_for_end(), 0);
    const auto long_it_takes = std::chrono::steady_clock::now() - started;
    const auto expected = counted(whole.text);
    auto resumed = command;
    resumed.insert(resumed.end(), {"--record", path, "--resume"});

    std::uint64_t state = 7;  // of the moments to kill at
    const int wanted = testing_support::sanitized ? 10 : 50;
    int kills = 0, finished = 0;
    std::uintmax_t largest = 0;
    for (; kills < wanted; ++finished) {
        fs::remove(path);
        for (;;) {
            Program part(resumed, Program::Ends::Pipes);
            state = state * 6364136223846793005u + 1442695040888963407u;
            std::this_thread::sleep_for(long_it_takes * static_cast<int>(1 + (state >> 33) % 40) / 100);
            if (!part.end_at_once()) break;  // done before it could be killed
            ++kills;
            if (fs::exists(path)) {
                EXPECT_GE(fs::file_size(path), largest / 2) << "what was written stays";
                largest = fs::file_size(path);
            }
            if (kills % 10 == 0) break;
        }
        largest = 0;
        Program last(resumed, Program::Ends::Pipes);
        ASSERT_EQ(last.wait_for_end(), 0) << last.text;
        ASSERT_EQ(counted(last.text), expected) << "after " << kills << " kills";
        std::ifstream file(path);
        std::set<int> numbers;
        std::string line;
        std::getline(file, line);
        while (std::getline(file, line))
            EXPECT_TRUE(numbers.insert(parsed(line).at("number").get<int>()).second) << "a game twice";
        EXPECT_EQ(numbers.size(), 120u);
    }
    EXPECT_GE(kills, wanted);
    fs::remove(path);
}

TEST(Process, AnInterruptedMatchSaysHowFarItCameAndKeepsThat) {
    namespace fs = std::filesystem;
    const std::string path =
        (fs::temp_directory_path() / ("arvek_interrupt_" + std::to_string(getpid()) + ".jsonl")).string();
    const auto lines = [&] {
        std::ifstream file(path);
        return std::count(std::istreambuf_iterator<char>(file), {}, '\n');
    };
    // Once quick games, of which some have ended; once a search that would never end by itself.
    const std::vector<std::vector<std::string>> matches{
        {"match", "sluice", "standard@2", "random", "--games", "100000"},
        {"match", "sluice", "standard", "standard", "--games", "100000", "--set", "basins=12", "--set", "buckets=12"}};
    for (std::size_t i = 0; i < matches.size(); ++i) {
        fs::remove(path);
        auto command = matches[i];
        command.insert(command.end(), {"--record", path});
        Program program(command, Program::Ends::Pipes);
        const auto deadline = std::chrono::steady_clock::now() + 20s;
        while (lines() < (i == 0 ? 3 : 1) && std::chrono::steady_clock::now() < deadline)
            std::this_thread::sleep_for(5ms);
        std::this_thread::sleep_for(300ms);
        program.interrupt();
        EXPECT_EQ(program.wait_for_end(), 1) << program.text;
        EXPECT_NE(program.text.find(std::to_string(lines() - 1) + " of 100000 games"), std::string::npos)
            << program.text;
    }
    fs::remove(path);
}

TEST(Process, SaysWhatBecameOfAFileThatMayNotGrow) {
    const std::string path = testing::TempDir() + "arvek_no_room_" + std::to_string(getpid()) + ".jsonl";
    std::filesystem::remove(path);
    Program program({"match", "lanterns", "random", "random", "--games", "3000", "--record", path},
                    Program::Ends::Pipes, false, 0, 80, 8'192);
    EXPECT_EQ(program.wait_for_end(), 2) << program.text;
    EXPECT_NE(program.text.find(path + ": the file cannot be written to"), std::string::npos) << program.text;
    std::filesystem::remove(path);
}

TEST(Process, ProgressFitsTheTerminal) {
    for (const unsigned short columns : std::array<unsigned short, 2>{40, 100}) {
        Program program({"match", "lanterns", "random", "random", "--games", "3000"}, Program::Ends::Terminal, true, 30,
                        columns);
        ASSERT_TRUE(program.read_until(" of 3000")) << program.text;
        ASSERT_EQ(program.wait_for_end(), 0) << program.text;
        std::size_t longest = 0;
        std::istringstream drawn(program.text.substr(0, program.text.rfind(" left")));
        for (std::string line; std::getline(drawn, line, '\r');) longest = std::max(longest, line.size());
        EXPECT_LT(longest, columns);
        EXPECT_GT(longest, 38u);
        EXPECT_EQ(program.text.find("==") == std::string::npos, columns == 40) << "the bar gives way to the figures";
    }
}
