#include "arvek/opponent/thinking.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <chrono>
#include <thread>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/game/input_error.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/search/monte_carlo.hpp>

#include "chess/chess.hpp"
#include "downstream/downstream.hpp"
#include "lanterns/lanterns.hpp"
#include "stowage/stowage.hpp"
#include "support/compiled_games.hpp"
#include "support/sanitized.hpp"
#include "tolls/tolls.hpp"

using arvek::FrameThinking;
using arvek::Thinking;
using waterway::Chess;
using waterway::Lanterns;

namespace {

const Chess thinking_game;

std::unique_ptr<arvek::Opponent<Chess>> thinker(std::uint64_t nodes) {
    auto spec = arvek::read_opponent("standard");
    spec.nodes = nodes;
    return make_opponent(thinking_game, spec);
}

const arvek::ThinkingOptions with_clock{.clock = arvek::steady_seconds};

}  // namespace

TEST(Thinking, GivesTheSameDecisionBesideTheGame) {
    const auto opponent = thinker(20'000);
    const auto expected = opponent->decide(thinking_game.initial_position(), 3);
    Thinking<Chess> thinking(*opponent, thinking_game.initial_position(), 3, {}, with_clock);
    while (!thinking.ready()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
    ASSERT_TRUE(thinking.so_far().has_value());
    EXPECT_EQ(thinking.so_far()->stats.depth, expected.stats.depth);
    const auto decision = thinking.take();
    EXPECT_EQ(decision.move, expected.move);
    EXPECT_EQ(decision.stats.nodes, expected.stats.nodes);
}

namespace {

/// What an opponent tells while it thinks of the first move.
template <class G>
void expect_told(const G& game, const char* name, bool counts_playouts) {
    auto spec = arvek::read_opponent(name);
    if (counts_playouts) spec.playouts = 3'000;
    const auto opponent = make_opponent(game, spec);
    auto position = game.initial_position();
    arvek::Random luck(3);
    arvek::settle_chance(game, position, luck);
    // To where there is a choice: what is forced is not thought about.
    while (arvek::legal_moves(game, position).size() < 2) {
        game.play(position, arvek::legal_moves(game, position)[0]);
        arvek::settle_chance(game, position, luck);
        if (game.outcome(position)) position = game.initial_position();
        arvek::settle_chance(game, position, luck);
    }
    const auto seen = seen_by(game, position, game.player_to_move(position));
    const auto expected = opponent->decide(seen, 5);
    const auto moves = arvek::legal_moves(game, position);
    std::vector<std::uint64_t> told;
    const auto tell = [&](const arvek::Decision<typename G::Move>& so_far) {
        EXPECT_TRUE(moves.contains(so_far.move));
        EXPECT_EQ(so_far.ranked.size(), moves.size());
        told.push_back(counts_playouts ? so_far.stats.playouts : so_far.stats.nodes);
    };
    const arvek::Progress<typename G::Move> progress(tell);
    const auto again = make_opponent(game, spec);
    again->tell(&progress);
    const auto decision = again->decide(seen, 5);
    EXPECT_EQ(decision.move, expected.move) << name;
    EXPECT_EQ(decision.stats.nodes, expected.stats.nodes) << name;
    ASSERT_GE(told.size(), 5u) << name;
    EXPECT_TRUE(std::is_sorted(told.begin(), told.end())) << name;
    EXPECT_LE(told.back(), counts_playouts ? decision.stats.playouts : decision.stats.nodes) << name;
}

}  // namespace

TEST(Thinking, PlayoutsTellHowTheyStandToo) {
    expect_told(Lanterns(), "montecarlo", true);
    expect_told(waterway::Downstream(), "montecarlo", true);
    expect_told(waterway::Tolls(), "montecarlo", true);
    expect_told(waterway::Stowage(), "montecarlo", true);
    expect_told(waterway::Tolls(), "worlds@9", false);
}

TEST(Thinking, ThreadsRestWhereTheyTell) {
    const Lanterns game({7, 6, 4, true});
    arvek::MonteCarlo<Lanterns> search(game, {.threads = 2});
    std::uint64_t before = 0;
    int told = 0;
    const auto tell = [&](const arvek::Decision<Lanterns::Move>& so_far) {
        std::uint64_t visits = 0;
        for (const auto& entry : so_far.ranked) visits += entry.visits;
        EXPECT_EQ(visits, so_far.stats.playouts) << "nothing is under way";
        EXPECT_GT(so_far.stats.playouts, before);
        before = so_far.stats.playouts;
        ++told;
    };
    const arvek::Progress<Lanterns::Move> progress(tell);
    arvek::SearchRequest<Lanterns::Move> request;
    request.progress = &progress;
    const auto decision = search.decide(game.initial_position(), {.playouts = 20'000}, request);
    EXPECT_EQ(decision.stats.playouts, 20'000u);
    EXPECT_GE(told, 5);
}

TEST(Thinking, IsCancelledWithTheBestSoFar) {
    auto spec = arvek::read_opponent("standard");
    spec.depth = arvek::max_depth;
    const auto endless = make_opponent(thinking_game, spec);
    Thinking<Chess> thinking(*endless, thinking_game.initial_position(), 1, {}, with_clock);
    while (!thinking.so_far() || thinking.so_far()->stats.depth < 2) std::this_thread::yield();
    EXPECT_FALSE(thinking.ready());
    const double begin = arvek::steady_seconds();
    thinking.cancel();
    const auto decision = thinking.take();
    EXPECT_LT(arvek::steady_seconds() - begin, 0.5);
    EXPECT_EQ(decision.stats.stopped_by, arvek::StoppedBy::Stop);
    EXPECT_GE(decision.stats.depth, 2);
    // One that nobody waits for ends with the object.
    { const Thinking<Chess> forgotten(*endless, thinking_game.initial_position(), 1, {}, with_clock); }
    EXPECT_LT(arvek::steady_seconds() - begin, 1.0);
}

TEST(Thinking, PaceHoldsAnAnswerBackButIsNeverLate) {
    const auto quick = thinker(50);
    const auto seconds_until_ready = [&](arvek::Pace pace, std::optional<double> latest) {
        const double begin = arvek::steady_seconds();
        Thinking<Chess> thinking(*quick, thinking_game.initial_position(), 1, {},
                                 {.clock = arvek::steady_seconds, .pace = pace, .latest = latest});
        while (!thinking.ready()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
        return arvek::steady_seconds() - begin;
    };
    EXPECT_GE(seconds_until_ready({0.15, 0.0}, std::nullopt), 0.15);
    EXPECT_LT(seconds_until_ready({5.0, 0.0}, 0.05), 1.0);
}

TEST(Thinking, PassesOnWhatTheDecisionThrows) {
    const auto opponent = thinker(100);
    const auto mated = thinking_game.read_position("7k/5Q2/6K1/8/8/8/8/8 b - - 0 1");
    Thinking<Chess> thinking(*opponent, mated, 1, {}, with_clock);
    EXPECT_THROW((void)thinking.take(), arvek::InputError);
    FrameThinking<Chess> framed(*opponent, mated, 1, {}, with_clock);
    while (!framed.work(0.01)) {
    }
    EXPECT_THROW((void)framed.take(), arvek::InputError);
}

TEST(FrameThinking, GivesTheSameDecisionInPieces) {
    const auto opponent = thinker(30'000);
    const auto expected = opponent->decide(thinking_game.initial_position(), 4);
    FrameThinking<Chess> thinking(*opponent, thinking_game.initial_position(), 4, {}, with_clock);
    int frames = 1;
    while (!thinking.work(0.002)) ++frames;
    EXPECT_GT(frames, 3);
    const auto decision = thinking.take();
    EXPECT_EQ(decision.move, expected.move);
    EXPECT_EQ(decision.stats.nodes, expected.stats.nodes);
    // Any other opponent can be asked so, too, at once if it never asks whether to stop.
    const Lanterns lanterns;
    for (const char* name : {"ruled", "montecarlo", "alphabeta@3"}) {
        const auto other = make_opponent(lanterns, arvek::read_opponent(name));
        FrameThinking<Lanterns> framed(*other, lanterns.initial_position(), 2, {}, with_clock);
        while (!framed.work(0.005)) {
        }
        EXPECT_EQ(framed.take().move, other->decide(lanterns.initial_position(), 2).move) << name;
    }
}

TEST(FrameThinking, KeepsToItsBudgetAndCanBeDroppedInTheMiddle) {
    auto spec = arvek::read_opponent("standard");
    spec.depth = arvek::max_depth;
    const auto endless = make_opponent(thinking_game, spec);
    std::vector<double> took;
    {
        FrameThinking<Chess> thinking(*endless, thinking_game.initial_position(), 1, {}, with_clock);
        for (int frame = 0; frame < 40; ++frame) {
            const double begin = arvek::steady_seconds();
            ASSERT_FALSE(thinking.work(0.004));
            took.push_back(arvek::steady_seconds() - begin);
        }
        EXPECT_TRUE(thinking.so_far().has_value());
    }
    // Most of them; another program may have the processor in between.
    std::sort(took.begin(), took.end());
    EXPECT_LT(took[took.size() / 2], testing_support::sanitized ? 0.1 : 0.012);
    { const FrameThinking<Chess> never_begun(*endless, thinking_game.initial_position(), 1, {}, with_clock); }
}
