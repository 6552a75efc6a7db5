// The standard search against minimax, technique by technique, and against plain recursion where positions repeat.

#include <gtest/gtest.h>
#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/minimax.hpp>
#include <arvek/search/standard.hpp>

#include <atomic>
#include <span>
#include <thread>

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

/// Everything that leaves the value at a depth as minimax has it: each technique off by itself, all on, all off.
std::vector<Techniques> exact_variants(bool with_table) {
    std::vector<Techniques> variants;
    Techniques all, none;
    for (const std::string& name : technique_names()) *technique_named(none, name) = false;
    all.table = with_table;
    all.quiescence = false;  // goes on beyond the depth; see below
    for (const std::string& name : technique_names()) {
        Techniques variant = all;
        *technique_named(variant, name) = false;
        variants.push_back(variant);
    }
    variants.push_back(none);
    return variants;
}

template <class G>
void expect_value_of_minimax(const G& game, const typename G::Position& position, int depth,
                             const std::vector<Techniques>& variants) {
    const auto plain = Minimax<G>(game).decide(position, {.depth = depth});
    for (const Techniques& techniques : variants)
        for (const Ranking ranking : {Ranking::Best, Ranking::Equals, Ranking::All}) {
            Standard<G> search(game, {.techniques = techniques, .table_mebibytes = 1});
            const auto decision = search.decide(position, {.depth = depth}, {.ranking = ranking});
            ASSERT_EQ(decision.ranked.front().score, plain.ranked.front().score);
            ASSERT_EQ(decision.ranked.front().kind, ScoreKind::Exact);
            if (decision.stats.depth < depth) continue;  // a win so soon that it looked no deeper
            // Exact is exact and bounds bound, for every move.
            for (const auto& entry : decision.ranked)
                for (const auto& known : plain.ranked) {
                    if (known.move != entry.move) continue;
                    if (entry.kind == ScoreKind::Exact) {
                        ASSERT_EQ(entry.score, known.score);
                    } else if (entry.kind == ScoreKind::Upper) {
                        ASSERT_GE(entry.score, known.score);
                    }
                }
        }
}

}  // namespace

TEST(Standard, HasTheValueOfMinimaxOnLanternsWhateverIsSwitchedOff) {
    Random random(21);
    for (const Lanterns::Parameters& shape : std::vector<Lanterns::Parameters>{
             {3, 3, 3, false}, {4, 4, 3, false}, {5, 5, 4, false}, {4, 4, 3, true}, {6, 5, 4, true}}) {
        const Lanterns game(shape);
        for (int i = 0; i < (testing_support::sanitized ? 8 : 25); ++i) {
            const auto position = random_position(game, static_cast<int>(random.below(14)), random);
            // In Lanterns a position is always met at the same ply, so even the table changes no value.
            ASSERT_NO_FATAL_FAILURE(expect_value_of_minimax(game, position, 1 + i % 4, exact_variants(true)))
                << game.position_text(position);
        }
    }
}

TEST(Standard, HasTheValueOfMinimaxOnSluiceWithoutTheTable) {
    Random random(22);
    for (const Sluice::Parameters& shape : std::vector<Sluice::Parameters>{{6, 4, false, false},
                                                                           {3, 3, true, false},
                                                                           {4, 2, false, true},
                                                                           {1, 5, true, true},
                                                                           {2, 12, false, false}}) {
        const Sluice game(shape);
        for (int i = 0; i < 25; ++i) {
            const auto position = random_position(game, static_cast<int>(random.below(20)), random);
            ASSERT_NO_FATAL_FAILURE(expect_value_of_minimax(game, position, 1 + i % 5, exact_variants(false)))
                << game.position_text(position);
        }
    }
}

TEST(Standard, HasTheValueOfMinimaxWhereAnyPlayerMayMoveNext) {
    for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 40u : 150u); ++seed) {
        const RandomTree tree{seed, 7, false};
        ASSERT_NO_FATAL_FAILURE(expect_value_of_minimax(tree, tree.initial_position(), 1 + static_cast<int>(seed % 8),
                                                        exact_variants(true)))
            << "seed " << seed;
    }
}

TEST(Standard, SolvesSmallGamesWithTheTableToTheirExactValue) {
    for (const Sluice::Parameters& shape : std::vector<Sluice::Parameters>{
             {2, 2, false, false}, {3, 1, false, false}, {2, 3, true, false}, {3, 2, false, true}}) {
        const Sluice game(shape);
        const auto plain = AlphaBeta<Sluice>(game).decide(game.initial_position());
        ASSERT_EQ(plain.stats.stopped_by, StoppedBy::End);
        const auto decision = Standard<Sluice>(game).decide(game.initial_position());
        EXPECT_EQ(decision.stats.stopped_by, StoppedBy::End);
        EXPECT_EQ(decision.ranked.front().score.is_proven(), plain.ranked.front().score.is_proven());
        if (plain.ranked.front().score.is_proven()) {
            EXPECT_EQ(decision.ranked.front().score.payoff(), plain.ranked.front().score.payoff());
        }
    }
}

namespace {

/// Plain recursion in which a position met before on the way is a draw.
Score with_repetition(const Windlass& game, std::vector<Windlass::Position>& path, int depth, int ply) {
    const Windlass::Position position = path.back();
    if (const auto outcome = game.outcome(position)) return Score::proven(outcome->payoff(position.to_move()), ply);
    for (std::size_t i = 0; i + 1 < path.size(); ++i)
        if (path[i] == position) return Score{};
    if (depth == 0) return game.evaluate(position, position.to_move());
    Score best = Score::lowest();
    MoveList<Windlass::Move> moves;
    game.generate_moves(position, moves);
    for (const auto& move : moves) {
        path.push_back(position);
        game.play(path.back(), move);
        best = std::max(best, -with_repetition(game, path, depth - 1, ply + 1));
        path.pop_back();
    }
    return best;
}

}  // namespace

TEST(Standard, CountsARepeatedPositionAsADraw) {
    Random random(23);
    Techniques without_table;
    without_table.table = false;
    for (const Windlass::Parameters& shape : std::vector<Windlass::Parameters>{{4, 2}, {6, 3}, {5, 2}, {8, 4}}) {
        const Windlass game(shape);
        for (int i = 0; i < 40; ++i) {
            const auto position = random_position(game, 4 + i % 14, random);
            const int depth = 1 + i % 6;
            std::vector<Windlass::Position> path{position};
            const Score known = with_repetition(game, path, depth, 0);
            for (const Techniques& techniques : exact_variants(false)) {
                const auto decision =
                    Standard<Windlass>(game, {.techniques = techniques}).decide(position, {.depth = depth});
                ASSERT_EQ(decision.ranked.front().score, known) << game.position_text(position) << " depth " << depth;
            }
        }
    }
}

TEST(Standard, SeesTheDrawByRepetitionInTheHistoryOfTheGame) {
    const Windlass game({6, 3});
    Random random(29);
    int seen = 0;
    for (int i = 0; i < 300 && seen < 30; ++i) {
        const auto position = random_position(game, 6 + i % 10, random);
        if (position.own_hand() > 0) continue;
        const auto moves = legal_moves(game, position);
        // Every answer but one has been met before: whatever it is worth, those are draws now.
        std::vector<Windlass::Position> earlier;
        for (std::size_t m = 0; m < moves.size(); ++m) {
            earlier.push_back(position);
            game.play(earlier.back(), moves[m]);
            if (game.outcome(earlier.back())) earlier.pop_back();
        }
        if (earlier.size() != moves.size()) continue;
        ++seen;
        for (const bool long_game : {false, true}) {
            if (long_game) earlier.insert(earlier.begin() + 1, 60, game.initial_position());
            for (const bool table : {true, false}) {
                Techniques techniques;
                techniques.table = table;
                const auto decision = Standard<Windlass>(game, {.techniques = techniques})
                                          .decide(position, {.depth = 4}, {.ranking = Ranking::All}, earlier);
                for (const auto& entry : decision.ranked)
                    ASSERT_EQ(entry.score, Score{}) << game.position_text(position);
            }
        }
    }
    EXPECT_EQ(seen, 30);
}

TEST(Standard, IsReproducibleToTheCounterAndForgetsUnlessAskedToKeep) {
    const Sluice game;
    Standard<Sluice> search(game), keeping(game, {.keep_table = true});
    const auto position = game.initial_position();
    const auto first = search.decide(position, {.depth = 8}, {.seed = 3});
    (void)search.decide(game.read_position("0,0,1,0,4,4:9 1,6,0,5,5,0:13 A"), {.depth = 9});
    const auto again = search.decide(position, {.depth = 8}, {.seed = 3});
    EXPECT_EQ(static_cast<const Counters&>(first.stats), static_cast<const Counters&>(again.stats));
    EXPECT_EQ(first.move, again.move);
    for (int i = 0; i < 600; ++i) (void)search.decide(position, {.depth = 1});  // past the round of the ages
    EXPECT_EQ(static_cast<const Counters&>(search.decide(position, {.depth = 8}, {.seed = 3}).stats),
              static_cast<const Counters&>(first.stats));

    const auto kept_first = keeping.decide(position, {.depth = 8});
    const auto kept_again = keeping.decide(position, {.depth = 8});
    EXPECT_LT(kept_again.stats.nodes, kept_first.stats.nodes / 2);
    EXPECT_EQ(kept_again.ranked.front().score, kept_first.ranked.front().score);
}

namespace {

double slow_clock_shows = 0;  // seconds

/// Lanterns whose every position takes its time, by a clock of its own.
struct SlowLanterns : Lanterns {
    // Those are of Lanterns, not of this.
    void quantities() const = delete;
    void suggesters() const = delete;
    double seconds_a_position = 0;

    SlowLanterns(const Parameters& parameters, double seconds) : Lanterns(parameters), seconds_a_position(seconds) {}

    std::optional<Outcome> outcome(const Position& position) const {
        slow_clock_shows += seconds_a_position;
        return Lanterns::outcome(position);
    }
};

struct AskedLate {
    double from;
    mutable double noticed = 0;
    bool stop_requested() const {
        if (slow_clock_shows < from) return false;
        if (noticed == 0) noticed = slow_clock_shows;
        return true;
    }
};

}  // namespace

TEST(Standard, KeepsToItsTimeHoweverSlowTheGameIs) {
    const Clock clock = [] { return slow_clock_shows; };
    for (const double seconds : {1e-6, 1e-5, 2e-4, 2e-3}) {
        const SlowLanterns game({6, 5, 4, true}, seconds);
        // What it takes beyond its time: two milliseconds, or two positions where those take longer.
        Standard<SlowLanterns> search(game), other(game);
        slow_clock_shows = 0;
        const auto timed = search.decide(game.initial_position(), {.seconds = 0.1, .clock = clock});
        EXPECT_EQ(timed.stats.stopped_by, StoppedBy::Time) << seconds;
        EXPECT_LT(slow_clock_shows, 0.1 + 0.002 + 2 * seconds) << seconds;
        slow_clock_shows = 0;
        const AskedLate asked{0.05};
        const auto stopped =
            other.decide(game.initial_position(), {.clock = clock, .stop = StopToken::of(asked)});
        EXPECT_EQ(stopped.stats.stopped_by, StoppedBy::Stop) << seconds;
        EXPECT_LT(asked.noticed, 0.05 + 0.002 + 2 * seconds) << seconds;
    }
}

TEST(Standard, KeepsToItsLimitsAndNeverLosesTheLastFinishedDepth) {
    const Lanterns game;
    for (const std::uint64_t nodes : {1u, 7u, 100u, 5'000u, 200'000u}) {
        const auto decision = Standard<Lanterns>(game).decide(game.initial_position(), {.nodes = nodes});
        EXPECT_LE(decision.stats.nodes, nodes);
        EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Nodes);
        EXPECT_TRUE(legal_moves(game, game.initial_position()).contains(decision.move));
        if (decision.stats.depth > 0) {
            EXPECT_EQ(decision.ranked.front().kind, ScoreKind::Exact);
        }
    }
}

TEST(Standard, TakesABetterMoveFromTheUnfinishedDepthAndNeverAWorse) {
    Techniques without_table;
    without_table.table = without_table.quiescence = false;  // so that values are those of plain recursion
    const Sluice game({4, 3, false, false});
    Random random(71);
    int taken_over = 0, mixed = 0;
    for (int i = 0; i < 12; ++i) {
        const auto position = random_position(game, i, random);
        const Player player = position.to_move;
        for (std::uint64_t nodes = 20; nodes < 6'000; nodes = nodes * 9 / 8) {
            Standard<Sluice> search(game, {.techniques = without_table});
            const auto decision = search.decide(position, {.nodes = nodes});
            const int depth = decision.stats.depth;
            if (decision.stats.stopped_by != StoppedBy::Nodes || depth == 0 || depth > 6) continue;
            const auto value_at = [&](const Sluice::Move& move, int plies) {
                auto after = position;
                game.play(after, move);
                return testing_support::brute_force(game, after, player, plies, 1);
            };
            const auto value_of = [&](const Sluice::Move& move) { return value_at(move, depth); };
            // A ranking never sets a score of one depth against a score of another without saying so.
            const auto all = search.decide(position, {.nodes = nodes}, {.ranking = Ranking::All});
            const int deep = all.stats.depth;
            if (deep > 0 && deep <= 5) {
                const bool front_is_deeper = std::any_of(all.ranked.begin(), all.ranked.end(), [](const auto& entry) {
                    return entry.kind == ScoreKind::Shallow;
                });
                for (const auto& entry : all.ranked) {
                    if (entry.score.is_proven()) continue;
                    const bool is_deeper = front_is_deeper && entry.kind == ScoreKind::Exact;
                    ASSERT_EQ(entry.score, value_at(entry.move, is_deeper ? deep : deep - 1));
                }
                mixed += front_is_deeper ? 1 : 0;
            }
            const auto finished = search.decide(position, {.depth = depth});
            // One ply deeper, the chosen move is worth at least what the last finished depth's best moves are.
            Score least = Score::highest();
            bool chosen_is_one_of_them = false;
            for (const auto& entry : finished.ranked)
                if (entry.score == finished.ranked.front().score && entry.kind == ScoreKind::Exact) {
                    least = std::min(least, value_of(entry.move));
                    chosen_is_one_of_them = chosen_is_one_of_them || entry.move == decision.move;
                }
            ASSERT_TRUE(chosen_is_one_of_them || value_of(decision.move) > least)
                << game.position_text(position) << " nodes " << nodes;
            taken_over += chosen_is_one_of_them ? 0 : 1;
        }
    }
    EXPECT_GT(taken_over, 0);
    EXPECT_GT(mixed, 0);
}

TEST(Standard, AgreesWithMinimaxAndAlphaBetaOnTwoThousandPositionsOfThreeGames) {
    Techniques techniques;
    techniques.table = techniques.quiescence = false;
    int compared = 0;
    const auto compare = [&](const auto& game, std::uint64_t seed) {
        using G = std::decay_t<decltype(game)>;
        Random random(seed);
        for (int i = 0; i < 190; ++i, ++compared) {
            const auto position = random_position(game, i % 14, random);
            const auto known = Minimax<G>(game).decide(position, {.depth = 2 + i % 2});
            const Score value = known.ranked.front().score;
            ASSERT_EQ(AlphaBeta<G>(game).decide(position, {.depth = 2 + i % 2}).ranked.front().score, value);
            const auto fast = Standard<G>(game, {.techniques = techniques}).decide(position, {.depth = 2 + i % 2});
            ASSERT_EQ(fast.ranked.front().score, value) << game.position_text(position);
        }
    };
    compare(Lanterns({4, 4, 3, false}), 1);
    compare(Lanterns({5, 4, 4, false}), 2);
    compare(Lanterns({7, 6, 4, true}), 3);
    compare(Lanterns({12, 2, 2, true}), 4);
    compare(Sluice(), 5);
    compare(Sluice({3, 3, true, false}), 6);
    compare(Sluice({4, 2, false, true}), 7);
    compare(Sluice({12, 12, false, false}), 8);
    compare(Windlass({6, 2}), 9);
    compare(Windlass({8, 3}), 10);
    compare(Windlass({12, 5}), 11);
    EXPECT_GE(compared, 2'000);
}

TEST(Standard, FollowsForcingMovesBeyondTheHorizonAsPlainRecursionDoes) {
    const Sluice game({4, 3, false, false});
    // The evaluation, or a forcing move that is better, with nothing left out.
    const auto quiet = [&](const auto& self, const Sluice::Position& position, Player viewer, int ply) -> Score {
        if (const auto outcome = game.outcome(position)) return Score::proven(outcome->payoff(viewer), ply);
        const bool own = game.player_to_move(position) == viewer;
        Score best = game.evaluate(position, viewer);
        MoveList<Sluice::Move> moves;
        game.generate_forcing_moves(position, moves);
        for (const auto& move : moves) {
            auto after = position;
            game.play(after, move);
            const Score score = self(self, after, viewer, ply + 1);
            best = own ? std::max(best, score) : std::min(best, score);
        }
        return best;
    };
    const auto reference = [&](const auto& self, const Sluice::Position& position, Player viewer, int depth,
                               int ply) -> Score {
        if (const auto outcome = game.outcome(position)) return Score::proven(outcome->payoff(viewer), ply);
        if (depth == 0) return quiet(quiet, position, viewer, ply);
        const bool own = game.player_to_move(position) == viewer;
        Score best = own ? Score::lowest() : Score::highest();
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            const Score score = self(self, after, viewer, depth - 1, ply + 1);
            best = own ? std::max(best, score) : std::min(best, score);
        }
        return best;
    };
    Techniques techniques;
    techniques.table = false;
    Random random(71);
    int different = 0;
    for (int i = 0; i < 120; ++i) {
        const auto position = random_position(game, i % 9, random);
        const int depth = 1 + i % 3;
        const Score known = reference(reference, position, game.player_to_move(position), depth, 0);
        ASSERT_EQ(
            Standard<Sluice>(game, {.techniques = techniques}).decide(position, {.depth = depth}).ranked.front().score,
            known)
            << game.position_text(position);
        different += Minimax<Sluice>(game).decide(position, {.depth = depth}).ranked.front().score != known ? 1 : 0;
    }
    EXPECT_GT(different, 20) << "forcing moves should matter";
}

TEST(Standard, ANullMoveWhereTheGameCallsItSoundNeverChangesAProvenValue) {
    Techniques with;
    with.null_move = true;
    std::uint64_t nodes_with = 0, nodes_without = 0;
    const Lanterns game({4, 4, 3, false}), large({5, 5, 4, false});
    Random random(73);
    const int part = testing_support::sanitized ? 4 : 1;
    for (int i = 0; i < 120 / part; ++i) {
        const auto position = random_position(game, i % 10, random);
        const auto known = Standard<Lanterns>(game).decide(position, {.depth = 7});
        const auto found = Standard<Lanterns>(game, {.techniques = with}).decide(position, {.depth = 7});
        if (known.ranked.front().score.is_proven() && found.ranked.front().score.is_proven()) {
            ASSERT_EQ(known.ranked.front().score.payoff(), found.ranked.front().score.payoff());
        }
        if (i >= 12 / part) continue;
        const auto spacious = random_position(large, i % 3, random);
        nodes_without += Standard<Lanterns>(large).decide(spacious, {.depth = 6}).stats.nodes;
        nodes_with += Standard<Lanterns>(large, {.techniques = with}).decide(spacious, {.depth = 6}).stats.nodes;
    }
    EXPECT_LT(nodes_with, nodes_without);
    // With drop the game says that it is not sound, and then nothing changes.
    const Lanterns dropping({5, 4, 4, true});
    const auto start = dropping.initial_position();
    EXPECT_EQ(Standard<Lanterns>(dropping, {.techniques = with}).decide(start, {.depth = 8}).stats.nodes,
              Standard<Lanterns>(dropping).decide(start, {.depth = 8}).stats.nodes);
}

TEST(Standard, PlaysForTheWinAloneWhenMarginsDoNotCount) {
    const Sluice game({3, 2, false, false});
    Random random(79);
    for (int i = 0; i < 60; ++i) {
        const auto position = random_position(game, i % 8, random);
        const Player player = game.player_to_move(position);
        const Score full = testing_support::brute_force(game, position, player, 40);
        const int sign = full.is_proven() ? std::clamp(full.payoff(), -1, 1) : 0;
        for (const Ranking ranking : {Ranking::Best, Ranking::Equals}) {
            const SearchRequest<Sluice::Move> request{.ranking = ranking, .margins = false};
            for (const Score score :
                 {Minimax<Sluice>(game).decide(position, {.depth = 40}, request).ranked.front().score,
                  AlphaBeta<Sluice>(game).decide(position, {.depth = 40}, request).ranked.front().score,
                  Standard<Sluice>(game).decide(position, {}, request).ranked.front().score})
                ASSERT_EQ(score.is_proven() ? score.payoff() : 0, sign) << game.position_text(position);
        }
    }
}

TEST(Threads, NeverFindAnotherProvenValueThanOne) {
    Random random(83);
    const auto compare = [&](const auto& game, int plies, const Limits& limits = {}) {
        using G = std::decay_t<decltype(game)>;
        Standard<G> one(game, {.table_mebibytes = 1}), three(game, {.table_mebibytes = 1, .threads = 3});
        for (int i = 0; i < 40; ++i) {
            const auto position = random_position(game, plies + i % 8, random);
            const auto alone = one.decide(position, limits), together = three.decide(position, limits);
            const Score a = alone.ranked.front().score, b = together.ranked.front().score;
            if (!limits.depth) {
                ASSERT_EQ(a.is_proven(), b.is_proven()) << game.position_text(position);
            }
            if (a.is_proven() && b.is_proven()) {
                ASSERT_EQ(a.payoff(), b.payoff()) << game.position_text(position);
            }
        }
    };
    compare(Lanterns({4, 4, 3, false}), 3);
    compare(Lanterns({5, 4, 4, true}), 6);
    compare(Sluice({3, 3, false, false}), 3);
    compare(Windlass({6, 3}), 4, {.depth = 9});
}

TEST(Threads, KeepToTheirLimitsAndAreRefusedWhereTheyShareNothing) {
    const Lanterns game({7, 6, 4, true});
    Standard<Lanterns> search(game, {.threads = 2});
    EXPECT_LE(search.decide(game.initial_position(), {.nodes = 20'001}).stats.nodes, 20'001u);
    const auto decision = search.decide(game.initial_position(), {.seconds = 0.05, .clock = steady_seconds});
    EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Time);
    EXPECT_TRUE(legal_moves(game, game.initial_position()).contains(decision.move));
    Techniques no_table;
    no_table.table = false;
    EXPECT_THROW((Standard<Lanterns>(game, {.techniques = no_table, .threads = 2})), InputError);
    EXPECT_THROW((Standard<Lanterns>(game, {.threads = 0})), InputError);
    EXPECT_THROW((Standard<Lanterns>(game, {.threads = most_threads + 1})), InputError);
}

namespace {

/// A game whose rules break deep down.
struct BreaksDeepDown : RandomTree {
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        if (p.ply < 4) RandomTree::generate_moves(p, moves);
    }
};

}  // namespace

TEST(Threads, ReportBrokenRulesLikeOne) {
    BreaksDeepDown game;
    game.seed = 5;
    for (int i = 0; i < 20; ++i)
        EXPECT_THROW((Standard<BreaksDeepDown>(game, {.threads = 4}).decide(game.initial_position(), {.depth = 7})),
                     RulesError);
}

TEST(Standard, VisitsFarFewerNodesThanAlphaBeta) {
    const Sluice sluice;
    const Limits deep{.depth = 10};
    EXPECT_LT(Standard<Sluice>(sluice).decide(sluice.initial_position(), deep).stats.nodes * 10,
              AlphaBeta<Sluice>(sluice).decide(sluice.initial_position(), deep).stats.nodes);
}

namespace {

/// Sluice with a hint that says the opposite of what it should.
struct TurnedRound : Sluice {
    using Sluice::Sluice;
    std::span<const Quantity<TurnedRound>> quantities() const { return {}; }
    std::span<const Suggester<TurnedRound>> suggesters() const { return {}; }
    int order_hint(const Position& position, const Move& move) const { return -Sluice::order_hint(position, move); }
};

}  // namespace

TEST(Standard, FollowsAHintThatHelpsAndSoonLeavesOneThatMisleads) {
    const TurnedRound turned;
    const Sluice sluice;
    const StandardOptions unhinted{.techniques = {.hint = false}};
    const Limits limits{.depth = 8};
    Random random(3);
    double with_good = 0, with_bad = 0, with_none = 0;
    for (int plies = 0; plies < 16; plies += 2) {
        const auto position = random_position(sluice, plies, random);
        const auto good = Standard<Sluice>(sluice).decide(position, limits);
        const auto bad = Standard<TurnedRound>(turned).decide(position, limits);
        const auto none = Standard<Sluice>(sluice, unhinted).decide(position, limits);
        with_good += static_cast<double>(good.stats.nodes);
        with_bad += static_cast<double>(bad.stats.nodes);
        with_none += static_cast<double>(none.stats.nodes);
        EXPECT_LT(bad.stats.tries_without_hint, bad.stats.tries_with_hint);
        EXPECT_EQ(none.stats.tries_with_hint, 0.0);
    }
    EXPECT_LT(with_good, 0.85 * with_none);
    EXPECT_LT(with_bad, 1.2 * with_none);
}

TEST(TranspositionTable, GivesBackWhatWasStoredOrNothing) {
    TranspositionTable table(1);
    table.begin_decision(Kept::Nothing);
    Random random(31);
    TableEntry entry;
    EXPECT_FALSE(table.look_up(0, entry)) << "an empty table knows nothing, not even of hash 0";
    for (int i = 0; i < 100'000; ++i) {
        const std::uint64_t hash = random.next();
        const TableEntry stored{Score::estimate(static_cast<int>(random.below(2'000'000)) - 1'000'000),
                                static_cast<int>(random.below(1'024)), static_cast<Bound>(1 + random.below(3)),
                                static_cast<std::uint16_t>(random.below(4'096))};
        table.store(hash, stored);
        ASSERT_TRUE(table.look_up(hash, entry));
        ASSERT_EQ(entry.score, stored.score);
        ASSERT_EQ(entry.depth, stored.depth);
        ASSERT_EQ(entry.bound, stored.bound);
        ASSERT_EQ(entry.move, stored.move);
    }
    EXPECT_THROW(TranspositionTable(0), InputError);
    EXPECT_THROW(TranspositionTable(std::size_t{1} << 40), InputError);
}

TEST(TranspositionTable, NeverMixesWhatSeveralThreadsWrite) {
    TranspositionTable table(1);
    table.begin_decision(Kept::Nothing);
    // Each hash has one value that belongs to it; a mixed entry would show another.
    const auto value_of = [](std::uint64_t hash) { return static_cast<int>(hash % 1'000'003); };
    std::atomic<int> wrong{0}, found{0};
    const auto work = [&](std::uint64_t seed) {
        Random random(seed);
        for (int i = 0; i < 100'000; ++i) {
            const std::uint64_t hash = mix_bits(random.below(40'000)) & ~std::uint64_t{0xff00};  // crowded buckets
            TableEntry entry;
            if (table.look_up(hash, entry)) {
                ++found;
                if (entry.score != Score::estimate(value_of(hash))) ++wrong;
            }
            table.store(hash, {Score::estimate(value_of(hash)), static_cast<int>(random.below(20)), Bound::Exact, 3});
        }
    };
    std::thread a(work, 1), b(work, 2), c(work, 3);
    a.join();
    b.join();
    c.join();
    EXPECT_EQ(wrong, 0);
    EXPECT_GT(found, 1'000);
}
