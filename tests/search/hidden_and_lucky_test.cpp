// Exact values of games of chance, and equilibria of games with hidden hands.

#include <gtest/gtest.h>

#include <arvek/opponent/make_opponent.hpp>
#include <arvek/search/equilibrium.hpp>
#include <arvek/search/luck_solver.hpp>
#include <cmath>

#include "downstream/downstream.hpp"
#include "support/chance_tree.hpp"
#include "support/sanitized.hpp"
#include "tolls/tolls.hpp"
#include "wager/wager.hpp"

using namespace arvek;
using testing_support::ChanceTree;
using waterway::Downstream;
using waterway::Tolls;
using waterway::Wager;

TEST(LuckSolver, HasTheKnownChancesOfDownstream) {
    const struct {
        Downstream::Parameters parameters;
        double chance;
    } known[] = {{{2, 1, 4, 2, 0}, 0.5916666667},
                 {{2, 1, 8, 2, 0}, 0.5652897588},
                 {{2, 1, 6, 4, 5}, 0.5943602148},
                 {{2, 2, 4, 2, 0}, 0.5554860606}};
    for (const auto& [parameters, chance] : known) {
        const Downstream game(parameters);
        const auto solution = LuckSolver<Downstream>(game).solve(game.initial_position());
        EXPECT_TRUE(solution.complete);
        EXPECT_LE(solution.error, 1e-11);
        EXPECT_NEAR((solution.value + 1) / 2, chance, 1e-10);
        ASSERT_EQ(solution.moves.size(), static_cast<std::size_t>(parameters.die));
        double mean = 0;
        for (const auto& event : solution.moves) mean += event.probability * event.value;
        EXPECT_NEAR(mean, solution.value, 1e-9);
    }
}

TEST(LuckSolver, AgreesWithPlainExpectationOnRandomTrees) {
    const auto plain = [](const auto& self, const ChanceTree& tree, const ChanceTree::Position& position) -> double {
        if (const auto outcome = tree.outcome(position)) return outcome->payoff(Player::First);
        const bool chance = tree.chance_is_next(position);
        double sum = 0, best = 0;
        bool first = true;
        const bool own = !chance && tree.player_to_move(position) == Player::First;
        MoveList<Event<int>> events;
        if (chance) {
            tree.generate_events(position, events);
        } else {
            for (const int move : legal_moves(tree, position)) events.push_back({move, 1.0});
        }
        for (const auto& event : events) {
            auto next = position;
            tree.play(next, event.move);
            const double value = self(self, tree, next);
            sum += event.probability * value;
            best = first ? value : own ? std::max(best, value) : std::min(best, value);
            first = false;
        }
        return chance ? sum : best;
    };
    for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 100u : 500u); ++seed) {
        const ChanceTree tree{seed, 6, 1 + static_cast<int>(seed % 3)};
        const auto position = tree.initial_position();
        const auto solution = LuckSolver<ChanceTree>(tree).solve(position);
        const double known = plain(plain, tree, position);
        const double sign = tree.player_to_move(position) == Player::First ? 1 : -1;
        ASSERT_NEAR(solution.value, sign * known, 1e-9) << seed;
        ASSERT_NEAR(solution.moves.front().value, solution.value, 1e-9);
    }
}

TEST(LuckSolver, StoppedEarlyItSaysHowFarItMayBeOff) {
    const Downstream game;
    const auto whole = LuckSolver<Downstream>(game).solve(game.initial_position());
    EXPECT_TRUE(whole.complete);
    EXPECT_EQ(whole.positions, 89'221u);
    const auto little = LuckSolver<Downstream>(game).solve(game.initial_position(), {.memory_mebibytes = 1});
    EXPECT_FALSE(little.complete);
    EXPECT_EQ(little.stopped_by, "memory");
    EXPECT_LE(std::abs(little.value - whole.value), little.error + 1e-9);
    bool asked = true;
    const StopToken stop([](const void* state) { return *static_cast<const bool*>(state); }, &asked);
    const auto stopped = LuckSolver<Downstream>(game).solve(game.initial_position(), {.stop = stop});
    EXPECT_FALSE(stopped.complete);
    EXPECT_LE(std::abs(stopped.value - whole.value), stopped.error + 1e-9);
    EXPECT_THROW(
        (void)LuckSolver<Downstream>(Downstream({.players = 3})).solve(Downstream({.players = 3}).initial_position()),
        InputError);
    EXPECT_THROW((void)LuckSolver<Downstream>(game).solve(game.initial_position(), {.error = 0}), InputError);
}

TEST(Equilibrium, HasTheKnownValuesOfWagerAndTolls) {
    const double wager[] = {-1.0 / 18, -1.0 / 24, -1.0 / 15};
    for (int cards = 3; cards <= 5; ++cards) {
        const auto found = Equilibrium<Wager>(Wager({cards})).solve();
        EXPECT_TRUE(found.complete);
        EXPECT_LE(found.exploitability, 1e-4);
        EXPECT_NEAR(found.value, wager[cards - 3], 1e-4);
        EXPECT_EQ(found.strategy.size(), static_cast<std::size_t>(4 * cards));
    }
    const auto small = Equilibrium<Tolls>(Tolls({2, 2, 3, 2, "none"})).solve();
    EXPECT_NEAR(small.value, 26.0 / 45, 2 * small.exploitability + 1e-9) << "2/3 would be with open hands";
    const auto mixing = Equilibrium<Tolls>(Tolls({2, 3, 2, 2, "none"})).solve();
    EXPECT_NEAR(mixing.value, 7.0 / 6, 2 * mixing.exploitability + 1e-9);
    bool mixes = false;
    for (const auto& row : mixing.strategy)
        for (const auto& share : row.moves) mixes = mixes || (share.probability > 0.05 && share.probability < 0.95);
    EXPECT_TRUE(mixes);
}

TEST(Equilibrium, DrawnGamesComeNearTheSameValues) {
    const double wager[] = {-1.0 / 18, -1.0 / 24};
    for (int cards = 3; cards <= 4; ++cards) {
        const Wager game({cards});
        const auto found = Equilibrium<Wager>(game).solve(
            {.exploitability = 0, .iterations = testing_support::sanitized ? 5'000 : 60'000, .sampled = true});
        EXPECT_TRUE(found.measured);
        EXPECT_EQ(found.stopped_by, "iterations");
        EXPECT_LE(found.exploitability, testing_support::sanitized ? 0.06 : 0.02);
        EXPECT_NEAR(found.value, wager[cards - 3], found.error + 1e-9);
        EXPECT_EQ(found.strategy.size(), static_cast<std::size_t>(4 * cards));
        const auto same = Equilibrium<Wager>(game).solve({.iterations = 100, .sampled = true, .seed = 3});
        EXPECT_EQ(same.value, Equilibrium<Wager>(game).solve({.iterations = 100, .sampled = true, .seed = 3}).value);
    }
    // Too large to be laid out in a mebibyte: how far it is off is not claimed to be known.
    const Tolls large({2, 3, 5, 3, "none"});
    const auto drawn = Equilibrium<Tolls>(large).solve({.iterations = 400, .memory_mebibytes = 1, .sampled = true});
    EXPECT_FALSE(drawn.measured);
    EXPECT_FALSE(drawn.complete);
    EXPECT_EQ(drawn.positions, 0u);
    EXPECT_GT(drawn.error, 0);
    EXPECT_FALSE(drawn.strategy.empty());
    for (const auto& row : drawn.strategy) {
        double sum = 0;
        for (const auto& share : row.moves) sum += share.probability;
        ASSERT_NEAR(sum, 1, 1e-9);
    }
    // One walk of this one would never come to its end, nor fit.
    const auto stopped =
        Equilibrium<Tolls>(Tolls({2, 4, 13, 13, "none"})).solve({.memory_mebibytes = 1, .sampled = true});
    EXPECT_EQ(stopped.stopped_by, "memory");
    EXPECT_EQ(stopped.iterations, 0);
}

TEST(Equilibrium, RefusesWhatItCannotDo) {
    EXPECT_THROW((void)Equilibrium<Tolls>(Tolls{}).solve(), InputError) << "three sides";
    EXPECT_THROW((void)Equilibrium<Tolls>(Tolls({2, 4, 13, 13, "none"})).solve({.memory_mebibytes = 1}), InputError);
    EXPECT_THROW((void)Equilibrium<Wager>(Wager{}).solve({.iterations = 0}), InputError);
    const auto stopped = Equilibrium<Wager>(Wager{}).solve({.exploitability = 0, .iterations = 10});
    EXPECT_FALSE(stopped.complete);
    EXPECT_EQ(stopped.stopped_by, "iterations");
    EXPECT_GT(stopped.exploitability, 0);
    EXPECT_NEAR(stopped.value, -1.0 / 18, stopped.error + 1e-9);
}

TEST(Mixed, LosesNothingBeyondItsExploitability) {
    // Against one that always bets and calls, and one that never does: exact, over all deals, in both seats.
    const Wager game;
    const auto mixed = make_opponent(game, read_opponent("mixed"));
    EXPECT_EQ(mixed->decide(game.view(game.read_position("3 1 b A"), Player::Second), 1).searched_by, "mixed");
    for (const bool dares : {true, false}) {
        double sum = 0;
        int games = 0;
        for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 300u : 6'000u); ++seed)
            for (const Player seat : {Player::First, Player::Second}) {
                Random random(derived_seed(7, seed));
                auto position = game.initial_position();
                settle_chance(game, position, random);
                while (!game.outcome(position)) {
                    const Player mover = game.player_to_move(position);
                    const auto moves = legal_moves(game, position);
                    auto move = moves[dares ? 1 : 0];
                    if (mover == seat)
                        move = mixed->decide(game.view(position, mover), derived_seed(seed, index_of(seat))).move;
                    game.play(position, move);
                }
                sum += game.outcome(position)->payoff(seat);
                ++games;
            }
        // Each payoff is at most 2: three standard deviations of the mean.
        EXPECT_GE(sum / games, -0.001 - 3 * 1.5 / std::sqrt(games)) << dares;
    }
}
