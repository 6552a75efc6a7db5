#include "arvek/lab/tuning.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "arvek/arena/league.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "support/sanitized.hpp"

using namespace arvek;

namespace {

/// A game whose players are as strong as their numbers are near the best: ratings fall with the square of the distance,
/// in shares of the ranges, by `steepness` at a distance of one.
struct Hill {
    std::vector<double> best;
    double steepness = 800;

    double rating(const std::vector<TunedNumber>& numbers, const std::vector<double>& values) const {
        double squares = 0;
        for (std::size_t i = 0; i < best.size(); ++i)
            squares += std::pow((values[i] - best[i]) / (numbers[i].high - numbers[i].low), 2);
        return -steepness * squares;
    }
    /// The share of the lost rating that a tuning wins back.
    double won_back(std::vector<TunedNumber> numbers, const TuningOptions& options, int games) const {
        Tuning tuning(std::move(numbers), options);
        Random random(options.seed + 77);
        while (const auto step = tuning.next()) {
            const double ahead = rating(tuning.numbers(), step->a) - rating(tuning.numbers(), step->b);
            const double chance = 1 / (1 + std::pow(10, -ahead / 400));
            double points = 0;
            for (int i = 0; i < games; ++i) points += random.chance(chance) ? 1 : 0;
            tuning.add(points, games);
        }
        const double start = rating(tuning.numbers(), tuning.start());
        return 1 - rating(tuning.numbers(), tuning.best()) / start;
    }
};

}  // namespace

TEST(Tuning, FindsNumbersThatWereSpoilt) {
    const int runs = testing_support::sanitized ? 3 : 20;
    double by_perturbation = 0, by_surface = 0;
    for (int i = 0; i < runs; ++i) {
        const auto seed = static_cast<std::uint64_t>(i);
        const Hill eight{{0.8, 10, 0.2, -3, 0.5, 0.5, 7, 0.1}};
        const std::vector<TunedNumber> spoilt{{"a", 0, 1, 0.1}, {"b", 0, 20, 0, true}, {"c", 0, 1, 0.9},
                                              {"d", -5, 5, 3},  {"e", 0, 1, 0.5},      {"f", 0, 1, 0.0},
                                              {"g", 0, 10, 1},  {"h", 0, 1, 0.6}};
        by_perturbation += eight.won_back(spoilt, {.steps = 300, .seed = seed}, 16) / runs;
        const Hill two{{0.75, 4}};
        by_surface += two.won_back({{"a", 0, 1, 0.1}, {"b", 0, 10, 9}},
                                   {.method = TuningMethod::Surface, .steps = 40, .seed = seed}, 20) /
                      runs;
    }
    EXPECT_GT(by_perturbation, 0.8);
    EXPECT_GT(by_surface, 0.8);
}

TEST(Tuning, LeavesABestSetAloneInNinetyFiveOfAHundred) {
    // The whole of it, with known chances: steps, a candidate, and the games by which it must show that it is better.
    const int runs = testing_support::sanitized ? 12 : 200;
    const auto accepted = [&](double steepness) {
        int taken = 0;
        for (int run = 0; run < runs; ++run) {
            const auto seed = static_cast<std::uint64_t>(run);
            const Hill hill{{0.5, 5, 0.3}, steepness};
            Tuning tuning({{"a", 0, 1, 0.5}, {"b", 0, 10, 5}, {"c", 0, 1, 0.3}}, {.steps = 60, .seed = seed});
            Random random(derived_seed(seed, 4));
            const auto chance_of = [&](const std::vector<double>& one, const std::vector<double>& other) {
                const double ahead = hill.rating(tuning.numbers(), one) - hill.rating(tuning.numbers(), other);
                return 1 / (1 + std::pow(10, -ahead / 400));
            };
            while (const auto step = tuning.next()) {
                double points = 0;
                for (int i = 0; i < 16; ++i) points += random.chance(chance_of(step->a, step->b)) ? 1 : 0;
                tuning.add(points, 16);
            }
            League test({.games = 2'000, .order_error = 0.05});
            const double chance = chance_of(tuning.best(), tuning.start());
            while (const auto task = test.next()) {
                GameRecord game;
                game.counted.number = task->number;
                game.counted.a_first = task->number % 2 == 0;
                game.counted.seat_a = task->number % 2;
                game.counted.points_a = random.chance(chance) ? 1.0 : 0.0;
                game.counted.winner = game.counted.points_a > 0 ? MatchWinner::A : MatchWinner::B;
                test.add(*task, game);
            }
            const LeagueResult result = test.result();
            taken += result.is_sure && result.standings[0].player == 0 ? 1 : 0;
        }
        return taken;
    };
    EXPECT_LE(accepted(800), runs / 20) << "what is worse is never taken for better";
    EXPECT_LE(accepted(0), runs / 20 + 1) << "nor what is just as good";
}

TEST(Tuning, StaysWithinItsRangesAndKeepsIntegersWhole) {
    for (const TuningMethod method : {TuningMethod::Perturbation, TuningMethod::Surface}) {
        Tuning tuning({{"a", -1, 1, 1}, {"b", 0, 3, 0, true}, {"c", 0.2, 4.9, 1, true}},
                      {.method = method, .steps = 60, .seed = 3});
        Random random(1);
        int apart = 0;
        while (const auto step = tuning.next()) {
            for (const auto* side : {&step->a, &step->b}) {
                EXPECT_TRUE((*side)[0] >= -1 && (*side)[0] <= 1);
                EXPECT_TRUE((*side)[1] == std::round((*side)[1]) && (*side)[1] >= 0 && (*side)[1] <= 3);
                EXPECT_TRUE((*side)[2] == std::round((*side)[2]) && (*side)[2] >= 1 && (*side)[2] <= 4);
            }
            apart += step->a[1] != step->b[1] ? 1 : 0;
            tuning.add(static_cast<double>(random.below(9)), 8);
        }
        EXPECT_GT(apart, 20);
        EXPECT_THROW(tuning.add(1, 2), InputError);
    }
}

TEST(Tuning, GoesOnFromItsHistory) {
    for (const TuningMethod method : {TuningMethod::Perturbation, TuningMethod::Surface}) {
        const std::vector<TunedNumber> numbers{{"a", 0, 1, 0.5}, {"b", 0, 1, 0.2}};
        Tuning whole(numbers, {.method = method, .steps = 30, .seed = 5});
        std::vector<double> history;
        Random random(2);
        while (whole.next()) {
            history.push_back(static_cast<double>(random.below(9)));
            whole.add(history.back(), 8);
        }
        Tuning again(numbers, {.method = method, .steps = 30, .seed = 5});
        EXPECT_EQ(again.best(), again.start());
        for (const double points : history) again.add(points, 8);
        EXPECT_EQ(again.best(), whole.best());
        EXPECT_EQ(again.now(), whole.now());
    }
}

TEST(Tuning, SaysWhatIsWrongWithNumbers) {
    const auto wrong = [](std::vector<TunedNumber> numbers, TuningOptions options = {}) {
        EXPECT_THROW(Tuning(std::move(numbers), options), InputError);
    };
    wrong({});
    wrong({{"a", 1, 1, 1}});
    wrong({{"a", 0, 1, 2}});
    wrong({{"a", 0, 1, 0.5}, {"a", 0, 1, 0.5}});
    wrong({{"a", 0.1, 1.9, 1, true}});
    wrong({{"a", 0, 1, 0.5}}, {.steps = 0});
    wrong(std::vector<TunedNumber>(7, {"a", 0, 1, 0.5}), {.method = TuningMethod::Surface});
    Tuning sound({{"a", 0, 1, 0.5}}, {});
    EXPECT_THROW(sound.add(3, 2), InputError);
    EXPECT_THROW(sound.add(0, 0), InputError);
}
