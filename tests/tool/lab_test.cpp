// The verbs of the lab: league, tune, levels --fit; killed and gone on with, and on many processes.

#include <fcntl.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <csignal>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <map>
#include <set>
#include <thread>

#include <arvek/game/random.hpp>

#include "support/sanitized.hpp"
#include "support/tool.hpp"

namespace {

namespace fs = std::filesystem;
using nlohmann::json;
using testing_support::expect_refused;
using testing_support::Ran;
using testing_support::run;
using testing_support::TemporaryFile;
using testing_support::words;

/// Without what differs from run to run: times, and how much had been played before.
json untimed(json document) {
    if (document.is_object())
        for (auto at = document.begin(); at != document.end();) {
            if (at.key().find("seconds") != std::string::npos || at.key() == "written") {
                at = document.erase(at);
            } else {
                *at = untimed(*at);
                ++at;
            }
        }
    else if (document.is_array())
        for (auto& each : document) each = untimed(each);
    return document;
}

/// Runs a program with its output in a file, and kills it after so many milliseconds, or lets it end. Its exit status, or
/// -1 where it was killed.
int run_process(std::vector<std::string> command, const std::string& output, int kill_after = -1) {
    std::vector<char*> raw;
    for (std::string& word : command) raw.push_back(word.data());
    raw.push_back(nullptr);
    const pid_t process = ::fork();
    if (process == 0) {
        ::setpgid(0, 0);
        const int file = ::open(output.c_str(), O_WRONLY | O_CREAT | O_TRUNC, 0600);
        ::dup2(file, STDOUT_FILENO);
        ::dup2(file, STDERR_FILENO);
        ::setenv("OMPI_ALLOW_RUN_AS_ROOT", "1", 1);
        ::setenv("OMPI_ALLOW_RUN_AS_ROOT_CONFIRM", "1", 1);
        ::execvp(raw[0], raw.data());
        ::_exit(127);
    }
    if (kill_after >= 0) {
        std::this_thread::sleep_for(std::chrono::milliseconds(kill_after));
        ::kill(-process, SIGKILL);
    }
    int status = 0;
    ::waitpid(process, &status, 0);
    return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
}

/// How often a run is killed; more with ARVEK_TEST_TIMES.
int times_killed() {
    const char* times = std::getenv("ARVEK_TEST_TIMES");
    return times != nullptr ? std::atoi(times) : testing_support::sanitized ? 2 : 6;
}

/// A command that records, killed at random moments until it ends, comes to what it comes to undisturbed.
void expect_unharmed_by_kills(const std::vector<std::string>& command, int within_milliseconds) {
    const TemporaryFile output("", ".json"), whole_output("", ".json");
    ASSERT_EQ(run_process(command, whole_output.path()), 0) << whole_output.text();
    const json whole = untimed(testing_support::parsed(whole_output.text()));
    arvek::Random random(5);
    for (int time = 0; time < times_killed(); ++time) {
        const TemporaryFile record("", ".jsonl");
        std::vector<std::string> recorded = command;
        recorded.insert(recorded.end(), {"--record", record.path(), "--resume"});
        for (int kills = 0; kills < 3; ++kills)
            (void)run_process(recorded, output.path(),
                              static_cast<int>(random.below(static_cast<std::uint64_t>(within_milliseconds))));
        int status = -1;
        for (int tries = 0; tries < 50 && status != 0; ++tries) {
            // What was killed may hold the record for a moment yet.
            if (tries > 0) std::this_thread::sleep_for(std::chrono::milliseconds(100));
            status = run_process(recorded, output.path());
        }
        ASSERT_EQ(status, 0) << output.text();
        ASSERT_EQ(untimed(testing_support::parsed(output.text())), whole) << "time " << time;
    }
}

const std::string small_profile =
    "# A comment that stays.\nname = \"Small\"\ngame = \"lanterns\"\nchoose = \"features\"\n[features]\n"
    "\"ends the game\" = 1000\n\"own line\" = -3.0  # far off\n\"threats left\" = 0.0\n\"threats made\" = 10\n";

}  // namespace

TEST(ToolLeague, IsTheSameWithAnyNumberOfThreads) {
    const std::string line = "league lanterns standard@2 random ruled ruled@3 --games 12 --format json --threads ";
    const json one = run(words(line + "1")).json();
    EXPECT_EQ(untimed(one), untimed(run(words(line + "3")).json()));
    EXPECT_EQ(one["games"], 72);
    EXPECT_EQ(one["standings"].size(), 4u);
    EXPECT_EQ(one["standings"][3]["name"], "random");
    EXPECT_GT(one["standings"][0]["rating"], 100);
    EXPECT_TRUE(one["standings"][3]["above_next"].is_null());
    EXPECT_EQ(one["pairings"].size(), 6u);
    const std::string text = run(words("league lanterns random random ruled --games 4")).out;
    EXPECT_NE(text.find("random (1)"), std::string::npos) << text;
    EXPECT_NE(text.find("each against each"), std::string::npos) << text;
}

TEST(ToolLeague, HasPlacesForOneAndForMore) {
    const json alone = run(words("league stowage ruled random --games 6 --format json")).json();
    EXPECT_EQ(alone["games"], 12) << "each plays every deal once";
    EXPECT_EQ(alone["standings"][0]["name"], "ruled");
    EXPECT_GT(alone["standings"][0]["mean"], alone["standings"][1]["mean"]);
    const json three =
        run(words("league tolls --set players=3 ruled random --games 30 --format json --against-first")).json();
    EXPECT_EQ(three["games"], 30);
    EXPECT_EQ(three["shape"], "against the first");
}

TEST(ToolLeague, RefusesWrongUseAndWritesNothing) {
    expect_refused(words("league lanterns random"), "");
    expect_refused(words("league lanterns random nobody"), "'nobody'");
    expect_refused(words("league lanterns random ruled --games 0"), "--games");
    expect_refused(words("league lanterns random ruled --resume"), "--record");
    expect_refused(words("league lanterns random ruled --plot x.pdf"), ".svg or .png");
    const TemporaryFile other("{\"league\":{}}\n", ".jsonl");
    expect_refused(words("league lanterns random ruled --resume --record " + other.path()), "another league");
    EXPECT_EQ(other.text(), "{\"league\":{}}\n");
}

TEST(ToolLeague, GoesOnWhereItWasKilled) {
    expect_unharmed_by_kills(
        words(ARVEK_PROGRAM " league lanterns standard@4 standard@3 ruled random --games 60 --format json --threads 2"),
        400);
}

TEST(ToolTune, MakesNumbersBetterAndKeepsTheRestOfTheFile) {
    const TemporaryFile profile(small_profile);
    const std::string better = profile.path().substr(0, profile.path().size() - 5) + "_better.toml";
    const Ran ran =
        run({"tune", "lanterns", profile.path(), "--number", "features.own line=-10.0..10.0", "--number",
             "features.threats left=-50..10", "--steps", "60", "--confirm", "40", "--out", better, "--format", "json"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    const json json = ran.json();
    EXPECT_EQ(json["steps"], 60);
    EXPECT_EQ(json["numbers"][0]["course"].size(), 60u);
    EXPECT_TRUE(json["accepted"]) << ran.out;
    EXPECT_GT(json["confirmation"]["score"], 0.5);
    std::ostringstream all;
    all << std::ifstream(better).rdbuf();
    const std::string text = all.str();
    EXPECT_EQ(text.rfind("# A comment that stays.\n", 0), 0u) << text;
    EXPECT_NE(text.find("  # far off\n"), std::string::npos) << text;
    EXPECT_EQ(text.find("\"own line\" = -3.0"), std::string::npos) << text;
    EXPECT_NE(text.find("\"threats made\" = 10\n"), std::string::npos) << text;
    EXPECT_EQ(run({"opponents", "check", better}).status, 0);
    fs::remove(better);
}

TEST(ToolTune, LeavesWhatIsBestAlone) {
    // Numbers that change nothing: a draw of games with themselves is never taken for better.
    const TemporaryFile profile(
        "name = \"Same\"\ngame = \"lanterns\"\nchoose = \"random\"\nlevel = 10\n[pace]\nleast_seconds = 0.5\n");
    int accepted = 0;
    for (const std::string seed : {"1", "2", "3", "4", "5", "6"})
        accepted += run({"tune", "lanterns", profile.path(), "--number", "pace.least_seconds=0.0..1.0", "--steps", "3",
                         "--test-games", "200", "--seed", seed, "--format", "json"})
                        .json()["accepted"]
                        .get<bool>();
    EXPECT_LE(accepted, 1);
}

TEST(ToolTune, GoesOnWhereItWasKilled) {
    const TemporaryFile profile(small_profile);
    std::vector<std::string> command{ARVEK_PROGRAM, "tune",
                                     "lanterns",    profile.path(),
                                     "--number",    "features.own line=-10.0..10.0",
                                     "--number",    "features.threats left=-50.0..10.0"};
    for (const std::string& word : words("--steps 40 --test-games 300 --confirm 60 --format json --threads 2"))
        command.push_back(word);
    expect_unharmed_by_kills(command, 500);
}

TEST(ToolTune, SaysWhatIsWrong) {
    const TemporaryFile profile(small_profile);
    const auto refused = [&](std::vector<std::string> more, const std::string& part) {
        std::vector<std::string> all{"tune", "lanterns", profile.path()};
        all.insert(all.end(), more.begin(), more.end());
        expect_refused(all, part);
    };
    refused({}, "which numbers");
    refused({"--number", "features.own line"}, "has no range");
    refused({"--number", "features.own line=a..b"}, "none of two numbers");
    refused({"--number", "features.own lin=0..1"}, "does not stand");
    refused({"--number", "name=0..1"}, "it is no number");
    refused({"--number", "features.own line=0..1"}, "starts at");
    refused({"--number", "features.own line=-5..1", "--method", "guessing"}, "perturbation or surface");
    refused({"--number", "features.own line=-5..1", "--out", "/nowhere/x.toml"}, "no folder");
    refused({"--number", "features.own line=-5..1", "--out", profile.path()}, "such a file already");
    expect_refused({"tune", "lanterns", "ruled", "--number", "a=0..1"}, "is no profile");
}

TEST(ToolLevels, AreFittedToAGame) {
    const TemporaryFile place("", ".toml");
    const std::string out = place.path().substr(0, place.path().size() - 5) + "_fitted.toml";
    const Ran ran = run({"levels", "windlass", "--fit", "--time", "1", "--out", out, "--format", "json"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    const json json = ran.json();
    EXPECT_EQ(json["levels"].size(), 10u);
    EXPECT_GE(json["measured"].size(), 3u);
    double before = -1;
    for (const auto& level : json["levels"]) {
        EXPECT_GE(level["place"].get<double>(), before);
        before = level["place"];
    }
    EXPECT_EQ(run({"opponents", "check", out}).status, 0) << run({"opponents", "check", out}).out;
    EXPECT_EQ(run({"match", "windlass", out + "@9", out + "@1", "--games", "4"}).status, 0);
    expect_refused({"levels", "windlass", "--fit", "--out", out}, "such a file already");
    expect_refused(words("levels windlass --whole-range"), "--fit");
    expect_refused(words("levels windlass --fit --levels 1..3"), "--levels");
    fs::remove(out);
}

TEST(ToolLevels, AreFittedInTheTimeWhereTheStrongestAreTooSlowToBeMeasured) {
    // Games at full strength take a minute each.
    const json json = run(words("levels stowage --fit --time 8 --format json")).json();
    EXPECT_LT(json["seconds"], 8 * 1.2 + 2);
    EXPECT_LT(json["farthest"], 10);
    ASSERT_EQ(json["levels"].size(), 10u);
    EXPECT_LE(json["levels"][9]["place"], json["farthest"]);
}

TEST(ToolWeigh, FindsWhatWentWithWinning) {
    const TemporaryFile record("", ".jsonl"), place("", ".toml");
    ASSERT_EQ(run({"match", "sluice", "standard@4", "standard@3", "--games", "80", "--opening-plies", "4", "--record",
                   record.path(), "--resume"})
                  .status,
              0);
    const std::string before = record.text(), out = place.path().substr(0, place.path().size() - 5) + "_weighed.toml";
    const Ran ran = run({"weigh", record.path(), "--out", out, "--format", "json"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    const json weighed = ran.json();
    EXPECT_EQ(weighed["games"], 80);
    EXPECT_EQ(weighed["weights"][0]["feature"], "lead");
    EXPECT_GT(weighed["weights"][0]["interval"][0], 0) << "who has stored more wins more often";
    EXPECT_GT(weighed["bits"], 0.02);
    EXPECT_EQ(record.text(), before);
    EXPECT_EQ(run({"opponents", "check", out}).status, 0);
    EXPECT_EQ(run({"decide", "sluice", "--opponent", out, "--depth", "2"}).status, 0);
    fs::remove(out);
    EXPECT_EQ(run({"weigh", record.path(), "--feature", "lead", "--format", "json"}).json()["weights"].size(), 1u);
    expect_refused({"weigh", record.path(), "--feature", "leads"}, "'leads'");
    expect_refused({"weigh", place.path()}, "nothing in it");
    const TemporaryFile other("{\"a\": 1}\n", ".jsonl");
    expect_refused({"weigh", other.path()}, "line 1");
}

TEST(ToolJson, IsReadByOneReaderThatNothingTakesTheStackOf) {
    const std::string deep(200'000, '['), objects = [] {
        std::string text;
        for (int i = 0; i < 100'000; ++i) text += "{\"a\":";
        return text;
    }();
    for (const std::string& bad :
         {deep, objects, std::string("{\"a\": tru}"), std::string("[1, 2"), std::string("\"\xff\"")}) {
        const TemporaryFile record(bad + "\n", ".jsonl"), model(bad, ".json");
        const TemporaryFile profile("game = \"sluice\"\n[opponent]\nchooser = \"standard\"\nmodel = \"" + model.path() +
                                    "\"\n");
        for (const auto& arguments : std::vector<std::vector<std::string>>{
                 {"weigh", record.path()},
                 {"book", "sluice", "--from", record.path()},
                 {"match", "sluice", "random", "random", "--record", record.path(), "--resume"},
                 {"league", "sluice", "random", "ruled", "--record", record.path(), "--resume"},
                 {"tune", "sluice", "standard", "--record", record.path(), "--resume"},
                 {"story", record.path()},
                 {"decide", "sluice", "--opponent", profile.path()}}) {
            const Ran ran = run(arguments);
            EXPECT_EQ(ran.status, 2) << arguments[0] << ran.err;
            EXPECT_LT(ran.err.size(), 600u) << arguments[0];
        }
        expect_refused({"weigh", record.path()}, record.path() + ", line 1, column ");
    }
    const TemporaryFile deeper(deep + "\n", ".jsonl");
    expect_refused({"story", deeper.path()}, "nested deeper than 64");
    // What could make a complaint look like another is written out.
    const TemporaryFile turned(
        "{\"match\": {\"game\": \"\xe2\x80\xaesluice\x1b[2J\", \"players\": 2, \"position\": \"\", \"set\": {}}}\n",
        ".jsonl");
    const Ran ran = run({"weigh", turned.path()});
    EXPECT_EQ(ran.err.find('\x1b'), std::string::npos);
    EXPECT_EQ(ran.err.find("\xe2\x80\xae"), std::string::npos) << ran.err;
}

TEST(ToolBook, OffersSeveralGoodBeginningsAndIsPlayedFrom) {
    const TemporaryFile place("", ".toml");
    const std::string out = place.path().substr(0, place.path().size() - 5) + "_book.toml";
    const Ran ran = run(
        {"book", "sluice", "--plies", "4", "--nodes", "3000", "--most-lost", "4", "--out", out, "--format", "json"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    const json book = ran.json();
    EXPECT_GT(book["openings"], 3);
    EXPECT_LE(book["worst"], 0.04);
    for (const auto& position : book["positions"]) {
        EXPECT_LE(position["replies"].size(), 3u);
        EXPECT_EQ(position["replies"][0]["weight"], 1.0) << "the best first";
    }
    EXPECT_EQ(run({"opponents", "check", out}).status, 0) << run({"opponents", "check", out}).out;
    const json decision = run({"decide", "sluice", "--opponent", out, "--format", "json"}).json();
    EXPECT_EQ(decision["chosen_by"], "opening book") << decision;
    fs::remove(out);
    expect_refused(words("book downstream"), "nothing is left to chance");
    expect_refused(words("book sluice --most-lost 60"), "--most-lost");
    expect_refused(words("book sluice --opponent ruled"), "");
}

TEST(ToolBook, KnowsMirrorImagesFromOneOfThem) {
    const json book = run(words("book lanterns --plies 2 --width 30 --most-lost 50 --nodes 300 --format json")).json();
    EXPECT_GT(book["folded"], 10);
    EXPECT_LT(book["searched"].get<int>() * 3, book["positions"].size()) << "eight images of most";
    // A profile with one corner alone knows the others.
    const TemporaryFile profile(
        "name = \"Corner\"\ngame = \"lanterns\"\nchoose = \"standard\"\n[[book]]\nmoves = [\"a1\"]\nreplies = { b2 = 1 "
        "}\n");
    const json mirrored = run({"decide", "lanterns", "--opponent", profile.path(), "--position",
                               "T..../...../...../...../..... A", "--format", "json"})
                              .json();
    EXPECT_EQ(mirrored["chosen_by"], "opening book") << mirrored;
    EXPECT_EQ(mirrored["move"], "b4");
}

TEST(ToolStory, SaysWhereAGameWasLost) {
    const TemporaryFile log("", ".jsonl");
    fs::remove(log.path());
    ASSERT_EQ(run({"match", "lanterns", "standard@9", "random", "--games", "2", "--log", log.path()}).status, 0);
    const json story =
        run({"story", log.path(), "--turning-points", "3", "--nodes", "5000", "--format", "json"}).json();
    ASSERT_FALSE(story["turning_points"].empty());
    double before = 1.0;
    for (const auto& point : story["turning_points"]) {
        EXPECT_LE(point["lost"], before) << "the worst first";
        before = point["lost"];
        EXPECT_EQ(story["moves"][point["ply"].get<std::size_t>()], point["played"]);
        EXPECT_NE(point["played"], point["better"]);
    }
    EXPECT_EQ(story["turning_points"][0]["opponent"], "random") << "who lost it";
    const std::string text = run({"story", log.path(), "--turning-points", "2"}).out;
    EXPECT_NE(text.find("Where chances were lost"), std::string::npos) << text;
    const TemporaryFile for_one("", ".jsonl");
    fs::remove(for_one.path());
    ASSERT_EQ(run({"match", "stowage", "ruled", "random", "--games", "2", "--log", for_one.path()}).status, 0);
    expect_refused({"story", for_one.path(), "--turning-points", "3"}, "not for two");
}

TEST(ToolStory, RowsSideBySideAgreeAndWhatIsSolvedIsExact) {
    const TemporaryFile log("", ".jsonl");
    fs::remove(log.path());
    ASSERT_EQ(
        run(words("match lanterns random random --set columns=3 --set rows=3 --set line=3 --games 12 --seed 4 --log " +
                  log.path()))
            .status,
        0);
    int side_by_side = 0;
    for (int game = 0; game < 12; ++game) {
        const json story = run(words("story " + log.path() + " --game " + std::to_string(game) +
                                     " --turning-points 1000 --nodes 50 --format json"))
                               .json();
        const json none = json::array();
        const json& points = story.contains("turning_points") ? story["turning_points"] : none;
        std::map<int, json> by_ply;
        for (const json& point : points) {
            by_ply[point["ply"].get<int>()] = point;
            // So small a game is solved: a move wins, draws or loses, and what was lost is a half or all.
            for (const char* key : {"chance", "chance_played"}) {
                const double chance = point[key];
                EXPECT_TRUE(chance == 0 || chance == 0.5 || chance == 1) << point;
            }
        }
        for (const auto& [ply, point] : by_ply)
            if (by_ply.contains(ply + 1)) {
                ++side_by_side;
                EXPECT_DOUBLE_EQ(point["chance_played"].get<double>(), 1 - by_ply[ply + 1]["chance"].get<double>());
            }
    }
    EXPECT_GT(side_by_side, 3);
    const json one = run({"story", log.path(), "--ply", "2", "--format", "json"}).json();
    EXPECT_EQ(one["ply"], 2);
    EXPECT_EQ(one["ranked"].size(), one["of"]) << "all moves, not the first few";
    EXPECT_EQ(run({"story", log.path(), "--ply", "2"}).status, 0);
}

TEST(ToolLearn, WritesAProfileThatKnowsWhatWasLearned) {
    const TemporaryFile name("", ".toml");
    fs::remove(name.path());
    const std::string model = name.path().substr(0, name.path().size() - 5) + ".model.json";
    const Ran ran =
        run(words("learn lanterns --set columns=4 --set rows=4 --set line=3 --games 300 --hidden 0 --nodes 50 "
                  "--test-games 60 --test-every 150 --format json --out " +
                  name.path()));
    ASSERT_EQ(ran.status, 0) << ran.err;
    const json report = ran.json();
    ASSERT_EQ(report["points"].size(), 3u);
    EXPECT_EQ(report["points"][0]["games"], 0);
    EXPECT_EQ(report["points"][2]["games"], 300);
    EXPECT_GT(report["points"][2]["score"], report["points"][0]["score"]) << ran.out;
    EXPECT_EQ(report["model"], model);
    EXPECT_EQ(run({"opponents", "check", name.path()}).status, 0) << run({"opponents", "check", name.path()}).out;
    const json decided =
        run({"decide", "lanterns", "--opponent", name.path(), "--depth", "2", "--format", "json"}).json();
    EXPECT_EQ(decided["ranked"].size(), 16u);
    // In a frame of another size it would be wrong, and with the file gone there is nothing to know.
    expect_refused({"decide", "lanterns", "--set", "columns=5", "--opponent", name.path()}, "columns");
    expect_refused(words("learn lanterns --out " + name.path()), "there is such a file already");
    fs::remove(model);
    expect_refused({"decide", "lanterns", "--opponent", name.path()}, model);
    fs::remove(name.path());
}

TEST(ToolLearn, ComesToTheSameWithAnyNumberOfThreads) {
    json first;
    for (const char* threads : {"1", "2", "5"}) {
        const json report =
            untimed(run(words("learn windlass --games 40 --round 20 --hidden 4 --nodes 30 --test-games 20 "
                              "--format json --threads " +
                              std::string(threads)))
                        .json());
        if (first.is_null()) first = report;
        EXPECT_EQ(report, first) << threads;
    }
    EXPECT_FALSE(first.is_null());
}

TEST(ToolLearn, RefusesWrongUseAndWritesNothing) {
    expect_refused(words("learn stowage"), "not for two");
    expect_refused(words("learn convoy"), "patterns");
    expect_refused(words("learn lanterns --algorithm ruled"), "does not ask what a position is worth");
    expect_refused(words("learn lanterns --method guess"), "search or differences");
    expect_refused(words("learn lanterns --method differences --nodes 40"), "one ply ahead");
    expect_refused(words("learn lanterns --hidden 9999"), "--hidden");
    expect_refused(words("learn lanterns --hidden 0 --second 4"), "second layer");
    expect_refused(words("learn lanterns --outcome 1.5"), "--outcome");
    expect_refused(words("learn lanterns --stray x"), "--stray");
    expect_refused(words("learn lanterns --resume"), "--record");
    expect_refused(words("learn lanterns --against nobody"), "'nobody'");
    expect_refused(words("learn lanterns --out learned.json"), "FILE.toml");
    const TemporaryFile other("{\"league\":{}}\n", ".jsonl");
    expect_refused(words("learn lanterns --resume --record " + other.path()), "does not begin with a learning");
    EXPECT_EQ(other.text(), "{\"league\":{}}\n");
}

TEST(ToolLearn, LearnsByDifferencesAndFromPlayoutsToo) {
    const json differences = run(words("learn lanterns --set columns=4 --set rows=4 --set line=3 --method differences "
                                       "--games 400 --hidden 0 --test-games 60 --test-every 400 --format json"))
                                 .json();
    EXPECT_EQ(differences["player"], "standard, 1 plies");
    EXPECT_GT(differences["points"][1]["score"], differences["points"][0]["score"]);
    const json playouts =
        run(words("learn lanterns --set columns=3 --set rows=3 --set line=3 --algorithm montecarlo --playouts 20 "
                  "--games 40 --hidden 4 --test-games 10 --format json"))
            .json();
    EXPECT_EQ(playouts["games"], 40);
}

TEST(ToolLearn, GoesOnToTheNamesThatItWroteToBefore) {
    const TemporaryFile name("", ".toml"), record("", ".jsonl");
    fs::remove(name.path());
    fs::remove(record.path());
    const std::string command = "learn lanterns --hidden 0 --nodes 30 --round 20 --test-games 0 --out " + name.path() +
                                " --record " + record.path() + " --games ";
    ASSERT_EQ(run(words(command + "20")).status, 0);
    expect_refused(words(command + "40"), "there is such a file already");
    const Ran more = run(words(command + "40 --resume"));
    EXPECT_EQ(more.status, 0) << more.err;
    EXPECT_NE(name.text().find("# Learned from 40 games"), std::string::npos) << name.text();
    std::ofstream(name.path()) << "name = \"Somebody else\"\n";
    expect_refused(words(command + "60 --resume"), "there is such a file already");
    fs::remove(name.path().substr(0, name.path().size() - 5) + ".model.json");
}

TEST(ToolLearn, GoesOnWhereItWasKilled) {
    expect_unharmed_by_kills(
        words(ARVEK_PROGRAM " learn lanterns --games 120 --round 20 --hidden 4 --nodes 60 --test-games 20 "
                            "--test-every 60 --format json --threads 2"),
        400);
}

TEST(ToolHabits, TellsVarietyFromRepetition) {
    const json report = run(words("habits lanterns random alphabeta --games 60 --format json --against random")).json();
    const json& random = report["opponents"][0];
    EXPECT_EQ(random["games"], 60);
    EXPECT_GT(random["openings"], 50);
    EXPECT_GT(random["effective_openings"], 50.0);
    EXPECT_FALSE(random["repeats_openings"].get<bool>());
    // The same search of a game that leaves nothing to chance plays the same game each time.
    const json same = run({"habits", "windlass", "minimax@2", "--games", "12", "--format", "json"}).json();
    EXPECT_GE(same["opponents"][0]["openings"], 1);
    const TemporaryFile fixed(
        "name = \"Fixed\"\ngame = \"lanterns\"\nchoose = \"features\"\n[features]\n\"from the "
        "middle\" = -1.0\n\"own line\" = 0.1\n");
    const Ran ran = run({"habits", "lanterns", fixed.path(), "--games", "20"});
    EXPECT_EQ(ran.status, 0) << ran.err;
    const json fixed_report = run({"habits", "lanterns", fixed.path(), "--games", "20", "--format", "json"}).json();
    const json& of_fixed = fixed_report["opponents"][0];
    int common = of_fixed["common_openings"][0]["games"];
    EXPECT_EQ(of_fixed["repeats_openings"], 2 * common >= 20) << ran.out;
    EXPECT_EQ(of_fixed["first_moves"][0]["move"], "c3");
    EXPECT_EQ(of_fixed["first_moves"][0]["games"], 20);
}

TEST(ToolHabits, ComparesWhatDecides) {
    const std::string folder = ARVEK_SOURCE_DIR "/demo/opponents/";
    const json report = run({"habits", "nightwatch", folder + "rash_watchman.toml", folder + "wary_watchman.toml",
                             "--games", "30", "--against", "random", "--format", "json"})
                            .json();
    ASSERT_FALSE(report["differences"].empty());
    int sure = 0;
    for (const json& each : report["differences"]) {
        const double difference = each["a"].get<double>() - each["b"].get<double>();
        EXPECT_LE(each["interval"][0], difference + 1e-9);
        EXPECT_GE(each["interval"][1], difference - 1e-9);
        sure += each["sure"].get<bool>();
    }
    EXPECT_GT(sure, 0) << "two temperaments decide by other things";
    for (const json& opponent : report["opponents"]) {
        double all = 0;
        for (const json& reason : opponent["reasons"]) all += reason["share"].get<double>();
        EXPECT_LE(all, 1.0 + 1e-9);
        EXPECT_GT(all, 0.5);
    }
    // An opponent against itself differs from itself in nothing.
    const json same = run({"habits", "nightwatch", folder + "rash_watchman.toml", folder + "rash_watchman.toml",
                           "--games", "20", "--against", "random", "--format", "json"})
                          .json();
    for (const json& each : same["differences"]) EXPECT_FALSE(each["sure"].get<bool>()) << each.dump();
    expect_refused(words("habits lanterns"), "");
    expect_refused(words("habits lanterns random --games 0"), "--games");
    expect_refused(words("habits lanterns random --plies 0"), "--plies");
}

TEST(ToolBook, IsMadeOfRecordedGamesAndOfOtherBooks) {
    const TemporaryFile record("", ".jsonl");
    fs::remove(record.path());
    ASSERT_EQ(run({"match", "sluice", "standard@6", "standard@5", "--games", "60", "--record", record.path()}).status,
              0);
    std::map<std::string, std::map<std::string, int>> played;  // by the moves before
    std::ifstream lines(record.path());
    std::string line;
    std::getline(lines, line);
    while (std::getline(lines, line)) {
        const json game = testing_support::parsed(line);
        std::string before;
        for (const auto& move : game["moves"]) {
            ++played[before][move.get<std::string>()];
            before += move.get<std::string>() + " ";
        }
    }
    const json book = run({"book", "sluice", "--from", record.path(), "--least-games", "3", "--plies", "3", "--nodes",
                           "3000", "--most-lost", "10", "--format", "json"})
                          .json();
    EXPECT_GT(book["known"], 50);
    ASSERT_FALSE(book["positions"].empty());
    for (const json& position : book["positions"]) {
        std::string before;
        for (const auto& move : position["moves"]) before += move.get<std::string>() + " ";
        for (const json& reply : position["replies"]) {
            EXPECT_GE(played[before][reply["move"].get<std::string>()], 3) << position;
            EXPECT_LE(reply["lost"], 0.1);
        }
    }
    // Two books joined have what each has.
    const TemporaryFile one(
        "name = \"One\"\ngame = \"sluice\"\nchoose = \"standard\"\n[[book]]\nmoves = []\nreplies = { "
        "\"3\" = 1.0, \"1\" = 0.5 }\n");
    const TemporaryFile two(
        "name = \"Two\"\ngame = \"sluice\"\nchoose = \"standard\"\n[[book]]\nmoves = []\nreplies = { "
        "\"6\" = 1.0 }\n[[book]]\nmoves = [\"3\"]\nreplies = { \"2\" = 1.0 }\n");
    const std::string out = one.path().substr(0, one.path().size() - 5) + "_both.toml";
    const json both = run({"book", "sluice", "--from", one.path(), "--from", two.path(), "--unjudged", "--out", out,
                           "--format", "json"})
                          .json();
    ASSERT_EQ(both["positions"].size(), 2u) << both;
    EXPECT_EQ(both["positions"][0]["replies"].size(), 3u);
    EXPECT_EQ(both["worst"], nullptr) << "nobody judged it";
    EXPECT_EQ(run({"opponents", "check", out}).status, 0);
    fs::remove(out);
}

TEST(ToolBook, ReadsTheGamesNotationOfTheGame) {
    const TemporaryFile pgn(
        "[Event \"Wharf\"]\n\n1. e4 e5 2. Nf3 Nc6 1-0\n\n[Event \"Wharf\"]\n\n1. e4 c5 0-1\n\n"
        "[Event \"Wharf\"]\n\n1. d4 d5 1/2-1/2\n",
        ".pgn");
    const json book =
        run({"book", "chess", "--from", pgn.path(), "--least-games", "1", "--unjudged", "--format", "json"}).json();
    EXPECT_EQ(book["positions"][0]["replies"][0]["move"], "e4");
    EXPECT_EQ(book["positions"][0]["replies"].size(), 2u);
    EXPECT_EQ(book["openings"], 3);
    const TemporaryFile wrong("1. e4 e6 2. Ke3 1-0\n", ".pgn");
    expect_refused({"book", "chess", "--from", wrong.path(), "--unjudged"}, "line 1");
    expect_refused({"book", "sluice", "--from", pgn.path(), "--unjudged"}, pgn.path());
}

TEST(ToolBook, NeverGivesAwayWhatSolvingKnowsInAThousandGames) {
    const std::string game = "sluice --set basins=3 --set buckets=3";
    const TemporaryFile place("", ".toml");
    const std::string out = place.path().substr(0, place.path().size() - 5) + "_book.toml";
    ASSERT_EQ(run(words("book " + game + " --plies 5 --width 4 --nodes 20000 --most-lost 3 --out " + out)).status, 0);
    const json solved = run(words("book " + game + " --plies 5 --width 4 --solved --format json")).json();
    EXPECT_EQ(solved["worst"], 0.0);
    EXPECT_EQ(solved["judge"], "solving");
    const std::vector<std::string> match =
        words("match " + game + " " + out + "@10 " + out + "@10 --games 1000 --opening-plies 0 --log " + place.path());
    fs::remove(place.path());
    const Ran ran = run(match);
    ASSERT_EQ(ran.status, 0) << ran.err;
    // What the first player gets by force at the start, and wherever a game left the book.
    std::map<std::string, int> known;
    const auto value_at = [&](const std::string& position) {
        const auto found = known.find(position);
        if (found != known.end()) return found->second;
        std::vector<std::string> command = words("solve " + game + " --win-or-loss --format json --position");
        command.push_back(position);
        const json solution = run(command).json();
        const int value = solution["value"].get<int>() * (solution["to_move"] == "teal" ? 1 : -1);
        return known[position] = value;
    };
    std::ifstream lines(place.path());
    std::string line;
    int games = 0, left = 0, start = 0;
    std::set<std::string> ways;
    bool in_book = false;
    while (std::getline(lines, line)) {
        const json entry = testing_support::parsed(line);
        if (!entry.contains("ply")) continue;
        if (entry["ply"] == 0) {
            ++games;
            in_book = true;
            start = value_at(entry["position"].get<std::string>());
            EXPECT_EQ(entry["chosen_by"], "opening book");
        }
        if (in_book && entry["chosen_by"] != "opening book") {
            in_book = false;
            ++left;
            const std::string position = entry["position"].get<std::string>();
            ways.insert(position);
            EXPECT_EQ(value_at(position), start) << position;
        }
    }
    EXPECT_EQ(games, 1000);
    EXPECT_GT(left, 700) << "most games go on behind the book";
    EXPECT_GT(ways.size(), 5u);
    fs::remove(out);
}

TEST(ToolBook, LeavesItsOwnWithoutABlunder) {
    // The first decisions behind the book lose nothing that solving knows of.
    const TemporaryFile place("", ".toml"), log("", ".jsonl");
    const std::string out = place.path().substr(0, place.path().size() - 5) + "_book.toml";
    const std::string game = "lanterns --set rows=4";
    ASSERT_EQ(run(words("book " + game + " --plies 4 --nodes 20000 --most-lost 3 --out " + out)).status, 0);
    fs::remove(log.path());
    ASSERT_EQ(
        run(words("match " + game + " " + out + "@10 " + out + "@10 --games 8 --opening-plies 0 --log " + log.path()))
            .status,
        0);
    const auto value_for = [&](const std::string& position, const std::string& player) {
        std::vector<std::string> command = words("solve " + game + " --format json --position");
        command.push_back(position);
        const json solution = run(command).json();
        return solution["value"].get<int>() * (solution["to_move"] == player ? 1 : -1);
    };
    std::ifstream lines(log.path());
    std::string line;
    int looked_at = 0;
    json before;
    while (std::getline(lines, line)) {
        const json entry = testing_support::parsed(line);
        const bool goes_on = entry.contains("ply");
        if (goes_on && !before.is_null() && entry["ply"] == before["ply"].get<int>() + 1) {
            const std::string mover = before["ply"].get<int>() % 2 == 0 ? "teal" : "amber";
            EXPECT_EQ(value_for(entry["position"], mover), value_for(before["position"], mover)) << before["position"];
            ++looked_at;
        }
        const bool is_first = goes_on && entry["chosen_by"] != "opening book" && entry["ply"].get<int>() <= 5;
        before = is_first ? entry : json();
    }
    EXPECT_GE(looked_at, 8);
    fs::remove(out);
}

TEST(ToolBook, KnowsDangersAnywhereInTheGame) {
    const TemporaryFile record("", ".jsonl"), place("", ".toml");
    fs::remove(record.path());
    ASSERT_EQ(run({"match", "lanterns", "standard@3", "standard@2", "--games", "6", "--record", record.path()}).status,
              0);
    const std::string out = place.path().substr(0, place.path().size() - 5) + "_blunders.toml";
    const json book = run({"book", "lanterns", "--blunders-of", "standard@2", "--from", record.path(), "--nodes",
                           "4000", "--positions", "60", "--most-lost", "5", "--out", out, "--format", "json"})
                          .json();
    ASSERT_GT(book["blunders"], 2) << book;
    for (const json& position : book["positions"]) {
        EXPECT_TRUE(position["moves"].empty()) << "it is given as a position";
        const json decision = run({"decide", "lanterns", "--opponent", out, "--position",
                                   position["position"].get<std::string>(), "--format", "json"})
                                  .json();
        EXPECT_EQ(decision["chosen_by"], "opening book");
    }
    EXPECT_EQ(run({"opponents", "check", out}).status, 0) << run({"opponents", "check", out}).out;
    fs::remove(out);
}

TEST(ToolBook, IsCheckedByAJudge) {
    // b2 lets the rival finish its line.
    const TemporaryFile bad(
        "name = \"Bad\"\ngame = \"lanterns\"\nchoose = \"standard\"\n[[book]]\nposition = "
        "\"T..../...../...../TT.../AAA.. T\"\nreplies = { b3 = 1.0, d1 = 1.0 }\n");
    const Ran ran = run({"book", "lanterns", "--check", bad.path(), "--nodes", "20000"});
    EXPECT_EQ(ran.status, 1) << ran.err;
    EXPECT_NE(ran.out.find("b3"), std::string::npos) << ran.out;
    EXPECT_NE(ran.out.find("TOO MUCH"), std::string::npos) << ran.out;
    const json report = run({"book", "lanterns", "--check", bad.path(), "--nodes", "20000", "--format", "json"}).json();
    EXPECT_EQ(report["positions"][0]["replies"][0]["move"], "d1");
    EXPECT_GT(report["worst"], 0.5);
    const TemporaryFile good(
        "name = \"Good\"\ngame = \"lanterns\"\nchoose = \"standard\"\n[[book]]\nposition = "
        "\"T..../...../...../TT.../AAA.. T\"\nreplies = { d1 = 1.0 }\n");
    EXPECT_EQ(run({"book", "lanterns", "--check", good.path(), "--nodes", "20000"}).status, 0);
    expect_refused({"book", "lanterns", "--check", good.path(), "--from", good.path()}, "--check");
    expect_refused(words("book lanterns --unjudged"), "--from");
    expect_refused(words("book lanterns --blunders-of random"), "--from");
    expect_refused(words("book lanterns --solved --nodes 10"), "no --nodes");
    expect_refused(words("book lanterns --from /nowhere/x.jsonl"), "/nowhere/x.jsonl");
    const TemporaryFile none("name = \"None\"\ngame = \"lanterns\"\nchoose = \"standard\"\n");
    expect_refused({"book", "lanterns", "--from", none.path()}, "no replies");
}

TEST(ToolPlay, BeginsWhereThePersonIs) {
    const TemporaryFile results("", ".jsonl");
    fs::remove(results.path());
    const std::vector<std::string> play{"play", "lanterns", "--person", results.path(), "--seed", "1"};
    EXPECT_NE(run(play, "quit\n").out.find("Nothing is known of you yet"), std::string::npos);
    std::ofstream(results.path()) << "";
    const auto beginning = [&] { return run(play, "quit\n").out; };
    const auto level_of = [](const std::string& out) {
        const std::size_t at = out.find("standard@");
        return at == std::string::npos ? 10 : std::atoi(out.c_str() + at + 9);
    };
    const int before = level_of(beginning());
    EXPECT_EQ(before, 4);
    // Lost by doing nothing about it, once; taking back changes nothing.
    const Ran lost = run(play, "a1\na2\na5\ne5\ne4\ne2\nd5\nb5\nc5\na4\nd4\nb4\nback\nquit\n");
    const std::string text = results.text();
    const auto count = std::count(text.begin(), text.end(), '\n');
    ASSERT_EQ(count, 1) << lost.out;
    EXPECT_EQ(testing_support::parsed(text)["level"], 4);
    // After many losses it begins lower, after many wins higher; the results of other games do not count.
    std::ofstream more(results.path(), std::ios::app);
    const auto line = [&](const std::string& game, int level, double result) {
        json settings{{"columns", "5"}, {"rows", "5"}, {"line", "4"}, {"drop", "false"}, {"players", "2"}};
        return json{{"game", game}, {"set", settings}, {"opponent", "standard"}, {"level", level}, {"result", result}}
                   .dump() +
               "\n";
    };
    for (int i = 0; i < 6; ++i) more << line("lanterns", 4, 0.0) << std::flush;
    EXPECT_LT(level_of(beginning()), 4);
    for (int i = 0; i < 12; ++i) more << line("lanterns", 7, 1.0) << std::flush;
    EXPECT_GT(level_of(beginning()), 6);
    for (int i = 0; i < 12; ++i) more << line("sluice", 2, 0.0) << std::flush;
    EXPECT_GT(level_of(beginning()), 6);
    more << "{\"game\":\"lanterns\"}\n" << std::flush;
    const Ran broken = run(play, "quit\n");
    EXPECT_EQ(broken.status, 2);
    EXPECT_NE(broken.err.find("line 32"), std::string::npos) << broken.err;
    expect_refused({"play", "lanterns", "--person", results.path(), "--as", "teal,amber"}, "--person");
    expect_refused({"play", "stowage", "--person", results.path()}, "--person");
    expect_refused({"play", "lanterns", "--opponent", "random", "--person", results.path()}, "levels");
}

#ifdef ARVEK_MPI_PROGRAM

TEST(Mpi, ComesToTheSameWithAnyNumberOfProcesses) {
    const TemporaryFile profile(small_profile);
    const std::vector<std::vector<std::string>> commands{
        words("league lanterns standard@3 random ruled --games 24 --format json"),
        words("league stowage ruled random --games 6 --format json"),
        words("levels windlass --levels 1,5 --games 10 --format json"),
        words("learn windlass --games 24 --round 8 --hidden 3 --nodes 20 --test-games 8 --format json"),
        {"tune", "lanterns", profile.path(), "--number", "features.own line=-10.0..10.0", "--steps", "8",
         "--test-games", "200", "--confirm", "20", "--format", "json"}};
    for (const auto& command : commands) {
        const json alone = untimed(run(command).json());
        for (const char* ranks : {"1", "2", "3", "4"}) {
            std::vector<std::string> all{"mpirun", "--oversubscribe", "-n", ranks, ARVEK_MPI_PROGRAM};
            all.insert(all.end(), command.begin(), command.end());
            const TemporaryFile output("", ".json");
            ASSERT_EQ(run_process(all, output.path()), 0) << output.text();
            EXPECT_EQ(untimed(testing_support::parsed(output.text())), alone) << command[0] << " with " << ranks;
        }
    }
}

TEST(Mpi, GoesOnWhereItWasKilled) {
    expect_unharmed_by_kills(words("mpirun --oversubscribe -n 3 " ARVEK_MPI_PROGRAM
                                   " league lanterns standard@4 standard@3 ruled random --games 60 --format json"),
                             1'500);
}

TEST(Mpi, WrongUseEndsAllProcessesWithOneLine) {
    const TemporaryFile output("", ".txt");
    EXPECT_NE(run_process(words("mpirun --oversubscribe -n 3 " ARVEK_MPI_PROGRAM " league lanterns random nobody"),
                          output.path()),
              0);
    const std::string text = output.text();
    EXPECT_NE(text.find("arvek-mpi: opponent: there is no opponent 'nobody'"), std::string::npos) << text;
    EXPECT_EQ(text.find("'nobody'"), text.rfind("'nobody'")) << text;
    const TemporaryFile other("", ".txt");
    EXPECT_NE(run_process(words("mpirun --oversubscribe -n 2 " ARVEK_MPI_PROGRAM " match lanterns random ruled"),
                          other.path()),
              0);
    EXPECT_NE(other.text().find("several processes"), std::string::npos) << other.text();
}

#endif
