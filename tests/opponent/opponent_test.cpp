#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/opponent/opponent.hpp>
#include <arvek/opponent/pace.hpp>

#include "lanterns/lanterns.hpp"
#include "support/brute_force.hpp"

using namespace arvek;
using waterway::Lanterns;

namespace {

OpponentSpec at_level(const std::string& name, int level) {
    OpponentSpec spec;
    spec.name = name;
    spec.level = level;
    return spec;
}

}  // namespace

TEST(OpponentSpec, ReadsNamesAndLevelsAndWritesThemBack) {
    for (const char* text : {"random", "ruled@1", "minimax@9", "alphabeta"})
        EXPECT_EQ(opponent_text(read_opponent(text)), text);
    EXPECT_EQ(opponent_text(read_opponent("alphabeta@10")), "alphabeta");
    for (const char* wrong : {"", "alfa", "alphabeta@", "alphabeta@0", "alphabeta@11", "alphabeta@3x", "alphabeta@-1",
                              "random@3", "alphabeta@99999999999999999999", "@3"})
        EXPECT_THROW((void)read_opponent(wrong), InputError) << wrong;
}

TEST(Opponent, EveryOneOfThemPlaysLegallyAndRepeatably) {
    const Lanterns game({4, 4, 3, true});
    Random random(1);
    for (const std::string& name : opponent_names())
        for (const int level : {1, 3, 5, 10}) {
            if (!opponent_has_levels(name) && level < highest_level) continue;
            const auto opponent = make_opponent(game, at_level(name, level));
            const auto twin = make_opponent(game, at_level(name, level));
            for (int i = 0; i < 20; ++i) {
                const auto position = testing_support::random_position(game, i % 12, random);
                const auto decision = opponent->decide(position, static_cast<std::uint64_t>(i));
                const auto legal = legal_moves(game, position);
                EXPECT_TRUE(legal.contains(decision.move));
                EXPECT_EQ(decision.ranked.size() + decision.overlooked.size(), legal.size());
                EXPECT_EQ(decision.move, twin->decide(position, static_cast<std::uint64_t>(i)).move);
            }
        }
}

TEST(Opponent, FromLevelThreeOnNeverOverlooksAWinInOne) {
    const Lanterns game;
    Random random(2);
    int wins_seen = 0, wins_missed_below = 0;
    while (wins_seen < 300) {
        const auto position = testing_support::random_position(game, 8 + static_cast<int>(random.below(12)), random);
        const auto wins = [&](const Lanterns::Move& move) {
            auto after = position;
            game.play(after, move);
            const auto outcome = game.outcome(after);
            return outcome && outcome->payoff(position.to_move) > 0;
        };
        const auto legal = legal_moves(game, position);
        if (std::none_of(legal.begin(), legal.end(), wins)) continue;
        ++wins_seen;
        for (const std::string name : {"alphabeta", "ruled", "minimax"}) {
            const std::uint64_t seed = random.next();
            EXPECT_TRUE(wins(make_opponent(game, at_level(name, 3))->decide(position, seed).move))
                << game.position_text(position);
            if (!wins(make_opponent(game, at_level(name, 1))->decide(position, seed).move)) ++wins_missed_below;
        }
    }
    EXPECT_GT(wins_missed_below, 300) << "level 1 is there to be beaten";
}

TEST(Opponent, FullDepthNeverLosesAndTheLowestLevelCanBeBeatenByChance) {
    const Lanterns game({3, 3, 3, false});
    const auto random = make_opponent(game, read_opponent("random"));
    for (const std::string name : {"alphabeta", "minimax"}) {
        const auto strong = make_opponent(game, read_opponent(name));
        EXPECT_EQ(play_match(game, *strong, *random, {.games = 100, .seed = 3}).wins_b, 0) << name;
        const auto weak = make_opponent(game, at_level(name, 1));
        EXPECT_GE(play_match(game, *random, *weak, {.games = 400, .seed = 4}).score_a(), 0.25) << name;
    }
}

TEST(Opponent, HigherLevelsScoreAgainstLowerOnes) {
    const Lanterns game({6, 5, 4, true});
    for (const std::string name : {"alphabeta", "ruled"})
        for (const int level : {3, 5, 7}) {
            const auto higher = make_opponent(game, at_level(name, level));
            const auto lower = make_opponent(game, at_level(name, level - 2));
            EXPECT_GT(play_match(game, *higher, *lower, {.games = 200, .seed = 5}).interval().low, 0.5)
                << name << "@" << level;
        }
}

TEST(Opponent, TheCallersLimitsReplaceTheLevels) {
    const Lanterns game;
    OpponentSpec spec = read_opponent("alphabeta@7");
    spec.depth = 1;
    const auto decision = make_opponent(game, spec)->decide(game.initial_position(), 1);
    EXPECT_EQ(decision.stats.depth, 1);
    EXPECT_EQ(decision.stats.nodes, 1 + decision.ranked.size());
    for (const char* name : {"random", "ruled"}) {
        OpponentSpec blind = read_opponent(name);
        blind.depth = 3;
        EXPECT_THROW((void)make_opponent(game, blind), InputError) << name;
    }
    EXPECT_THROW((void)make_opponent(game, at_level("alphabeta", 11)), InputError);
    EXPECT_THROW((void)make_opponent(game, at_level("alphabet", 10)), InputError);
    EXPECT_THROW((void)make_opponent(game, at_level("random", 2)), InputError);
}

TEST(Pace, WaitsAtLeastItsTimeAndNoLongerThanItsVariation) {
    Random random(1);
    const Pace pace{1.0, 0.5};
    double shortest = 10, longest = 0;
    for (int i = 0; i < 1'000; ++i) {
        const double wait = seconds_to_wait(pace, 0.25, random);
        shortest = std::min(shortest, wait);
        longest = std::max(longest, wait);
    }
    EXPECT_GE(shortest, 0.75);
    EXPECT_LE(longest, 1.25);
    EXPECT_GT(longest - shortest, 0.3);
    EXPECT_EQ(seconds_to_wait(pace, 2.0, random), 0.0);
}
