#include <gtest/gtest.h>
#include <arvek/rules/rule_list.hpp>

#include <set>

#include "lanterns/lanterns.hpp"
#include "support/brute_force.hpp"
#include "support/random_tree.hpp"

using namespace arvek;
using waterway::Lanterns;

namespace {

const Lanterns frame({3, 3, 3, false});

Decision<Lanterns::Move> decide(const char* text, std::uint64_t seed = 0) {
    return usual_rules(frame).decide(frame, frame.read_position(text), seed);
}
std::string chosen(const Decision<Lanterns::Move>& decision) { return frame.move_text({}, decision.move); }

}  // namespace

TEST(RuleList, WinsNowRatherThanStopTheRival) {
    const auto decision = decide("TT./AA./... T");
    EXPECT_EQ(chosen(decision), "c3");
    ASSERT_EQ(decision.rules.size(), 1u);
    EXPECT_EQ(decision.rules[0].rule, "win now");
    EXPECT_TRUE(decision.rules[0].fired);
    EXPECT_EQ(decision.rules[0].why, "c3 wins at once");
    EXPECT_FALSE(decision.has_scores);
    EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Rule);
}

TEST(RuleList, StopsTheRivalAndSaysWhatItThreatened) {
    const auto decision = decide("TT./.A./... A");
    EXPECT_EQ(chosen(decision), "c3");
    ASSERT_EQ(decision.rules.size(), 2u);
    EXPECT_FALSE(decision.rules[0].fired);
    EXPECT_EQ(decision.rules[0].why, "no move wins at once");
    EXPECT_TRUE(decision.rules[1].fired);
    EXPECT_EQ(decision.rules[1].why, "one of 6 moves prevents it: a2 lets Teal win with c3");
    EXPECT_EQ(decision.ranked.size(), 6u);
    EXPECT_EQ(decision.ranked[1].reasons, std::vector<std::string>{"lets Teal win with c3"});
}

TEST(RuleList, SaysSoWhenNothingPreventsTheLoss) {
    const auto decision = decide("T.T/.A./A.T A");
    EXPECT_FALSE(decision.rules[1].fired);
    EXPECT_EQ(decision.rules[1].why.rfind("nothing prevents it: ", 0), 0u) << decision.rules[1].why;
}

TEST(RuleList, FollowsTheGamesPreferenceAndThenTheSeed) {
    EXPECT_EQ(chosen(decide(".../.../... T")), "b2");
    std::set<std::string> sides;
    for (std::uint64_t seed = 0; seed < 60; ++seed) sides.insert(chosen(decide(".../.T./... A", seed)));
    EXPECT_EQ(sides, (std::set<std::string>{"a2", "b1", "b3", "c2"}));
}

TEST(RuleList, AnEarlierRuleOutweighsALaterOneAndPreferencesSettleTies) {
    RuleList<Lanterns> rules;
    rules
        .prefer("column a", [](const Lanterns& game, const auto& position,
                               const auto& move) { return game.move_text(position, move)[0] == 'a' ? 1 : 0; })
        .prefer("high up", [](const Lanterns& game, const auto& position, const auto& move) {
            return game.move_text(position, move)[1] - '0';
        });
    const auto decision = rules.decide(frame, frame.initial_position(), 5);
    EXPECT_EQ(chosen(decision), "a3");
    ASSERT_EQ(decision.rules.size(), 2u);
    EXPECT_EQ(decision.rules[1].why, "among those, a3 is liked best");
    EXPECT_EQ(decision.ranked.front().reasons, (std::vector<std::string>{"column a", "high up"}));
}

TEST(RuleList, WithoutAnyRuleAnyMoveIsPlayed) {
    std::set<std::string> seen;
    for (std::uint64_t seed = 0; seed < 200; ++seed)
        seen.insert(frame.move_text({}, RuleList<Lanterns>().decide(frame, frame.initial_position(), seed).move));
    EXPECT_EQ(seen.size(), 9u);
}

TEST(RuleList, TheRulesHoldOnRandomGamesWhereAPlayerMayMoveAgain) {
    using testing_support::RandomTree;
    for (std::uint64_t seed = 0; seed < 500; ++seed) {
        const RandomTree tree{seed, 6, false};
        const auto start = tree.initial_position();
        const Player player = tree.player_to_move(start);
        if (tree.outcome(start)) continue;
        const auto decision = usual_rules(tree).decide(tree, start, seed);
        // One ply deep, with every estimate taken as even, the move is best; two plies deep it loses only if all do.
        const auto value = [&](int move, int depth) {
            auto after = start;
            tree.play(after, move);
            const Score score = testing_support::brute_force(tree, after, player, depth - 1, 1);
            return score.is_proven() ? score.payoff() : 0;
        };
        Payoff best_now = 0;
        bool some_safe = false;
        const auto loses = [&](int move) {
            auto after = start;
            tree.play(after, move);
            if (tree.outcome(after)) return value(move, 1) < 0;
            return tree.player_to_move(after) != player && value(move, 2) < 0;
        };
        for (const int move : legal_moves(tree, start)) {
            best_now = std::max(best_now, value(move, 1));
            some_safe = some_safe || !loses(move);
        }
        if (best_now > 0) {
            ASSERT_EQ(value(decision.move, 1), best_now) << "seed " << seed;
        } else if (some_safe) {
            ASSERT_FALSE(loses(decision.move)) << "seed " << seed;
        }
    }
}

TEST(RuleList, RefusesAFinishedPosition) { EXPECT_THROW(decide("TTT/AA./... A"), InputError); }
