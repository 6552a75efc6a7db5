#include "arvek/lab/level_fit.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <optional>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"

namespace {

using namespace arvek;

double share(double ahead) { return 1.0 / (1.0 + std::pow(10.0, -ahead / 400.0)); }

/// An opponent in a game whose strength at a place nobody knows: steep here and flat there, and with somebody that is
/// better against weak ones than his rating says.
struct Simulated {
    double range, bend, bully;

    double strength(double place) const {
        const double whole = place / 10.0;
        return range * std::pow(whole, bend) * (1.0 + 0.3 * std::sin(9.0 * whole));
    }
    /// Nothing: random moves, at 0.
    double score(std::optional<double> one, std::optional<double> other) const {
        const double ahead = (one ? strength(*one) : 0.0) - (other ? strength(*other) : 0.0);
        return share(ahead + bully * std::tanh(ahead / 100.0));
    }
    std::pair<double, int> play(std::optional<double> one, std::optional<double> other, int games,
                                Random& random) const {
        double points = 0.0;
        for (int i = 0; i < games; ++i) points += random.unit() < score(one, other) ? 1.0 : 0.0;
        return {points, games};
    }
};

/// The curve of strengths as a rating of all places would have it, with its noise.
std::vector<MeasuredStrength> curve_of(const Simulated& game, Random& random) {
    std::vector<MeasuredStrength> measured;
    for (double place = 0.0; place <= 10.0; place += place < 1.0 ? 0.5 : 1.0) {
        const double rating = game.strength(place) + 40.0 * (random.unit() - 0.5);
        measured.push_back({place, {rating, rating - 30.0, rating + 30.0}});
    }
    return measured;
}

}  // namespace

TEST(LevelSteps, AreEvenInGamesWhoseScoresNoStrengthTells) {
    int within = 0, all = 0;
    for (int run = 0; run < 40; ++run) {
        Random random(static_cast<std::uint64_t>(run));
        const Simulated game{800.0 + 1'200.0 * random.unit(), 0.6 + random.unit(), 60.0 * random.unit()};
        LevelSteps steps(curve_of(game, random), {});
        for (; !steps.done(); steps.next())
            for (int games = 20; games <= 320; games *= 2) {
                const auto [points, played] = game.play(steps.place(), steps.against(), games, random);
                steps.add(points, played);
            }
        const FittedLevels& levels = steps.levels();
        for (int level = lowest_level; level <= highest_level; ++level) {
            const auto at = static_cast<std::size_t>(level - lowest_level);
            if (level > lowest_level) {
                EXPECT_GE(levels.places[at], levels.places[at - 1]) << run;
            }
            if (level < lowest_level + 2) continue;
            const double score = game.score(levels.places[at], levels.places[at - 2]);
            ++all;
            within += score >= 0.6 && score <= 0.8 ? 1 : 0;
            EXPECT_GT(score, 0.5) << run << ", level " << level;
            EXPECT_LT(score, 0.9) << run << ", level " << level;
        }
        const double lowest = game.score(levels.places[0], std::nullopt);
        EXPECT_GT(lowest, 0.45) << run;
        EXPECT_LT(lowest, 0.7) << run;
    }
    EXPECT_GE(within, all * 95 / 100) << "of " << all;
}

TEST(LevelSteps, StandWhereStrengthsPutThemUntilGamesArePlayed) {
    std::vector<MeasuredStrength> measured;
    for (int place = 0; place <= 10; ++place)
        measured.push_back({static_cast<double>(place), {100.0 * place, 0.0, 0.0}});
    LevelSteps steps(measured, {});
    const FittedLevels at_first = steps.levels();
    EXPECT_FALSE(steps.against());
    steps.next();
    EXPECT_EQ(steps.against(), at_first.places[0]);
    steps.next();
    EXPECT_EQ(steps.level(), 3);
    EXPECT_EQ(steps.against(), at_first.places[0]);
    EXPECT_NEAR(steps.place(), at_first.places[2], 1e-9);
    // Who wins all is put nearer, who loses all farther; and never below the one it is to beat.
    steps.add(200.0, 200);
    EXPECT_LT(steps.place(), at_first.places[2]);
    EXPECT_GE(steps.place(), at_first.places[0]);
    LevelSteps others(measured, {});
    others.next();
    others.next();
    others.add(0.0, 200);
    EXPECT_GT(others.place(), at_first.places[2]);
}

TEST(LevelSteps, SayWhichLevelsCannotBeToldApartAndRefuseNonsense) {
    const std::vector<MeasuredStrength> flat{{0.0, {0.0, -5.0, 5.0}}, {10.0, {60.0, 55.0, 65.0}}};
    EXPECT_EQ(fit_levels(flat, {}).hardly_apart.size(), 8u);
    EXPECT_THROW(fit_levels(std::span(flat).first(1), {}), InputError);
    const std::vector<MeasuredStrength> twice{{1.0, {}}, {1.0, {}}};
    EXPECT_THROW(fit_levels(twice, {}), InputError);
    EXPECT_THROW(fit_levels(flat, {.most_against_two_below = 1.0}), InputError);
    EXPECT_THROW(fit_levels(flat, {.lowest_score = 0.2}), InputError);
}
