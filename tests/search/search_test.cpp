// Every search against plain recursion, and the figures that are known from elsewhere.

#include <gtest/gtest.h>
#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/minimax.hpp>

#include <cmath>
#include <map>

#include "lanterns/lanterns.hpp"
#include "support/brute_force.hpp"
#include "support/random_tree.hpp"

using namespace arvek;
using testing_support::brute_force;
using testing_support::LargeRandomTree;
using testing_support::random_position;
using testing_support::RandomTree;
using waterway::Lanterns;

namespace {

/// The claims of a ranking against the values themselves: exact scores are exact, bounds bound, and the best comes
/// first.
template <class G>
void expect_true_ranking(const G& game, const typename G::Position& position, int depth,
                         const Decision<typename G::Move>& decision) {
    const Player player = game.player_to_move(position);
    Score best = Score::lowest();
    for (const auto& entry : decision.ranked) {
        auto after = position;
        game.play(after, entry.move);
        const Score value = brute_force(game, after, player, depth - 1, 1);
        best = std::max(best, value);
        if (entry.kind == ScoreKind::Exact) {
            ASSERT_EQ(entry.score, value);
        } else {
            ASSERT_GE(entry.score, value);
        }
        ASSERT_EQ(entry.line.front(), entry.move);
    }
    ASSERT_EQ(decision.ranked.front().score, best);
    ASSERT_EQ(decision.ranked.front().kind, ScoreKind::Exact);
    ASSERT_EQ(decision.move, decision.ranked.front().move);
    for (std::size_t i = 1; i < decision.ranked.size(); ++i)
        ASSERT_LE(decision.ranked[i].score, decision.ranked.front().score);
}

/// The line of the best move must be legal and lead to its score.
template <class G>
void expect_line_leads_to_score(const G& game, typename G::Position position, int depth,
                                const Decision<typename G::Move>& decision) {
    const Player player = game.player_to_move(position);
    const auto& line = decision.ranked.front().line;
    for (const auto& move : line) {
        ASSERT_FALSE(game.outcome(position).has_value());
        ASSERT_TRUE(legal_moves(game, position).contains(move));
        game.play(position, move);
    }
    ASSERT_LE(line.size(), static_cast<std::size_t>(depth));
    const int plies = static_cast<int>(line.size());
    ASSERT_EQ(decision.ranked.front().score, brute_force(game, position, player, 0, plies));
}

template <class G>
void expect_searches_agree(const G& game, const typename G::Position& position, int depth) {
    const auto plain = Minimax<G>(game).decide(position, {.depth = depth});
    ASSERT_NO_FATAL_FAILURE(expect_true_ranking(game, position, depth, plain));
    ASSERT_NO_FATAL_FAILURE(expect_line_leads_to_score(game, position, depth, plain));
    for (const Ranking ranking : {Ranking::Best, Ranking::Equals, Ranking::All}) {
        const auto pruned = AlphaBeta<G>(game).decide(position, {.depth = depth}, {.ranking = ranking});
        ASSERT_NO_FATAL_FAILURE(expect_true_ranking(game, position, depth, pruned));
        ASSERT_NO_FATAL_FAILURE(expect_line_leads_to_score(game, position, depth, pruned));
        ASSERT_LE(pruned.stats.nodes, plain.stats.nodes);
        if (ranking == Ranking::All) {
            for (const auto& entry : pruned.ranked) ASSERT_EQ(entry.kind, ScoreKind::Exact);
        }
    }
}

const std::vector<Lanterns::Parameters> shapes{{3, 3, 3, false}, {4, 3, 3, false}, {4, 4, 4, false}, {5, 5, 4, false},
                                               {4, 4, 3, true},  {6, 5, 4, true},  {5, 4, 4, true},  {2, 6, 3, false}};

}  // namespace

TEST(Search, VisitsTheKnownNumberOfNodesOnTheSmallFrame) {
    const Lanterns game({3, 3, 3, false});
    const auto plain = Minimax(game).decide(game.initial_position(), {.depth = 9});
    EXPECT_EQ(plain.stats.nodes, 549'946u);
    EXPECT_EQ(plain.stats.leaves, 255'168u);
    EXPECT_EQ(plain.stats.cutoffs, 0u);
    ASSERT_EQ(plain.ranked.size(), 9u);
    for (const auto& entry : plain.ranked) {
        EXPECT_EQ(entry.score, Score{});
        EXPECT_EQ(entry.kind, ScoreKind::Exact);
        EXPECT_EQ(entry.line.size(), 9u);
    }
    const auto pruned = AlphaBeta(game).decide(game.initial_position(), {.depth = 9});
    EXPECT_LT(pruned.stats.nodes, 31'000u);
    EXPECT_EQ(pruned.stats.stopped_by, StoppedBy::End);
    for (const auto& entry : pruned.ranked) EXPECT_EQ(entry.score, Score{});
}

TEST(Search, AlphaBetaAgreesWithMinimaxOnRandomLanternsPositions) {
    Random random(11);
    for (const auto& shape : shapes) {
        const Lanterns game(shape);
        const int hooks = shape.columns * shape.rows;
        for (int i = 0; i < 130; ++i) {
            const int plies = static_cast<int>(random.below(static_cast<std::uint64_t>(hooks)));
            const auto position = random_position(game, plies, random);
            const int depth = 1 + static_cast<int>(random.below(hooks - plies > 12 ? 3 : 4));
            ASSERT_NO_FATAL_FAILURE(expect_searches_agree(game, position, depth))
                << game.position_text(position) << " depth " << depth;
        }
    }
}

TEST(Search, AgreesWhereTheSamePlayerMovesAgainAndMarginsVary) {
    for (std::uint64_t seed = 0; seed < 600; ++seed) {
        const RandomTree tree{seed, 7, seed % 3 == 0};
        ASSERT_NO_FATAL_FAILURE(expect_searches_agree(tree, tree.initial_position(), 1 + static_cast<int>(seed % 9)))
            << "seed " << seed;
    }
}

TEST(Search, CopyingAndTakingBackAgreeToTheNode) {
    static_assert(takes_back<LargeRandomTree, Stepping::Automatic>());
    static_assert(!takes_back<RandomTree, Stepping::Automatic>());
    for (std::uint64_t seed = 0; seed < 200; ++seed) {
        const LargeRandomTree tree{seed, 7, false};
        const auto start = tree.initial_position();
        const auto taken_back = AlphaBeta<LargeRandomTree, Stepping::TakingBack>(tree).decide(start, {.depth = 6});
        const auto copied = AlphaBeta<LargeRandomTree, Stepping::Copying>(tree).decide(start, {.depth = 6});
        ASSERT_EQ(taken_back.move, copied.move);
        ASSERT_EQ(static_cast<const Counters&>(taken_back.stats), static_cast<const Counters&>(copied.stats));
        ASSERT_EQ(taken_back.ranked.front().score, copied.ranked.front().score);
    }
}

TEST(Search, NeverLosesTheSmallFrameAgainstEverySequenceOfReplies) {
    const Lanterns game({3, 3, 3, false});
    AlphaBeta<Lanterns> search(game);
    int finished = 0;
    for (const Player searcher : {Player::First, Player::Second}) {
        const auto play_all = [&](const auto& self, const Lanterns::Position& position) -> void {
            if (const auto outcome = game.outcome(position)) {
                ASSERT_GE(outcome->payoff(searcher), 0) << game.position_text(position);
                ++finished;
                return;
            }
            if (position.to_move == searcher) {
                auto after = position;
                game.play(after,
                          search.decide(position, {.depth = 9}, {.seed = static_cast<std::uint64_t>(finished)}).move);
                self(self, after);
                return;
            }
            for (const auto& reply : legal_moves(game, position)) {
                auto after = position;
                game.play(after, reply);
                self(self, after);
            }
        };
        play_all(play_all, game.initial_position());
    }
    EXPECT_GT(finished, 500);
}

TEST(Search, TakesTheSoonerWinAndTheLaterLoss) {
    const Lanterns game({3, 3, 3, false});
    // Teal wins at once with c3; other moves win too, but later.
    const auto winning = AlphaBeta(game).decide(game.read_position("TT./.A./A.. T"), {.depth = 5});
    EXPECT_EQ(game.move_text({}, winning.move), "c3");
    EXPECT_EQ(winning.ranked.front().score, Score::proven(1, 1));
    // Amber is lost, but taking a threat away holds out longest.
    const auto lost = AlphaBeta(game).decide(game.read_position("T.T/.A./A.T A"), {.depth = 5});
    EXPECT_EQ(lost.ranked.front().score, Score::proven(-1, 2));
}

TEST(Search, TheSeedChoosesEvenlyAmongEquallyGoodMoves) {
    const Lanterns game({3, 3, 3, false});
    AlphaBeta<Lanterns> search(game);
    const auto position = game.read_position(".../.T./... A");  // the four corners are best, and equal
    std::map<std::string, int> chosen;
    for (std::uint64_t seed = 0; seed < 400; ++seed) {
        const auto decision = search.decide(position, {.depth = 8}, {.seed = seed});
        ++chosen[game.move_text(position, decision.move)];
        EXPECT_EQ(decision.move, search.decide(position, {.depth = 8}, {.seed = seed}).move);
    }
    ASSERT_EQ(chosen.size(), 4u);
    for (const char* corner : {"a1", "a3", "c1", "c3"}) EXPECT_GT(chosen[corner], 60) << corner;
}

TEST(Search, CountersDoNotDependOnTheSeedNorOnWhatWasSearchedBefore) {
    const Lanterns game;
    AlphaBeta<Lanterns> search(game);
    const auto first = search.decide(game.initial_position(), {.depth = 4}, {.seed = 1});
    (void)search.decide(game.read_position("...../..A../.TT../...../..... A"), {.depth = 6});
    const auto again = search.decide(game.initial_position(), {.depth = 4}, {.seed = 2});
    EXPECT_EQ(static_cast<const Counters&>(first.stats), static_cast<const Counters&>(again.stats));
}

TEST(Search, StaysWithinItsNodesAndStillAnswersLegally) {
    const Lanterns game;
    for (const std::uint64_t nodes : {1u, 2u, 5u, 26u, 27u, 1'000u, 50'000u}) {
        for (const bool minimax : {true, false}) {
            const Limits limits{.nodes = nodes};
            const auto decision = minimax ? Minimax(game).decide(game.initial_position(), limits)
                                          : AlphaBeta(game).decide(game.initial_position(), limits);
            EXPECT_LE(decision.stats.nodes, nodes);
            EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Nodes);
            EXPECT_EQ(decision.ranked.size(), 25u);
            EXPECT_TRUE(legal_moves(game, game.initial_position()).contains(decision.move));
        }
    }
    // A move that was not reached says so.
    const auto cut_short = AlphaBeta(game).decide(game.initial_position(), {.depth = 1, .nodes = 10});
    EXPECT_EQ(cut_short.ranked.front().kind, ScoreKind::Exact);
    EXPECT_EQ(cut_short.ranked.back().kind, ScoreKind::Estimate);
    EXPECT_EQ(cut_short.stats.depth, 0);
}

TEST(Search, OneNodeMoreNeverCountsLess) {
    const Lanterns game({4, 4, 3, false});
    Counters before{};
    for (std::uint64_t nodes = 1; nodes < 1'500; ++nodes) {  // what unwinds after the last node is not counted
        const auto decision = AlphaBeta(game).decide(game.initial_position(), {.nodes = nodes});
        ASSERT_EQ(decision.stats.nodes, nodes);
        ASSERT_GE(decision.stats.cutoffs, before.cutoffs) << nodes;
        ASSERT_GE(decision.stats.leaves, before.leaves) << nodes;
        ASSERT_LE(decision.stats.cutoffs, nodes);
        before = decision.stats;
    }
    EXPECT_GT(before.cutoffs, 100u);
}

TEST(Search, StopsWhenTheTokenOrTheClockSaySo) {
    const Lanterns game;
    struct Counting {
        mutable int asked = 0;
        bool stop_requested() const { return ++asked > 20; }
    } token;
    const auto stopped = AlphaBeta(game).decide(game.initial_position(), {.stop = StopToken::of(token)});
    EXPECT_EQ(stopped.stats.stopped_by, StoppedBy::Stop);
    EXPECT_GT(stopped.stats.depth, 0);
    const auto timed = AlphaBeta(game).decide(game.initial_position(), {.seconds = 0.02, .clock = steady_seconds});
    EXPECT_EQ(timed.stats.stopped_by, StoppedBy::Time);
    EXPECT_GE(timed.stats.seconds, 0.02);
    EXPECT_LT(timed.stats.seconds, 1.0);  // far above what it takes, even on a machine under load
}

TEST(Search, GoesDeeperUntilEveryLineHasEnded) {
    const Lanterns game({3, 3, 3, false});
    const auto solved = AlphaBeta(game).decide(game.initial_position());
    EXPECT_EQ(solved.stats.stopped_by, StoppedBy::End);
    EXPECT_EQ(solved.stats.depth, 9);
    const auto won = AlphaBeta(game).decide(game.read_position("TT./.A./A.. T"), {.nodes = 1'000'000});
    EXPECT_EQ(won.stats.depth, 1) << "a win in one needs no deeper look";
}

TEST(Search, DepthZeroLooksAtNothing) {
    const Lanterns game;
    const auto decision = AlphaBeta(game).decide(game.initial_position(), {.depth = 0});
    EXPECT_EQ(decision.stats.nodes, 1u);
    for (const auto& entry : decision.ranked) EXPECT_EQ(entry.kind, ScoreKind::Estimate);
}

TEST(Search, ChoosesOnlyAmongTheMovesItIsGiven) {
    const Lanterns game({3, 3, 3, false});
    const auto position = game.read_position("TT./.A./A.. T");
    const std::vector<Lanterns::Move> only{move_from_text(game, position, "a2"), move_from_text(game, position, "b1")};
    const auto decision = AlphaBeta(game).decide(position, {.depth = 3}, {.only = only});
    EXPECT_EQ(decision.ranked.size(), 2u);
    EXPECT_TRUE(decision.move == only[0] || decision.move == only[1]);
    const std::vector<Lanterns::Move> illegal{Lanterns::Move{0}};
    EXPECT_THROW((void)AlphaBeta(game).decide(position, {.depth = 3}, {.only = illegal}), InputError);
}

TEST(Search, RefusesLimitsOutOfRangeAndFinishedPositions) {
    const Lanterns game({3, 3, 3, false});
    AlphaBeta<Lanterns> search(game);
    const auto start = game.initial_position();
    EXPECT_THROW((void)search.decide(start, {.depth = -1}), InputError);
    EXPECT_THROW((void)search.decide(start, {.depth = max_depth + 1}), InputError);
    EXPECT_THROW((void)search.decide(start, {.nodes = 0}), InputError);
    EXPECT_THROW((void)search.decide(start, {.seconds = 0.0, .clock = steady_seconds}), InputError);
    EXPECT_THROW((void)search.decide(start, {.seconds = std::nan(""), .clock = steady_seconds}), InputError);
    EXPECT_THROW((void)search.decide(start, {.seconds = 1.0}), InputError) << "a time limit needs a clock";
    EXPECT_THROW((void)search.decide(game.read_position("TTT/AA./... A"), {.depth = 1}), InputError);
}

namespace {

/// Forgets that a player may have no move.
struct ForgottenStalemate {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    Player player_to_move(const Position&) const { return Player::First; }
    void generate_moves(const Position& position, MoveList<Move>& moves) const {
        if (position < 2) moves.push_back(1);
    }
    void play(Position& position, const Move& move) const { position += move; }
    std::optional<Outcome> outcome(const Position&) const { return std::nullopt; }
};

}  // namespace

TEST(Search, ReportsAPositionWithoutMovesThatIsNotFinished) {
    const ForgottenStalemate game;
    EXPECT_THROW((void)AlphaBeta(game).decide(0, {.depth = 4}), RulesError);
    EXPECT_THROW((void)Minimax(game).decide(0, {.depth = 4}), RulesError);
    EXPECT_THROW((void)AlphaBeta(game).decide(2, {.depth = 4}), RulesError);
}
