// Looking ahead for one, three and four, against plain recursion.

#include <gtest/gtest.h>

#include <arvek/search/many_players.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <cmath>

#include "downstream/downstream.hpp"
#include "lanterns/many_lanterns.hpp"
#include "support/brute_force.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using waterway::Downstream;
using waterway::ManyLanterns;

namespace {

/// Every line to its end, the first of equally good moves is played.
std::array<double, max_players> plain_max_n(const ManyLanterns& game, const ManyLanterns::Position& position) {
    std::array<double, max_players> best{};
    if (const auto outcome = game.outcome(position)) {
        for (std::size_t i = 0; i < max_players; ++i) best[i] = outcome->payoff(static_cast<Player>(i));
        return best;
    }
    const std::size_t mover = index_of(game.player_to_move(position));
    bool first = true;
    for (const auto& move : legal_moves(game, position)) {
        auto next = position;
        game.play(next, move);
        const auto values = plain_max_n(game, next);
        if (first || values[mover] > best[mover]) best = values;
        first = false;
    }
    return best;
}

double plain_paranoid(const ManyLanterns& game, const ManyLanterns::Position& position, Player decider) {
    if (const auto outcome = game.outcome(position)) return outcome->payoff(decider);
    const bool own = game.player_to_move(position) == decider;
    double best = own ? -1e9 : 1e9;
    for (const auto& move : legal_moves(game, position)) {
        auto next = position;
        game.play(next, move);
        const double value = plain_paranoid(game, next, decider);
        best = own ? std::max(best, value) : std::min(best, value);
    }
    return best;
}

template <class Move>
double value_of(const Decision<Move>& decision, std::size_t rank = 0) {
    return decision.ranked[rank].score.number() / decision.scores_per_point;
}

/// The mean over events, the most for whoever moves; estimates as the search takes them, three sides.
struct PlainLuck {
    const Downstream& game;
    const detail::ValueAxis& axis;

    std::array<double, max_players> operator()(const Downstream::Position& position, int depth) const {
        std::array<double, max_players> best{};
        if (const auto outcome = game.outcome(position)) {
            for (std::size_t i = 0; i < 3; ++i) best[i] = outcome->payoff(static_cast<Player>(i));
            return best;
        }
        if (depth == 0) {
            std::array<Score, max_players> scores{};
            for (std::size_t i = 0; i < 3; ++i) scores[i] = game.evaluate(position, static_cast<Player>(i));
            const auto values = axis.values_of(scores);
            for (std::size_t i = 0; i < 3; ++i) best[i] = values[i];
            return best;
        }
        if (game.chance_is_next(position)) {
            MoveList<Event<Downstream::Move>> events;
            game.generate_events(position, events);
            for (const auto& event : events) {
                auto next = position;
                game.play(next, event.move);
                const auto values = (*this)(next, depth - 1);
                for (std::size_t i = 0; i < 3; ++i) best[i] += event.probability * values[i];
            }
            return best;
        }
        const std::size_t mover = index_of(game.player_to_move(position));
        bool first = true;
        for (const auto& move : legal_moves(game, position)) {
            auto next = position;
            game.play(next, move);
            const auto values = (*this)(next, depth - 1);
            if (first || values[mover] > best[mover] + 1e-7) best = values;
            first = false;
        }
        return best;
    }
};

/// A row of numbers; the one player takes from either end, and every second number counts.
struct Row {
    struct Position {
        int left = 0, right = 8, sum = 0;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = int;

    static constexpr int players() { return 1; }
    Position initial_position() const { return {}; }
    Player player_to_move(const Position&) const { return Player::First; }
    void generate_moves(const Position&, MoveList<Move>& moves) const {
        moves.push_back(0);
        moves.push_back(1);
    }
    void play(Position& p, const Move& move) const {
        constexpr int numbers[] = {3, 9, 1, 7, 8, 2, 6, 4};
        const int taken = move == 0 ? numbers[p.left++] : numbers[--p.right];
        p.sum += (p.right - p.left) % 2 == 0 ? taken : 0;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (p.left < p.right) return std::nullopt;
        return Outcome::of_payoffs({p.sum, 0, 0, 0});
    }
};

}  // namespace

TEST(ManyPlayers, HasTheKnownValuesOfLanternsForThree) {
    const ManyLanterns game({.columns = 4, .rows = 3, .line = 3, .players = 3});
    const auto wary = ManyPlayers<ManyLanterns>(game, {.paranoid = true}).decide(game.initial_position());
    EXPECT_EQ(wary.stats.stopped_by, StoppedBy::End);
    EXPECT_NEAR(value_of(wary), -1, 1e-6);
    if (testing_support::sanitized) return;
    // From positions one move later, as the start alone takes 15 seconds: 0 for all three there.
    auto position = game.initial_position();
    for (const char* move : {"b2", "a1"}) game.play(position, move_from_text(game, position, move));
    const auto open = ManyPlayers<ManyLanterns>(game).decide(position);
    EXPECT_EQ(open.stats.stopped_by, StoppedBy::End);
}

TEST(ManyPlayers, AgreesWithPlainRecursionOnLanterns) {
    Random random(3);
    for (int i = 0; i < (testing_support::sanitized ? 20 : 150); ++i) {
        const ManyLanterns game({.columns = 3, .rows = 3 + i % 2, .line = 3, .drop = i % 3 == 0, .players = 3 + i % 2});
        const auto position = testing_support::random_position(game, 5 + i % 4, random);
        const Player decider = game.player_to_move(position);
        for (const bool table : {true, false}) {
            const auto wary = ManyPlayers<ManyLanterns>(game, {.paranoid = true, .table = table}).decide(position);
            ASSERT_EQ(wary.stats.stopped_by, StoppedBy::End);
            ASSERT_NEAR(value_of(wary), plain_paranoid(game, position, decider), 1e-6) << game.position_text(position);
        }
        // Which of equally good moves the others play is open, so only what nobody can change is compared: who can win
        // at once does.
        const auto open = ManyPlayers<ManyLanterns>(game).decide(position);
        const auto plain = plain_max_n(game, position);
        if (plain[index_of(decider)] >= game.most_payoff()) {
            ASSERT_NEAR(value_of(open), plain[index_of(decider)], 1e-6) << game.position_text(position);
        }
        ASSERT_GE(value_of(open), plain_paranoid(game, position, decider) - 1e-6);
    }
}

TEST(ManyPlayers, WeighsChanceForThree) {
    const Downstream game({.players = 3, .boats = 1, .length = 6, .die = 3, .mooring = 4});
    const detail::RandomLines lines = detail::random_lines(game, 1);
    const detail::ValueAxis axis(3, game.most_payoff(), lines, game.units_per_doubling(), true);
    Random random(9);
    for (int i = 0; i < 60; ++i) {
        auto position = game.initial_position();
        for (std::uint64_t ply = 1 + random.below(14); ply > 0; --ply) {
            auto next = position;
            settle_chance(game, next, random);
            const auto moves = legal_moves(game, next);
            game.play(next, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            if (game.outcome(next)) break;
            position = next;
        }
        settle_chance(game, position, random);
        const auto known = PlainLuck{game, axis}(position, 5);
        for (const bool table : {true, false}) {
            const auto decision = ManyPlayers<Downstream>(game, {.table = table}).decide(position, {.depth = 5});
            ASSERT_NEAR(value_of(decision), known[index_of(game.player_to_move(position))], 1e-4)
                << game.position_text(position);
            for (const auto& entry : decision.ranked) ASSERT_FALSE(entry.score.is_proven());
        }
    }
}

TEST(ManyPlayers, FindsTheMostForOne) {
    const Row game;
    int best = 0;
    for (int choices = 0; choices < 256; ++choices) {
        auto position = game.initial_position();
        for (int i = 0; i < 8; ++i) game.play(position, choices >> i & 1);
        best = std::max(best, position.sum);
    }
    const auto decision = ManyPlayers<Row>(game).decide(game.initial_position());
    EXPECT_NEAR(value_of(decision), best, 1e-3);
    EXPECT_EQ(decision.ranked.front().line.size(), 8u);
    const auto sampled =
        MonteCarlo<Row>(game, {.memory_mebibytes = 1}).decide(game.initial_position(), {.playouts = 4'000});
    EXPECT_NEAR(sampled.ranked.front().mean, best, 1.0);
}

TEST(ManyPlayers, MonteCarloMostlyDoesWhatMaxNDoesOnSmallFrames) {
    const ManyLanterns game({.columns = 4, .rows = 3, .line = 3, .players = 3});
    Random random(12);
    int alike = 0, positions = 0;
    for (int i = 0; i < (testing_support::sanitized ? 15 : 100); ++i) {
        const auto position = testing_support::random_position(game, 4 + i % 4, random);
        const auto open = ManyPlayers<ManyLanterns>(game).decide(position);
        const auto sampled =
            MonteCarlo<ManyLanterns>(game, {.memory_mebibytes = 4}).decide(position, {.playouts = 2'000});
        ++positions;
        for (const auto& entry : open.ranked)
            if (entry.move == sampled.move) alike += entry.score == open.ranked.front().score ? 1 : 0;
    }
    EXPECT_GE(alike, positions * 85 / 100) << positions;
}
