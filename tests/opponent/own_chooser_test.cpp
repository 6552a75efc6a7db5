// The example of a chooser of one's own, end to end: by name in every verb, with levels, options, profiles and reasons.

#include <gtest/gtest.h>

#include <arvek/tool/tool.hpp>
#include <sstream>

#include "../../examples/own_chooser/heaviest.hpp"
#include "support/json.hpp"

using namespace arvek;
using testing_support::parsed;

namespace {

struct Ran {
    int status = 0;
    std::string out, err;
};

Ran run(const std::string& line, const std::string& typed = "") {
    tool::Tool tool("quayside");
    tool.add<Quayside>("quayside", "crates")
        .parameter("crates", &Quayside::Parameters::crates, 1, 12, "crates on the quay")
        .chooser(heaviest_info(), make_heaviest);
    std::istringstream words(line), in(typed);
    std::ostringstream out, err;
    const int status =
        tool.run({std::istream_iterator<std::string>(words), {}}, {in, out, err, false, false, false, false});
    return {status, out.str(), err.str()};
}

const std::string profile = ARVEK_SOURCE_DIR "/examples/own_chooser/wary_loader.toml";

}  // namespace

TEST(OwnChooser, IsKnownToEveryVerbByItsName) {
    const Ran decided = run("decide quayside --opponent heaviest --format json");
    ASSERT_EQ(decided.status, 0) << decided.err;
    const auto json = parsed(decided.out);
    EXPECT_EQ(json["opponent"], "heaviest");
    EXPECT_EQ(json["ranked"].size(), 2u);
    EXPECT_NE(json["ranked"][0]["reasons"][0].get<std::string>().find("loads"), std::string::npos);
    EXPECT_NE(run("decide quayside --opponent heaviest@3").out.find("worth"), std::string::npos);

    const Ran matched = run("match quayside heaviest random --games 40 --opening-plies 1 --format json");
    ASSERT_EQ(matched.status, 0) << matched.err;
    EXPECT_GT(parsed(matched.out)["score_a"].get<double>(), 0.5);
    EXPECT_EQ(run("levels quayside --opponent heaviest --levels 1,5,10 --games 20 --opening-plies 1").status, 0);
    EXPECT_NE(run("play quayside --opponent heaviest@4", "left\nwhy\nquit\n").out.find("loads"), std::string::npos);

    const auto games = parsed(run("games --format json").out);
    const auto& choosers = games["games"][0]["opponents"];
    EXPECT_EQ(choosers.back()["name"], "heaviest");
    EXPECT_EQ(choosers.back()["options"][0]["name"], "caution");
}

TEST(OwnChooser, TakesItsOptionsFromTheCommandLineAndFromAProfile) {
    EXPECT_EQ(run("decide quayside --opponent heaviest --option caution=2").status, 0);
    const Ran wrong = run("decide quayside --opponent heaviest --option caution=3");
    EXPECT_EQ(wrong.status, 2);
    EXPECT_NE(wrong.err.find("--option caution: 3 is out of range (expected 0 to 2)"), std::string::npos) << wrong.err;
    EXPECT_NE(run("decide quayside --opponent heaviest --option cauton=1").err.find("expected caution, perhaps"),
              std::string::npos);
    EXPECT_NE(run("decide quayside --opponent heaviest --depth 3").err.find("does not look ahead"), std::string::npos);

    EXPECT_EQ(run("opponents check " + profile).status, 0) << run("opponents check " + profile).err;
    const Ran decided = run("decide quayside --opponent " + profile);
    EXPECT_NE(decided.out.find("The Wary Loader, level 8"), std::string::npos) << decided.out << decided.err;
    EXPECT_EQ(run("match quayside " + profile + " " + profile + "@2 --games 10").status, 0);
}

TEST(OwnChooser, IsOneOfTheChoosersOfALibraryUser) {
    auto choosers = Choosers<Quayside>::built_in();
    choosers.add(heaviest_info(), make_heaviest);
    const Quayside game;
    const auto opponent = make_opponent(game, read_opponent("heaviest@10", choosers.infos()), {}, choosers);
    const auto decision = opponent->decide(game.initial_position(), 1);
    EXPECT_TRUE(legal_moves(game, game.initial_position()).contains(decision.move));
    EXPECT_EQ(decision.chosen_by, "weight");
    EXPECT_THROW(choosers.add(heaviest_info(), make_heaviest), InputError) << "the name is taken";
    ChooserInfo nameless;
    EXPECT_THROW(choosers.add(nameless, make_heaviest), InputError);
    EXPECT_THROW((void)read_opponent("heaviest"), InputError) << "not one of those that every game has";
    // An evaluator by name fits into what looks ahead.
    struct Zero final : Evaluator<Quayside> {
        Score evaluate(const Quayside&, const Quayside::Position&, Player) const override { return {}; }
    };
    choosers.add_evaluator("zero", [](const Quayside&) { return std::make_shared<Zero>(); });
    OpponentSpec spec = read_opponent("alphabeta");
    spec.depth = 1;
    spec.options.set("evaluator", "zero");
    EXPECT_EQ(make_opponent(game, spec, {}, choosers)->decide(game.initial_position(), 1).ranked.front().score,
              Score());
    spec.options.set("evaluator", "none_such");
    EXPECT_THROW((void)make_opponent(game, spec, {}, choosers), InputError);
}

namespace {

/// The first move was tried a thousand times and is sound; each other one once, and was lucky.
class Lucky final : public Chooser<Quayside> {
   public:
    explicit Lucky(const Quayside& game) : game_(game) {}

    Decision<Quayside::Move> choose(const Choice<Quayside>& now) override {
        Decision<Quayside::Move> decision;
        for (const auto& move : legal_moves(game_, now.position)) {
            const bool first = decision.ranked.empty();
            auto& entry = decision.ranked.emplace_back();
            entry.move = move;
            entry.visits = first ? 1'000 : 1;
            entry.score = Score::estimate(first ? 100 : 900);
        }
        decision.move = decision.ranked.front().move;
        decision.has_scores = decision.has_visits = true;
        return decision;
    }

   private:
    Quayside game_;
};

}  // namespace

TEST(OwnChooser, ALevelByPlayoutsIsNotTakenInByLuck) {
    auto choosers = Choosers<Quayside>::built_in();
    ChooserInfo info;
    info.name = "lucky";
    info.looks_ahead = info.plays_out = true;
    choosers.add(info, [](const Quayside& game, const ChooserSetup&) { return std::make_unique<Lucky>(game); });
    const Quayside game;
    const auto position = game.initial_position();
    const auto first = legal_moves(game, position)[0];
    const auto opponent = make_opponent(game, read_opponent("lucky@9", choosers.infos()), {}, choosers);
    int as_ranked = 0;
    for (std::uint64_t seed = 0; seed < 200; ++seed)
        as_ranked += opponent->decide(position, seed).move == first ? 1 : 0;
    // Level 9 overlooks three moves in two hundred.
    EXPECT_GE(as_ranked, 180);
}
