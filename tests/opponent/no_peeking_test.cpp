// Nobody peeks: what lies behind a view changes nothing of what any opponent does, its counters included.

#include <gtest/gtest.h>

#include <arvek/arena/match.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/session/session.hpp>

#include "compiled.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using waterway::Tolls;
using waterway::Wager;

namespace {

/// Hidden parts swapped behind the same view: the same decision, from every opponent and at several levels.
template <class G>
int expect_blind(const G& game, std::uint64_t seed) {
    Random random(seed);
    auto position = game.initial_position();
    std::vector<typename G::View> earlier[max_players];
    const auto choosers = Choosers<G>::built_in();
    int compared = 0;
    const auto see = [&] {
        for (int i = 0; i < players_of(game); ++i) earlier[i].push_back(game.view(position, static_cast<Player>(i)));
    };
    for (;;) {
        see();
        if (game.outcome(position)) return compared;
        if (game.chance_is_next(position)) {
            game.play(position, drawn_event(game, position, random));
            continue;
        }
        const Player player = game.player_to_move(position);
        const auto view = game.view(position, player);
        const auto other = game.sample(view, random);
        const auto& seen = earlier[index_of(player)];
        const std::span<const typename G::View> before(seen.data(), seen.size() - 1);
        for (const ChooserInfo& info : choosers.infos())
            for (const int level : {2, 6, 10}) {
                if (!info.has_levels && level != 10) continue;
                std::unique_ptr<Opponent<G>> one, two;
                OpponentSpec spec;
                spec.name = info.name;
                spec.level = level;
                try {
                    one = make_opponent(game, spec);
                    two = make_opponent(game, spec);
                } catch (const InputError&) {
                    continue;  // not for this game
                }
                const auto a = one->decide(game.view(position, player), 5, before);
                const auto b = two->decide(game.view(other, player), 5, before);
                EXPECT_EQ(a.move, b.move) << info.name << level;
                EXPECT_EQ(a.stats.nodes, b.stats.nodes) << info.name << level;
                EXPECT_EQ(a.ranked.size(), b.ranked.size());
                for (std::size_t i = 0; i < a.ranked.size() && i < b.ranked.size(); ++i) {
                    EXPECT_EQ(a.ranked[i].move, b.ranked[i].move);
                    EXPECT_EQ(a.ranked[i].score, b.ranked[i].score);
                }
                EXPECT_TRUE(legal_moves(game, position).contains(a.move)) << info.name << level;
                ++compared;
            }
        const auto moves = legal_moves(game, position);
        game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
    }
}

}  // namespace

TEST(NoPeeking, HoldsForEveryOpponentInTollsAndWager) {
    int compared = 0;
    const std::uint64_t games = testing_support::sanitized ? 1 : 4;
    for (std::uint64_t seed = 0; seed < games; ++seed) {
        compared += expect_blind(Tolls({3, 3, 4, 3, "none"}), seed);
        compared += expect_blind(Wager({4}), seed);
    }
    EXPECT_GT(compared, 60 * static_cast<int>(games));
}

TEST(NoPeeking, AMatchHandsEachSideItsOwnView) {
    // An opponent of views alone that would play otherwise if it were shown more.
    struct Honest final : Opponent<Tolls> {
        explicit Honest(const Tolls& own) : game(own) {}
        Decision<Tolls::Move> decide(const Tolls::View& view, std::uint64_t, std::span<const Tolls::View> earlier,
                                     StopToken) override {
            for (std::size_t side = 0; side < 3; ++side)
                if (side != view.seen.seen_by) {
                    EXPECT_EQ(view.seen.hands[side], 0u);
                }
            for (const auto& before : earlier) EXPECT_EQ(before.seen.seen_by, view.seen.seen_by);
            Decision<Tolls::Move> decision;
            decision.move = legal_moves(game, stand_in(game, view))[0];
            return decision;
        }
        Tolls game;
    };
    const Tolls game;
    Honest a(game), b(game);
    const auto result = play_match(game, a, b, {.games = 30, .seed = 4});
    EXPECT_EQ(result.games, 30);
    EXPECT_EQ(result.faults_a + result.faults_b, 0) << result.first_fault;
}

TEST(Match, WithThreeSeatsPutsAInEachByTurns) {
    const Tolls game;
    const auto ruled = make_opponent(game, read_opponent("ruled"));
    const auto random = make_opponent(game, read_opponent("random"));
    std::vector<std::vector<Tolls::Move>> deals;
    const auto result = play_match(game, *ruled, *random, {.games = 90, .seed = 2}, game.initial_position(),
                                   [&](const PlayedGame<Tolls>& played) {
                                       EXPECT_EQ(static_cast<int>(index_of(played.player_a)), played.number % 3);
                                       deals.emplace_back(played.moves.begin(), played.moves.begin() + 12);
                                   });
    for (std::size_t i = 0; i < deals.size(); ++i)
        EXPECT_EQ(deals[i], deals[i / 3 * 3]) << "the same deal for all seats";
    EXPECT_EQ(result.players, 3);
    EXPECT_EQ(result.games, 90);
    EXPECT_GT(result.score_a(), 0.5);
    EXPECT_GT(result.mean_payoff_a(), 0);
    EXPECT_LT(result.payoff_interval().low, result.mean_payoff_a());
    // Equals are equal, whatever the seats.
    const auto even = play_match(game, *random, *random, {.games = 600, .seed = 3});
    EXPECT_NEAR(even.score_a(), 0.5, 0.06);
    EXPECT_NEAR(even.mean_payoff_a(), 0, 0.4);
}

TEST(Match, OfAGameForOneComparesScoresOnTheSameDeals) {
    const waterway::Stowage game({.rows = 5, .columns = 6, .lot = 2, .trim = 6, .lots = 6});
    const auto ruled = make_opponent(game, read_opponent("ruled"));
    const auto random = make_opponent(game, read_opponent("random"));
    const auto result = play_match(game, *ruled, *random, {.games = 80, .seed = 2});
    EXPECT_EQ(result.players, 1);
    EXPECT_EQ(result.payoffs_a.size(), 40u);
    EXPECT_EQ(result.payoffs_b.size(), 40u);
    EXPECT_EQ(result.comparisons(), 40);
    EXPECT_GT(result.mean_difference(), 0);
    EXPECT_GT(result.difference_interval().low, 0);
    const auto same = play_match(game, *ruled, *ruled, {.games = 20, .seed = 2});
    EXPECT_LE(std::abs(same.mean_difference()), 60);
}
