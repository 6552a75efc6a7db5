#include "arvek/lab/weight_fit.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "support/sanitized.hpp"

using namespace arvek;

namespace {

/// Positions of games whose results follow known weights; all of one game end alike.
std::vector<WeightSample> games_of(const std::vector<double>& weights, double to_move, int games, std::uint64_t seed) {
    Random random(seed);
    std::vector<WeightSample> samples;
    for (int game = 0; game < games; ++game) {
        std::vector<double> values;
        double lead = to_move;
        for (const double weight : weights) {
            values.push_back(static_cast<double>(random.below(7)) - 3.0);
            lead += weight * values.back();
        }
        const double result = random.chance(1 / (1 + std::exp2(-lead / fitted_units_per_doubling))) ? 1 : 0;
        // The same position twice says no more than once.
        for (int i = 0; i < 3; ++i) samples.push_back({values, result, static_cast<std::size_t>(game)});
    }
    return samples;
}

}  // namespace

TEST(WeightFit, FindsKnownWeightsAndKnowsHowSureItIs) {
    const std::vector<double> known{80.0, -25.0, 0.0};
    const int rounds = testing_support::sanitized ? 10 : 100;
    int within = 0;
    for (int round = 0; round < rounds; ++round) {
        const WeightFit fit = fit_weights(games_of(known, 20.0, 600, static_cast<std::uint64_t>(round)), 0.0);
        ASSERT_EQ(fit.weights.size(), 3u);
        EXPECT_EQ(fit.games, 600u);
        for (std::size_t i = 0; i < known.size(); ++i)
            within += fit.weights[i].low <= known[i] && known[i] <= fit.weights[i].high ? 1 : 0;
        EXPECT_NEAR(fit.weights[0].weight, 80.0, 35.0);
        EXPECT_GT(fit.bits, 0.05);
    }
    EXPECT_NEAR(within, rounds * 3 * 0.95, rounds * 3 * 0.05);
}

TEST(WeightFit, IsNotSurerThanAFewGamesAllow) {
    const std::vector<double> known{60.0, -30.0};
    const int rounds = testing_support::sanitized ? 60 : 400;
    for (const int games : {20, 40, 100}) {
        int within = 0;
        for (int round = 0; round < rounds; ++round) {
            const WeightFit fit = fit_weights(games_of(known, 0.0, games, static_cast<std::uint64_t>(1'000 + round)));
            for (std::size_t i = 0; i < known.size(); ++i)
                within += fit.weights[i].low <= known[i] && known[i] <= fit.weights[i].high ? 1 : 0;
        }
        EXPECT_GE(within, rounds * 2 * 0.93 - 10) << games << " games";
        EXPECT_LE(within, rounds * 2 * 0.98 + 10) << games << " games";
    }
    const WeightFit few = fit_weights(games_of(known, 0.0, 9, 1));
    EXPECT_TRUE(std::isinf(few.weights[0].low) && std::isinf(few.weights[0].high)) << "nine games tell nothing of it";
}

TEST(WeightFit, HoldsBackWhatTheGamesSayLittleOf) {
    // Won whenever the feature is there: without anything to hold it back the weight would have no end.
    std::vector<WeightSample> sure;
    for (std::size_t game = 0; game < 40; ++game)
        sure.push_back({{game % 2 == 0 ? 1.0 : -1.0, 0.0}, game % 2 == 0 ? 1.0 : 0.0, game});
    const WeightFit fit = fit_weights(sure);
    EXPECT_GT(fit.weights[0].weight, 50.0);
    EXPECT_LT(fit.weights[0].weight, 2'000.0);
    EXPECT_NEAR(fit.weights[1].weight, 0.0, 1e-6) << "what never changes";
    EXPECT_LT(fit_weights(sure, 100.0).weights[0].weight, fit.weights[0].weight);
}

TEST(WeightFit, SaysWhatIsWrong) {
    EXPECT_THROW((void)fit_weights({}), InputError);
    const std::vector<WeightSample> uneven{{{1.0}, 1.0, 0}, {{1.0, 2.0}, 0.0, 1}}, none{{{std::nan("")}, 1.0, 0}},
        beyond{{{1.0}, 2.0, 0}};
    EXPECT_THROW((void)fit_weights(uneven), InputError);
    EXPECT_THROW((void)fit_weights(none), InputError);
    EXPECT_THROW((void)fit_weights(beyond), InputError);
}
