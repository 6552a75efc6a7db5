#include "arvek/link/program.hpp"

#include <fcntl.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <thread>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/game/input_error.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/profile.hpp>
#include <arvek/session/session.hpp>

#include "chess/chess.hpp"
#include "support/compiled_games.hpp"
#include "support/sanitized.hpp"

using arvek::link::Child;
using arvek::link::ProgramError;
using arvek::link::Trouble;
using waterway::Chess;

namespace {

/// How often each wrong way is tried; more of it by hand.
int times_tried() {
    const char* times = std::getenv("ARVEK_TEST_TIMES");
    return times != nullptr ? std::max(1, std::atoi(times)) : 2;
}

/// A program with sanitizers takes its time to start.
const std::string start_seconds = testing_support::sanitized ? "3" : "0.5";

std::string stand_in_profile(const std::string& command, const std::string& more = "") {
    return "name = \"Stand-in\"\ngame = \"chess\"\nchoose = \"program\"\n[limits]\nseconds = 0.02\n[program]\ncommand "
           "= " +
           command + "\nstart_seconds = " + start_seconds + "\nanswer_seconds = 0.3\n" + more;
}
std::string stand_in_command(const std::string& way, const std::string& file = "") {
    return std::string("[\"") + ARVEK_STAND_IN + "\", \"" + way + "\"" + (file.empty() ? "" : ", \"" + file + "\"") +
           "]";
}

std::unique_ptr<arvek::Opponent<arvek::AnyGame>> program_of(const std::string& profile) {
    static const Chess game;
    static const arvek::ChooserSet choosers = [] {
        arvek::ChooserSet set = arvek::Choosers<Chess>::built_in().erased();
        set.add(arvek::link::program_info(), &arvek::link::make_program);
        return set;
    }();
    return arvek::make_opponent(arvek::AnyGame(game),
                                arvek::opponent_of_profile(arvek::read_profile(profile, "stand_in.toml")),
                                {arvek::steady_seconds, {}}, choosers);
}

arvek::AnyView chess_start() {
    static const arvek::AnyGame game{Chess()};
    return game.view(game.initial_position(), arvek::Player::First);
}

/// The children of this process that are still there, ended ones that nobody has waited for included.
int children_left() {
    int children = 0;
    for (const auto& task : std::filesystem::directory_iterator("/proc/self/task")) {
        std::ifstream in(task.path() / "children");
        for (int child = 0; in >> child;) ++children;
    }
    return children;
}

bool is_gone(pid_t process, double seconds) {
    const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
    while (std::chrono::steady_clock::now() < end) {
        if (::kill(process, 0) != 0 && errno == ESRCH) return true;
        // One that was ended and that nobody takes notice of counts as gone.
        std::ifstream stat("/proc/" + std::to_string(process) + "/stat");
        std::string text;
        std::getline(stat, text);
        if (text.find(") Z ") != std::string::npos) return true;
        std::this_thread::sleep_for(std::chrono::milliseconds(10));
    }
    return false;
}

}  // namespace

TEST(Program, TheWholeGroupEndsWithItsCallerWhateverThatDiesOf) {
    for (const int signal : {SIGTERM, SIGHUP, SIGKILL, SIGINT}) {
        int told[2];
        ASSERT_EQ(::pipe(told), 0);
        const pid_t caller = ::fork();
        if (caller == 0) {
            ::signal(SIGTERM, SIG_DFL);
            ::signal(SIGHUP, SIG_DFL);
            ::signal(SIGINT, SIG_DFL);
            // The program leaves another one behind, which keeps none of its pipes open.
            Child child(
                {.command = {"/bin/sh", "-c", "sleep 4321 >/dev/null 2>&1 </dev/null & echo $!; exec sleep 4321"}});
            const auto line = child.read_line(5);
            const int other = line ? std::atoi(line->c_str()) : 0;
            (void)!::write(told[1], &other, sizeof other);
            for (;;) ::pause();
        }
        int other = 0;
        ASSERT_EQ(::read(told[0], &other, sizeof other), static_cast<ssize_t>(sizeof other));
        ASSERT_GT(other, 0);
        EXPECT_EQ(::kill(other, 0), 0);
        ::kill(caller, signal);
        ::waitpid(caller, nullptr, 0);
        EXPECT_TRUE(is_gone(other, 3)) << "after signal " << signal;
        ::close(told[0]);
        ::close(told[1]);
    }
}

TEST(Program, PlaysWhatItIsAskedAndSaysWhatItThinks) {
    const auto opponent =
        program_of(stand_in_profile(stand_in_command("good"), "[program.options]\nthreads = 2\nStyle = \"wild\"\n"));
    const auto decision = opponent->decide(chess_start(), 1);
    ASSERT_EQ(decision.ranked.size(), 20u);
    EXPECT_EQ(decision.searched_by, "Stand-in good");
    EXPECT_TRUE(decision.has_scores);
    EXPECT_EQ(decision.ranked.front().score, arvek::Score::estimate(17));
    EXPECT_EQ(decision.stats.depth, 3);
    EXPECT_EQ(decision.stats.nodes, 42u);
    EXPECT_EQ(decision.move, decision.ranked.front().move);
}

TEST(Program, EveryWayToFailIsToldApartInTimeAndLeavesNothingBehind) {
    const std::vector<std::tuple<std::string, Trouble, std::string>> ways{
        {"slower_start", Trouble::Silent, "did not say 'uciok' within " + start_seconds + " s"},
        {"silent_start", Trouble::Silent, "'uciok'"},
        {"never_ready", Trouble::Silent, "'readyok'"},
        {"silent", Trouble::Silent, "gave no move within"},
        {"half_a_line", Trouble::Silent, "gave no move within"},
        {"stops_reading", Trouble::Silent, ""},
        {"illegal_move", Trouble::IllegalMove, "played 'e2e5', which is not legal in rnbqkbnr/"},
        {"null_move", Trouble::IllegalMove, "'0000'"},
        {"no_move", Trouble::Nonsense, "'bestmove' without a move"},
        {"nonsense", Trouble::Nonsense, "'the water is high today'"},
        {"crashes_at_start", Trouble::Crashed, "signal 6"},
        {"crashes", Trouble::Crashed, "signal 11 (Segmentation fault); its last words: the sluice gate is stuck"},
        {"exits_at_start", Trouble::Exited, "ended with status 3; its last words: no licence for this weir"},
        {"exits", Trouble::Exited, "status 4"},
        {"forks_and_dies", Trouble::Exited, "status 5"},
        {"closes_output_at_start", Trouble::ClosedOutput, "closed its output"},
        {"closes_output", Trouble::ClosedOutput, "closed its output"},
        {"floods_at_start", Trouble::Silent, "'uciok'"},
        {"floods", Trouble::Silent, "gave no move"},
        {"floods_one_line", Trouble::TooMuch, "without an end of line"},
    };
    for (int time = 0; time < times_tried(); ++time)
        for (const auto& [way, trouble, words] : ways) {
            const auto begin = std::chrono::steady_clock::now();
            {
                const auto opponent = program_of(stand_in_profile(stand_in_command(way)));
                try {
                    (void)opponent->decide(chess_start(), 1);
                    ADD_FAILURE() << way << " went well";
                } catch (const ProgramError& error) {
                    const std::string said = error.what();
                    // A flood may be cut by time or, on a quick machine, by its size.
                    if (way == "floods" || way == "floods_at_start") {
                        EXPECT_TRUE(error.trouble() == Trouble::Silent || error.trouble() == Trouble::TooMuch) << said;
                    } else {
                        EXPECT_EQ(error.trouble(), trouble) << way << ": " << said;
                        EXPECT_NE(said.find(words), std::string::npos) << way << ": " << said;
                    }
                    EXPECT_EQ(said.find('\n'), std::string::npos);
                }
            }
            const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            EXPECT_LT(took, testing_support::sanitized ? 15.0 : 6.0) << way;
            EXPECT_EQ(children_left(), 0) << way;
        }
}

TEST(Program, OddButHarmlessWaysPlayOn) {
    for (const char* way : {"slow_start", "floods_errors", "ignores_quit", "forks"}) {
        const std::string file = testing::TempDir() + "forked_by_stand_in";
        const auto begin = std::chrono::steady_clock::now();
        {
            const auto opponent = program_of(stand_in_profile(stand_in_command(way, file)));
            EXPECT_NO_THROW((void)opponent->decide(chess_start(), 1)) << way;
        }
        EXPECT_LT(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count(),
                  testing_support::sanitized ? 15.0 : 5.0)
            << way;
        EXPECT_EQ(children_left(), 0) << way;
        if (std::string(way) != "forks") continue;
        pid_t forked = 0;
        std::ifstream(file) >> forked;
        ASSERT_GT(forked, 0);
        EXPECT_TRUE(is_gone(forked, 1.0)) << "what the program had forked goes with it";
    }
}

TEST(Program, IsStartedOnceMoreWhereTheProfileSaysSo) {
    const std::string start = "rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1";
    for (const bool restart : {false, true}) {
        // It ends after each move that it gives.
        const auto opponent =
            program_of(stand_in_profile(stand_in_command("exits_between"), restart ? "restart = true\n" : ""));
        EXPECT_NO_THROW((void)opponent->decide(chess_start(), 1));
        if (restart)
            EXPECT_NO_THROW((void)opponent->decide(chess_start(), 1));
        else
            EXPECT_THROW((void)opponent->decide(chess_start(), 1), ProgramError);
    }
    const auto hopeless = program_of(stand_in_profile(stand_in_command("exits"), "restart = true\n"));
    EXPECT_THROW((void)hopeless->decide(chess_start(), 1), ProgramError);
}

TEST(Program, WrongProfilesAreComplainedOfInTheirPlace) {
    const auto complaint = [](std::string profile) -> std::string {
        // However slow the machine is.
        const std::string limit = "start_seconds = 3\n";
        if (const auto at = profile.find(limit); at != std::string::npos)
            profile.replace(at, limit.size(), "start_seconds = 60\n");
        try {
            (void)program_of(profile)->decide(chess_start(), 1);
        } catch (const std::exception& error) {
            return error.what();
        }
        return "";
    };
    const std::string good = stand_in_command("good");
    for (const auto& [profile, words] : std::vector<std::pair<std::string, std::string>>{
             {"name = \"x\"\ngame = \"chess\"\nchoose = \"program\"\n", "needs a table 'program'"},
             {stand_in_profile("[]"), "is not a list of strings"},
             {stand_in_profile("\"arvek uci chess\""), "is not a list of strings"},
             {stand_in_profile("[\"\"]"), "has no name"},
             {stand_in_profile("[\"/no/such/program\"]"), "line 6, column 1: there is no program '/no/such/program'"},
             {stand_in_profile("[\"no_such_program_of_this_name\"]"),
              "there is no program 'no_such_program_of_this_name'"},
             {stand_in_profile("[\"/etc\"]"), "there is no program '/etc'"},
             {stand_in_profile(good, "folder = \"/no/such/folder\"\n"), "there is no folder '/no/such/folder'"},
             {stand_in_profile(good, "protocol = \"semaphore\"\n"), "there is no protocol 'semaphore'"},
             {stand_in_profile(good, "start_seconds = 0\n"), "start_seconds"},
             {stand_in_profile(good, "commands = []\n"), "command, perhaps"},
             {stand_in_profile(good, "[program.options]\nTreads = 2\n"),
              "has no option 'Treads' (expected Threads, perhaps"},
             {stand_in_profile(good, "[program.options]\nThreads = 9\n"), "(expected an integer from 1 to 8)"},
             {stand_in_profile(good, "[program.options]\nStyle = \"rash\"\n"), "(expected calm or wild)"}}) {
        const std::string said = complaint(profile);
        EXPECT_NE(said.find(words), std::string::npos) << profile << "\ngave: " << said;
    }
    EXPECT_EQ(children_left(), 0);
}

TEST(Program, ALossByFaultIsCountedInAMatch) {
    arvek::OpenGame open{"chess", {}, arvek::game_kit(Chess())};
    open.kit.choosers.add(arvek::link::program_info(), &arvek::link::make_program);
    const arvek::Session session(open);
    const auto spec = [](const std::string& way) {
        return arvek::opponent_of_profile(
            arvek::read_profile(stand_in_profile(stand_in_command(way)), "stand_in.toml"));
    };
    arvek::MatchOptions options{.games = 2, .seed = 1};
    options.clock = arvek::steady_seconds;
    std::vector<std::string> results;
    const auto result = session.match(spec("illegal_move"), spec("good"), options, {},
                                      [&](const arvek::GameRecord& record) { results.push_back(record.result); });
    EXPECT_EQ(result.wins_b, 2);
    ASSERT_EQ(results.size(), 2u);
    EXPECT_NE(results[0].find("played 'e2e5', which is not legal"), std::string::npos) << results[0];
    EXPECT_EQ(children_left(), 0);
}

TEST(Child, GoesWhenItsParentIsKilled) {
    int ends[2];
    ASSERT_EQ(::pipe(ends), 0);
    const pid_t parent = ::fork();
    if (parent == 0) {
        Child child({.command = {ARVEK_STAND_IN, "good"}});
        const pid_t number = child.process_id();
        (void)!::write(ends[1], &number, sizeof number);
        for (;;) ::pause();
    }
    pid_t child = 0;
    ASSERT_EQ(::read(ends[0], &child, sizeof child), static_cast<ssize_t>(sizeof child));
    ::close(ends[0]);
    ::close(ends[1]);
    ASSERT_EQ(::kill(child, 0), 0);
    ::kill(parent, SIGKILL);
    int status = 0;
    ASSERT_EQ(::waitpid(parent, &status, 0), parent);
    EXPECT_TRUE(is_gone(child, 1.0));
}

TEST(Child, InheritsNothingThatItShouldNot) {
    const int file = ::open("/etc/hostname", O_RDONLY);
    ASSERT_GE(file, 0);
    const std::string script =
        "ls /proc/self/fd | tr '\\n' ' '; echo; echo $COLOUR $PWD; cat /proc/self/status | grep -E 'SigBlk|SigIgn'; "
        "echo end";
    Child child({.command = {"/bin/sh", "-c", script}, .folder = "/tmp", .environment = {{"COLOUR", "teal"}}});
    ::close(file);
    std::vector<std::string> lines;
    while (auto line = child.read_line(3.0)) {
        lines.push_back(*line);
        if (*line == "end") break;
    }
    ASSERT_EQ(lines.size(), 5u);
    EXPECT_EQ(lines[0], "0 1 2 3 ") << "3 is the folder that ls reads";
    EXPECT_EQ(lines[1], "teal /tmp");
    EXPECT_NE(lines[2].find("0000000000000000"), std::string::npos) << lines[2];
    EXPECT_NE(lines[3].find("0000000000000000"), std::string::npos) << lines[3];
}

TEST(Child, AFullPipeHangsNobody) {
    // It echoes all it is told, and is told much more than a pipe holds before anything is read.
    Child child({.command = {"/bin/cat"}});
    const std::string line(1'000, 'w');
    for (int i = 0; i < 2'000; ++i) child.write_line(line, 5.0);
    for (int i = 0; i < 2'000; ++i) ASSERT_EQ(child.read_line(5.0), line);
    EXPECT_EQ(child.read_line(0.05), std::nullopt);
}
