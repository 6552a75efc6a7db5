// The program as a process: pipes, terminals, interrupts.

#include <fcntl.h>
#include <gtest/gtest.h>
#include <poll.h>
#include <pty.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <chrono>
#include <csignal>
#include <string>
#include <thread>
#include <vector>

namespace {

using namespace std::chrono_literals;

/// The program with its input and output in the test's hands.
class Program {
   public:
    enum class Ends { Pipes, Terminal };

    Program(std::vector<std::string> arguments, Ends ends, bool no_colour = false) {
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
            process_ = forkpty(&terminal, nullptr, nullptr, nullptr);
            to[1] = from[0] = terminal;
        }
        if (process_ == 0) {
            if (ends == Ends::Pipes) {
                dup2(to[0], STDIN_FILENO);
                dup2(from[1], STDOUT_FILENO);
                dup2(from[1], STDERR_FILENO);
            }
            setenv("TERM", "xterm", 1);
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

    void type(const std::string& text) {
        ASSERT_EQ(write(in_, text.data(), text.size()), static_cast<ssize_t>(text.size()));
    }
    void close_input() {
        if (in_ != out_ && in_ >= 0) close(in_);
        in_ = -1;
    }
    void interrupt() const { kill(process_, SIGINT); }

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
        EXPECT_EQ(program.text.find("\x1b[1;36m") != std::string::npos, !no_colour);
    }
}

TEST(Process, GivesTheExitStatusOfItsErrors) {
    Program program({"decide", "lanterns", "--depth", "-3"}, Program::Ends::Pipes);
    EXPECT_EQ(program.wait_for_end(), 2);
    EXPECT_EQ(program.text, "arvek: --depth: -3 is out of range (expected 0 to 1000)\n");
}
