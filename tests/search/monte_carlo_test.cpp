// Monte Carlo tree search, against the exact solvers.

#include <gtest/gtest.h>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/luck_solver.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <arvek/search/solver.hpp>
#include <cmath>
#include <set>

#include "downstream/downstream.hpp"
#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"
#include "support/brute_force.hpp"
#include "support/chance_tree.hpp"
#include "support/random_game.hpp"
#include "support/sanitized.hpp"
#include "tolls/tolls.hpp"
#include "windlass/windlass.hpp"

using namespace arvek;
using waterway::Downstream;
using waterway::Lanterns;
using waterway::Sluice;
using waterway::Tolls;
using waterway::Windlass;

namespace {

/// On solved positions: the move is one of the best, and what is called exact is the value.
template <class G>
void expect_what_is_solved(const G& game, int positions, int longest, std::uint64_t playouts) {
    Solver<G> solver(game, {.memory_mebibytes = 4});
    MonteCarlo<G> search(game);
    Random random(17);
    int agree = 0, asked = 0, exact = 0;
    for (int i = 0; i < positions; ++i) {
        const auto position = testing_support::random_position(
            game, static_cast<int>(random.below(static_cast<std::uint64_t>(longest))), random);
        const auto solution = solver.solve(position);
        ASSERT_TRUE(solution.complete);
        const auto decision = search.decide(position, {.playouts = playouts});
        Payoff worth = -largest_payoff;
        for (const auto& solved : solution.moves)
            if (solved.move == decision.move && solved.kind == ScoreKind::Exact) worth = solved.value;
        ++asked;
        agree += worth == solution.least ? 1 : 0;
        for (const auto& entry : decision.ranked) {
            if (entry.kind != ScoreKind::Exact) continue;
            for (const auto& solved : solution.moves) {
                if (!(solved.move == entry.move)) continue;
                const auto value = static_cast<Payoff>(std::lround(entry.mean));
                ++exact;
                if (solved.kind == ScoreKind::Exact) {
                    ASSERT_EQ(value, solved.value) << game.position_text(position);
                } else {
                    ASSERT_LE(value, solved.value) << game.position_text(position);
                }
            }
        }
    }
    EXPECT_GE(agree, asked - asked / 100) << asked;
    EXPECT_GT(exact, asked / 10);
}

template <class G>
double payoff_of(const Decision<typename G::Move>& decision) {
    const Score score = decision.ranked.front().score;
    return score.is_proven() ? score.payoff() : score.number() / decision.scores_per_point;
}

}  // namespace

TEST(MonteCarlo, AgreesWithTheSolver) {
    const int part = testing_support::sanitized ? 10 : 1;
    expect_what_is_solved(Lanterns({3, 3, 3, false}), 150 / part, 8, 3'000);
    expect_what_is_solved(Lanterns({4, 4, 3, false}), 100 / part, 10, 6'000);
    expect_what_is_solved(Windlass({6, 3}), 150 / part, 12, 6'000);
    expect_what_is_solved(Sluice({3, 3, false, false}), 100 / part, 8, 8'000);
}

TEST(MonteCarlo, IsNearTheValueWhereLuckDecides) {
    const Downstream game({.players = 2, .boats = 2, .length = 6, .die = 3, .mooring = 4});
    LuckSolver<Downstream> solver(game);
    Random random(5);
    for (const LeafValue leaf : {LeafValue::PlayOut, LeafValue::Evaluation}) {
        MonteCarlo<Downstream> search(game, {.leaf = leaf});
        double given_away = 0;
        const int positions = testing_support::sanitized ? 6 : 60;
        for (int i = 0; i < positions; ++i) {
            auto position = game.initial_position();
            settle_chance(game, position, random);
            for (std::uint64_t ply = random.below(12); ply > 0; --ply) {
                auto next = position;
                const auto moves = legal_moves(game, next);
                game.play(next, moves[static_cast<std::size_t>(random.below(moves.size()))]);
                settle_chance(game, next, random);
                if (game.outcome(next)) break;
                position = next;
            }
            const auto solution = solver.solve(position);
            const auto decision = search.decide(position, {.playouts = 4'000});
            for (const auto& known : solution.moves) {
                if (known.move == decision.move) given_away += solution.moves.front().value - known.value;
                // What is called exact holds for every roll.
                for (const auto& entry : decision.ranked)
                    if (entry.move == known.move && entry.kind == ScoreKind::Exact) {
                        ASSERT_NEAR(entry.mean, known.value, 1e-3) << game.position_text(position);
                    }
            }
        }
        EXPECT_LT(given_away / positions, 0.02);
    }
}

TEST(MonteCarlo, CallsExactOnlyWhatIsOnRandomTreesWithChance) {
    int exact = 0;
    for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 100u : 600u); ++seed) {
        const testing_support::ChanceTree tree{seed, 6, 1 + static_cast<int>(seed % 3)};
        const auto position = tree.initial_position();
        const auto decision = MonteCarlo<testing_support::ChanceTree>(tree, {.memory_mebibytes = 1})
                                  .decide(position, {.playouts = 3'000});
        const auto solution = LuckSolver<testing_support::ChanceTree>(tree).solve(position);
        for (const auto& entry : decision.ranked) {
            if (entry.kind != ScoreKind::Exact) continue;
            for (const auto& known : solution.moves)
                if (known.move == entry.move) {
                    ++exact;
                    ASSERT_NEAR(entry.mean, known.value, 1e-3) << seed;
                }
        }
    }
    EXPECT_GT(exact, 50);
}

TEST(MonteCarlo, NeverGrowsBeyondItsMemoryAndGoesOnWhenThatIsFull) {
    const Lanterns game({6, 6, 5, false});
    MonteCarlo<Lanterns> small(game, {.memory_mebibytes = 1, .leaf = LeafValue::PlayOut});
    EXPECT_LE(small.bytes_per_node, 40u);
    EXPECT_LE(small.tree_room() * small.bytes_per_node, 1024u * 1024u);
    const auto decision = small.decide(game.initial_position(), {.playouts = 60'000});
    EXPECT_EQ(decision.stats.playouts, 60'000u);
    EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Playouts);
    EXPECT_LE(small.tree_nodes(), small.tree_room());
    std::uint64_t visits = 0;
    for (const auto& entry : decision.ranked) visits += entry.visits;
    EXPECT_EQ(visits, 60'000u) << "what was dropped below takes nothing from the first moves";
}

namespace {

/// The first player goes to one of three locks; at each the second has 20,000 moves, of which one wins.
struct CrowdedLocks {
    struct Position {
        std::int32_t lock = -1, move = -1;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = std::int32_t;

    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const { return p.lock < 0 ? Player::First : Player::Second; }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        for (Move i = 0; i < (p.lock < 0 ? 3 : 20'000); ++i) moves.push_back(i);
    }
    void play(Position& p, const Move& move) const { (p.lock < 0 ? p.lock : p.move) = move; }
    std::optional<Outcome> outcome(const Position& p) const {
        if (p.move < 0) return std::nullopt;
        return Outcome::win(p.move == 1'234 ? Player::Second : Player::First);
    }
    Score evaluate(const Position&, Player) const { return Score::estimate(0); }
};

}  // namespace

TEST(MonteCarlo, CallsNothingExactWhereThereIsNoRoomForAllMoves) {
    for (const std::uint64_t seed : {1u, 2u, 3u}) {
        MonteCarlo<CrowdedLocks> search(CrowdedLocks{}, {.memory_mebibytes = 1, .leaf = LeafValue::Evaluation});
        const auto decision = search.decide({}, {.playouts = 300}, {.seed = seed});
        for (const auto& entry : decision.ranked)
            EXPECT_TRUE(entry.kind != ScoreKind::Exact || entry.mean < 0) << "each of the three is lost";
    }
}

TEST(MonteCarlo, SolvesATreeThatItHasGoneThroughThoughLuckDecides) {
    // Four players and luck; the best move looks bad until what others do nine plies on is known.
    const testing_support::RandomGame<8> game(testing_support::RandomRules::drawn(299543));
    for (const int threads : {1, 2}) {
        MonteCarlo<testing_support::RandomGame<8>> search(game, {.memory_mebibytes = 8, .threads = threads});
        const auto decision = search.decide(game.initial_position(), {.playouts = 500'000}, {.margins = true});
        EXPECT_EQ(decision.stats.stopped_by, StoppedBy::End);
        EXPECT_LT(decision.stats.playouts, 200'000u);
        ASSERT_EQ(decision.move, 3);
        const auto& best = decision.ranked[0];
        EXPECT_EQ(best.kind, ScoreKind::Estimate) << "luck decides";
        EXPECT_DOUBLE_EQ(best.low, 30.0);
        EXPECT_DOUBLE_EQ(best.high, 30.0);
        EXPECT_NEAR(decision.ranked[1].mean, 21.1833, 1e-3);
    }
}

TEST(MonteCarlo, KeepsToItsLimitsAndRepeatsItself) {
    const Sluice game;
    const auto start = game.initial_position();
    for (const LeafValue leaf : {LeafValue::PlayOut, LeafValue::Evaluation}) {
        for (const std::uint64_t nodes : {1u, 2u, 7u, 500u, 5'000u}) {
            MonteCarlo<Sluice> search(game, {.leaf = leaf});
            EXPECT_LE(search.decide(start, {.nodes = nodes}).stats.nodes, nodes);
            MonteCarlo<Sluice> threads(game, {.threads = 3, .leaf = leaf});
            EXPECT_LE(threads.decide(start, {.nodes = nodes}).stats.nodes, nodes);
        }
        MonteCarlo<Sluice> one(game, {.leaf = leaf}), other(game, {.leaf = leaf});
        (void)other.decide(start, {.playouts = 77}, {.seed = 3});
        const auto a = one.decide(start, {.playouts = 1'000}, {.seed = 9});
        const auto b = other.decide(start, {.playouts = 1'000}, {.seed = 9});
        EXPECT_EQ(a.move, b.move);
        EXPECT_EQ(a.stats.nodes, b.stats.nodes);
        for (std::size_t i = 0; i < a.ranked.size(); ++i) EXPECT_EQ(a.ranked[i].visits, b.ranked[i].visits);
        MonteCarlo<Sluice> several(game, {.threads = 2, .leaf = leaf});
        EXPECT_EQ(several.decide(start, {.playouts = 1'000}).stats.playouts, 1'000u);
    }
    MonteCarlo<Sluice> search(game);
    const auto timed = search.decide(start, {.seconds = 0.02, .clock = steady_seconds});
    EXPECT_EQ(timed.stats.stopped_by, StoppedBy::Time);
    EXPECT_LT(timed.stats.seconds, testing_support::sanitized ? 0.5 : 0.1);
    bool asked = false;
    const StopToken stop([](const void* state) { return *static_cast<const bool*>(state); }, &(asked = true));
    EXPECT_EQ(search.decide(start, {.stop = stop}).stats.stopped_by, StoppedBy::Stop);
    EXPECT_THROW((void)search.decide(start, {.depth = 3}), InputError) << "it has no depth";
    EXPECT_THROW((void)search.decide(start, {.playouts = 0}), InputError);
    EXPECT_THROW(MonteCarlo<Sluice>(game, {.memory_mebibytes = 0}), InputError);
    EXPECT_THROW(MonteCarlo<Sluice>(game, {.threads = 0}), InputError);
    EXPECT_THROW(MonteCarlo<Sluice>(game, {.exploration = 0}), InputError);
}

TEST(MonteCarlo, KeepsItsTreeWhereItIsAskedTo) {
    const Lanterns game;
    MonteCarlo<Lanterns> keeps(game, {.keep_tree = true}), forgets(game);
    auto position = game.initial_position();
    for (auto* search : {&keeps, &forgets}) (void)search->decide(position, {.playouts = 3'000});
    game.play(position, {12});
    game.play(position, {7});
    const auto kept = keeps.decide(position, {.playouts = 200}), anew = forgets.decide(position, {.playouts = 200});
    std::uint64_t kept_visits = 0, new_visits = 0;
    for (const auto& entry : kept.ranked) kept_visits += entry.visits;
    for (const auto& entry : anew.ranked) new_visits += entry.visits;
    EXPECT_EQ(new_visits, 200u);
    EXPECT_GT(kept_visits, 200u);
    // Another course of play begins anew.
    EXPECT_NO_THROW((void)keeps.decide(game.initial_position(), {.playouts = 50}));
}

TEST(MonteCarlo, ADrawByRepetitionIsNeverExact) {
    // Pegs that can only go round: the solver calls it a draw, playouts cannot prove it.
    const Windlass game({8, 3});
    Random random(3);
    for (int i = 0; i < 20; ++i) {
        const auto position = testing_support::random_position(game, 20, random);
        const auto decision = MonteCarlo<Windlass>(game).decide(position, {.playouts = 3'000});
        for (const auto& entry : decision.ranked)
            if (entry.kind == ScoreKind::Exact) {
                EXPECT_TRUE(entry.score.is_proven()) << "a draw there is one by repetition alone";
            }
    }
}

TEST(MonteCarlo, TakesPriorsAndEvaluatorsOfTheCaller) {
    struct LastHook final : MovePrior<Lanterns> {
        void weigh(const Lanterns&, const Lanterns::Position&, std::span<const Lanterns::Move> moves,
                   std::span<float> weights) const override {
            for (std::size_t i = 0; i < moves.size(); ++i) weights[i] = moves[i].hook == 24 ? 1'000.0f : 0.001f;
        }
    };
    const Lanterns game;
    const auto start = game.initial_position();
    const auto led =
        MonteCarlo<Lanterns>(game, {}, nullptr, std::make_shared<LastHook>()).decide(start, {.playouts = 60});
    EXPECT_EQ(led.move.hook, 24);
    struct Corner final : Evaluator<Lanterns> {
        Score evaluate(const Lanterns&, const Lanterns::Position& position, Player player) const override {
            const int mine = static_cast<int>(position.lanterns_of(Player::First) & 1) * 100;
            return Score::estimate(player == Player::First ? mine : -mine);
        }
    };
    const auto judged = MonteCarlo<Lanterns>(game, {}, std::make_shared<Corner>()).decide(start, {.playouts = 600});
    EXPECT_EQ(judged.move.hook, 0);
}

TEST(MonteCarlo, SeesNoMoreThanTheViewOfHiddenHands) {
    const Tolls game;
    Random random(31);
    for (const auto sight : {TreeSight::Decider, TreeSight::Mover})
        for (int i = 0; i < 40; ++i) {
            auto position = game.initial_position();
            settle_chance(game, position, random);
            for (std::uint64_t ply = random.below(10); ply > 0; --ply) {
                const auto moves = legal_moves(game, position);
                game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
            const Player player = game.player_to_move(position);
            const auto view = game.view(position, player);
            const auto other = game.sample(view, random);
            MonteCarlo<Tolls> one(game, {.memory_mebibytes = 1, .sight = sight}),
                two(game, {.memory_mebibytes = 1, .sight = sight});
            const auto a = one.decide(game.view(position, player), {.playouts = 200}, {.seed = 4});
            const auto b = two.decide(game.view(other, player), {.playouts = 200}, {.seed = 4});
            ASSERT_EQ(a.move, b.move);
            ASSERT_EQ(a.stats.nodes, b.stats.nodes);
            ASSERT_TRUE(legal_moves(game, position).contains(a.move));
        }
}

TEST(MonteCarlo, TheTreeThatIsShownHasTheVisitsThatDecided) {
    const Downstream game;
    SearchedTree<Downstream::Move> tree(3);
    const auto position = game.read_position("3,9/0,7 T 2");
    const auto decision = MonteCarlo<Downstream>(game).decide(position, {.playouts = 800}, {.tree = &tree});
    std::uint64_t shown = 0;
    for (const auto& node : tree.nodes())
        if (node.ply == 1)
            for (const auto& entry : decision.ranked)
                if (entry.move == node.move) {
                    EXPECT_EQ(node.nodes, entry.visits);
                    EXPECT_EQ(node.score, entry.score);
                    shown += node.nodes;
                }
    EXPECT_EQ(shown, 800u);
}

TEST(MonteCarlo, LinesAndTreesOfHiddenHandsCanBePlayedInSomeWorld) {
    const Tolls game;
    Random random(17);
    std::size_t longest = 0;
    for (const auto sight : {TreeSight::Decider, TreeSight::Mover})
        for (int i = 0; i < 8; ++i) {
            auto position = game.initial_position();
            settle_chance(game, position, random);
            for (std::uint64_t ply = random.below(7); ply > 0; --ply) {
                const auto moves = legal_moves(game, position);
                game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
            const auto view = game.view(position, game.player_to_move(position));
            SearchedTree<Tolls::Move> tree(3);
            const auto decision = MonteCarlo<Tolls>(game, {.memory_mebibytes = 4, .sight = sight})
                                      .decide(view, {.playouts = 2'000}, {.seed = 4, .tree = &tree});
            for (const auto& entry : decision.ranked) {
                bool can_be = false;
                for (int world = 0; world < 400 && !can_be; ++world) {
                    auto at = game.sample(view, random);
                    can_be = true;
                    for (const auto& move : entry.line) {
                        can_be = can_be && !game.outcome(at) && legal_moves(game, at).contains(move);
                        if (can_be) game.play(at, move);
                    }
                }
                EXPECT_TRUE(can_be) << "no world of 400 has the line";
                EXPECT_EQ(entry.line.front(), entry.move);
                longest = std::max(longest, entry.line.size());
            }
            std::uint64_t shown = 0;
            for (const auto& node : tree.nodes()) shown += node.ply == 1 ? node.nodes : 0;
            EXPECT_EQ(shown, decision.stats.playouts);
        }
    EXPECT_GE(longest, 3u);
}

TEST(MonteCarlo, ThreadsMakeAsManyPlayoutsAsTheyWereAskedFor) {
    const auto visits_of = [](const auto& decision) {
        std::uint64_t visits = 0;
        for (const auto& entry : decision.ranked) visits += entry.visits;
        return visits;
    };
    const Downstream dice;
    const Lanterns open({.columns = 5, .rows = 5, .line = 4});
    for (const std::uint64_t playouts : {1u, 100u, 6'001u}) {
        const auto rolled = MonteCarlo<Downstream>(dice, {.threads = 2})
                                .decide(dice.read_position("3,9/0,7 T 2"), {.playouts = playouts});
        EXPECT_EQ(rolled.stats.playouts, playouts);
        EXPECT_EQ(visits_of(rolled), playouts) << "what is begun together is told in the end";
        for (const auto leaf : {LeafValue::Evaluation, LeafValue::PlayOut}) {
            const auto seen = MonteCarlo<Lanterns>(open, {.threads = 3, .leaf = leaf})
                                  .decide(open.initial_position(), {.playouts = playouts});
            EXPECT_EQ(seen.stats.playouts, playouts);
            EXPECT_EQ(visits_of(seen), playouts);
        }
        const auto held = MonteCarlo<Lanterns>(open, {.threads = 2, .leaf = LeafValue::PlayOut})
                              .decide(open.initial_position(), {.nodes = 50 * playouts});
        EXPECT_LE(held.stats.nodes, 50 * playouts);
        EXPECT_EQ(visits_of(held), held.stats.playouts);
    }
}
