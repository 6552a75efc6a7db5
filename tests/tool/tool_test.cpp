// The tool in this process: what is written, what is refused, with which status.

#include <gtest/gtest.h>
#include <arvek/tool/tool.hpp>

#include <filesystem>
#include <fstream>
#include <sstream>

#include "every_offer.hpp"
#include "support/json.hpp"
#include "support/sanitized.hpp"
#include "support/tool.hpp"

namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;
using testing_support::parsed;

using testing_support::expect_refused;
using testing_support::Ran;
using testing_support::run;
using testing_support::TemporaryFile;
using testing_support::words;

const std::string small = " --set columns=3 --set rows=3 --set line=3 ";

}  // namespace

TEST(ToolCount, GivesTheAgreedJson) {
    const Json json = run(words("count lanterns" + small + "--depth 9 --format json")).json();
    EXPECT_EQ(json["game"], "lanterns");
    EXPECT_EQ(json["set"], parsed(R"({"columns":3,"rows":3,"line":3,"drop":false,"players":2})"));
    EXPECT_EQ(json["position"], ".../.../... T");
    EXPECT_EQ(json["total_finished"], 255'168);
    EXPECT_EQ(json["counts"][5], parsed(R"({"depth":6,"sequences":54720,"finished":5328})"));
}

TEST(ToolCount, SplitsByFirstMoveWithAndWithoutTheTable) {
    for (const std::string table : {"", " --table"})
        for (const int depth : {1, 6}) {
            const Json json =
                run(words("count sluice --depth " + std::to_string(depth) + " --split --format json" + table)).json();
            std::uint64_t sum = 0;
            for (const Json& entry : json["by_first_move"]) sum += entry["sequences"].get<std::uint64_t>();
            EXPECT_EQ(json["by_first_move"].size(), 6u);
            EXPECT_EQ(sum, json["counts"].back()["sequences"].get<std::uint64_t>());
        }
}

TEST(ToolCount, IsQuickWhereItNeedNotKnowWhatEnds) {
    const Json json = run(words("count chess --depth 4 --quick --format json")).json();
    EXPECT_EQ(json["counts"][3], parsed(R"({"depth":4,"sequences":197281,"finished":null})"));
    EXPECT_EQ(json["total_finished"], 0) << "of three plies, of which none ends the game";
    EXPECT_NE(run(words("count chess --depth 3 --quick")).out.find("finished before the last ply"), std::string::npos);
    EXPECT_EQ(run(words("count chess --depth 3 --quick --table")).status, 2);
}

TEST(ToolDecide, GivesTheAgreedJson) {
    const Json plain = run(words("decide lanterns" + small + "--algorithm minimax --depth 9 --format json")).json();
    EXPECT_EQ(plain["to_move"], "teal");
    EXPECT_EQ(plain["stats"]["nodes"], 549'946);
    EXPECT_EQ(plain["stats"]["leaves"], 255'168);
    ASSERT_EQ(plain["ranked"].size(), 9u);
    for (const Json& entry : plain["ranked"]) {
        EXPECT_EQ(entry["score"], 0);
        EXPECT_EQ(entry["kind"], "exact");
    }
    EXPECT_EQ(plain["move"], plain["ranked"][0]["move"]);
    const Json pruned = run(words("decide lanterns" + small + "--algorithm alphabeta --depth 9 --format json")).json();
    EXPECT_EQ(pruned["ranked"][0]["score"], 0);
    EXPECT_LT(pruned["stats"]["nodes"], 31'000);
    for (const char* key : {"nodes", "leaves", "cutoffs", "table_hits", "depth", "seconds", "stopped_by"})
        EXPECT_TRUE(pruned["stats"].contains(key)) << key;
}

TEST(ToolDecide, SaysWhatIsProven) {
    const Json json = run({"decide", "lanterns", "--set", "columns=3", "--set", "rows=3", "--set", "line=3",
                           "--position", "TT./.A./A.. T", "--format", "json"})
                          .json();
    EXPECT_EQ(json["move"], "c3");
    EXPECT_EQ(json["ranked"][0]["proven"], parsed(R"({"outcome":"win","payoff":1,"plies":1})"));
}

TEST(ToolDecide, RulesGiveReasonsInPlaceOfScores) {
    const Json json = run({"decide", "lanterns", "--opponent", "ruled", "--position", "...../...../TTT../A..../A.... A",
                           "--format", "json"})
                          .json();
    EXPECT_EQ(json["move"], "d3");
    EXPECT_TRUE(json["ranked"][0]["score"].is_null());
    EXPECT_EQ(json["ranked"][0]["reasons"][0], "stop the rival");
    EXPECT_EQ(json["rules"][0]["fired"], false);
    EXPECT_EQ(json["rules"][1]["fired"], true);
    EXPECT_EQ(json["stats"]["stopped_by"], "rule");
}

TEST(ToolDecide, ComparesAlgorithmsAndDepths) {
    const Json json =
        run(words("decide lanterns" + small + "--algorithm minimax,alphabeta --depth 0..4 --format json")).json();
    ASSERT_EQ(json["runs"].size(), 10u);
    for (std::size_t i = 0; i < 10; i += 2) {
        EXPECT_EQ(json["runs"][i]["ranked"][0]["score"], json["runs"][i + 1]["ranked"][0]["score"]);
        EXPECT_GE(json["runs"][i]["stats"]["nodes"], json["runs"][i + 1]["stats"]["nodes"]);
    }
    const Ran text = run(words("decide lanterns" + small + "--algorithm minimax,alphabeta --depth 3"));
    EXPECT_NE(text.out.find("21.16 %"), std::string::npos) << text.out;
}

TEST(ToolDecide, ReadsPositionFilesAndLetsTheCommandLineOverrideThem) {
    const TemporaryFile file(
        "game = \"lanterns\"\nset = { columns = 3, rows = 3, line = 3 }\nposition = \"TT./.A./A.. T\"\n");
    EXPECT_EQ(run({"decide", "lanterns", "--position", file.path(), "--format", "json"}).json()["move"], "c3");
    EXPECT_EQ(run({"decide", "lanterns", "--position", file.path(), "--set", "line=2", "--format", "json"}).status, 2)
        << "Teal has a line of two already";
}

TEST(ToolDecide, WritesTheTreeThatWasSearched) {
    const std::string file =
        (fs::temp_directory_path() / ("arvek_tree_" + std::to_string(::getpid()) + ".json")).string();
    const std::string line = "decide lanterns" + small + "--depth 4 --algorithm alphabeta ";
    const Ran plain = run(words(line)), drawn = run(words(line + "--tree " + file + " --tree-plies 2 --tree-nodes 9"));
    EXPECT_EQ(drawn.status, 0) << drawn.err;
    const auto without_time = [](const std::string& text) { return text.substr(0, text.find(" nodes")); };
    EXPECT_EQ(without_time(drawn.out), without_time(plain.out)) << "drawing must not change the decision";
    std::ifstream in(file);
    const Json tree = parsed(std::string(std::istreambuf_iterator<char>(in), {}));
    fs::remove(file);
    EXPECT_EQ(tree["depth"], 4);
    EXPECT_EQ(tree["to_move"], "teal");
    std::size_t nodes = 0;
    const auto count = [&](const auto& self, const Json& node) -> void {
        ++nodes;
        const std::size_t known = node["children"].size() + node["more"].get<std::size_t>();
        if (node.contains("move") && known > 0) {
            EXPECT_GT(node["positions"], 1);
        }
        for (const Json& child : node["children"]) self(self, child);
    };
    count(count, tree["tree"]);
    EXPECT_EQ(nodes, 9u);
    EXPECT_EQ(tree["tree"]["children"].size() + tree["tree"]["more"].get<std::size_t>(), 9u);
}

TEST(ToolDecide, SearchesWithThreadsAndForTheWinAlone) {
    const Ran two = run(words("decide lanterns" + small + "--threads 2 --format json"));
    EXPECT_EQ(two.status, 0) << two.err;
    EXPECT_EQ(parsed(two.out)["ranked"][0]["score"], 0);
    const std::string sluice = "decide sluice --set basins=3 --set buckets=2 --format json ";
    const Json margin = parsed(run(words(sluice)).out), win = parsed(run(words(sluice + "--win-or-loss")).out);
    EXPECT_NE(margin["ranked"][0]["score"], win["ranked"][0]["score"]);
}

TEST(ToolMatch, GivesTheAgreedJson) {
    const Json json =
        run(words("match lanterns ruled random" + small + "--games 20 --seed 3 --format json --records")).json();
    EXPECT_EQ(json["games"], 20);
    EXPECT_EQ(json["wins_a"].get<int>() + json["draws"].get<int>() + json["wins_b"].get<int>(), 20);
    const double score = json["score_a"];
    EXPECT_DOUBLE_EQ(score, (json["wins_a"].get<double>() + json["draws"].get<double>() / 2) / 20);
    EXPECT_LT(json["interval"][0], score);
    EXPECT_GT(json["interval"][1], score);
    EXPECT_TRUE(json["seconds_per_move_a"].is_number());
    EXPECT_EQ(json["records"].size(), 20u);
    EXPECT_EQ(json["records"][1]["first"], "random");
}

TEST(ToolSolve, GivesTheAgreedJson) {
    const Json won = run(words("solve windlass --set posts=6 --set pegs=3 --format json")).json();
    EXPECT_EQ(won["value"], 1);
    EXPECT_EQ(won["outcome"], "win");
    EXPECT_EQ(won["plies"], 11);
    EXPECT_EQ(won["best"], parsed(R"(["1","2","3","4","5","6"])"));
    EXPECT_EQ(won["method"], "retrograde analysis");
    const Json margin = run(words("solve sluice --set basins=3 --set buckets=3 --format json")).json();
    EXPECT_EQ(margin["value"], 2);
    EXPECT_EQ(margin["outcome"], "win");
    EXPECT_TRUE(margin["plies"].is_null());
    EXPECT_EQ(run(words("solve sluice --set basins=3 --set buckets=3 --win-or-loss --format json")).json()["value"], 1);
    const Ran stopped = run(words("solve lanterns --time 0.05 --memory 1 --format json"));
    EXPECT_EQ(stopped.status, 1);
    EXPECT_TRUE(stopped.json()["value"].is_null());
    EXPECT_EQ(stopped.json()["stats"]["stopped_by"], "time");
}

TEST(ToolCheck, GivesFaultsAndTheExitStatus) {
    for (const std::string game :
         {"lanterns --set columns=4 --set rows=4", "sluice --set relay=true", "windlass --set posts=6 --set pegs=2"}) {
        const Ran ran = run(words("check " + game + " --games 8 --format json"));
        EXPECT_EQ(ran.status, 0) << ran.out;
        EXPECT_EQ(ran.json()["sound"], true);
        EXPECT_EQ(ran.json()["games"], 8);
    }
}

TEST(ToolCheck, HoldsFactsAndLinesAndWatches) {
    const std::string facts = std::string(ARVEK_SOURCE_DIR) + "/demo/lanterns/facts.toml";
    EXPECT_NE(run({"check", "lanterns", "--facts", facts}).out.find("All 6 facts hold"), std::string::npos);
    const Ran wrong = run({"check", "lanterns", "--facts", facts, "--set", "line=3", "--format", "json"});
    EXPECT_EQ(wrong.status, 1);
    EXPECT_EQ(wrong.json()["sound"], false);
    EXPECT_NE(wrong.json()["faults"][0]["at"].get<std::string>().find("line "), std::string::npos);
    EXPECT_NE(run({"check", "lanterns", "--moves", "c3 d4"}).out.find("at the end of these moves"), std::string::npos);
    const Ran watched =
        run(words("check lanterns --set columns=3 --set rows=3 --set line=3 --games 3 --watch 60 --format json"));
    EXPECT_EQ(watched.status, 0) << watched.out;
    EXPECT_EQ(watched.json()["games"], 3);
}

TEST(ToolDecide, SwitchesTechniquesByName) {
    const auto nodes = [](const std::string& more) {
        return run(words("decide sluice --depth 10 --format json " + more)).json()["stats"]["nodes"].get<int>();
    };
    EXPECT_LT(nodes(""), nodes("--without hint"));
    EXPECT_LT(nodes(""), nodes("--without hint --without table --without pvs"));
    EXPECT_NE(nodes(""), nodes("--with reductions"));
}

TEST(ToolGames, ListsParametersWithRangesAndDefaults) {
    const Json json = run({"games", "--format", "json"}).json();
    ASSERT_EQ(json["games"].size(), 11u);
    EXPECT_EQ(json["games"][0]["game"], "lanterns");
    EXPECT_EQ(json["games"][0]["parameters"][0]["default"], 5);
    EXPECT_EQ(json["games"][0]["parameters"][0]["most"], 12);
    EXPECT_NE(run({"games"}).out.find("1 to 12"), std::string::npos);
}

TEST(Tool, RefusesWrongUseOfEveryVerbInOneLine) {
    const std::string finished = "TTTT./AAA../...../...../..... A";
    for (const std::string verb : {"play", "decide", "count", "match", "solve"}) {
        const auto with = [&](std::vector<std::string> more, std::string game = "lanterns") {
            std::vector<std::string> all{verb, std::move(game)};
            if (verb == "match") all.insert(all.end(), {"random", "ruled"});
            all.insert(all.end(), more.begin(), more.end());
            return all;
        };
        expect_refused(with({}, "lantern"), "there is no game 'lantern' (expected lanterns, perhaps");
        expect_refused(with({"--set", "colums=3"}), "(expected columns, perhaps");
        expect_refused(with({"--set", "columns=13"}), "--set columns: 13 is out of range (expected 1 to 12)");
        expect_refused(with({"--set", "columns=x"}), "'x' is no integer");
        expect_refused(with({"--set", "columns=99999999999999999999"}), "is out of range (expected 1 to 12)");
        expect_refused(with({"--set", "columns"}), "expected name=value");
        expect_refused(with({"--set", "drop=yes"}), "expected true or false");
        expect_refused(with({"--set", "columns=12", "--set", "rows=12"}), "144 hooks (expected at most 64)");
        expect_refused(with({"--position", ""}), "the text is empty");
        expect_refused(with({"--position", "...../x..../...../...../..... T"}),
                       "position, column 7: 'x' is no lantern (expected T, A or .)");
        expect_refused(with({"--position", finished}), "the game is over: Teal wins");
        expect_refused(with({"--position", "no_such_file.toml"}), "there is no such file");
        expect_refused(with({"--format", "xml"}), "expected text or json");
        expect_refused(with({"--no-such-option"}), "--no-such-option");
        for (const auto& [content, part] : std::vector<std::pair<std::string, std::string>>{
                 {"", "the file is empty"},
                 {"position = ", "line 1, column"},
                 {"game = \"sluice\"\nposition = \"x\"", "the position is one of 'sluice'"},
                 {"position = 3", "line 1, column 12: 'position' is not a string"},
                 {"\npositon = \"x\"", "line 2, column 1: there is no key 'positon' (expected position, perhaps"},
                 {"note = \"x\"", "there is no key 'position'"},
                 {"position = \"x\"\nset = 3", "'set' is not a table"}}) {
            const TemporaryFile file(content);
            expect_refused(with({"--position", file.path()}), part);
        }
    }
    for (const std::string verb : {"play", "decide"}) {
        expect_refused({verb, "lanterns", "--opponent", "alfabeta"}, "(expected alphabeta, perhaps");
        expect_refused({verb, "lanterns", "--opponent", "alphabeta@11"}, "11 is out of range (expected 1 to 10)");
        expect_refused({verb, "lanterns", "--threads", "0"}, "--threads: 0 is out of range (expected 1 to 256)");
        expect_refused({verb, "lanterns", "--threads", "2", "--opponent", "alphabeta"},
                       "has no option 'threads' (expected the opponent montecarlo or standard)");
        expect_refused({verb, "lanterns", "--win-or-loss", "--opponent", "random"}, "does not look ahead");
        expect_refused({verb, "lanterns", "--level", "0"}, "0 is out of range (expected 1 to 10)");
        expect_refused({verb, "lanterns", "--level", "11"}, "11 is out of range (expected 1 to 10)");
        expect_refused({verb, "lanterns", "--opponent", "random", "--level", "3"}, "has no levels");
    }
    expect_refused({"decide", "lanterns", "--without", "tabel"}, "(expected table, perhaps");
    expect_refused({"decide", "lanterns", "--algorithm", "minimax", "--without", "table"},
                   "has no option 'table' (expected the opponent standard)");
    expect_refused({"solve", "lanterns", "--memory", "0"}, "--memory: 0 is out of range");
    expect_refused({"check", "lanterns", "--games", "0"}, "--games: 0 is out of range");
    expect_refused({"check", "lanterns", "--time", "0"}, "--time");
    expect_refused({"check", "lanterns", "--watch", "-1"}, "--watch");
    expect_refused({"check", "lanterns", "--moves", "c3 c3"}, "already holds");
    expect_refused({"check", "lanterns", "--moves", "c3", "--games", "3"}, "one line of play");
    expect_refused({"check", "lanterns", "--facts", "nowhere.toml"}, "nowhere.toml");
    expect_refused({"check", "lanterns", "--facts", "x.toml", "--watch", "3"}, "facts alone");
    expect_refused({"check", "lanterns", "--position", "...../...../...../...../..... T"}, "from the initial position");
    expect_refused({"match", "lanterns", "random", "alfabeta"}, "there is no opponent 'alfabeta'");
    expect_refused({"match", "lanterns", "random", "ruled@0"}, "0 is out of range");
    expect_refused({"match", "lanterns", "random"}, "opponents");
    expect_refused({"match", "lanterns", "random", "ruled", "--games", "0"}, "--games: 0 is out of range");
    expect_refused({"decide", "lanterns", "--depth", "-1"}, "--depth: -1 is out of range (expected 0 to 1000)");
    expect_refused({"decide", "lanterns", "--depth", "4..2"}, "runs backwards");
    expect_refused({"decide", "lanterns", "--depth", "0..900"}, "more than 200 lines");
    expect_refused({"decide", "lanterns", "--nodes", "0"}, "--nodes: 0 is out of range");
    expect_refused({"decide", "lanterns", "--time", "0"}, "--time: '0' is out of range");
    expect_refused({"decide", "lanterns", "--time", "soon"}, "'soon' is no time");
    expect_refused({"decide", "lanterns", "--seed", "-4"}, "--seed: -4 is out of range");
    expect_refused({"decide", "lanterns", "--algorithm", "ruled"}, "'ruled' does not look ahead");
    expect_refused({"decide", "lanterns", "--algorithm", "minimax", "--opponent", "ruled"}, "one of the two");
    expect_refused({"decide", "lanterns", "--opponent", "ruled", "--depth", "2"}, "does not look ahead");
    expect_refused({"count", "lanterns", "--depth", "-1"}, "--depth: -1 is out of range (expected 1 to 1000)");
    expect_refused({"play", "lanterns", "--as", "plum"}, "there is no side 'plum' (expected teal or amber)");
    expect_refused({}, "no verb is given");
    expect_refused({"solv"}, "there is no verb 'solv'");
    expect_refused({"--no-such-option"}, "see 'arvek --help'");
    expect_refused({"demo", "no_such_tour.toml"}, "there is no such file");
    const TemporaryFile empty(""), odd("[[step]]\ntitle = \"x\"\nrun = [[1]]\n");
    expect_refused({"demo", empty.path()}, "the file is empty");
    expect_refused({"demo", odd.path()}, "line 3, column 9: an entry of a command line is not a string");
}

TEST(Tool, RefusesTreesThatCannotBeDrawn) {
    const std::vector<std::string> decide = words("decide lanterns" + small + "--depth 2");
    const auto with = [&](const std::string& more) {
        std::vector<std::string> all = decide;
        for (const std::string& word : words(more)) all.push_back(word);
        return all;
    };
    expect_refused(with("--tree picture.jpeg"), "(expected .svg, .png, .dot or .json)");
    expect_refused(with("--tree /no/such/folder/picture.dot"), "the file cannot be written");
    expect_refused(with("--tree a.dot --opponent random"), "");
    expect_refused(with("--tree a.dot --tree-plies 0"), "--tree-plies: 0 is out of range");
    expect_refused(with("--tree a.dot --tree-nodes 1"), "--tree-nodes: 1 is out of range (expected 2 to 10000)");
    expect_refused(with("--tree a.dot --algorithm alphabeta,standard"), "several decisions are compared");
    expect_refused(with("--without table --threads 2"), "there is nothing for them to share");
    EXPECT_FALSE(fs::exists("a.dot"));
}

TEST(Tool, HelpAndVersionAreForTheAsking) {
    EXPECT_EQ(run({"--version"}).out, "arvek 0.1.0\n");
    EXPECT_NE(run({"--help"}).out.find("decide"), std::string::npos);
    EXPECT_NE(run({"decide", "--help"}).out.find("arvek decide"), std::string::npos);
}

TEST(Tool, PaintsOnlyWhenAsked) {
    const auto decide = words("decide lanterns --depth 2");
    EXPECT_EQ(run(decide).out.find('\x1b'), std::string::npos);
    EXPECT_NE(run(decide, "", true).out.find('\x1b'), std::string::npos);
    // White's bishops are not of Black's colour: where capitals and small letters tell the sides apart, no letter is a player's.
    const std::string chess = run(words("decide chess --depth 1"), "", true).out;
    EXPECT_NE(chess.find("R N B Q K B N R\n"), std::string::npos) << chess;
    const Ran lanterns =
        run({"decide", "lanterns", "--depth", "1", "--position", "...../...../..T../...../..... A"}, "", true);
    EXPECT_NE(lanterns.out.find("\x1b[1;38;5;30mT"), std::string::npos) << lanterns.out;
}

TEST(ToolPlay, IsASessionThatExplainsItselfAndForgivesMistakes) {
    const Ran ran = run(words("play lanterns --seed 5 --opponent alphabeta@6"),
                        "why\nc9\nc3\nc3\nmoves extra\nzzz\nhint\nwhy\nlevel 2\nlevel 12\nlevel\nopponent "
                        "ruled\nopponent nobody\nmoves\nhelp\nboard\n\nback\nback\nside\nquit\n");
    EXPECT_EQ(ran.status, 0);
    for (const char* part :
         {"the opponent has not moved yet", "'c9' names no row of the frame", "already holds a lantern of Teal",
          "'moves' takes nothing after it", "'zzz' does not begin with a column", "expecting", "Amber played",
          "Amber is alphabeta@2 now", "12 is out of range (expected 1 to 10)", "'' is no integer", "Amber is ruled now",
          "there is no opponent 'nobody'", "Taken back.", "no move has been played", "You are Amber now.",
          "Teal plays"})
        EXPECT_NE(ran.out.find(part), std::string::npos) << part << "\n" << ran.out;
    EXPECT_EQ(ran.err, "");
}

TEST(ToolPlay, HintsWhateverTheGameIs) {
    for (const char* game : {"scuffle", "lanterns --set players=3", "tolls", "stowage", "downstream --set players=4"}) {
        const Ran ran = run(words(std::string("play ") + game + " --seed 2"), "hint\nquit\n");
        EXPECT_EQ(ran.status, 0) << game << ran.err;
        EXPECT_NE(ran.out.find(", expecting "), std::string::npos) << game << ran.out;
    }
}

TEST(ToolPlay, TakesNoHarmFromWhatNobodyWouldType) {
    const Ran ran = run(words("play lanterns"), std::string(1'000'000, 'x') + "\n\x1b[31m\x01\n\n\xff\xfe\n");
    EXPECT_EQ(ran.status, 0);
    EXPECT_NE(ran.out.find("a line of 1000000 characters is too long"), std::string::npos);
    EXPECT_NE(ran.out.find("  move, column 1: '\\x1b[31m\\x01'"), std::string::npos)
        << ran.out.substr(ran.out.size() - 1'000);
}

TEST(ToolPlay, NobodyMovesAfterTheEndAndRestartBeginsAfresh) {
    // Teal wins at once from here; then nobody moves until the game begins again.
    const std::vector<std::string> play{"play",   "lanterns", "--set",    "columns=3",  "--set",
                                        "rows=3", "--set",    "line=3",   "--position", "TT./AA./... T",
                                        "--seed", "1",        "--format", "json"};
    const Ran over = run(play, "c3\na1\nmoves\nhint\n");
    EXPECT_EQ(over.status, 0);
    EXPECT_NE(over.err.find("The game is over: Teal wins."), std::string::npos);
    EXPECT_NE(over.err.find("nobody may move"), std::string::npos);
    EXPECT_EQ(over.json()["moves"], parsed(R"(["c3"])"));
    EXPECT_EQ(over.json()["result"], "Teal wins");
    EXPECT_EQ(over.json()["payoffs"], parsed(R"({"teal":1,"amber":-1})"));

    const Ran again = run(play, "c3\nrestart\nb1\nquit\n");
    const Json json = again.json();
    EXPECT_EQ(json["moves"].size(), 2u);
    EXPECT_EQ(json["moves"][0], "b1");
    EXPECT_EQ(json["moves"][1], "c2") << "Amber wins in row 2";
    // The same as a game that was never played to its end before.
    EXPECT_EQ(json["moves"], run(play, "b1\nquit\n").json()["moves"]);
}

TEST(ToolPlay, LeavesAtTheEndOfTheInputAndPlaysEitherSide) {
    const Ran ran = run(words("play lanterns --as amber --seed 2"), "");
    EXPECT_EQ(ran.status, 0);
    EXPECT_NE(ran.out.find("You are Amber"), std::string::npos);
    EXPECT_NE(ran.out.find("Teal plays"), std::string::npos);
    EXPECT_NE(ran.out.find("The game is left as it is."), std::string::npos);
}

TEST(ToolPlay, AWholeGameOfRandomMovesEndsProperlyForEveryOpponent) {
    for (const char* opponent : {"random", "ruled@2", "minimax@4", "alphabeta@4"})
        for (int seed = 0; seed < 5; ++seed) {
            std::string typed;
            for (const char column : {'a', 'b', 'c'})
                for (const char row : {'1', '2', '3'}) typed += std::string{column, row, '\n'};
            const Json json = run(words("play lanterns" + small + "--format json --opponent " + opponent + " --seed " +
                                        std::to_string(seed)),
                                  typed)
                                  .json();
            EXPECT_FALSE(json["result"].is_null()) << opponent;
            EXPECT_LE(json["moves"].size(), 9u);
        }
}

TEST(ToolDemo, TheShippedTourRunsToItsEnd) {
    if (testing_support::sanitized) GTEST_SKIP() << "its verbs have tests of their own, which take less";
    const Ran ran = run({"demo", ARVEK_SOURCE_DIR "/demo/tour.toml"});
    EXPECT_EQ(ran.status, 0);
    EXPECT_EQ(ran.err, "");
    for (const char* part : {"ruled plays d3", "549,946", "23,858", "Amber played", "wins."})
        EXPECT_NE(ran.out.find(part), std::string::npos) << part;
}

TEST(Tool, PlaysAGameOfChanceByRulesAndDrawsItsEvents) {
    const auto decision = run(words("decide scuffle --seed 3 --format json")).json();
    EXPECT_EQ(decision["opponent"], "standard");
    EXPECT_EQ(decision["searched_by"], "montecarlo") << "what suits the game";
    expect_refused(words("decide scuffle --opponent alphabeta"), "'alphabeta' does not weigh chance");
    const std::string chancy = "26@8,20@10,18@11|22@12,14@9,13@10,13@11,12@11 1 haul:Bram";
    const auto outlook =
        run({"decide", "scuffle", "--position", chancy, "--playouts", "400", "--format", "json"}).json();
    ASSERT_EQ(outlook["events"].size(), 2u);
    const auto &hit = outlook["events"][0], &miss = outlook["events"][1];
    EXPECT_NEAR(outlook["value"].get<double>(),
                hit["probability"].get<double>() * hit["value"].get<double>() +
                    miss["probability"].get<double>() * miss["value"].get<double>(),
                1e-9);
    const auto counts = run({"count", "scuffle", "--position", chancy, "--depth", "1", "--format", "json"}).json();
    EXPECT_EQ(counts["counts"][0]["sequences"], 2) << "hit or miss";

    const auto played =
        run(words("play scuffle --as teal --seed 5 --opponent ruled"), "haul:Bram\nback\nhaul:Bram\nquit\n");
    const auto first = played.out.find("chance: "), second = played.out.find("chance: ", first + 1);
    ASSERT_NE(first, std::string::npos) << played.out;
    ASSERT_NE(second, std::string::npos);
    EXPECT_NE(played.out.find("Taken back."), std::string::npos);
    const auto match = run(words("match scuffle ruled random --games 20 --seed 1 --records --format json"));
    EXPECT_EQ(match.status, 0);
    EXPECT_EQ(match.out.find("\"unfinished\": 1"), std::string::npos);
    EXPECT_NE(match.out.find("\"hit\""), std::string::npos) << "events are part of a record";
}

TEST(Tool, ReadsMapsAndCrewsGivenAsSettings) {
    const std::string demo = std::string(ARVEK_SOURCE_DIR) + "/demo/";
    const auto weir = run({"decide", "nightwatch", "--set", "map=" + demo + "nightwatch/weir.map", "--depth", "1"});
    EXPECT_EQ(weir.status, 0) << weir.err;
    EXPECT_NE(weir.out.find("The Weir"), std::string::npos);
    const auto kin =
        run({"decide", "scuffle", "--set", "teal=" + demo + "scuffle/towpath_kin.toml", "--format", "json"}).json();
    EXPECT_EQ(kin["set"]["teal"], demo + "scuffle/towpath_kin.toml");
    EXPECT_EQ(kin["set"]["amber"], "");
    expect_refused({"decide", "nightwatch", "--set", "map=" + demo + "tour.toml"}, "line 1 of ");
    expect_refused({"decide", "nightwatch", "--set", "map=no/such.map"}, "no/such.map: there is no such file");
    expect_refused({"decide", "scuffle", "--set", "teal=" + demo + "nightwatch/weir.map"}, "weir.map, line 1, column");
    const auto games = run(words("games --format json")).json();
    for (const auto& game : games["games"]) {
        if (game["game"] == "nightwatch") {
            EXPECT_EQ(game["parameters"][0]["kind"], "string");
        }
    }
}

TEST(Tool, AMatchGoesOnFromItsRecordAndFromNoOther) {
    const TemporaryFile file("");
    const std::string match = "match lanterns ruled random" + small +
                              "--seed 3 --opening-plies 1 --format json --record " + file.path() + " --games ";
    const auto first = run(words(match + "10"));
    ASSERT_EQ(first.status, 0) << first.err;
    expect_refused(words(match + "20"), "there is such a file already (expected --resume");
    {
        std::ofstream(file.path(), std::ios::app) << "{\"number\":11,\"fir";  // cut off in the middle of a line
    }
    const auto rest = run(words(match + "20 --resume"));
    ASSERT_EQ(rest.status, 0) << rest.err;
    auto whole =
        run(words("match lanterns ruled random" + small + "--seed 3 --opening-plies 1 --format json --games 20"))
            .json();
    for (const char* key : {"games", "wins_a", "draws", "wins_b", "wins_of_first", "chosen_a"})
        EXPECT_EQ(rest.json()[key], whole[key]) << key;
    expect_refused(
        words("match lanterns ruled random" + small + "--seed 4 --opening-plies 1 --resume --record " + file.path()),
        "the file holds another match: its seed is another");
    expect_refused(
        words("match lanterns ruled@3 random" + small + "--seed 3 --opening-plies 1 --resume --record " + file.path()),
        "its a is another");
    expect_refused(words("match lanterns ruled random --resume"), "no file is named");
    for (const char* content : {"no json\n", "[1]\n", "{}\n", "one line without an end"}) {
        const TemporaryFile other(content);
        expect_refused(words("match lanterns ruled random --resume --record " + other.path()), "line 1");
        std::ifstream kept(other.path());
        EXPECT_EQ(std::string(std::istreambuf_iterator<char>(kept), {}), content)
            << "a file that is no match is left as it is";
    }
    expect_refused(words("match lanterns ruled random --record /nowhere/at/all"), "cannot be written");
}

TEST(Tool, OpeningsComeFromAFile) {
    const TemporaryFile file("# two openings\na1 b2\nb2   # the middle\n");
    const auto ran = run(
        words("match lanterns random random" + small + "--games 8 --records --format json --openings " + file.path()));
    ASSERT_EQ(ran.status, 0) << ran.err;
    for (std::size_t i = 0; i < 8; ++i) EXPECT_EQ(ran.json()["records"][i]["moves"][0], i / 2 % 2 == 0 ? "a1" : "b2");
    const TemporaryFile wrong("a1 a1\n");
    expect_refused(words("match lanterns random random" + small + "--openings " + wrong.path()), "a1");
    const TemporaryFile none("# nothing\n");
    expect_refused(words("match lanterns random random --openings " + none.path()), "no openings");
    expect_refused(words("match lanterns random random --openings /nowhere"), "there is no such file");
}

TEST(Tool, AMatchSaysWhenItsGamesRepeat) {
    const TemporaryFile same(
        "name = \"x\"\ngame = \"sluice\"\nchoose = \"search\"\n[search]\nalgorithm = \"alphabeta\"\ndepth = 3\n"
        "[levels.10]\nvariety = 0\n[levels.9]\nvariety = 0\ndeeper = 0\noverlooks = 0\nnoise = 0\n");
    const std::string match =
        "match sluice " + same.path() + " " + same.path() + "@9 --set basins=4 --set buckets=2 --games 8";
    const auto different = run(words(match + " --format json")).json()["different_games"].get<int>();
    EXPECT_LE(different, 4);
    EXPECT_NE(run(words(match)).out.find("Only " + std::to_string(different) + " of the games differ."),
              std::string::npos);
    EXPECT_EQ(run(words(match + " --opening-plies 3")).out.find("games differ"), std::string::npos);
}

TEST(Tool, AMatchStopsWhenItIsSure) {
    const auto ran = run(words("match lanterns standard@6 random --games 1000 --until-sure --format json"));
    EXPECT_EQ(ran.json()["better"], "a");
    EXPECT_LT(ran.json()["games"], 60);
    const auto even = run(words("match lanterns random random --games 20 --until-sure"));
    EXPECT_NE(even.out.find("No difference to be seen"), std::string::npos) << even.out;
}

TEST(Tool, MeasuresALadderAndPlotsIt) {
    const std::string plot =
        (fs::temp_directory_path() / ("arvek_ladder_" + std::to_string(::getpid()) + ".svg")).string();
    const auto ran = run(
        words("levels lanterns" + small + "--opponent ruled --levels 1,5,10 --games 60 --format json --plot " + plot));
    ASSERT_EQ(ran.status, 0) << ran.err;
    const Json levels = ran.json()["levels"];
    ASSERT_EQ(levels.size(), 3u);
    EXPECT_TRUE(levels[0]["against_next_below"].is_null());
    EXPECT_GT(levels[2]["rating"], levels[0]["rating"]);
    EXPECT_GT(levels[2]["against_random"]["score"], 0.6);
    std::ifstream file(plot);
    const std::string text{std::istreambuf_iterator<char>(file), {}};
    EXPECT_NE(text.find("<svg"), std::string::npos);
    fs::remove(plot);
    expect_refused(words("levels lanterns --opponent random"), "has no levels");
    expect_refused(words("levels lanterns --opponent ruled@3"), "none is to be named");
    expect_refused(words("levels lanterns --levels 5,3"), "not in order");
    expect_refused(words("levels lanterns --plot /nowhere/ladder.svg"),
                   "/nowhere/ladder.svg: the file cannot be written");
    expect_refused(words("levels lanterns --plot ladder.txt"), "cannot be written to a name with this ending");
}

/// A profile in which `opponents check` finds something: its line and column, and what it says.
void expect_found(const std::string& path, const std::string& part) {
    const Ran ran = run({"opponents", "check", path});
    EXPECT_EQ(ran.status, 1) << path;
    EXPECT_NE(ran.out.find(part), std::string::npos) << ran.out;
    EXPECT_EQ(ran.err, "");
}

TEST(Tool, ChecksProfilesAndPlaysThem) {
    const std::string folder = std::string(ARVEK_SOURCE_DIR) + "/demo/opponents/";
    const auto right = run({"opponents", "check", folder + "towpath_foreman.toml", folder + "lock_keeper.toml"});
    EXPECT_EQ(right.status, 0) << right.err;
    EXPECT_NE(right.out.find("All 2 are right."), std::string::npos);
    const TemporaryFile wrong(
        "name = \"x\"\ngame = \"convoy\"\nchoose = \"rules\"\n[[rule]]\nname = \"r\"\naction = \"tugg\"\n");
    expect_found(wrong.path(),
                 "ERROR   line 6, column 10: there is no action 'tugg'\n          expected tug, perhaps;");
    expect_found(wrong.path(), "there is no fallback");
    expect_refused({"decide", "convoy", "--opponent", wrong.path()}, "there is no action 'tugg'");
    expect_refused({"decide", "lanterns", "--opponent", folder + "towpath_foreman.toml"},
                   "the profile is one for 'scuffle'");
    expect_refused({"opponents", "check", "/nowhere.toml"}, "there is no such file");
    expect_refused({"opponents", "check", "/"}, "it is a folder");
    expect_refused({"opponents", "check", "/dev/zero"}, "it is a pipe or a device");
    expect_refused(words("decide sluice --depth 2 --tree /nowhere/tree.svg"),
                   "/nowhere/tree.svg: the file cannot be written");
    expect_refused({"opponents", "mend", folder + "towpath_foreman.toml"}, "check FILE");
    const auto decided = run({"decide", "nightwatch", "--opponent", folder + "rash_watchman.toml", "--format", "json"});
    EXPECT_EQ(decided.json()["chosen_by"], "close in") << decided.err;
    EXPECT_GT(decided.json()["ranked"][0]["worth"], 1.0);
    const auto named = run({"decide", "nightwatch", "--opponent", folder + "rash_watchman.toml@3"});
    EXPECT_NE(named.out.find("The Rash Watchman, level 3 plays "), std::string::npos) << named.out;
    const auto met =
        run({"match", "nightwatch", folder + "rash_watchman.toml", folder + "wary_watchman.toml", "--games", "2"});
    EXPECT_NE(met.out.find("The Rash Watchman: first  second  The Wary Watchman: first  second"), std::string::npos)
        << met.out;
    // The same table size from either side; a profile says where its own is wrong.
    EXPECT_EQ(run(words("decide sluice --depth 6 --memory 1")).status, 0);
    expect_refused(words("decide sluice --memory 0"), "--memory: 0 is out of range (expected 1 to 1048576)");
    expect_refused(words("decide sluice --opponent alphabeta --memory 2"), "'alphabeta' has no option 'memory'");
    const TemporaryFile large("name = \"x\"\ngame = \"lanterns\"\nchoose = \"search\"\n[search]\nmemory = 0\n");
    expect_found(large.path(), "line 5, column 10: ");
    const TemporaryFile tableless(
        "name = \"x\"\ngame = \"lanterns\"\nchoose = \"search\"\n[search]\nalgorithm = \"minimax\"\nmemory = 2\n");
    expect_found(tableless.path(), "line 6, column 1: minimax has no option 'memory'");
    const TemporaryFile timed("name = \"x\"\ngame = \"lanterns\"\nchoose = \"search\"\n[search]\nseconds = 0.01\n");
    EXPECT_EQ(run({"opponents", "check", timed.path()}).status, 0);
    EXPECT_EQ(run({"decide", "lanterns", "--opponent", timed.path()}).status, 0);
    // A rule without a fallback that does not apply: an error that names the actor, no illegal move.
    const TemporaryFile strict(
        "name = \"x\"\ngame = \"convoy\"\nchoose = \"rules\"\n[[rule]]\nname = \"r\"\naction = \"tug\"\n");
    expect_refused({"decide", "convoy", "--opponent", strict.path()},
                   "no rule applies to the wharf, and there is no fallback");
}

TEST(Tool, TheLevelOfAProfileFollowsThePlayer) {
    const TemporaryFile profile(
        "name = \"x\"\ngame = \"lanterns\"\nchoose = \"rules\"\nlevel = 3\n[follow]\nleast = 2\nmost = "
        "4\n[[rule]]\nuse = \"win now\"\n[[fallback]]\n");
    const auto ran =
        run(words("play lanterns --set columns=2 --set rows=2 --set line=2 --seed 1 --opponent " + profile.path()),
            "a1\na2\nb1\nb2\nrestart\nquit\n");
    EXPECT_NE(ran.out.find("The game begins again, against x, level 4."), std::string::npos) << ran.out;
}

TEST(SaidAndDone, AnAtInAPathIsNoLevel) {
    const fs::path folder = fs::temp_directory_path() / ("arvek@" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const std::string path = (folder / "keeper.toml").string();
    fs::copy_file(ARVEK_SOURCE_DIR "/demo/opponents/lock_keeper.toml", path, fs::copy_options::overwrite_existing);
    EXPECT_NE(run({"decide", "lanterns", "--opponent", path}).out.find("The Lock Keeper, level 4 plays"),
              std::string::npos);
    EXPECT_NE(run({"decide", "lanterns", "--opponent", path + "@2"}).out.find("The Lock Keeper, level 2 plays"),
              std::string::npos);
    fs::remove_all(folder);
}

TEST(SaidAndDone, AnExplicitLevelIsKeptWhereALevelFollows) {
    const TemporaryFile profile(
        "name = \"Follower\"\ngame = \"lanterns\"\nchoose = \"search\"\nlevel = 3\n[follow]\nleast = 2\nmost = 5\n");
    EXPECT_NE(run(words("play lanterns --opponent " + profile.path()), "quit\n").out.find("Follower, level 3"),
              std::string::npos);
    EXPECT_NE(
        run(words("play lanterns --level 9 --opponent " + profile.path()), "quit\n").out.find("Follower, level 9"),
        std::string::npos);
    EXPECT_NE(run(words("play lanterns --opponent " + profile.path() + "@10"), "quit\n").out.find("is Follower."),
              std::string::npos);
}

TEST(SaidAndDone, OptionsOfTheCommandLineGoBeforeThoseOfAProfile) {
    const TemporaryFile profile(
        "name = \"x\"\ngame = \"sluice\"\nchoose = \"search\"\n[search]\ndepth = 6\nthreads = 1\n");
    EXPECT_EQ(run(words("decide sluice --threads 2 --opponent " + profile.path())).status, 0);
    const auto nodes = [&](const std::string& more) {
        return run(words("decide sluice --format json --opponent " + profile.path() + more))
            .json()["stats"]["nodes"]
            .get<int>();
    };
    EXPECT_NE(nodes(""), nodes(" --without history --without killers"));
    EXPECT_LT(nodes(" --depth 3"), nodes(""));
}

TEST(SaidAndDone, AnEvaluationOfWeightsFitsInThePlaceOfTheGames) {
    const TemporaryFile profile(
        "name = \"x\"\ngame = \"convoy\"\nchoose = \"search\"\n[search]\ndepth = 2\n[evaluation]\n\"own wall\" = 10\n");
    const Ran ran = run(words("decide convoy --format json --opponent " + profile.path()));
    ASSERT_EQ(ran.status, 0) << ran.err;
    EXPECT_EQ(ran.json()["ranked"][0]["score"].get<int>() % 120, 0) << "ten times a wall of twelve";
    const TemporaryFile wrong("name = \"x\"\ngame = \"convoy\"\nchoose = \"search\"\n[evaluation]\n\"own wal\" = 1\n");
    expect_found(wrong.path(),
                 "line 5, column 1: there is no quantity of positions 'own wal'\n          expected own wall, perhaps");
}

TEST(SaidAndDone, ErrorsInFilesNameFileAndLine) {
    const TemporaryFile openings("a1 b2\n\n# a comment\na1 a1\n");
    expect_refused({"match", "lanterns", "random", "random", "--openings", openings.path()},
                   openings.path() + ", line 4: ");
    const TemporaryFile position("game = \"lanterns\"\nset = { columns = 3, rows = 99 }\nposition = \"x\"\n");
    expect_refused({"decide", "lanterns", "--position", position.path()},
                   position.path() + ", line 2, column 22: --set rows: 99");
    const TemporaryFile text("position = \"...../x..../...../...../..... T\"\n");
    expect_refused({"decide", "lanterns", "--position", text.path()},
                   text.path() + ", line 1, column 12: position, column 7");
    expect_refused(words("decide lanterns --set rows=4 --set rows=5"), "--set rows: it is given twice");
}

TEST(SaidAndDone, AnOpponentThatCannotPlayIsRefusedAndTheGameGoesOn) {
    const TemporaryFile silent(
        "name = \"Silent\"\ngame = \"scuffle\"\nchoose = \"rules\"\n[[rule]]\nname = \"never\"\n"
        "when = { quantity = \"target stamina\", below = -5 }\n");
    const Ran ran = run(words("play scuffle --as amber --seed 1 --format json --opponent " + silent.path()),
                        "opponent alphabeta\nopponent nobody\nmoves\nquit\n");
    EXPECT_EQ(ran.status, 0);
    EXPECT_GT(ran.json()["moves"].size(), 0u) << "another played on in its place";
    EXPECT_NE(ran.err.find("Silent cannot choose"), std::string::npos);
    EXPECT_NE(ran.err.find("does not weigh chance"), std::string::npos);
}

TEST(SaidAndDone, AMatchHoldsBothToATimeAndCountsBeyondSixtyFourBits) {
    EXPECT_EQ(run(words("match lanterns standard random --games 2 --time 0.002 --format json")).json()["faults_a"], 0);
    const Json counts = run(words("count windlass --depth 40 --table --format json")).json()["counts"];
    EXPECT_EQ(counts[39]["sequences"], "4971853041359029314048");
    EXPECT_TRUE(counts[4]["sequences"].is_number());
}

TEST(ToolSolve, GivesExpectedPayoffsAndStrategies) {
    const Json lucky =
        run(words("solve downstream --set boats=1 --set die=2 --set mooring=0 --set length=4 --format json")).json();
    EXPECT_TRUE(lucky["complete"]);
    EXPECT_NEAR(lucky["value"].get<double>(), 2 * 0.5916666667 - 1, 1e-9);
    EXPECT_LE(lucky["error"].get<double>(), 1e-10);
    ASSERT_EQ(lucky["events"].size(), 2u);
    const Json wager = run(words("solve wager --format json")).json();
    EXPECT_NEAR(wager["value"].get<double>(), -1.0 / 18, wager["error"].get<double>());
    EXPECT_LE(wager["exploitability"].get<double>(), 1e-3);
    ASSERT_EQ(wager["strategy"].size(), 12u);
    for (const Json& row : wager["strategy"]) {
        double sum = 0;
        for (const Json& share : row["moves"]) sum += share["probability"].get<double>();
        EXPECT_NEAR(sum, 1, 1e-9);
    }
    expect_refused({"solve", "wager", "--position", "3 1 - T"}, "somebody holds what others do not see");
    expect_refused(words("solve tolls"), "3");
    expect_refused(words("solve downstream --set players=3"), "3 players");
}

TEST(ToolSolve, DrawsGamesWhereItIsAskedTo) {
    const Json wager = run(words("solve wager --sampled --format json")).json();
    EXPECT_NEAR(wager["value"].get<double>(), -1.0 / 18, wager["error"].get<double>());
    EXPECT_LE(wager["exploitability"].get<double>(), 0.02);
    const auto large = words("solve tolls --set players=2 --set hand=3 --memory 1 --sampled --time 0.2 --format json");
    const Ran ran = run(large);
    EXPECT_EQ(ran.status, 1) << "it is not solved";
    EXPECT_TRUE(ran.json()["exploitability"].is_null());
    EXPECT_EQ(ran.json()["complete"], false);
    EXPECT_FALSE(ran.json()["strategy"].empty());
    expect_refused(words("solve tolls --set players=2 --set hand=3 --memory 1"), "drawn games");
    expect_refused(words("solve lanterns --sampled"), "all is in sight");
}

TEST(ToolOdds, SaysWhatALeadIsWorth) {
    const Json json = run(words("odds downstream --opponent ruled --games 60 --seed 3 --format json")).json();
    EXPECT_EQ(json["games"], 60);
    EXPECT_GT(json["declared"].get<double>(), 0);
    EXPECT_LT(json["interval"][0].get<double>(), json["units_per_doubling"].get<double>());
    std::uint64_t positions = 0;
    for (const Json& row : json["rows"]) positions += row["positions"].get<std::uint64_t>();
    EXPECT_EQ(positions, json["positions"].get<std::uint64_t>());
    const Ran text = run(words("odds downstream --opponent ruled --games 60 --seed 3 --threads 1"));
    EXPECT_NE(text.out.find("The odds of winning double every"), std::string::npos) << text.out;
    expect_refused(words("odds wager"), "no evaluation");
    expect_refused(words("odds tolls"), "not for two");
    expect_refused(words("odds downstream --games 0"), "--games");
    expect_refused(words("odds downstream --opponent nobody"), "nobody");
}

TEST(ToolDecide, ShowsWhatTheMoverSeesAndNoMore) {
    const std::string deal = "T:r1,r5,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:- T";
    const Ran ran = run({"decide", "tolls", "--position", deal, "--playouts", "300"});
    EXPECT_EQ(ran.status, 0) << ran.err;
    EXPECT_NE(ran.out.find("T:r1,r5,w2,s3 A:?4 P:?4"), std::string::npos) << ran.out;
    // Lines may go on with any card that is not seen; who holds it is not told.
    EXPECT_EQ(ran.out.find("A:s4"), std::string::npos) << ran.out;
    EXPECT_EQ(ran.out.find("s4,w4"), std::string::npos) << ran.out;
    const Json json = run({"decide", "tolls", "--position", deal, "--playouts", "300", "--format", "json"}).json();
    EXPECT_EQ(json["searched_by"], "montecarlo");
    std::uint64_t visits = 0;
    for (const Json& entry : json["ranked"]) {
        visits += entry["visits"].get<std::uint64_t>();
        EXPECT_LE(entry["sampling"][0].get<double>(), entry["mean"].get<double>() + 1e-9);
        EXPECT_GE(entry["sampling"][1].get<double>(), entry["mean"].get<double>() - 1e-9);
    }
    EXPECT_EQ(visits, 300u);
    EXPECT_EQ(json["stats"]["stopped_by"], "playouts");
    const TemporaryFile picture("", ".dot"), tree("", ".json");
    for (const TemporaryFile* file : {&picture, &tree})
        EXPECT_EQ(run({"decide", "tolls", "--position", deal, "--playouts", "3000", "--tree", file->path()}).status, 0);
    EXPECT_NE(picture.text().find("A:?4 P:?4"), std::string::npos) << "the title says what Teal sees";
    EXPECT_EQ(picture.text().find("w3,w5"), std::string::npos);
    EXPECT_NE(picture.text().find("Scores as whoever moved sees them"), std::string::npos);
    const Json drawn = parsed(tree.text());
    EXPECT_EQ(drawn["scores_for"], "mover");
    const Ran treeless =
        run({"decide", "tolls", "--position", deal, "--algorithm", "worlds", "--nodes", "3000", "--tree", tree.path()});
    EXPECT_EQ(treeless.status, 2);
    EXPECT_NE(treeless.err.find("'worlds' decided, but keeps no one tree"), std::string::npos) << treeless.err;
    EXPECT_EQ(parsed(tree.text())["scores_for"], "mover") << "what was in the file stays";
    EXPECT_EQ(drawn["tree"]["children"].size(), 4u);
    expect_refused({"decide", "tolls", "--position", deal, "--depth", "3"}, "'montecarlo' plays out");
    expect_refused({"decide", "tolls", "--position", deal, "--algorithm", "alphabeta"}, "");
    expect_refused(words("decide lanterns --playouts 10"), "'standard' does not play out");
}

TEST(ToolPlay, HidesAHandFromWhoeverElseLooksOn) {
    const std::string start = "play tolls --as teal,plum --seed 6 --opponent ruled";
    const Ran first = run(words(start), "moves\nquit\n");
    const auto at = first.out.find("moves\n  ");
    ASSERT_NE(at, std::string::npos) << first.out;
    EXPECT_EQ(first.out.find("chance: deal-"), std::string::npos) << "what one is dealt the other may not see";
    const std::string listed = first.out.substr(at + 8);
    const std::string move = listed.substr(0, listed.find_first_of(" \n"));
    const Ran ran = run(words(start), move + "\n\nwhy\nquit\n");
    const auto passed = ran.out.find("Pass the screen to Plum");
    ASSERT_NE(passed, std::string::npos) << ran.out;
    const auto shown = ran.out.find("T:?3", passed);
    EXPECT_NE(shown, std::string::npos) << ran.out;
    EXPECT_EQ(ran.out.find("P:?", passed), std::string::npos) << "Plum sees its own";
    EXPECT_NE(ran.out.find("it would show what the opponent has in hand"), std::string::npos);
    const Ran alone = run(words("play tolls --seed 6 --opponent ruled"), "quit\n");
    EXPECT_NE(alone.out.find("chance: deal-"), std::string::npos) << "one's own cards";
    expect_refused(words("play tolls --as teal,teal"), "named twice");
    expect_refused(words("play tolls --as slate"), "there is no side 'slate'");
}

TEST(ToolMatch, CountsSeatsAndScores) {
    const Json three = run(words("match tolls ruled random --games 9 --seed 2 --format json --records")).json();
    EXPECT_EQ(three["games"], 9);
    EXPECT_TRUE(three.contains("share_a"));
    EXPECT_LE(three["interval"][0].get<double>(), three["score_a"].get<double>());
    EXPECT_EQ(three["records"][1]["seats"], parsed(R"(["random","ruled","random"])"));
    const Json one = run(words("match stowage ruled random --games 8 --seed 2 --format json")).json();
    EXPECT_EQ(one["payoffs_a"].size(), 4u);
    EXPECT_NEAR(one["mean_a"].get<double>() - one["mean_b"].get<double>(), one["difference"].get<double>(), 1e-9);
    expect_refused(words("match tolls ruled random --until-sure"), "no game is a duel");
    const Ran text = run(words("match stowage ruled random --games 8 --seed 2"));
    EXPECT_NE(text.out.find("On the same deal ruled got"), std::string::npos) << text.out;
}
