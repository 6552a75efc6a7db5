// Command lines, files and prompts made to break the tool, from seeds: whatever comes, it ends with a status of its
// own, says what is wrong in one line, and lets nothing through to a terminal that it would obey.

#include <gtest/gtest.h>
#include <sys/stat.h>
#include <unistd.h>

#include <arvek/arena/files.hpp>
#include <arvek/game/random.hpp>
#include <arvek/tool/tool.hpp>
#include <ctime>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "every_offer.hpp"
#include "support/json.hpp"
#include "support/sanitized.hpp"

namespace {

namespace fs = std::filesystem;
using arvek::Random;
using testing_support::parsed;
using Words = std::vector<std::string>;

/// A game that puts into its texts what a terminal would obey, and breaks in every way.
struct Nasty {
    struct Parameters {
        int way = 0;
    };
    struct Position {
        int ply = 0;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = int;
    Parameters parameters{};

    Nasty() = default;
    explicit Nasty(const Parameters& given) : parameters(given) {
        if (given.way == 1) throw std::runtime_error("two\nlines \x1b[2J and more");
        if (given.way == 2) throw 42;
        if (given.way == 3) throw fs::filesystem_error("no such place", std::error_code());
        if (given.way == 4) throw std::invalid_argument(std::string(100'000, 'x'));
    }
    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& p) const {
        return p.ply % 2 == 0 ? arvek::Player::First : arvek::Player::Second;
    }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        if (parameters.way == 5 && p.ply == 3) return;
        if (parameters.way == 6 && p.ply == 3) throw std::out_of_range("lost\x1b]0;title\x07");
        for (int i = 0; i < 3; ++i) moves.push_back(i);
    }
    void play(Position& p, const Move&) const { ++p.ply; }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.ply < 6) return std::nullopt;
        return arvek::Outcome::win(arvek::Player::First, parameters.way == 7 ? 2'000'000 : 1);
    }
    std::string position_text(const Position& p) const { return "\x1b[31mply\xff " + std::to_string(p.ply); }
    Position read_position(std::string_view text) const {
        if (text.size() > 40) throw std::length_error("far too long");
        return {static_cast<int>(text.size() % 5)};
    }
    std::string move_text(const Position&, const Move& move) const { return "m\x1b" + std::to_string(move); }
    std::string drawing(const Position&) const { return "\x1b]52;c;AAAA\x07 a \xc2\x9b board\n"; }
    std::string player_name(arvek::Player player) const {
        return player == arvek::Player::First ? "T\x1b[1m" : "A\xfe";
    }
};

struct Ran {
    int status = 0;
    std::string out, err;
};

Ran run(const Words& arguments, const std::string& typed) {
    arvek::tool::Tool tool("arvek");
    waterway::offer_every_game(tool);
    tool.add<Nasty>("nasty", "breaks").parameter("way", &Nasty::Parameters::way, 0, 9, "how it breaks");
    std::istringstream in(typed);
    std::ostringstream out, err;
    const int status = tool.run(arguments, {in, out, err, false, false, false, false});
    return {status, out.str(), err.str()};
}

/// Makes hostile things, always the same from the same seed.
class Hostile {
   public:
    Hostile(std::uint64_t seed, fs::path folder) : random_(seed), folder_(std::move(folder)) {}

    /// What the lab writes, of which hostile files are made: a match, a league, a learning, a log, a model and a book.
    static const std::vector<std::string>& good_files() {
        static const std::vector<std::string> files{"match.jsonl", "league.jsonl",    "learn.jsonl",
                                                    "game.jsonl",  "good.model.json", "good.toml"};
        return files;
    }
    static void write_good_files(const fs::path& folder) {
        const auto at = [&](const char* name) { return (folder / name).string(); };
        EXPECT_EQ(
            run({"match", "lanterns", "random", "ruled", "--games", "12", "--record", at("match.jsonl")}, "").status,
            0);
        EXPECT_EQ(
            run({"league", "lanterns", "random", "ruled", "ruled@1", "--games", "4", "--record", at("league.jsonl")},
                "")
                .status,
            0);
        EXPECT_EQ(run({"learn", "lanterns", "--games", "4", "--round", "2", "--nodes", "20", "--hidden", "2",
                       "--test-games", "0", "--record", at("learn.jsonl"), "--out", at("good.toml")},
                      "")
                      .status,
                  0);
        EXPECT_EQ(run({"match", "lanterns", "ruled", "ruled@3", "--games", "1", "--log", at("game.jsonl")}, "").status,
                  0);
    }

    template <class T>
    const T& one_of(const std::vector<T>& all) {
        return all[static_cast<std::size_t>(random_.below(all.size()))];
    }
    bool chance(double probability) { return random_.chance(probability); }

    std::string text() {
        static const std::vector<std::string> texts{"",
                                                    " ",
                                                    "0",
                                                    "-1",
                                                    "99999999999999999999",
                                                    "1e9",
                                                    "nan",
                                                    "0x10",
                                                    "\x1b[2J",
                                                    "\xff\xfe",
                                                    "'\"`$(x)`",
                                                    "a\nb",
                                                    "a=b",
                                                    "..",
                                                    "1..",
                                                    "..1",
                                                    "3..1",
                                                    "@",
                                                    "@3",
                                                    "standard@3",
                                                    "ruled@0",
                                                    "standard@x",
                                                    "lanterns",
                                                    "--",
                                                    "-",
                                                    "%s%n",
                                                    "\xc2\x9b"
                                                    "31m",
                                                    "/dev/zero",
                                                    "/dev/null",
                                                    "/",
                                                    "no/such.toml",
                                                    "a@b.toml@3",
                                                    ".toml",
                                                    "3 3 3",
                                                    "\t",
                                                    "true",
                                                    "1,2,,3",
                                                    "1..1000000",
                                                    "columns=4",
                                                    "map=/dev/zero",
                                                    "teal=/",
                                                    "way=7",
                                                    "x=y=z",
                                                    "=",
                                                    "killers"};
        if (chance(0.05)) return std::string(static_cast<std::size_t>(random_.below(100'000)), 'x');
        if (chance(0.1)) return path();
        return one_of(texts);
    }

    std::string path() {
        static const std::vector<std::string> demo{"opponents/lock_keeper.toml",   "opponents/towpath_foreman.toml",
                                                   "opponents/rash_watchman.toml", "opponents/wharf_clerk.toml",
                                                   "lanterns/one_open_end.toml",   "scuffle/towpath_kin.toml",
                                                   "nightwatch/weir.map",          "tour.toml"};
        if (chance(0.2)) return (folder_ / "fifo.toml").string();
        if (chance(0.2)) return ARVEK_SOURCE_DIR "/demo/" + one_of(demo);
        return damaged(ARVEK_SOURCE_DIR "/demo/" + one_of(demo), ".toml");
    }

    /// A file of the lab's with some of it changed; a few times whole.
    std::string of_the_lab() {
        const std::string& name = one_of(good_files());
        if (chance(0.1)) return (folder_ / name).string();
        return damaged((folder_ / name).string(), name.substr(name.find('.')));
    }

    /// A good file with some of it changed.
    std::string damaged(const std::string& good, const std::string& ending) {
        std::string content = arvek::read_text_file(good);
        if (chance(0.1))
            content.insert(static_cast<std::size_t>(random_.below(content.size() + 1)), 200'000,
                           chance(0.5) ? '[' : '{');
        for (std::uint64_t i = 0, changes = random_.below(6); i < changes && !content.empty(); ++i) {
            const auto at = static_cast<std::size_t>(random_.below(content.size()));
            switch (random_.below(5)) {
                case 0: content[at] = static_cast<char>(random_.below(256)); break;
                case 1: content.erase(at, static_cast<std::size_t>(random_.below(40))); break;
                case 2: content.insert(at, content.substr(at / 2, static_cast<std::size_t>(random_.below(60)))); break;
                case 3: content.insert(at, "\\u001b["); break;
                default: content.resize(at); break;
            }
        }
        const fs::path file = folder_ / ("file" + std::to_string(random_.below(4)) + ending);
        std::ofstream(file, std::ios::binary) << content;
        return file.string();
    }

    Words command_line() {
        static const Words verbs{"games",     "play",  "decide", "count", "solve",  "check", "match", "levels",
                                 "opponents", "demo",  "help",   "odds",  "words",  "story", "sweep", "",
                                 "league",    "weigh", "book",   "tune",  "habits", "learn", "uci",   "serve"};
        static const Words games{"lanterns",   "sluice", "windlass", "nightwatch", "convoy", "scuffle",
                                 "downstream", "tolls",  "wager",    "stowage",    "nasty",  "nasty"};
        static const Words values{"--set",       "--position", "--seed",     "--format",        "--opponent",
                                  "--algorithm", "--level",    "--depth",    "--nodes",         "--without",
                                  "--with",      "--threads",  "--show",     "--tree-plies",    "--as",
                                  "--games",     "--option",   "--levels",   "--opening-plies", "--openings",
                                  "--memory",    "--playouts", "--nonsense", "--moves",         "--state",
                                  "--key",       "--values",   "--ply",      "--game"};
        static const Words flags{"--split",      "--table",       "--records", "--resume",
                                 "--until-sure", "--win-or-loss", "--help",    "--sampled"};
        Words line;
        const std::string verb = chance(0.95) ? one_of(verbs) : text();
        line.push_back(verb);
        if (verb == "opponents") {
            line.push_back(chance(0.9) ? "check" : text());
            line.push_back(path());
            return line;
        }
        if (verb == "serve") return line;
        if (verb == "weigh") {
            line.push_back(of_the_lab());
            if (chance(0.3)) line.insert(line.end(), {chance(0.5) ? "--feature" : "--ridge", text()});
            return line;
        }
        if (verb == "story") {
            line.push_back(chance(0.5) ? of_the_lab() : path());
            if (chance(0.2)) line.push_back("--turning-points");
            if (chance(0.5)) line.insert(line.end(), {chance(0.5) ? "--ply" : "--game", text()});
            return line;
        }
        if (verb == "demo") {
            line.push_back(chance(0.7) ? (folder_ / "fifo.toml").string() : (folder_ / "file0.toml").string());
            return line;
        }
        line.push_back(chance(0.95) ? one_of(games) : text());
        if (line.back() == "nasty" && chance(0.8)) {
            line.push_back("--set");
            line.push_back("way=" + std::to_string(random_.below(9)));
        }
        if (verb == "sweep") {
            line.push_back(path());
            line.push_back("random");
            line.insert(line.end(), {"--key", text(), "--values", chance(0.5) ? "1" : text()});
        }
        if (verb == "match") {
            line.push_back(chance(0.7) ? "random" : text());
            line.push_back(chance(0.7) ? "ruled@2" : text());
        }
        for (std::uint64_t i = 0, more = random_.below(4); i < more; ++i) {
            if (chance(0.2)) {
                line.push_back(one_of(flags));
                continue;
            }
            line.push_back(one_of(values));
            if (chance(0.95)) line.push_back(line.back() == "--format" ? (chance(0.8) ? "json" : text()) : text());
        }
        if (verb == "league") line.insert(line.end(), {"random", chance(0.7) ? "ruled@2" : text()});
        if (verb == "habits") line.push_back(chance(0.7) ? "random" : text());
        if (verb == "tune") line.insert(line.end(), {path(), "--number", text()});
        if (verb == "book" && chance(0.6)) line.insert(line.end(), {"--from", of_the_lab()});
        if ((verb == "league" || verb == "match" || verb == "learn" || verb == "tune") && chance(0.4))
            line.insert(line.end(), {"--record", of_the_lab(), "--resume"});
        // What would take long is kept short; wrong values before these are found all the same.
        if (verb == "decide") line.insert(line.end(), {"--nodes", "300"});
        if (verb == "check" && line[1] != "lanterns" && line[1] != "windlass") line[1] = "nasty";
        if (verb == "check" || verb == "match" || verb == "levels" || verb == "odds" || verb == "sweep")
            line.insert(line.end(), {"--games", "1"});
        if (verb == "league" || verb == "habits" || verb == "tune" || verb == "learn")
            line.insert(line.end(), {"--games", "1"});
        if (verb == "learn")
            line.insert(line.end(), {"--nodes", "5", "--test-games", "0", "--hidden", "0", "--no-prior"});
        if (verb == "tune") line.insert(line.end(), {"--steps", "1", "--test-games", "2", "--confirm", "0"});
        if (verb == "book") line.insert(line.end(), {"--positions", "2", "--nodes", "50", "--plies", "1"});
        if (verb == "odds") line.insert(line.end(), {"--opponent", "random"});
        if (verb == "levels") line.insert(line.end(), {"--levels", "1"});
        if (verb == "solve") line.insert(line.end(), {"--time", "0.005"});
        return line;
    }

    std::string typed() {
        static const Words words{"moves",
                                 "why",
                                 "back",
                                 "restart",
                                 "side",
                                 "board",
                                 "help",
                                 "level",
                                 "level 11",
                                 "level 2",
                                 "opponent",
                                 "opponent random",
                                 "opponent nobody@3",
                                 "opponent minimax",
                                 "opponent montecarlo@1",
                                 "opponent mixed",
                                 "opponent worlds@2",
                                 "a1",
                                 "b2",
                                 "3",
                                 "h",
                                 "left",
                                 "m\x1b"
                                 "0",
                                 "\x1b[2J",
                                 "\xff",
                                 "1 2 3",
                                 "",
                                 "uci",
                                 "isready",
                                 "position startpos moves e2e4 e9e5",
                                 "position fen 8/8/8/8/8/8/8/8 w - - 0 1",
                                 "go nodes 50 depth x",
                                 "setoption name Hash value 99999999999",
                                 R"({"jsonrpc":"2.0","id":1,"method":"open","params":{"game":"lanterns"}})",
                                 R"({"jsonrpc":"2.0","id":2,"method":"decide","params":{"session":1,"nodes":50}})",
                                 R"({"jsonrpc":"2.0","id":3,"method":"play","params":{"session":1,"move":"\u202e"}})",
                                 R"([{"jsonrpc":"2.0","id":[],"method":7},{}])"};
        std::string all;
        for (std::uint64_t i = 0, lines = random_.below(12); i < lines; ++i)
            all += (chance(0.9) ? one_of(words) : text()) + "\n";
        return all;
    }

   private:
    Random random_;
    fs::path folder_;
};

double cpu_seconds() { return static_cast<double>(std::clock()) / CLOCKS_PER_SEC; }

bool is_fit_for_a_terminal(const std::string& text) {
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto byte = static_cast<unsigned char>(text[i]);
        if ((byte < 0x20 && byte != '\n') || byte == 0x7f) return false;
        if (byte == 0xc2 && i + 1 < text.size() && static_cast<unsigned char>(text[i + 1]) < 0xa0) return false;
    }
    return true;
}

}  // namespace

/// A quarter of two thousand runs, so that several cores share them.
class HostileRuns : public ::testing::TestWithParam<std::uint64_t> {};

TEST_P(HostileRuns, EndInOneLineAndAStatus) {
    const fs::path folder = fs::temp_directory_path() / ("arvek_hostile_" + std::to_string(::getpid()));
    fs::create_directories(folder);
    ASSERT_EQ(::mkfifo((folder / "fifo.toml").c_str(), 0600), 0);
    Hostile::write_good_files(folder);
    std::map<int, int> statuses;
    for (std::uint64_t seed = GetParam(); seed < 2'200; seed += testing_support::sanitized ? 8 : 4) {
        Hostile hostile(seed, folder);
        const Words line = hostile.command_line();
        const std::string typed = hostile.typed();
        std::string shown = "seed " + std::to_string(seed) + ":";
        for (const std::string& word : line) shown += " [" + word.substr(0, 80) + "]";
        const double before = cpu_seconds();
        const Ran ran = run(line, typed);
        ++statuses[ran.status];
        ASSERT_LT(cpu_seconds() - before, testing_support::sanitized ? 60 : 15) << shown;
        ASSERT_TRUE(ran.status == 0 || ran.status == 1 || ran.status == 2) << shown;
        ASSERT_TRUE(is_fit_for_a_terminal(ran.out)) << shown << "\n" << ran.out.substr(0, 2'000);
        ASSERT_TRUE(is_fit_for_a_terminal(ran.err)) << shown << "\n" << ran.err.substr(0, 2'000);
        if (ran.status == 2) {
            ASSERT_FALSE(ran.err.empty()) << shown;
            if (line[0] != "play" && line[0] != "demo") {
                ASSERT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << shown << "\n" << ran.err;
            }
            ASSERT_LT(ran.err.size(), 1'200u) << shown;
        }
        const bool json = std::find(line.begin(), line.end(), "json") != line.end();
        if (json && ran.status == 0 && ran.out.starts_with("{")) {
            ASSERT_TRUE(nlohmann::json::accept(ran.out)) << shown;
        }
    }
    for (const int status : {0, 1, 2})
        EXPECT_GT(statuses[status], 4) << "the hostile runs do not reach status " << status;
    fs::remove_all(folder);
}

INSTANTIATE_TEST_SUITE_P(Quarters, HostileRuns, ::testing::Values(0u, 1u, 2u, 3u));

TEST(Hostile, AGameThatBreaksIsSaidInALine) {
    for (const auto& [way, part] : std::vector<std::pair<int, std::string>>{
             {1, "threw: two lines"}, {2, "no std::exception"}, {3, "no such place"}, {4, "xxxx"}}) {
        const Ran ran = run({"decide", "nasty", "--set", "way=" + std::to_string(way)}, "");
        EXPECT_EQ(ran.status, 1) << way;
        EXPECT_NE(ran.err.find(part), std::string::npos) << ran.err.substr(0, 300);
        EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1);
        EXPECT_LT(ran.err.size(), 1'200u);
    }
    const Ran broken = run({"decide", "nasty", "--set", "way=5", "--depth", "5"}, "");
    EXPECT_EQ(broken.status, 1);
    EXPECT_NE(broken.err.find("the rules of the game do not hold"), std::string::npos);
    const Ran paid = run({"check", "nasty", "--set", "way=7", "--games", "3"}, "");
    EXPECT_EQ(paid.status, 1);
    EXPECT_NE(paid.out.find("out of range"), std::string::npos) << paid.out;
    // A match goes on through broken games, and says so.
    const Ran matched =
        run({"match", "nasty", "random", "random", "--set", "way=5", "--games", "4", "--format", "json"}, "");
    EXPECT_EQ(matched.status, 1);
    EXPECT_EQ(parsed(matched.out)["broken"], 4);
    // A person's game is not lost by it.
    const Ran played = run({"play", "nasty", "--set", "way=5", "--opponent", "minimax", "--format", "json"},
                           "m?0\nmoves\nback\nquit\n");
    EXPECT_EQ(played.status, 0) << played.err;
    EXPECT_TRUE(parsed(played.out).contains("moves"));
}

TEST(Hostile, NoTextOfAFileIsACommand) {
    const fs::path folder = fs::temp_directory_path() / ("arvek_names_" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const std::string profile = (folder / "evil.toml").string();
    std::ofstream(profile)
        << "name = \"Evil `touch trap` $(touch trap) Man\"\ngame = \"lanterns\"\nchoose = \"rules\"\n"
        << "[[fallback]]\n";
    // Names of files that a shell, gnuplot or Graphviz might take for more.
    for (const std::string name : {"plain", "`touch trap`", "$(touch trap)", "' ; touch trap ; '",
                                   "-e system('touch trap')", "\"; !touch trap; \""}) {
        const std::string plot = (folder / (name + ".svg")).string();
        const Ran ran = run({"levels", "lanterns", "--opponent", profile, "--levels", "1..2", "--games", "2", "--set",
                             "columns=3", "--set", "rows=3", "--set", "line=3", "--plot", plot},
                            "");
        EXPECT_EQ(ran.status, 0) << ran.err;
        EXPECT_TRUE(fs::exists(plot)) << name;
        const Ran tree = run({"decide", "lanterns", "--depth", "2", "--tree", (folder / (name + ".png")).string()}, "");
        EXPECT_EQ(tree.status, 0) << tree.err;
        EXPECT_TRUE(fs::exists(folder / (name + ".png"))) << name;
        EXPECT_NE(arvek::read_text_file(plot).find("Evil `touch"), std::string::npos)
            << "the name stands in the plot as it is";
    }
    EXPECT_FALSE(fs::exists(folder / "trap"));
    EXPECT_FALSE(fs::exists("trap"));
    fs::remove_all(folder);
}

TEST(Hostile, PipesAndDevicesAreRefusedBeforeTheyAreRead) {
    const fs::path folder = fs::temp_directory_path() / ("arvek_pipes_" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const std::string fifo = (folder / "fifo.toml").string();
    ASSERT_EQ(::mkfifo(fifo.c_str(), 0600), 0);
    for (const std::string& file : {fifo, std::string("/dev/zero"), folder.string()})
        for (const Words& line : std::vector<Words>{{"match", "lanterns", "random", "random", "--openings", file},
                                                    {"opponents", "check", file},
                                                    {"demo", file},
                                                    {"decide", "nightwatch", "--set", "map=" + file},
                                                    {"decide", "scuffle", "--set", "teal=" + file}}) {
            const Ran ran = run(line, "");
            EXPECT_EQ(ran.status, 2) << line[0] << " " << file << ran.err;
            EXPECT_TRUE(ran.err.find("pipe or a device") != std::string::npos ||
                        ran.err.find("it is a folder") != std::string::npos)
                << ran.err;
        }
    EXPECT_EQ(run({"decide", "lanterns", "--opponent", fifo}, "").status, 2);
    EXPECT_EQ(run({"decide", "lanterns", "--position", fifo}, "").status, 2);
    EXPECT_EQ(run({"match", "lanterns", "random", "random", "--games", "2", "--record", fifo}, "").status, 2);
    EXPECT_EQ(run({"decide", "lanterns", "--depth", "1", "--tree", (folder / "no" / "x.json").string()}, "").status, 2);
    fs::remove_all(folder);
}
