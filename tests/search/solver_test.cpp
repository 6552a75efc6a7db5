// Exact solving against plain recursion, against values found by repeated relaxation, and against what is known.

#include <gtest/gtest.h>
#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/solver.hpp>
#include <arvek/search/standard.hpp>

#include <bit>
#include <map>

#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"
#include "support/brute_force.hpp"
#include "support/random_tree.hpp"
#include "support/sanitized.hpp"
#include "windlass/windlass.hpp"

using namespace arvek;
using testing_support::random_position;
using testing_support::RandomTree;
using waterway::Lanterns;
using waterway::Sluice;
using waterway::Windlass;

namespace {

template <class G>
Payoff exact_payoff(const G& game, const typename G::Position& position, Player viewer) {
    if (const auto outcome = game.outcome(position)) return outcome->payoff(viewer);
    const bool own = game.player_to_move(position) == viewer;
    Payoff best = own ? -largest_payoff : largest_payoff;
    for (const auto& move : legal_moves(game, position)) {
        auto after = position;
        game.play(after, move);
        const Payoff payoff = exact_payoff(game, after, viewer);
        best = own ? std::max(best, payoff) : std::min(best, payoff);
    }
    return best;
}

template <class G>
void expect_solved_exactly(const G& game, const typename G::Position& position) {
    const Player player = game.player_to_move(position);
    const Payoff known = exact_payoff(game, position, player);
    for (const auto& [margins, hint] : {std::pair{true, true}, {false, true}, {true, false}}) {
        const auto solution =
            Solver<G>(game, {.memory_mebibytes = 1, .margins = margins, .hint = hint}).solve(position);
        const auto wanted = [&, in_full = margins](Payoff payoff) {
            return in_full ? payoff : std::clamp(payoff, -1, 1);
        };
        ASSERT_TRUE(solution.complete);
        ASSERT_EQ(solution.least, wanted(known));
        for (const auto& solved : solution.moves) {
            auto after = position;
            game.play(after, solved.move);
            const Payoff payoff = wanted(exact_payoff(game, after, player));
            if (solved.kind == ScoreKind::Exact) {
                ASSERT_EQ(solved.value, payoff);
            } else {
                ASSERT_GE(solved.value, payoff);
                ASSERT_LT(payoff, solution.least) << "every move that keeps the value is exact";
            }
        }
    }
}

}  // namespace

TEST(Solver, AgreesWithPlainRecursionWhereLinesEnd) {
    Random random(61);
    for (const Sluice::Parameters& shape : std::vector<Sluice::Parameters>{
             {2, 2, false, false}, {2, 3, true, false}, {3, 1, false, true}, {3, 2, false, false}}) {
        const Sluice game(shape);
        for (int i = 0; i < 60; ++i)
            ASSERT_NO_FATAL_FAILURE(expect_solved_exactly(game, random_position(game, 4 + i % 10, random)));
    }
    const Lanterns small({3, 3, 3, false}), dropping({4, 3, 3, true});
    for (int i = 0; i < 60; ++i) {
        ASSERT_NO_FATAL_FAILURE(expect_solved_exactly(small, random_position(small, 1 + i % 8, random)));
        ASSERT_NO_FATAL_FAILURE(expect_solved_exactly(dropping, random_position(dropping, 3 + i % 8, random)));
    }
    for (std::uint64_t seed = 0; seed < 300; ++seed) {
        const RandomTree tree{seed, 6, seed % 2 == 0};
        ASSERT_NO_FATAL_FAILURE(expect_solved_exactly(tree, tree.initial_position())) << "seed " << seed;
    }
}

TEST(Solver, AgreesWithPlainRecursionOnAThousandPositionsWhereGamesKnowMore) {
    // Lanterns takes its shortcuts (sufficient moves, bounds, mirror images) in every one of these.
    Random random(67);
    int compared = 0;
    for (const auto& [shape, left] : std::vector<std::pair<Lanterns::Parameters, int>>{{{4, 4, 4, false}, 8},
                                                                                       {{4, 4, 3, false}, 8},
                                                                                       {{5, 5, 4, false}, 8},
                                                                                       {{6, 3, 3, true}, 11},
                                                                                       {{5, 5, 4, true}, 12},
                                                                                       {{7, 6, 4, true}, 13},
                                                                                       {{3, 12, 2, true}, 30},
                                                                                       {{12, 4, 4, true}, 9}}) {
        const Lanterns game(shape);
        const int plies = shape.columns * shape.rows - left;
        for (int i = 0; i < 130; ++i, ++compared) {
            const auto position = random_position(game, plies + i % 6, random);
            if (std::popcount(position.taken()) < plies) continue;
            const Player player = game.player_to_move(position);
            const auto solution = Solver<Lanterns>(game, {.memory_mebibytes = 1}).solve(position);
            ASSERT_TRUE(solution.complete);
            ASSERT_EQ(solution.least, exact_payoff(game, position, player)) << game.position_text(position);
        }
    }
    EXPECT_GE(compared, 1'000);
}

TEST(Solver, FindsWhatIsKnownOfLanternsAndSluice) {
    const auto value = [](const auto& game) {
        const auto solution =
            Solver<std::decay_t<decltype(game)>>(game, {.memory_mebibytes = 64}).solve(game.initial_position());
        EXPECT_TRUE(solution.complete);
        return solution.least;
    };
    EXPECT_EQ(value(Lanterns({4, 4, 4, false})), 0);
    EXPECT_EQ(value(Lanterns({5, 5, 4, true})), 0);
    EXPECT_EQ(value(Lanterns({3, 3, 3, false})), 0);
    EXPECT_EQ(value(Lanterns({4, 4, 3, false})), 1);
    EXPECT_EQ(value(Sluice({4, 4, false, false})), 2);
}

TEST(Solver, RetrogradeAnalysisAgreesWithRelaxationUntilNothingChanges) {
    Random random(62);
    for (const Windlass::Parameters& shape : std::vector<Windlass::Parameters>{{4, 2}, {6, 3}, {5, 2}, {7, 3}}) {
        const Windlass game(shape);
        // All positions that can be reached, by text; -1, 0 and 1 for the side to move, with the plies to the end.
        std::map<std::string, std::pair<int, int>> value;
        std::vector<Windlass::Position> all{game.initial_position()};
        value[game.position_text(all[0])] = {0, 0};
        for (std::size_t i = 0; i < all.size(); ++i) {
            const auto position = all[i];
            for (const auto& move : legal_moves(game, position)) {
                auto after = position;
                game.play(after, move);
                if (value.emplace(game.position_text(after), std::pair{0, 0}).second) all.push_back(after);
            }
        }
        for (bool changed = true; changed;) {
            changed = false;
            for (const auto& position : all) {
                std::pair<int, int> best{-2, 0};
                if (const auto outcome = game.outcome(position)) {
                    best = {outcome->payoff(position.to_move()), 0};
                } else {
                    for (const auto& move : legal_moves(game, position)) {
                        auto after = position;
                        game.play(after, move);
                        const auto [sign, plies] = value[game.position_text(after)];
                        const std::pair<int, int> here{-sign, sign == 0 ? 0 : plies + 1};
                        const bool better = here.first != best.first ? here.first > best.first
                                            : here.first > 0         ? here.second < best.second
                                                                     : here.second > best.second;
                        if (better) best = here;
                    }
                }
                auto& known = value[game.position_text(position)];
                if (known != best) {
                    known = best;
                    changed = true;
                }
            }
        }
        for (int i = 0; i < 60; ++i) {
            const auto position = random_position(game, i % 24, random);
            const auto solution = Solver<Windlass>(game).solve(position);
            const auto [sign, plies] = value[game.position_text(position)];
            ASSERT_EQ(solution.least, sign) << game.position_text(position);
            ASSERT_EQ(solution.plies.value_or(0), sign == 0 ? 0 : plies) << game.position_text(position);
            // The standard search, table and all, proves nothing that is not so.
            const auto decision = Standard<Windlass>(game).decide(position, {.depth = 9});
            const Score score = decision.ranked.front().score;
            if (score.is_proven()) {
                ASSERT_EQ(score.payoff(), sign) << game.position_text(position);
            }
            if (sign > 0 && plies <= 9) {
                ASSERT_TRUE(score.is_proven_win()) << game.position_text(position);
            }
        }
    }
}

TEST(Solver, FindsWhatIsKnownOfWindlass) {
    const auto solve = [](int posts, int pegs) {
        const Windlass game({posts, pegs});
        return Solver<Windlass>(game).solve(game.initial_position());
    };
    EXPECT_EQ(solve(6, 3).least, 1);
    EXPECT_EQ(solve(6, 3).plies, 11);
    EXPECT_EQ(solve(8, 3).least, 0);
    EXPECT_EQ(solve(9, 4).least, 0);
    EXPECT_EQ(solve(10, 3).least, 1);
    EXPECT_EQ(solve(10, 3).plies, 7);
    EXPECT_STREQ(solve(8, 3).method, "retrograde analysis");
}

TEST(Solver, StoppedEarlySaysWhatIsProvenAndClaimsNothingElse) {
    const Lanterns game;
    const auto timed = Solver<Lanterns>(game, {.memory_mebibytes = 1, .seconds = 0.05, .clock = steady_seconds})
                           .solve(game.initial_position());
    EXPECT_FALSE(timed.complete);
    EXPECT_STREQ(timed.stopped_by, "time");
    EXPECT_LE(timed.least, 0);
    EXPECT_GE(timed.most, 0) << "Lanterns 5 x 5 line 4 is no loss for who moves first";
    const Windlass large({12, 5});
    const auto crowded = Solver<Windlass>(large, {.memory_mebibytes = 1}).solve(large.initial_position());
    EXPECT_FALSE(crowded.complete);
    EXPECT_STREQ(crowded.stopped_by, "memory");
    EXPECT_THROW((void)Solver<Lanterns>(game, {.memory_mebibytes = 0}).solve(game.initial_position()), InputError);
    EXPECT_THROW((void)Solver<Lanterns>(game).solve(game.read_position("TTTT./AAA../...../...../..... A")), InputError);
}

TEST(Threads, SolveToTheSameValuesAsOne) {
    const auto expect_same = [](const auto& game, const auto& position) {
        using G = std::decay_t<decltype(game)>;
        const auto one = Solver<G>(game, {.memory_mebibytes = 1}).solve(position);
        const auto two = Solver<G>(game, {.memory_mebibytes = 1, .threads = 2}).solve(position);
        ASSERT_TRUE(two.complete);
        EXPECT_EQ(one.least, two.least);
        EXPECT_EQ(one.most, two.most);
        for (const auto& solved : two.moves)
            for (const auto& known : one.moves) {
                if (!(known.move == solved.move)) continue;
                EXPECT_EQ(known.kind == ScoreKind::Exact, solved.kind == ScoreKind::Exact);
                if (solved.kind == ScoreKind::Exact) {
                    EXPECT_EQ(known.value, solved.value);
                }
            }
    };
    Random random(9);
    const Lanterns dropping({5, 4, 4, true});
    const Sluice sluice({4, 3, false, false});
    for (int i = 0; i < 12; ++i) {
        expect_same(dropping, random_position(dropping, 2 + i % 4, random));
        expect_same(sluice, random_position(sluice, i, random));
    }
    EXPECT_THROW((void)Solver<Sluice>(sluice, {.threads = 0}), InputError);
    // A time limit and a wish to stop hold for all of them.
    const auto stopped =
        Solver<Lanterns>(Lanterns({7, 6, 4, true}),
                         {.memory_mebibytes = 16, .seconds = 0.2, .clock = steady_seconds, .threads = 3})
            .solve(Lanterns({7, 6, 4, true}).initial_position());
    EXPECT_FALSE(stopped.complete);
    EXPECT_LT(stopped.seconds, testing_support::sanitized ? 20.0 : 2.0);
}
