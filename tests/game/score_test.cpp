#include <gtest/gtest.h>
#include <arvek/game/score.hpp>

#include <vector>

using arvek::Score;

TEST(Score, OrdersLossesEstimatesAndWinsAsAPlayerWould) {
    const std::vector<Score> rising{Score::lowest(),         Score::proven(-5, 2),
                                    Score::proven(-1, 1),    Score::proven(-1, 9'999),
                                    Score::estimate(-999),   Score{},
                                    Score::estimate(1),      Score::estimate(999'999'999),
                                    Score::proven(1, 9'999), Score::proven(1, 3),
                                    Score::proven(1, 2),     Score::proven(2, 9'999),
                                    Score::proven(2, 0),     Score::highest()};
    for (std::size_t i = 1; i < rising.size(); ++i) EXPECT_LT(rising[i - 1], rising[i]) << "at " << i;
}

TEST(Score, NoEstimateLooksProvenHoweverLarge) {
    for (const std::int64_t units : {INT64_MAX, INT64_MIN, std::int64_t{2'000'000'000}, std::int64_t{-1'000'000'001}}) {
        const Score score = Score::estimate(units);
        EXPECT_FALSE(score.is_proven());
        EXPECT_LT(score, Score::proven(1, arvek::max_score_plies));
        EXPECT_GT(score, Score::proven(-1, arvek::max_score_plies));
    }
}

TEST(Score, GivesBackPayoffAndPliesOverTheWholeRange) {
    for (const int payoff : {1, 2, 77, arvek::largest_payoff})
        for (const int plies : {0, 1, 2, 500, arvek::max_score_plies})
            for (const int sign : {1, -1}) {
                const Score score = Score::proven(sign * payoff, plies);
                EXPECT_EQ(score.payoff(), sign * payoff);
                EXPECT_EQ(score.plies(), plies);
                EXPECT_EQ(-score, Score::proven(-sign * payoff, plies));
                EXPECT_EQ(score.is_proven_win(), sign > 0);
            }
    EXPECT_FALSE(Score::proven(0, 4).is_proven());
}

TEST(Score, JustBelowLeavesNoScoreBetween) {
    EXPECT_EQ(Score::estimate(5).just_below(), Score::estimate(4));
    EXPECT_EQ(Score::proven(1, 3).just_below(), Score::proven(1, 4));
    EXPECT_EQ(Score::lowest().just_below(), Score::lowest());
}
