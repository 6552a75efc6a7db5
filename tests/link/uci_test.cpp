#include "arvek/link/uci_server.hpp"

#include <gtest/gtest.h>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/game/text.hpp>

#include <algorithm>
#include <cstdio>
#include <fstream>
#include <set>

#include "arvek/link/child.hpp"
#include "chess/chess.hpp"
#include "support/dice.hpp"
#include "support/tool.hpp"

using arvek::link::Child;
using testing_support::run;
using testing_support::words;
using waterway::Chess;

namespace {

class Engine {
   public:
    Engine() : child_({.command = {ARVEK_PROGRAM, "uci", "chess"}}) {}
    void tell(const std::string& line) { child_.write_line(line, 5.0); }
    /// The lines up to the one that begins with the word, which is the last.
    std::vector<std::string> until(const std::string& word, double seconds = 20.0) {
        std::vector<std::string> lines;
        while (auto line = child_.read_line(seconds)) {
            lines.push_back(*line);
            if (line->starts_with(word)) return lines;
        }
        ADD_FAILURE() << "there was no " << word;
        lines.push_back("");
        return lines;
    }
    std::string best(const std::string& go) {
        tell(go);
        return words(until("bestmove").back()).at(1);
    }
    bool says_no_more(double seconds) { return !child_.read_line(seconds); }
    bool has_ended() {
        for (int i = 0; i < 100 && child_.is_running(); ++i) try {
                (void)child_.read_line(0.02);
            } catch (const arvek::link::ProgramError&) {
            }
        return !child_.is_running();
    }

   private:
    Child child_;
};

std::string field_after(const std::string& line, const std::string& word) {
    const auto all = words(line);
    for (std::size_t i = 0; i + 1 < all.size(); ++i)
        if (all[i] == word) return all[i + 1];
    return "";
}

/// A game of chance whose moves have coordinates.
struct Rolls : testing_support::Dice {
    std::string position_text(const Position& p) const {
        return std::to_string(p.sums[0]) + "," + std::to_string(p.sums[1]) + "," + std::to_string(p.roll) + "," +
               std::to_string(p.turns);
    }
    Position read_position(std::string_view text) const {
        Position p;
        if (std::sscanf(std::string(text).c_str(), "%d,%d,%d,%d", &p.sums[0], &p.sums[1], &p.roll, &p.turns) != 4)
            throw arvek::InputError("", "no four numbers");
        return p;
    }
    std::string move_text(const Position&, const Move& move) const {
        return move == keep ? "keep" : move == let_go ? "let_go" : std::to_string(move);
    }
    std::string coordinates(const Position& p, const Move& move) const { return move_text(p, move); }
    double units_per_doubling() const { return 2.0; }
};

}  // namespace

TEST(Uci, GreetsAndAnswers) {
    Engine engine;
    engine.tell("uci");
    const auto greeting = engine.until("uciok");
    EXPECT_EQ(greeting.front(), "id name arvek");
    EXPECT_GE(std::count_if(greeting.begin(), greeting.end(),
                            [](const auto& line) { return line.starts_with("option name "); }),
              6);
    engine.tell("isready");
    EXPECT_EQ(engine.until("readyok").size(), 1u);
    engine.tell("position startpos moves e2e4 e7e5");
    engine.tell("go depth 4");
    const auto lines = engine.until("bestmove");
    ASSERT_GE(lines.size(), 5u);
    int depth = 0;
    for (const auto& line : lines) {
        if (!line.starts_with("info depth")) continue;
        EXPECT_GE(std::stoi(field_after(line, "depth")), depth);
        depth = std::stoi(field_after(line, "depth"));
        EXPECT_NE(line.find(" score cp "), std::string::npos) << line;
        EXPECT_FALSE(field_after(line, "pv").empty()) << line;
    }
    EXPECT_EQ(depth, 4);
    engine.tell("quit");
    EXPECT_TRUE(engine.has_ended());
}

TEST(Uci, FindsMatesAndSaysThem) {
    Engine engine;
    engine.tell("position fen 8/8/8/6N1/8/r7/p1Q2Kpk/8 w - - 0 1");
    engine.tell("go mate 2");
    const auto lines = engine.until("bestmove");
    EXPECT_EQ(words(lines.back()).at(1), "c2h7");
    EXPECT_NE(lines[lines.size() - 2].find("score mate 2"), std::string::npos) << lines[lines.size() - 2];
    // The other side is told that it is mated.
    engine.tell("position fen 8/7Q/8/6N1/8/r7/p4Kpk/8 b - - 1 1");
    engine.tell("go depth 5");
    const auto others = engine.until("bestmove");
    EXPECT_NE(others[others.size() - 2].find("score mate -1"), std::string::npos) << others[others.size() - 2];
}

TEST(Uci, KeepsToEveryKindOfLimit) {
    Engine engine;
    engine.tell("position startpos");
    for (const char* go : {"go depth 3", "go nodes 5000", "go movetime 60", "go wtime 2000 btime 2000 winc 10 binc 10",
                           "go wtime 300 btime 300 movestogo 1", "go wtime 1 btime 1"}) {
        const double begin = arvek::steady_seconds();
        EXPECT_NO_THROW((void)arvek::move_from_text(Chess(), Chess().initial_position(), engine.best(go))) << go;
        EXPECT_LT(arvek::steady_seconds() - begin, 2.0) << go;
    }
    const std::string chosen = engine.best("go depth 3 searchmoves a2a3 h2h3");
    EXPECT_TRUE(chosen == "a2a3" || chosen == "h2h3") << chosen;
    EXPECT_EQ(engine.best("go searchmoves a2a3 depth 2"), "a2a3");
}

TEST(Uci, InfiniteAndPonderingSearchesWaitToBeAsked) {
    Engine engine;
    // Mate in one is soon found to the end: it must not be said before it is asked for.
    engine.tell("position fen 7k/8/5K2/8/8/8/8/6Q1 w - - 0 1");
    engine.tell("go infinite");
    std::vector<std::string> lines;
    EXPECT_NO_THROW(lines = engine.until("info depth 1"));
    engine.tell("isready");
    for (const auto& line : engine.until("readyok")) EXPECT_FALSE(line.starts_with("bestmove"));
    engine.tell("stop");
    (void)engine.until("bestmove");
    engine.tell("position startpos moves e2e4");
    engine.tell("go ponder wtime 1000 btime 1000");
    engine.tell("isready");
    for (const auto& line : engine.until("readyok")) EXPECT_FALSE(line.starts_with("bestmove"));
    const double begin = arvek::steady_seconds();
    engine.tell("ponderhit");
    (void)engine.until("bestmove");
    EXPECT_LT(arvek::steady_seconds() - begin, 1.5);
}

TEST(Uci, GivesSeveralLinesAtOnce) {
    Engine engine;
    engine.tell("setoption name MultiPV value 3");
    engine.tell("position startpos");
    engine.tell("go depth 3");
    const auto lines = engine.until("bestmove");
    std::set<std::string> first_moves;
    for (const auto& line : lines)
        if (field_after(line, "depth") == "3") {
            EXPECT_FALSE(field_after(line, "multipv").empty()) << line;
            first_moves.insert(field_after(line, "pv"));
        }
    EXPECT_EQ(first_moves.size(), 3u);
}

TEST(Uci, WordsThatNobodyKnowsArePassedOver) {
    Engine engine;
    engine.tell("joho position startpos");
    EXPECT_EQ(engine.best("go quickly depth 2 please").size(), 4u);
    EXPECT_EQ(engine.best("well go depth x nodes 500").size(), 4u);
    EXPECT_EQ(engine.best("go searchmoves e2e5 a2a3 depth 2"), "a2a3") << "what is not legal is left out";
    engine.tell("position fen 8/8/8/8/8/8/8/8 w - - 0 1");
    EXPECT_EQ(engine.best("go depth 2"), "(none)") << "not from the position before the wrong one";
    engine.tell("position startpos moves e2e4");
    EXPECT_NE(engine.best("go depth 2"), "(none)");
}

TEST(Uci, DrawsAreForTheInterfaceToClaim) {
    Engine engine;
    // The start position for the third time, and on from there.
    const std::string shuffle = " g1f3 g8f6 f3g1 f6g8";
    engine.tell("position startpos moves" + shuffle + shuffle);
    EXPECT_EQ(engine.best("go depth 2").size(), 4u);
    engine.tell("position startpos moves" + shuffle + shuffle + " e2e4 e7e5");
    EXPECT_EQ(engine.best("go depth 2").size(), 4u);
    // A hundred plies without a capture or a pawn's move; bare kings.
    engine.tell("position fen 7k/8/8/8/8/8/R7/K7 w - - 99 80 moves a2a3");
    EXPECT_EQ(engine.best("go depth 2").substr(0, 2), "h8");
    engine.tell("position fen 7k/8/8/8/8/8/8/K7 w - - 0 1 moves a1a2 h8h7");
    EXPECT_EQ(engine.best("go depth 2").substr(0, 2), "a2");
    engine.tell("position fen 7k/8/8/8/8/8/8/K7 w - - 0 1 moves a1a3");
    EXPECT_EQ(engine.best("go depth 2"), "(none)") << "an illegal move";
}

TEST(Uci, TheFirstOfSeveralLinesIsPlayed) {
    Engine engine;
    engine.tell("setoption name MultiPV value 4");
    engine.tell("setoption name Level value 1");
    for (int seed = 1; seed < 12; ++seed) {
        engine.tell("setoption name Seed value " + std::to_string(seed));
        engine.tell("position startpos moves e2e4");
        engine.tell("go depth 2");
        const auto lines = engine.until("bestmove");
        std::string first;
        for (const auto& line : lines)
            if (field_after(line, "multipv") == "1") first = field_after(line, "pv");
        EXPECT_EQ(words(lines.back()).at(1), first);
    }
}

TEST(Uci, NoInputBreaksIt) {
    Engine engine;
    for (const char* line : {"",
                             "   ",
                             "hello",
                             "position",
                             "position fen",
                             "position fen 8/8 w - - 0 1",
                             "position startpos moves e2e5",
                             "position moon",
                             "go depth",
                             "go depth x",
                             "go depth -5",
                             "go fast",
                             "go movetime -1",
                             "stop",
                             "ponderhit",
                             "setoption",
                             "setoption name",
                             "setoption name Level value 11",
                             "setoption name Level value",
                             "stop",
                             "setoption name Nothing value 1",
                             "setoption name Opponent value nobody",
                             "debug on",
                             "\x01\x02\xff",
                             "ucinewgame"})
        engine.tell(line);
    engine.tell("isready");
    for (const auto& line : engine.until("readyok"))
        EXPECT_TRUE(line.starts_with("info string ") || line.starts_with("bestmove ") ||
                    line.starts_with("info depth") || line == "readyok")
            << line;
    // A new position while it thinks ends that first.
    engine.tell("position startpos");
    engine.tell("go infinite");
    engine.tell("position startpos moves e2e4");
    engine.tell("go depth 2");
    EXPECT_TRUE(engine.until("bestmove").back().starts_with("bestmove"));
    EXPECT_TRUE(engine.until("bestmove").back().starts_with("bestmove"));
    // A finished game has no best move.
    engine.tell("position fen 7k/5Q2/6K1/8/8/8/8/8 b - - 0 1");
    EXPECT_EQ(engine.best("go depth 3"), "(none)");
    EXPECT_TRUE(engine.says_no_more(0.1));
    EXPECT_EQ(run({"uci", "lanterns"}).status, 2);
}

TEST(Uci, BothWaysWithItself) {
    const std::string file = testing::TempDir() + "itself.toml";
    std::ofstream(file) << "name = \"Itself\"\ngame = \"chess\"\nchoose = \"program\"\n[program]\ncommand = [\""
                        << ARVEK_PROGRAM
                        << "\", \"uci\", \"chess\"]\n[program.options]\nLevel = 3\n[limits]\nnodes = 300\n";
    const auto ran = run({"match", "chess", file, "standard@2", "--games", "4", "--threads", "2", "--format", "json"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    const auto json = ran.json();
    EXPECT_EQ(json["games"], 4);
    EXPECT_EQ(json["faults_a"], 0) << ran.out;
    const auto decided = run({"decide", "chess", "--opponent", file});
    EXPECT_EQ(decided.status, 0) << decided.err;
    EXPECT_NE(decided.out.find("Itself plays "), std::string::npos) << decided.out;
}

// "standard" is another search there, without threads of its own.
TEST(Uci, SetsOnlyWhatTheSearchOfTheGameHas) {
    const arvek::OpenGame open{"rolls", {}, arvek::game_kit(Rolls())};
    std::istringstream in(
        "setoption name Threads value 2\nsetoption name Hash value 8\nposition startpos\ngo depth 3\n"
        "position startpos moves 6\ngo depth 3\n");
    std::ostringstream out;
    arvek::link::serve_uci(open, in, out, {});
    // Nothing is to be decided before the die is thrown.
    EXPECT_TRUE(out.str().starts_with("bestmove (none)\n")) << out.str();
    const std::string said = out.str();
    const std::string best = words(said.substr(said.rfind("bestmove"))).at(1);
    EXPECT_TRUE(best == "keep" || best == "let_go") << said;
    EXPECT_EQ(out.str().find("info string"), std::string::npos) << out.str();
}

TEST(Uci, NoClockRunsOut) {
    struct Terms {
        double clock, increment;
        long long moves;  // in each part of the game; 0: one part
    };
    // A referee whose clock is a number: what is thought about goes off it, and something for the way.
    for (const Terms& terms : std::vector<Terms>{{1, 0.01, 0},
                                                 {5, 0, 40},
                                                 {0.5, 2, 0},
                                                 {0.06, 0.02, 0},
                                                 {60, 0.6, 0},
                                                 {3'600, 0, 40},
                                                 {10, 0, 1},
                                                 {1, 0.05, 200}})
        for (const double way : {0.0, 0.004, 0.009}) {
            double clock = terms.clock, shortest = 1e9;
            for (long long move = 0; move < 400; ++move) {
                const long long in_part = terms.moves > 0 ? move % terms.moves : 0;
                if (terms.moves > 0 && in_part == 0 && move > 0) clock += terms.clock;
                std::optional<long long> to_go;
                if (terms.moves > 0) to_go = terms.moves - in_part;
                const double thinks = arvek::link::seconds_to_think(clock, terms.increment, to_go);
                clock -= thinks + way;
                if (move > 10) shortest = std::min(shortest, thinks);
                if (terms.increment == 0 && terms.moves == 0) continue;
                // Where moves without an increment outlast the clock by their ways alone, nobody can help it.
                ASSERT_GT(clock, static_cast<double>(terms.moves) * way > terms.clock ? -1e9 : 0.0)
                    << terms.clock << "+" << terms.increment << " move " << move << " way " << way;
                clock += terms.increment;
            }
            EXPECT_GE(shortest, 0.001);
            if (terms.increment > 0.015) {
                EXPECT_GT(shortest, 0.2 * terms.increment) << "what each move brings is used";
            }
        }
}
