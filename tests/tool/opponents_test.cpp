// What whoever writes opponents does with the tool: words, checks, logs, sweeps, and the page of the docs about it.

#include <regex>
#include <set>

#include "support/sanitized.hpp"
#include "support/tool.hpp"

namespace {

namespace fs = std::filesystem;
using testing_support::expect_refused;
using testing_support::Ran;
using testing_support::run;
using testing_support::TemporaryFile;
using testing_support::words;

const std::string profiles = std::string(ARVEK_SOURCE_DIR) + "/demo/opponents/";

std::string text_of_file(const std::string& path) {
    std::ostringstream all;
    all << std::ifstream(path).rdbuf();
    return all.str();
}

}  // namespace

TEST(Tool, DealsWhereADecisionWantsHands) {
    const Ran one = run(words("decide tolls --playouts 60 --format json")),
              other = run(words("decide tolls --playouts 60 --deal 5 --format json"));
    ASSERT_EQ(one.status, 0) << one.err;
    EXPECT_NE(one.err.find("dealt by the number 0"), std::string::npos) << one.err;
    EXPECT_NE(one.json()["position"], other.json()["position"]);
    EXPECT_EQ(run(words("decide tolls --playouts 60 --format json")).json()["position"], one.json()["position"]);
    expect_refused(words("decide lanterns --deal 5"), "nothing is to be dealt");
}

TEST(Tool, TakesParametersThatAreRightTogether) {
    for (const char* order : {"players = 4\nhand = 3\n", "hand = 3\nplayers = 4\n"})
        for (const char* name : {"[parameters]\n", "[set]\n"}) {
            const TemporaryFile profile(std::string("name = \"Four\"\ngame = \"tolls\"\nchoose = \"montecarlo\"\n") +
                                        name + order);
            const Ran ran =
                run({"decide", "tolls", "--opponent", profile.path(), "--playouts", "50", "--format", "json"});
            ASSERT_EQ(ran.status, 0) << ran.err;
            EXPECT_EQ(ran.json()["set"]["players"], 4);
        }
    const TemporaryFile wrong(
        "name = \"Four\"\ngame = \"tolls\"\nchoose = \"montecarlo\"\n[parameters]\nplayers = 4\nhand = 9\n");
    expect_refused({"decide", "tolls", "--opponent", wrong.path()}, "line 6");
}

TEST(Tool, ChecksWhatShowsOnlyWhenAnOpponentIsMade) {
    const std::string head = "name = \"A\"\ngame = \"lanterns\"\nchoose = ";
    for (const auto& [rest, said] : std::vector<std::pair<std::string, std::string>>{
             {"\"montecarlo\"\n[options]\nleaves = \"playoutz\"\n", "expected auto, playouts or evaluation"},
             {"\"standard\"\n[options]\ntable = false\nthreads = 2\n", "without a table there is nothing"},
             {"\"rules\"\n[conditions]\nodd = { quantity = \"own line\", is = 1, below = 2 }\n[[fallback]]\n",
              "'is' says what the number must be, so 'below' adds nothing"}}) {
        const TemporaryFile profile(head + rest);
        const Ran ran = run({"opponents", "check", profile.path()});
        EXPECT_EQ(ran.status, 1) << rest;
        EXPECT_NE(ran.out.find(said), std::string::npos) << ran.out;
    }
    const TemporaryFile program(
        "name = \"A\"\ngame = \"chess\"\nchoose = \"program\"\n[program]\ncommand = [\"/no/such/program\"]\n");
    EXPECT_NE(run({"opponents", "check", program.path()}).out.find("there is no program '/no/such/program'"),
              std::string::npos);
    expect_refused(words("match chess random " + program.path() + " --games 2"), "there is no program");
}

TEST(Tool, ALongerSearchTellsWhatALevelMissed) {
    // Where it sees to the end, what it says is what solving says.
    const std::string small = " --set columns=3 --set rows=3 --set line=3 --format json";
    int looked = 0, better = 0, overlooked = 0;
    for (int seed = 0; seed < 60; ++seed) {
        const std::string position = " --position " + std::string(seed % 2 == 0 ? "A../.T./..." : "..A/.T./TA.");
        std::vector<std::string> line = words("decide lanterns --opponent standard@" + std::to_string(1 + seed % 4) +
                                              " --seed " + std::to_string(seed) + small + position);
        line.back() += " T";
        const auto json = run(line).json();
        if (!json.contains("deeper")) continue;
        ++looked;
        line[0] = "solve";
        line.erase(line.begin() + 2, line.begin() + 6);
        const auto solved = run(line).json();
        std::set<std::string> best;
        for (const auto& move : solved["best"])
            best.insert(move.is_string() ? move.get<std::string>() : move["move"].get<std::string>());
        const auto& deeper = json["deeper"];
        EXPECT_TRUE(best.contains(deeper["best"]["move"])) << json;
        if (!best.contains(json["move"])) {
            ++better;
            EXPECT_GT(deeper["best"]["score"], deeper["played"]["score"]) << json;
        }
        overlooked += deeper["overlooked"].get<bool>() ? 1 : 0;
    }
    EXPECT_GT(looked, 20);
    EXPECT_GT(better, 3);
    EXPECT_GT(overlooked, 3);
    const Ran text = run(words("decide sluice --opponent standard@2 --seed 3"));
    EXPECT_NE(text.out.find("A longer search ("), std::string::npos) << text.out;
    EXPECT_EQ(run(words("decide sluice --opponent standard@10 --depth 4")).out.find("A longer search"),
              std::string::npos);
}

TEST(Tool, KnowsTheFormerNameOfTheParanoidSearch) {
    const Ran ran = run(words("decide lanterns --set players=3 --opponent pessimist --depth 2 --format json"));
    EXPECT_EQ(ran.status, 0) << ran.err;
    EXPECT_NE(ran.err.find("'paranoid'"), std::string::npos);
    expect_refused(words("decide lanterns --dept 3"), "did you mean '--depth'?");
}

TEST(WritingOpponents, EveryStepOfThePageIsRightAndSaysWhatThePageSays) {
    const std::string page = text_of_file(std::string(ARVEK_SOURCE_DIR) + "/docs/writing_opponents.md");
    std::size_t at = 0;
    int steps = 0, said = 0;
    while ((at = page.find("```toml\n", at)) != std::string::npos) {
        at += 8;
        const std::size_t end = page.find("```", at);
        const TemporaryFile profile(page.substr(at, end - at));
        ++steps;
        const Ran checked = run({"opponents", "check", profile.path()});
        EXPECT_EQ(checked.status, 0) << "step " << steps << "\n" << checked.out;
        EXPECT_NE(checked.out.find("It is right."), std::string::npos) << "step " << steps << "\n" << checked.out;
        const Ran decided = run({"decide", "scuffle", "--opponent", profile.path() + "@10"});
        EXPECT_EQ(decided.status, 0) << decided.err;
        const std::size_t comment = page.find("<!-- says: ", end), next = page.find("```toml\n", end);
        if (comment != std::string::npos && (next == std::string::npos || comment < next)) {
            const std::string text = page.substr(comment + 11, page.find(" -->", comment) - comment - 11);
            EXPECT_NE(decided.out.find(text), std::string::npos) << "step " << steps << ": " << text << "\n"
                                                                 << decided.out;
            ++said;
        }
        at = end;
    }
    EXPECT_EQ(steps, 10);
    EXPECT_EQ(said, 9);
}

TEST(WritingOpponents, NoShippedProfileIsWarnedOf) {
    std::vector<std::string> arguments{"opponents", "check"};
    for (const auto& entry : fs::directory_iterator(profiles))
        if (entry.path().extension() == ".toml") arguments.push_back(entry.path().string());
    EXPECT_GE(arguments.size(), 20u);
    const Ran ran = run(arguments);
    EXPECT_EQ(ran.status, 0);
    EXPECT_EQ(ran.out.find("warning"), std::string::npos) << ran.out;
    for (const auto& entry : fs::directory_iterator(profiles)) {
        std::istringstream lines(text_of_file(entry.path().string()));
        int own = 0;
        for (std::string line; std::getline(lines, line);) own += !line.empty() && line[0] != '#' ? 1 : 0;
        EXPECT_LE(own, 50) << entry.path();
    }
}

// What stands in the file, behind the head given first; where it is found, what it says and advises.
TEST(WritingOpponents, EachMistakeIsFoundAtItsPlaceWithAdvice) {
    struct Mistake {
        const char* text;
        const char* found;
        const char* advice;
    };
    const std::string scuffle = "name = 'x'\ngame = 'scuffle'\nchoose = 'rules'\n";  // 3 lines
    const std::string with_fallback = "[[fallback]]\n";
    const std::vector<Mistake> in_rules{
        // Names.
        {"[[rule]]\nname = 'a'\naction = 'dous'\n", "ERROR   line 6, column 10: there is no action 'dous'",
         "douse, perhaps"},
        {"[[rule]]\nname = 'a'\naction = ['haul', 'dous']\n", "ERROR   line 6, column 19: there is no action 'dous'",
         "douse"},
        {"[[rule]]\nname = 'a'\nnot_actor = 'Nesa'\n", "ERROR   line 6, column 13: there is no actor 'Nesa'",
         "Nessa, perhaps"},
        {"[[rule]]\nname = 'a'\ntarget = 'Brm'\n", "ERROR   line 6, column 10: there is no target 'Brm'",
         "Bram, perhaps"},
        {"[[rule]]\nname = 'a'\nkind = 'watr'\n", "ERROR   line 6, column 8: there is no kind of action 'watr'",
         "water"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harrm', above = 1 }\n",
         "ERROR   line 6, column 21: there is no quantity 'harrm'", "harm, perhaps"},
        {"[[rule]]\nname = 'a'\nlowest = ['harm', 'stamina']\n",
         "ERROR   line 6, column 19: there is no quantity 'stamina'", "actor stamina"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', minus = 'powr', above = 1 }\n",
         "ERROR   line 6, column 37: there is no quantity 'powr'", "power, perhaps"},
        {"[[rule]]\nname = 'a'\nwhen = { state = 'angry' }\n", "ERROR   line 6, column 18: there is no state 'angry'",
         "[state], with its first value"},
        {"[[rule]]\nname = 'a'\nwhen = { condition = 'weak' }\n",
         "ERROR   line 6, column 22: there is no condition 'weak'", "[conditions], with its name"},
        {"[[rule]]\nname = 'a'\ngroup = 'rage'\n", "ERROR   line 6, column 9: there is no group 'rage'",
         "[groups.rage]"},
        {"[[rule]]\nname = 'a'\nset = { angry = true }\n", "ERROR   line 6, column 9: there is no state 'angry'",
         "[state]"},
        {"[[rule]]\nname = 'a'\nwhen = { count = 'dance', above = 1 }\n",
         "ERROR   line 6, column 18: there is no action or kind of action 'dance'", "expected"},
        {"[[rule]]\nuse = 'win nw'\n", "ERROR   line 5, column 7: there is no ready rule 'win nw'", "win now, perhaps"},
        {"[[rule]]\nuse = 'make a double threat'\n",
         "ERROR   line 5, column 7: 'make a double threat' is for games of two without luck", "another rule"},
        // Form.
        {"[[rule]]\nname = 'a'\nwhen = [{ quantity = 'harm', above = 1 }]\n",
         "ERROR   line 6, column 8: a list of conditions does not say how they go together",
         "when = { all = [{ ... }, { ... }] }"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', above = '8' }\n",
         "ERROR   line 6, column 37: '8' is a number in quotes", "8 without quotes"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm' }\n",
         "ERROR   line 6, column 8: the quantity is not compared", "one of is, below"},
        {"[[rule]]\nname = 'a'\nwhen = { below = 3 }\n", "ERROR   line 6, column 8: a comparison is of no quantity",
         "quantity ="},
        {"[[rule]]\nname = 'a'\nwhen = { count = 'douse' }\n", "ERROR   line 6, column 8: the number is not compared",
         "one of is"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', by = 'rival', above = 1 }\n",
         "ERROR   line 6, column 34: 'by' is for what was done", "count ="},
        {"[[rule]]\nname = 'a'\nwhen = { count = 'douse', by = 'me', above = 1 }\n",
         "ERROR   line 6, column 32: there is no 'by' 'me'", "own, rival or actor"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', state = 'x', above = 1 }\n",
         "ERROR   line 6, column 37: one condition asks about two things", "all = ["},
        {"[[rule]]\nname = 'a'\nwhen = { plus = 3 }\n", "ERROR   line 6, column 10: 'plus' is done to no number",
         "quantity ="},
        {"[[rule]]\nname = 'a'\nwhen = {}\n", "ERROR   line 6, column 8: the condition is empty", "quantity ="},
        {"[[rule]]\nname = 'a'\nwhen = { all = [] }\n", "ERROR   line 6, column 16: 'all' has no conditions",
         "1 to 100"},
        {"[[rule]]\nname = 'a'\nlowest = 'harm'\nhighest = 'harm'\n",
         "ERROR   line 7, column 11: a rule chooses the lowest or the highest, not both", "choose = ["},
        {"[[rule]]\nname = 'a'\nchoose = 'harm'\n", "ERROR   line 6, column 10: 'choose' is not a list", "choose = [{"},
        {"[[rule]]\nname = 'a'\nchoose = [{ lowest = 'harm', highest = 'hits' }]\n",
         "ERROR   line 6, column 11: a part of 'choose' says the lowest or the highest of one thing", "{ lowest ="},
        {"[[rule]]\nname = 'a'\nchance = 45\n", "ERROR   line 6, column 10: 'chance' = 45 is out of range", "0 to 1"},
        {"[[rule]]\nname = 'a'\nweight = 2\n", "ERROR   line 6, column 10: a weight is for rules of a group that draws",
         "draw = true"},
        {"[[rule]]\nname = 'a'\nbefore = 'b'\n",
         "ERROR   line 6, column 10: 'before' is for rules that are added to those of another file", "based_on"},
        {"[[rule]]\nname = 'a'\n[[rule]]\nname = 'a'\n", "ERROR   line 7, column 8: there is a rule 'a' already",
         "another name"},
        {"[[rule]]\nname = 'a'\nsett = { x = 1 }\n", "ERROR   line 6, column 1: there is no key 'sett'",
         "set, perhaps"},
        {"[state]\nturn = 1\n[[rule]]\nname = 'a'\n", "ERROR   line 5, column 1: 'turn' is counted by itself",
         "another name"},
        {"[state]\nharm = 1\n[[rule]]\nname = 'a'\nwhen = { state = 'harm', is = 1 }\nadd = { harm = 1 }\n",
         "ERROR   line 5, column 1: there is a quantity 'harm' in the game", "another name"},
        {"[state]\nangry = false\n[[rule]]\nname = 'a'\nwhen = { state = 'angry' }\nset = { angry = 2 }\n",
         "ERROR   line 9, column 17: 'angry' is true or false, as [state] says", "true or false"},
        {"[conditions]\na = { condition = 'b' }\nb = { quantity = 'harm', above = 1 }\n[[rule]]\nname = 'a'\nwhen = { "
         "condition = 'a' }\n",
         "ERROR   line 5, column 19: 'b' stands below, or uses itself", "stands above"},
        {"care = 'never'\n[[rule]]\nname = 'a'\n", "ERROR   line 4, column 8: 'care'", "care = false"},
        {"care = { wins = 2 }\n[[rule]]\nname = 'a'\n", "ERROR   line 4, column 17: 'wins' = 2 is out of range",
         "0 to 1"},
        {"level = 11\n[[rule]]\nname = 'a'\n", "ERROR   line 4, column 9: 'level' = 11 is out of range", "1 to 10"},
        {"based_on = 'nowhere.toml'\n[[rule]]\nname = 'a'\n", "there is no such file", ""},
        {"without = ['x']\n[[rule]]\nname = 'a'\n", "'without' is of rules of another file", "based_on"},
        {"[parameters]\nteal = 3.5\n[[rule]]\nname = 'a'\n",
         "ERROR   line 5, column 8: 'teal' has a value of a wrong kind", "an integer, a boolean or a string"},
        {"[parameters]\nteel = 'x'\n[[rule]]\nname = 'a'\n", "line 5, column 1: ", "teal"},
        // What can never be, or always is.
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'actor share', below = 45 }\n",
         "warning line 6, column 8: this is always so: actor share is 0 to 1", "0.45, perhaps"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'actor share', above = 45 }\n",
         "warning line 6, column 8: this is never so: actor share is 0 to 1", "0.45, perhaps"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'own hands', above = 5 }\n",
         "warning line 6, column 8: this is never so: own hands is 1 to 5", "another number"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'turn', below = 1 }\n",
         "warning line 6, column 8: this is never so: turn is 1 or more", "another number"},
        {"[[rule]]\nname = 'a'\nwhen = { all = [{ quantity = 'harm', above = 8 }, { quantity = 'harm', below = 3 }] "
         "}\n",
         "warning line 6, column 16: 'a' asks for what cannot be together", "'any'"},
        {"[[rule]]\nname = 'a'\nwhen = { any = [{ quantity = 'harm', above = 3 }, { quantity = 'harm', below = 8 }] "
         "}\n",
         "warning line 6, column 16: 'a' asks for what is always so", "'all'"},
        {"[[rule]]\nname = 'a'\nwhen = { all = [{ quantity = 'harm', above = 3 }, { none = [{ quantity = 'harm', above "
         "= 2 }] }] }\n",
         "warning line 6, column 16: 'a' asks for what cannot be together", ""},
        {"[state]\nphase = 1\n[[rule]]\nname = 'a'\nwhen = { state = 'phase', is = 3 }\nset = { phase = 2 }\n",
         "warning line 8, column 8: this is never so: phase is 1 to 2", ""},
        {"[state]\nangry = false\n[[rule]]\nname = 'a'\nwhen = { state = 'angry' }\n",
         "warning line 5, column 1: the state 'angry' is asked, and nothing sets it", "set ="},
        {"[state]\nangry = false\n[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', above = 0 }\nset = { angry = true "
         "}\n",
         "warning line 5, column 1: the state 'angry' is set, and nobody asks it", "{ state ="},
        {"[state]\nangry = false\n[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', above = 0 }\n",
         "warning line 5, column 1: the state 'angry' is neither set nor asked", "no such state"},
        {"[conditions]\nweak = { quantity = 'harm', above = 1 }\n[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', "
         "above = 0 }\n",
         "warning line 5, column 1: nobody uses the condition 'weak'", "{ condition ="},
        {"[groups.rage]\n[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', above = 0 }\n",
         "warning line 4, column 9: no rule is in the group 'rage'", "group ="},
        // What is never asked.
        {"[[rule]]\nname = 'a'\nhighest = 'harm'\n[[rule]]\nname = 'b'\naction = 'haul'\n",
         "warning line 7, column 1: 'b' is never asked, as 'a' above always applies", "the other order"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', above = 3 }\n[[rule]]\nname = 'b'\nwhen = { quantity = "
         "'harm', above = 3 }\nhighest = 'hits'\n",
         "warning line 7, column 1: 'b' asks for the same as 'a' above", "another condition"},
        {"[[rule]]\nname = 'a'\naction = 'haul'\nchance = 0\n",
         "warning line 4, column 1: 'a' never fires, as its chance is 0", "a chance above 0"},
        {"[[rule]]\nname = 'a'\nhighest = 'harm'\n", "the fallback is never needed, as 'a' always applies",
         "no fallback"},
        // Who has what.
        {"[[rule]]\nname = 'a'\nactor = 'Nessa'\naction = 'douse'\n",
         "warning line 7, column 10: there was no douse by Nessa in 100 random games", "Nessa has"},
        {"[[rule]]\nname = 'a'\naction = 'haul'\nkind = 'water'\n",
         "warning line 6, column 10: there was no haul of kind water in 100 random games", "haul is of kind"},
    };
    int looked_at = 0;
    const auto look = [&](const std::string& text, const Mistake& mistake) {
        const TemporaryFile profile(text);
        const Ran ran = run({"opponents", "check", profile.path()});
        ++looked_at;
        const std::size_t at = ran.out.find(mistake.found);
        ASSERT_NE(at, std::string::npos) << text << "\n" << mistake.found << "\n" << ran.out;
        EXPECT_NE(ran.out.find(mistake.advice, at), std::string::npos) << mistake.advice << "\n" << ran.out;
        EXPECT_EQ(ran.status, ran.out.find("ERROR") != std::string::npos ? 1 : 0) << ran.out;
        EXPECT_EQ(ran.err, "");
    };
    for (const Mistake& mistake : in_rules) look(scuffle + mistake.text + with_fallback, mistake);
    // The fallback itself.
    look(scuffle + "[[rule]]\nname = 'a'\naction = 'haul'\n",
         {"", "ERROR   line 4, column 1: there is no fallback, so it loses the game where no rule applies",
          "[[fallback]]"});
    look(scuffle + "[[rule]]\nname = 'a'\naction = 'haul'\n[[fallback]]\naction = 'dig-in'\n",
         {"", "ERROR   line 7, column 1: nothing of the fallback is sure to be available to", "one more [[fallback]]"});
    look(scuffle + "[[fallback]]\nweight = 0\n", {"", "ERROR   line 5, column 10: 'weight' = 0 is out of range", ""});
    // Suggestions.
    const std::string watch = "name = 'x'\ngame = 'nightwatch'\nchoose = 'suggestions'\n";
    look(watch + "[suggestions]\ntke = {}\n",
         {"", "ERROR   line 5, column 1: there is no suggestion 'tke'", "take, perhaps"});
    look(watch + "[suggestions]\ntake = {}\n[temperament.hunger]\nvalue = 0.5\npulls = { flee = 2.0 }\n",
         {"", "warning line 8, column 11: 'flee' is weighed, and sleeps", "\"flee\" = {}"});
    look(watch + "[temperament.hunger]\nvalue = 0\npulls = { take = 2.0 }\n",
         {"", "warning line 4, column 1: the axis 'hunger' changes nothing, as its value is 0", "-1 to 1"});
    look(watch + "[temperament.hunger]\nvalue = 0.5\npulls = {}\n",
         {"", "warning line 4, column 1: the axis 'hunger' changes nothing, as its pulls are empty",
          "pulls on reasons"});
    look(watch + "[temperament.hunger]\nvalue = 0.5\npulls = { take = 2 }\nof = { Runer = 0.5 }\n",
         {"", "ERROR   line 7, column 8: there is no actor 'Runer'", "Runner, perhaps"});
    look(watch + "[temperament.hunger]\nvalue = 0.5\npulls = { take = 2 }\ndealt = { least = 0.5, most = 0.2 }\n",
         {"", "ERROR   line 7, column 9: the least is above the most", "least ="});
    // Levels, searches and books.
    const std::string lanterns = "name = 'x'\ngame = 'lanterns'\nchoose = 'search'\n";
    look(lanterns + "[levels.3]\ndepth = 4\n",
         {"", "warning line 4, column 9: level 3 looks farther than level 4", "the higher they are"});
    look(lanterns + "[search]\ndepth = 2\n[levels.8]\ndepth = 5\n",
         {"", "warning line 6, column 9: level 8 looks", ""});
    look(lanterns + "level = 4\n[follow]\nleast = 4\nmost = 4\n",
         {"", "warning line 5, column 1: it follows nobody", "a range"});
    look(lanterns + "[[book]]\nmoves = ['c3']\nreplies = { b2 = 1 }\n[[book]]\nmoves = ['c3']\nreplies = { d4 = 1 }\n",
         {"", "warning line 8, column 9: this line of the book leads where that of line 5 leads", "one entry"});
    look(
        lanterns + "[[book]]\nmoves = []\nreplies = { c3 = 1 }\n[[book]]\nmoves = ['b2', 'c3']\nreplies = { d4 = 1 }\n",
        {"", "warning line 8, column 9: this line is behind the own move b2, which the book at line 5 never plays",
         "among its replies"});
    look(lanterns + "[[book]]\nmoves = ['c9']\nreplies = { d4 = 1 }\n", {"", "ERROR   line 5, column 9: ", ""});
    EXPECT_GE(looked_at, 60);
}

TEST(WritingOpponents, EverythingWrongIsSaidAtOnceAndInJson) {
    const TemporaryFile profile(
        "name = 'x'\ngame = 'convoy'\nchoose = 'rules'\nlevel = 12\n[[rule]]\nname = 'a'\naction = 'skif'\n"
        "[[rule]]\nname = 'b'\nwhen = { quantity = 'own purs', above = 3 }\n[[fallback]]\nactions = 'x'\n");
    const auto found = run({"opponents", "check", profile.path(), "--format", "json"}).json()["profiles"][0];
    EXPECT_EQ(found["right"], false);
    std::vector<int> lines;
    for (const auto& finding : found["findings"]) lines.push_back(finding["line"]);
    EXPECT_EQ(lines, (std::vector<int>{4, 7, 10, 12}));
    EXPECT_EQ(found["findings"][0]["severity"], "error");
}

TEST(WritingOpponents, GamesShowWhatNeverFiresAndWhy) {
    const TemporaryFile profile(
        "name = 'x'\ngame = 'convoy'\nchoose = 'rules'\n[[rule]]\nname = 'greedy'\naction = 'skiff'\n"
        "[[rule]]\nname = 'late'\nwhen = { quantity = 'tick', above = 190 }\naction = 'tug'\n[[fallback]]\n");
    const Ran ran = run({"opponents", "check", profile.path(), "--games", "12"});
    EXPECT_EQ(ran.status, 0) << ran.out;
    EXPECT_NE(ran.out.find("'late' never fired in 12 games"), std::string::npos) << ran.out;
    const auto json = run({"opponents", "check", profile.path(), "--games", "12", "--format", "json"}).json();
    const auto use = json["profiles"][0]["use"];
    EXPECT_EQ(use["games"], 12);
    EXPECT_EQ(use["rules"][0]["rule"], "greedy");
    EXPECT_GT(use["rules"][0]["fired"][0].get<int>() + use["rules"][0]["fired"][1].get<int>(), 10);
}

TEST(WritingOpponents, OneFileIsBasedOnAnotherAndChangesAWordOfIt) {
    const fs::path folder = fs::temp_directory_path() / ("arvek_based_" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const auto write = [&](const std::string& name, const std::string& text) {
        std::ofstream(folder / name) << text;
        return (folder / name).string();
    };
    write("base.toml",
          "name = 'base'\ngame = 'convoy'\nchoose = 'rules'\n[[rule]]\nname = 'send'\naction = 'skiff'\nchance = 1\n"
          "[[rule]]\nname = 'wait'\naction = 'wait'\n");
    const std::string never =
        write("never.toml", "name = 'never'\nbased_on = 'base.toml'\n[[rule]]\nname = 'send'\nchance = 0\n");
    const std::string tug = write("tug.toml",
                                  "name = 'tug'\nbased_on = 'base.toml'\nwithout = ['send']\n[[rule]]\nname = 'tug'\n"
                                  "before = 'wait'\naction = 'tug'\n[[fallback]]\n");
    const auto chosen = [&](const std::string& path) {
        return run({"decide", "convoy", "--opponent", path, "--format", "json"}).json()["chosen_by"].get<std::string>();
    };
    EXPECT_EQ(chosen((folder / "base.toml").string()), "send");
    EXPECT_EQ(chosen(never), "wait");
    const auto rules = run({"decide", "convoy", "--opponent", tug, "--format", "json"}).json()["rules"];
    EXPECT_EQ(rules[0]["rule"], "tug");
    EXPECT_EQ(rules[1]["rule"], "wait");
    // What is wrong in the base is said with the base's name and line; a circle ends.
    write("base.toml", "name = 'base'\ngame = 'convoy'\nchoose = 'rules'\n[[rule]]\nname = 'send'\naction = 'skif'\n");
    EXPECT_NE(run({"opponents", "check", never}).out.find("line 6, column 10 of " + (folder / "base.toml").string()),
              std::string::npos)
        << run({"opponents", "check", never}).out;
    const std::string round = write("round.toml", "name = 'r'\nbased_on = 'round.toml'\n");
    EXPECT_NE(run({"opponents", "check", round}).out.find("based on one another too deeply, or in a circle"),
              std::string::npos);
    fs::remove_all(folder);
}

TEST(WritingOpponents, AProfileBringsTheParametersOfItsGame) {
    const std::string habits = profiles + "eel_street_habits.toml";
    EXPECT_EQ(run({"decide", "scuffle", "--opponent", habits}).status, 0);
    const TemporaryFile wide(
        "name = 'x'\ngame = 'lanterns'\nchoose = 'rules'\n[parameters]\ncolumns = 7\n[[fallback]]\n");
    EXPECT_EQ(run({"decide", "lanterns", "--opponent", wide.path(), "--format", "json"}).json()["set"]["columns"], 7);
    expect_refused({"decide", "lanterns", "--set", "columns=4", "--opponent", wide.path()},
                   "line 5, column 1: the profile is for columns = '7', and the game has '4'");
}

TEST(WritingOpponents, ADecisionInTheMiddleOfAGameRemembersIt) {
    const std::string captain = profiles + "flood_captain.toml";
    const auto raging = run(
        {"decide", "scuffle", "--opponent", captain, "--state", "phase=3 furious=true turn=12", "--format", "json"});
    EXPECT_EQ(raging.json()["chosen_by"], "rage") << raging.err;
    EXPECT_EQ(raging.json()["state"], "phase=3 furious=true since=0");
    expect_refused({"decide", "scuffle", "--opponent", captain, "--state", "phse=3"}, "there is no state 'phse'");
    expect_refused({"decide", "scuffle", "--opponent", "ruled", "--state", "phase=3"},
                   "--state: 'ruled' has no states");
    // From a list of moves: what it did in them it remembers, also where it would have done otherwise.
    const std::string counter = profiles + "lane_counter.toml";
    const auto after =
        run({"decide", "convoy", "--opponent", counter, "--moves", "wait wait wait wait", "--format", "json"});
    ASSERT_EQ(after.status, 0) << after.err;
    bool asked = false;
    const auto rules = after.json()["rules"];
    for (const auto& rule : rules) asked = asked || rule["rule"] == "answer a tug";
    EXPECT_TRUE(asked);
    expect_refused({"decide", "convoy", "--moves", "wait swim"}, "--moves, move 2: ");
}

TEST(WritingOpponents, WordsListEverythingThatAProfileMayName) {
    for (const char* game : {"scuffle", "nightwatch", "convoy", "lanterns", "sluice", "windlass"}) {
        const auto json = run({"words", game, "--format", "json"}).json();
        EXPECT_GE(json["quantities"].size(), 6u) << game;
        EXPECT_GE(json["suggestions"].size(), 3u) << game;
        EXPECT_FALSE(json["moves"].empty() && !json["actors"].empty() && std::string(game) != "scuffle") << game;
        for (const auto& quantity : json["quantities"]) {
            // What it says now is within its range, and every name works in a profile.
            const std::string name = quantity["name"];
            if (!quantity.contains("now")) continue;
            if (!quantity["least"].is_null()) {
                EXPECT_GE(quantity["now"]["least"], quantity["least"]) << game << " " << name;
            }
            if (!quantity["most"].is_null()) {
                EXPECT_LE(quantity["now"]["most"], quantity["most"]) << game << " " << name;
            }
        }
        EXPECT_NE(run({"words", game}).out.find("ready rules: win now"), std::string::npos);
    }
    EXPECT_EQ(run({"words", "wager"}).status, 0) << "a game without any";
    EXPECT_EQ(run({"words", "downstream"}).status, 0) << "where chance is next";
}

TEST(WritingOpponents, QuantitiesStayInTheirRangesInRandomGames) {
    for (const std::string game : {"scuffle", "nightwatch", "convoy", "lanterns", "sluice", "windlass"}) {
        const TemporaryFile log("", ".jsonl");
        const std::string games = testing_support::sanitized ? "2" : "6";
        ASSERT_EQ(
            run({"match", game, "random", "random", "--games", games, "--threads", "1", "--log", log.path()}).status,
            0);
        std::istringstream lines(log.text());
        int looked_at = 0;
        for (std::string line; std::getline(lines, line) && looked_at < 40;) {
            const auto json = testing_support::parsed(line);
            if (!json.contains("position") || json["ply"].get<int>() % 5 != 0) continue;
            ++looked_at;
            const auto here = run({"words", game, "--position", json["position"], "--format", "json"}).json();
            for (const auto& quantity : here["quantities"]) {
                if (!quantity["least"].is_null()) {
                    EXPECT_GE(quantity["now"]["least"], quantity["least"]) << game << " " << quantity["name"];
                }
                if (!quantity["most"].is_null()) {
                    EXPECT_LE(quantity["now"]["most"], quantity["most"]) << game << " " << quantity["name"];
                }
            }
        }
        EXPECT_GT(looked_at, 0) << game;
    }
}

TEST(WritingOpponents, ALogTellsTheWholeGameAndOneMoveOpened) {
    const TemporaryFile log("", ".jsonl");
    const auto match = run({"match", "scuffle", profiles + "flood_captain.toml", "ruled", "--games", "2", "--threads",
                            "1", "--log", log.path(), "--format", "json"});
    ASSERT_EQ(match.status, 0) << match.err;
    const Ran story = run({"story", log.path(), "--game", "1"});
    ASSERT_EQ(story.status, 0) << story.err;
    EXPECT_NE(story.out.find("The Flood Captain"), std::string::npos) << story.out;
    const auto json = run({"story", log.path(), "--game", "1", "--format", "json"}).json();
    EXPECT_EQ(json["moves"].size(),
              testing_support::parsed(log.text().substr(log.text().rfind("\n{") + 1))["moves"].size());
    const int ply = json["decisions"][3]["ply"];
    const Ran opened = run({"story", log.path(), "--game", "1", "--ply", std::to_string(ply)});
    EXPECT_NE(opened.out.find("To decide here:"), std::string::npos) << opened.out;
    EXPECT_NE(opened.out.find(json["decisions"][3]["move"].get<std::string>()), std::string::npos);
    expect_refused({"story", log.path(), "--game", "7"}, "there is no game 7 in the log");
    expect_refused({"story", log.path(), "--ply", "100000"}, "there is no decision after 100000 plies");
    const TemporaryFile none("{}\n", ".jsonl");
    expect_refused({"story", none.path()}, "line 1: the line is no decision of a log");
    const TemporaryFile empty("", ".jsonl");
    expect_refused({"story", empty.path()}, "the file does not begin with a log");
}

TEST(WritingOpponents, AMatchTellsRulesBySeatAlsoThoseThatNeverFired) {
    const TemporaryFile profile(
        "name = 'x'\ngame = 'convoy'\nchoose = 'rules'\n[[rule]]\nname = 'never'\nwhen = { quantity = 'own purse', "
        "above = 12 }\n"
        "[[rule]]\nname = 'skiff'\naction = 'skiff'\n[[fallback]]\n");
    const Ran ran = run({"match", "convoy", profile.path(), "random", "--games", "4"});
    EXPECT_TRUE(std::regex_search(ran.out, std::regex("never +never +never"))) << ran.out;
    EXPECT_NE(ran.out.find("x as first "), std::string::npos) << ran.out;
    const auto json = run({"match", "convoy", profile.path(), "random", "--games", "4", "--format", "json"}).json();
    EXPECT_EQ(json["a_as_first"]["games"], 2);
    EXPECT_GT(json["a_as_second"]["chosen_a"]["skiff"].get<int>(), 0);
}

TEST(WritingOpponents, ASweepPlaysAMatchForEachValue) {
    const std::string habits = profiles + "rash_watchman.toml";
    const auto json = run({"sweep", "nightwatch", habits, "random", "--key", "temperament.hunger.value", "--values",
                           "-0.5,0.9", "--games", "2", "--format", "json"});
    ASSERT_EQ(json.status, 0) << json.err;
    EXPECT_EQ(json.json()["rows"].size(), 2u);
    EXPECT_EQ(json.json()["rows"][1]["value"], 0.9);
    // A key that the file leaves out, of a rule by its name.
    EXPECT_EQ(run({"sweep", "scuffle", profiles + "flood_captain.toml", "random", "--key", "rule.test them.chance",
                   "--values", "0.5", "--games", "2"})
                  .status,
              0);
    expect_refused(
        {"sweep", "scuffle", profiles + "flood_captain.toml", "random", "--key", "rule.tst.chance", "--values", "1"},
        "key rule.tst.chance: there is no 'tst.chance' there");
    expect_refused({"sweep", "scuffle", profiles + "flood_captain.toml", "random", "--key", "name", "--values", "1"},
                   "it is no number in the profile");
    expect_refused({"sweep", "scuffle", profiles + "flood_captain.toml", "random", "--key", "level", "--values", "11"},
                   "'level' = 11 is out of range");
    expect_refused({"sweep", "scuffle", profiles + "flood_captain.toml", "random", "--key", "level", "--values", "x"},
                   "'x' is no number");
    expect_refused({"sweep", "scuffle", profiles + "flood_captain.toml", "random"}, "it is not said which number");
    expect_refused({"sweep", "scuffle", "ruled", "random", "--key", "level", "--values", "1"}, "'ruled' is no profile");
}

TEST(WritingOpponents, OpponentsAndLevelsStandSideBySide) {
    const Ran ran = run({"decide", "nightwatch", "--opponent",
                         profiles + "rash_watchman.toml," + profiles + "wary_watchman.toml,ruled"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    for (const char* name : {"The Rash Watchman", "The Wary Watchman", "ruled"})
        EXPECT_NE(ran.out.find(name), std::string::npos) << ran.out;
    const auto levels = run(words("decide sluice --level 1..4 --format json")).json();
    EXPECT_EQ(levels["runs"].size(), 4u);
    EXPECT_EQ(levels["runs"][2]["level"], 3);
    expect_refused({"decide", "lanterns", "--opponent", "ruled,nobody"}, "there is no opponent 'nobody'");
}

TEST(WritingOpponents, AnOpponentRemembersItsOpeningsInAFile) {
    const fs::path file = fs::temp_directory_path() / ("arvek_openings_" + std::to_string(::getpid()) + ".json");
    fs::remove(file);
    std::set<std::string> first;
    for (int game = 0; game < 5; ++game) {
        const Ran ran = run({"play", "lanterns", "--as", "amber", "--seed", "1", "--opponent",
                             profiles + "frame_bookman.toml", "--remember", file.string(), "--format", "json"},
                            "quit\n");
        ASSERT_EQ(ran.status, 0) << ran.err;
        first.insert(ran.json()["moves"][0].get<std::string>());
    }
    EXPECT_EQ(first.size(), 5u) << "the same seed, and never the same opening twice";
    expect_refused({"play", "lanterns", "--opponent", "ruled", "--remember", file.string()}, "has no opening book");
    std::ofstream(file) << "[1]";
    expect_refused({"play", "lanterns", "--opponent", profiles + "frame_bookman.toml", "--remember", file.string()},
                   "the file does not remember openings");
    fs::remove(file);
}
