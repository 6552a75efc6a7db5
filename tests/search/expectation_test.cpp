// Looking ahead through chance, against plain expectation: the same values whatever is cut, and nothing that rests on luck
// is proven.

#include <gtest/gtest.h>

#include <arvek/search/expectation.hpp>
#include <cmath>

#include "downstream/downstream.hpp"
#include "scuffle/scuffle.hpp"
#include "support/chance_tree.hpp"
#include "support/dice.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using testing_support::ChanceTree;
using waterway::Downstream;
using waterway::Scuffle;

namespace {

/// Every line to the depth, no cut, no table, in floating point.
template <class G>
double plain_expectation(const G& game, const typename G::Position& position, int depth, Player viewer,
                         const Scale& scale) {
    if (const auto outcome = game.outcome(position)) return outcome->payoff(viewer);
    if (depth == 0) return scale.payoff_of(evaluation_of(game, position, viewer).number());
    const auto below = [&](const auto& move) {
        auto next = position;
        game.play(next, move);
        return plain_expectation(game, next, depth - 1, viewer, scale);
    };
    if (game.chance_is_next(position)) {
        MoveList<Event<typename G::Move>> events;
        game.generate_events(position, events);
        double sum = 0;
        for (const auto& event : events) sum += event.probability * below(event.move);
        return sum;
    }
    const bool own = game.player_to_move(position) == viewer;
    double best = own ? -1e9 : 1e9;
    for (const auto& move : legal_moves(game, position))
        best = own ? std::max(best, below(move)) : std::min(best, below(move));
    return best;
}

/// A position after so many random moves and events where a player is to move; the start where the game ended sooner.
template <class G>
typename G::Position position_of_play(const G& game, int plies, Random& random) {
    auto position = game.initial_position();
    settle_chance(game, position, random);
    for (int ply = 0; ply < plies; ++ply) {
        auto next = position;
        const auto moves = legal_moves(game, next);
        game.play(next, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        settle_chance(game, next, random);
        if (game.outcome(next)) break;
        position = next;
    }
    return position;
}

template <class Move>
double payoff_of(const Decision<Move>& decision, const RankedMove<Move>& entry) {
    return entry.score.is_proven() ? entry.score.payoff() : entry.score.number() / decision.scores_per_point;
}

/// With and without cuts and table, every way to rank: the values of plain expectation, exact or bounds.
template <class G>
void expect_plain_values(const G& game, const typename G::Position& position, int depth, const Scale& scale) {
    const Player player = game.player_to_move(position);
    for (const bool cut : {true, false})
        for (const bool table : {true, false})
            for (const Ranking ranking : {Ranking::Best, Ranking::All}) {
                Expectation<G> search(game, {.table_mebibytes = 1, .table = table, .cut_chance = cut, .scale = scale});
                const auto decision = search.decide(position, {.depth = depth}, {.ranking = ranking});
                double best = -1e9;
                for (const auto& entry : decision.ranked) {
                    auto next = position;
                    game.play(next, entry.move);
                    const double known = plain_expectation(game, next, depth - 1, player, scale);
                    best = std::max(best, known);
                    const double found = payoff_of(decision, entry);
                    if (decision.stats.depth < depth) continue;  // a sure win so soon that it looked no deeper
                    if (entry.kind == ScoreKind::Exact) {
                        ASSERT_NEAR(found, known, 1e-6);
                    } else if (entry.kind == ScoreKind::Upper) {
                        ASSERT_GE(found, known - 1e-6);
                    }
                }
                ASSERT_NEAR(payoff_of(decision, decision.ranked.front()), best, 1e-6);
            }
}

}  // namespace

TEST(Expectation, HasTheKnownValuesOfDownstream) {
    const Downstream game;
    for (const bool cut : {true, false}) {
        Expectation<Downstream> search(game, {.cut_chance = cut, .scale = Scale::linear(1, 40)});
        const double from_the_start[] = {0, 2.5, 2.5, 0.875, 0.875, 29.0 / 16};
        const double later[] = {3, 3, 0.25, 0.25, 33.0 / 16, 33.0 / 16};
        for (int depth = 1; depth <= 6; ++depth) {
            const auto outlook = search.outlook(game.initial_position(), {.depth = depth});
            EXPECT_DOUBLE_EQ(outlook.value, from_the_start[depth - 1]) << depth;
            EXPECT_EQ(outlook.events.size(), 4u);
            EXPECT_EQ(outlook.stats.depth, depth);
            const auto decision = search.decide(game.read_position("0,5/0,3 T 1"), {.depth = depth});
            EXPECT_DOUBLE_EQ(payoff_of(decision, decision.ranked.front()), later[depth - 1]) << depth;
        }
    }
    EXPECT_THROW((void)Expectation<Downstream>(game).decide(game.initial_position(), {.depth = 2}), InputError)
        << "chance is next";
    EXPECT_THROW((void)Expectation<Downstream>(game).outlook(game.read_position("0,5/0,3 T 1")), InputError);
    EXPECT_THROW(Expectation<Downstream>(Downstream({.players = 3})), InputError);
}

TEST(Expectation, AgreesWithPlainExpectationOnRandomTrees) {
    for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 200u : 2'000u); ++seed) {
        const ChanceTree tree{seed, 6, 1 + static_cast<int>(seed % 3)};
        const Scale scale = seed % 2 == 0 ? Scale::odds(4, tree.most) : Scale::linear(10, tree.most);
        ASSERT_NO_FATAL_FAILURE(
            expect_plain_values(tree, tree.initial_position(), 1 + static_cast<int>(seed % 6), scale))
            << "seed " << seed;
    }
}

TEST(Expectation, CountsWinsAloneWhenMarginsDoNotCount) {
    struct WinOrLoss : ChanceTree {
        Payoff most_payoff() const { return 1; }
        std::optional<Outcome> outcome(const Position& p) const {
            const auto whole = ChanceTree::outcome(p);
            if (!whole) return whole;
            return Outcome::margin_of_first(std::clamp(whole->payoff(Player::First), -1, 1));
        }
    };
    int differ = 0;
    for (std::uint64_t seed = 0; seed < 200; ++seed) {
        const ChanceTree tree{seed, 6, 3};
        const WinOrLoss alone{tree};
        const auto position = tree.initial_position();
        const Limits limits{.depth = 1 + static_cast<int>(seed % 6)};
        const auto decision =
            Expectation<ChanceTree>(tree, {.scale = Scale::odds(4, 3)}).decide(position, limits, {.margins = false});
        const auto known = Expectation<WinOrLoss>(alone, {.scale = Scale::odds(4, 1)}).decide(position, limits);
        const auto whole = Expectation<ChanceTree>(tree, {.scale = Scale::odds(4, 3)}).decide(position, limits);
        ASSERT_NEAR(payoff_of(decision, decision.ranked.front()), payoff_of(known, known.ranked.front()), 1e-6) << seed;
        differ += whole.move != decision.move ? 1 : 0;
    }
    EXPECT_GT(differ, 5) << "margins should matter";
}

TEST(Expectation, AgreesWithPlainExpectationOnDownstreamAndScuffle) {
    Random random(3);
    const int part = testing_support::sanitized ? 10 : 1;
    for (int i = 0; i < 2'000 / part; ++i) {
        const Downstream game({2, 1 + i % 3, 4 + i % 9, 2 + i % 3, i % 4});
        const auto position = position_of_play(game, static_cast<int>(random.below(30)), random);
        ASSERT_NO_FATAL_FAILURE(expect_plain_values(game, position, 1 + i % 5, Scale::odds(3, 1)))
            << game.position_text(position);
    }
    const Scuffle scuffle;
    for (int i = 0; i < 2'000 / part; ++i) {
        const auto position = position_of_play(scuffle, static_cast<int>(random.below(40)), random);
        ASSERT_NO_FATAL_FAILURE(expect_plain_values(scuffle, position, 1 + i % 3, Scale::odds(10, 1)))
            << scuffle.position_text(position);
    }
}

TEST(Expectation, CallsProvenOnlyWhatHoldsForEveryEvent) {
    const Downstream game({.players = 2, .boats = 1, .length = 4, .die = 2, .mooring = 0});
    Expectation<Downstream> search(game);
    // One step from home: any roll does it.
    const auto sure = search.decide(game.read_position("3/0 T 2"), {.depth = 9});
    EXPECT_EQ(sure.ranked.front().score, Score::proven(1, 1));
    // Amber is to roll and needs a two from cell 3; a one leaves it a step short, and Teal is home with any roll.
    const auto luck = search.outlook(game.read_position("4/3 A ?"), {.depth = 6}, Player::Second);
    ASSERT_EQ(luck.events.size(), 2u);
    EXPECT_DOUBLE_EQ(luck.events[1].value, 1);
    EXPECT_LT(luck.value, 1);
    EXPECT_GT(luck.value, -1);
    for (int i = 0; i < 300; ++i) {
        Random random(static_cast<std::uint64_t>(i));
        const auto position = position_of_play(game, static_cast<int>(random.below(8)), random);
        const auto decision = search.decide(position, {.depth = 5});
        for (const auto& entry : decision.ranked) {
            if (entry.kind != ScoreKind::Exact || !entry.score.is_proven()) continue;
            auto next = position;
            game.play(next, entry.move);
            EXPECT_NEAR(plain_expectation(game, next, 40, game.player_to_move(position), Scale::odds(1, 1)),
                        entry.score.payoff(), 1e-9)
                << game.position_text(position);
        }
    }
}

TEST(Expectation, ShowsATreeWhoseEventsHaveTheMeanThatItSays) {
    const Downstream game;
    Random random(8);
    int means = 0;
    for (int i = 0; i < 60; ++i) {
        const auto position = position_of_play(game, static_cast<int>(random.below(16)), random);
        SearchedTree<Downstream::Move> tree(4, 5'000);
        SearchRequest<Downstream::Move> request{.ranking = i % 2 == 0 ? Ranking::Best : Ranking::All};
        request.tree = &tree;
        const auto decision = Expectation<Downstream>(game).decide(position, {.depth = 6}, request);
        if (decision.stats.depth < 6) continue;
        const auto& nodes = tree.nodes();
        for (std::size_t parent = 1; parent < nodes.size(); ++parent) {
            double sum = 0;
            int events = 0;
            for (std::size_t child = parent + 1; child < nodes.size(); ++child) {
                if (nodes[child].parent != static_cast<int>(parent)) continue;
                EXPECT_EQ(nodes[child].ply, nodes[parent].ply + 1);
                if (!nodes[child].move.rolls() || nodes[child].kind != ScoreKind::Exact) continue;
                ++events;
                sum += nodes[child].score.is_proven() ? nodes[child].score.payoff()
                                                      : nodes[child].score.number() / decision.scores_per_point;
            }
            if (events < 4 || nodes[parent].kind != ScoreKind::Exact || nodes[parent].score.is_proven()) continue;
            // Events are seen by whoever moved before.
            EXPECT_NEAR(sum / 4, nodes[parent].score.number() / decision.scores_per_point, 1e-6);
            ++means;
        }
    }
    EXPECT_GT(means, 100);
}

TEST(Expectation, KeepsToItsLimitsAndRepeatsItself) {
    const Downstream game;
    const auto position = game.read_position("0,5/0,3 T 1");
    for (const std::uint64_t nodes : {1u, 9u, 500u, 30'000u}) {
        Expectation<Downstream> search(game);
        const auto decision = search.decide(position, {.nodes = nodes}, {.seed = 4});
        EXPECT_LE(decision.stats.nodes, nodes);
        EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Nodes);
        EXPECT_TRUE(legal_moves(game, position).contains(decision.move));
        const auto again = search.decide(position, {.nodes = nodes}, {.seed = 4});
        EXPECT_EQ(again.move, decision.move);
        EXPECT_EQ(static_cast<const Counters&>(again.stats), static_cast<const Counters&>(decision.stats));
        const auto outlook = search.outlook(game.initial_position(), {.nodes = nodes});
        EXPECT_LE(outlook.stats.nodes, nodes);
    }
    static double shown = 0;
    const Clock clock = [] { return shown += 1e-5; };
    const auto timed = Expectation<Downstream>(game).decide(position, {.seconds = 0.05, .clock = clock});
    EXPECT_EQ(timed.stats.stopped_by, StoppedBy::Time);
}

TEST(Expectation, NeedsNoScaleAndNoEvaluation) {
    const testing_support::Dice dice;
    auto position = dice.initial_position();
    Random random(1);
    settle_chance(dice, position, random);
    const auto decision = Expectation<testing_support::Dice>(dice).decide(position);
    EXPECT_EQ(decision.stats.stopped_by, StoppedBy::End);
    EXPECT_NEAR(payoff_of(decision, decision.ranked.front()),
                plain_expectation(dice, position, 40, dice.player_to_move(position), Scale::odds(1, 1)), 1e-3);
    EXPECT_THROW((void)Scale::odds(0, 1), InputError);
    EXPECT_THROW((void)Scale::linear(1, std::nan("")), InputError);
    EXPECT_NEAR(Scale::odds(2, 3).payoff_of(2), 3 * (2.0 / 3 * 2 - 1), 1e-12) << "odds of two to one";
}
