// What a lead is worth, fitted to games.

#include <gtest/gtest.h>

#include <arvek/game/random.hpp>
#include <arvek/lab/odds.hpp>
#include <cmath>

using namespace arvek;

namespace {

/// Games whose estimates are right: a lead of `units` doubles the odds.
OddsFit games_with(double units, int games, std::uint64_t seed) {
    OddsFit fit;
    Random random(seed);
    for (int game = 0; game < games; ++game) {
        const double estimate = 40 * (random.unit() - 0.5);
        const double points = random.unit() < 1 / (1 + std::exp2(-estimate / units)) ? 1.0 : 0.0;
        // Several positions of one game tell no more than one.
        const OddsFit::Seen position{estimate, points}, mirrored{-estimate, 1 - points};
        const OddsFit::Seen seen[] = {position, mirrored, position, mirrored};
        fit.add(seen);
    }
    return fit;
}

}  // namespace

TEST(Odds, FindTheScaleThatTheGamesWereDrawnBy) {
    for (const double units : {2.0, 7.0, 15.0}) {
        int inside = 0;
        for (std::uint64_t seed = 0; seed < 40; ++seed) {
            const auto found = games_with(units, 300, seed).report();
            ASSERT_TRUE(found.units_per_doubling && found.low);
            EXPECT_EQ(found.games, 300);
            EXPECT_EQ(found.positions, 1'200u);
            inside += *found.low <= units && (!found.high || *found.high >= units) ? 1 : 0;
        }
        // 95 of 100 in the long run; fewer than 33 of 40 would come once in 2,000 times.
        EXPECT_GE(inside, 33) << units;
    }
}

TEST(Odds, TheRowsHoldEveryPositionOnceAndFit) {
    const auto found = games_with(7, 2'000, 1).report();
    std::uint64_t positions = 0;
    for (std::size_t i = 0; i < found.rows.size(); ++i) {
        const OddsRow& row = found.rows[i];
        positions += row.positions;
        EXPECT_LE(row.least, row.most);
        if (i > 0) {
            EXPECT_GT(row.least, found.rows[i - 1].most);
        }
        EXPECT_NEAR(row.won, row.fitted, 0.12);
    }
    EXPECT_EQ(positions, found.positions);
}

TEST(Odds, TellWhatTheTurnIsWorth) {
    OddsFit fit;
    Random random(5);
    constexpr double units = 6, turn = 3;
    for (int game = 0; game < 20'000; ++game) {
        const double estimate = 40 * (random.unit() - 0.5);
        const double points = random.unit() < 1 / (1 + std::exp2(-(estimate + turn) / units)) ? 1.0 : 0.0;
        const OddsFit::Seen seen[] = {{estimate, points}};
        fit.add(seen);
    }
    ASSERT_TRUE(fit.report().turn);
    EXPECT_NEAR(*fit.report().turn, turn, 0.5);
    EXPECT_NEAR(games_with(7, 5'000, 2).report().turn.value_or(9), 0, 1e-6) << "each game is seen from both sides";
}

TEST(Odds, ClaimNothingWhereTheGamesTellNothing) {
    EXPECT_FALSE(OddsFit().report().units_per_doubling);
    EXPECT_FALSE(games_with(7, 9, 1).report().low) << "of nine games nobody knows how surely";
    OddsFit sure, backwards, level;
    for (int i = 1; i <= 50; ++i) {
        const OddsFit::Seen leads[] = {{i * 1.0, 1.0}, {-i * 1.0, 0.0}};
        sure.add(leads);
        const OddsFit::Seen loses[] = {{i * 1.0, 0.0}, {-i * 1.0, 1.0}};
        backwards.add(loses);
        const OddsFit::Seen even[] = {{0.0, 1.0}, {0.0, 0.0}};
        level.add(even);
    }
    EXPECT_TRUE(sure.report().always_won);
    for (const OddsFit* fit : {&sure, &backwards, &level}) EXPECT_FALSE(fit->report().units_per_doubling);
    EXPECT_FALSE(backwards.report().always_won);
    EXPECT_EQ(level.report().rows.size(), 1u);
}
