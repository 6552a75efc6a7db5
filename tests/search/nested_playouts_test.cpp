// Nested playouts, on puzzles of one player.

#include <gtest/gtest.h>

#include <algorithm>

#include <arvek/search/monte_carlo.hpp>
#include <arvek/search/nested_playouts.hpp>

#include "downstream/downstream.hpp"
#include "stowage/stowage.hpp"
#include "support/known_stowage.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using testing_support::KnownStowage;

namespace {

/// The most that can be had from the position, by trying everything.
int most_from(const KnownStowage& game, const KnownStowage::Position& position) {
    if (const auto outcome = game.outcome(position)) return outcome->payoff(Player::First);
    int most = -largest_payoff;
    for (const auto& move : legal_moves(game, position)) {
        auto next = position;
        game.play(next, move);
        most = std::max(most, most_from(game, next));
    }
    return most;
}

int payoff_of(const KnownStowage& game, KnownStowage::Position position, const std::vector<KnownStowage::Move>& line) {
    for (const auto& move : line) {
        EXPECT_FALSE(game.outcome(position)) << "the line goes on after the end";
        EXPECT_TRUE(legal_moves(game, position).contains(move));
        game.play(position, move);
    }
    const auto outcome = game.outcome(position);
    EXPECT_TRUE(outcome) << "the line does not come to an end";
    return outcome ? outcome->payoff(Player::First) : 0;
}

template <class Search>
int payoff_of_a_game(const KnownStowage& game, Search& search, std::uint64_t playouts) {
    auto position = game.initial_position();
    for (std::uint64_t ply = 0; !game.outcome(position); ++ply)
        game.play(position, search.decide(position, {.playouts = playouts}, {.seed = ply}).move);
    return game.outcome(position)->payoff(Player::First);
}

/// Whoever is asked moves one step; every move ends the game.
struct OneStep {
    using Position = int;
    using Move = int;
    static constexpr int players() { return 1; }
    Position initial_position() const { return 0; }
    Player player_to_move(Position) const { return Player::First; }
    void generate_moves(Position, MoveList<Move>& moves) const {
        for (int move = 1; move <= 3; ++move) moves.push_back(move);
    }
    void play(Position& position, Move move) const { position = move; }
    std::optional<Outcome> outcome(Position position) const {
        if (position == 0) return std::nullopt;
        return Outcome::of_payoffs({position, 0, 0, 0});
    }
};

}  // namespace

TEST(NestedPlayouts, FindTheMostOfSmallPuzzles) {
    int found = 0, puzzles = 0;
    for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 4u : 40u); ++seed, ++puzzles) {
        const KnownStowage game({.rows = 3, .columns = 3, .lot = 2, .trim = 9, .lots = 2}, seed);
        if (game.outcome(game.initial_position())) continue;
        const int most = most_from(game, game.initial_position());
        const auto decision =
            NestedPlayouts<KnownStowage>(game).decide(game.initial_position(), {.playouts = 2'000}, {.seed = seed});
        const auto& best = decision.ranked.front();
        EXPECT_LE(best.mean, most) << "more than there is";
        EXPECT_EQ(payoff_of(game, game.initial_position(), best.line), best.mean);
        EXPECT_EQ(best.score.number() / decision.scores_per_point, best.mean);
        EXPECT_NE(best.kind, ScoreKind::Estimate);
        found += best.mean == most ? 1 : 0;
    }
    EXPECT_GE(found, puzzles * 9 / 10);
}

TEST(NestedPlayouts, NeverLoseAGoodEndAgain) {
    const KnownStowage game({.rows = 5, .columns = 6, .lot = 2, .trim = 6, .lots = 6}, 3);
    NestedPlayouts<KnownStowage> search(game);
    auto position = game.initial_position();
    double promised = -1e9;
    for (std::uint64_t ply = 0; !game.outcome(position); ++ply) {
        const auto decision = search.decide(position, {.playouts = 60}, {.seed = ply});
        EXPECT_GE(decision.ranked.front().mean, promised);
        promised = decision.ranked.front().mean;
        game.play(position, decision.move);
    }
    EXPECT_EQ(game.outcome(position)->payoff(Player::First), promised);
}

TEST(NestedPlayouts, GetAboutAsMuchOfALongPuzzleAsATreeDoes) {
    if (testing_support::sanitized) GTEST_SKIP() << "long";
    int nested = 0, tree = 0;
    for (std::uint64_t seed = 0; seed < 3; ++seed) {
        const KnownStowage game({}, seed);
        NestedPlayouts<KnownStowage> by_nesting(game);
        MonteCarlo<KnownStowage> by_tree(game, {.memory_mebibytes = 16});
        nested += payoff_of_a_game(game, by_nesting, 500);
        tree += payoff_of_a_game(game, by_tree, 500);
    }
    EXPECT_GT(nested, tree * 3 / 4);
    EXPECT_LT(nested, tree * 5 / 4);
}

TEST(NestedPlayouts, KeepToTheirLimitsAndRepeat) {
    const KnownStowage game({.rows = 5, .columns = 6, .lot = 2, .trim = 6, .lots = 6}, 1);
    for (const std::uint64_t playouts : {1u, 7u, 500u}) {
        const auto once =
            NestedPlayouts<KnownStowage>(game).decide(game.initial_position(), {.playouts = playouts}, {.seed = 5});
        const auto again =
            NestedPlayouts<KnownStowage>(game).decide(game.initial_position(), {.playouts = playouts}, {.seed = 5});
        EXPECT_EQ(once.stats.playouts, playouts);
        EXPECT_EQ(once.stats.stopped_by, StoppedBy::Playouts);
        EXPECT_EQ(once.move, again.move);
        EXPECT_EQ(once.stats.nodes, again.stats.nodes);
    }
    for (const std::uint64_t nodes : {1u, 2u, 100u, 5'000u}) {
        const auto decision = NestedPlayouts<KnownStowage>(game).decide(game.initial_position(), {.nodes = nodes});
        EXPECT_EQ(decision.stats.nodes, nodes);
        EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Nodes);
        EXPECT_TRUE(legal_moves(game, game.initial_position()).contains(decision.move));
    }
    // Where every move ends the game there is nothing to nest.
    const auto decision = NestedPlayouts<OneStep>(OneStep{}).decide(0, {.playouts = 50});
    EXPECT_EQ(decision.move, 3);
    EXPECT_EQ(decision.stats.playouts, 50u);
}

TEST(NestedPlayouts, RefuseWhatTheyCannotPlay) {
    EXPECT_THROW(NestedPlayouts<waterway::Stowage>(waterway::Stowage{}), InputError) << "chance";
    EXPECT_THROW(NestedPlayouts<waterway::Downstream>(waterway::Downstream{}), InputError) << "two players";
    EXPECT_THROW(NestedPlayouts<OneStep>(OneStep{}, {.levels = 0}), InputError);
    EXPECT_THROW((void)NestedPlayouts<OneStep>(OneStep{}).decide(0, {}), InputError) << "no limit";
    EXPECT_THROW((void)NestedPlayouts<OneStep>(OneStep{}).decide(0, {.depth = 3}), InputError);
    EXPECT_THROW((void)NestedPlayouts<OneStep>(OneStep{}).decide(2, {.playouts = 3}), InputError) << "play is over";
}

TEST(NestedPlayouts, TellHowTheyStand) {
    const KnownStowage game({}, 3);
    arvek::NestedPlayouts<KnownStowage> search(game), silent(game);
    std::vector<std::uint64_t> told;
    const auto tell = [&](const arvek::Decision<KnownStowage::Move>& so_far) { told.push_back(so_far.stats.playouts); };
    const arvek::Progress<KnownStowage::Move> progress(tell);
    arvek::SearchRequest<KnownStowage::Move> request;
    request.seed = 4;
    const auto expected = silent.decide(game.initial_position(), {.playouts = 2'000}, request);
    request.progress = &progress;
    const auto decision = search.decide(game.initial_position(), {.playouts = 2'000}, request);
    EXPECT_EQ(decision.move, expected.move);
    EXPECT_EQ(decision.stats.nodes, expected.stats.nodes);
    EXPECT_GE(told.size(), 5u);
    EXPECT_TRUE(std::is_sorted(told.begin(), told.end()));
}
