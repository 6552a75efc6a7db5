#include "arvek/link/rules_program.hpp"

#include <gtest/gtest.h>

#include <fstream>

#include "support/resident.hpp"
#include "support/sanitized.hpp"
#include "support/tool.hpp"

using testing_support::run;

namespace {

const std::string moorings = std::string(ARVEK_SOURCE_DIR) + "/examples/languages/moorings.py";

std::vector<std::string> with_rules(std::vector<std::string> arguments, const std::string& script) {
    for (const std::string& part : {std::string("python3"), script}) {
        arguments.push_back("--rules");
        arguments.push_back(part);
    }
    return arguments;
}

/// moorings.py with one thing replaced.
std::string changed_rules(const std::string& name, const std::string& what, const std::string& by) {
    std::ifstream in(moorings);
    std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
    const auto at = text.find(what);
    EXPECT_NE(at, std::string::npos) << what;
    text.replace(at, what.size(), by);
    const std::string path = testing::TempDir() + name + ".py";
    std::ofstream(path) << text;
    return path;
}

}  // namespace

TEST(RulesProgram, AreCountedDecidedPlayedAndChecked) {
    const auto counted = run(with_rules({"count", "moorings", "--depth", "2", "--format", "json"}, moorings));
    ASSERT_EQ(counted.status, 0) << counted.err;
    EXPECT_EQ(counted.json()["counts"][0]["sequences"], 17) << "nine boats and eight barges";
    const auto solved =
        run(with_rules({"solve", "moorings", "--position", "xxxx.xx.. T", "--format", "json"}, moorings));
    ASSERT_EQ(solved.status, 0) << solved.err;
    EXPECT_EQ(solved.json()["outcome"], "win");
    const auto decided = run(with_rules({"decide", "moorings", "--position", "xxxx.xx.. T"}, moorings));
    EXPECT_EQ(decided.status, 0) << decided.err;
    const auto match =
        run(with_rules({"match", "moorings", "standard@8", "random", "--games", "6", "--format", "json"}, moorings));
    ASSERT_EQ(match.status, 0) << match.err;
    EXPECT_GE(match.json()["score_a"], 0.5);
    const auto checked = run(with_rules({"check", "moorings", "--games", "10"}, moorings));
    EXPECT_EQ(checked.status, 0) << checked.out;
    const auto refused = run(with_rules({"decide", "moorings", "--position", "xx T"}, moorings));
    EXPECT_EQ(refused.status, 2);
    EXPECT_NE(refused.err.find("is no quay of 9 rings"), std::string::npos) << refused.err;
    EXPECT_EQ(run(with_rules({"decide", "chess"}, moorings)).status, 2);
}

TEST(RulesProgram, FaultsInThemAreFound) {
    // The move list forgets that a barge takes two free rings; the same turn goes on for ever.
    const auto wrong_payoffs = changed_rules("payoffs", "[-1, 1] if player == \"T\" else [1, -1]", "[1, 1]");
    const auto checked = run(with_rules({"check", "moorings", "--games", "5"}, wrong_payoffs));
    EXPECT_EQ(checked.status, 1);
    EXPECT_NE(checked.out.find("do not sum to zero"), std::string::npos) << checked.out;
    const auto twice = changed_rules("twice", "            yield f\"boat-{first + 1}\"",
                                     "            yield f\"boat-{first // 2 + 1}\"");
    EXPECT_EQ(run(with_rules({"check", "moorings", "--games", "5"}, twice)).status, 1);
}

TEST(RulesProgram, OnesThatDoNotAnswerAsTheyShouldAreToldApart) {
    const auto said = [](const std::string& script) {
        const auto ran = run(with_rules({"count", "moorings", "--depth", "1"}, script));
        EXPECT_EQ(ran.status, 1);
        return ran.err;
    };
    EXPECT_NE(said(testing::TempDir() + "not_there.py").find("ended with status 2; its last words: "),
              std::string::npos);
    EXPECT_NE(said(changed_rules("no_name", "{\"game\": \"moorings\", ", "{")).find("'game' is missing"),
              std::string::npos);
    EXPECT_NE(said(changed_rules("no_moves", "\"moves\": [", "\"mooves\": [")).find("'moves' is missing"),
              std::string::npos);
    EXPECT_NE(said(changed_rules("space", "f\"boat-{first + 1}\"", "f\"boat {first + 1}\""))
                  .find("'boat 1' is empty, or has a space"),
              std::string::npos);
    EXPECT_NE(said(changed_rules("prints", "    rings, player = read(position)",
                                 "    print(\"here\")\n    rings, player = read(position)"))
                  .find("said what is no answer: 'here'"),
              std::string::npos);
    EXPECT_NE(said(changed_rules("divides", "    rings, player = read(position)",
                                 "    rings, player = read(position)\n    1 / 0"))
                  .find("ZeroDivisionError"),
              std::string::npos);
}

TEST(RulesProgram, PositionsThatGrowDoNotTakeTheMemory) {
    const std::string path = testing::TempDir() + "growing.py";
    std::ofstream(path) << R"(import json, sys
for line in sys.stdin:
    asked = json.loads(line)
    if asked["method"] == "rules":
        result = {"game": "growing", "initial": "0", "players": ["T", "A"]}
    else:
        at = int(asked["params"]["position"].split(".")[0])
        result = {"to_move": at % 2, "moves": [{"move": "on", "after": str(at + 1) + "." + "x" * 2000000}]}
    print(json.dumps({"jsonrpc": "2.0", "id": asked["id"], "result": result}), flush=True)
)";
    const arvek::link::RulesProgram rules({.command = {"python3", path}});
    auto position = rules.initial_position();
    const long before = testing_support::resident_mebibytes();
    arvek::MoveList<arvek::link::RulesProgram::Move> moves;
    for (int ply = 0; ply < 150; ++ply) {
        moves.clear();
        rules.generate_moves(position, moves);
        ASSERT_EQ(moves.size(), 1u);
        rules.play(position, moves[0]);
    }
    EXPECT_LT(testing_support::resident_mebibytes() - before, testing_support::sanitized ? 1'500 : 450)
        << "of 900 MiB that were said";
}
