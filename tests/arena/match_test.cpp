#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>

#include "lanterns/lanterns.hpp"
#include "support/dice.hpp"

using namespace arvek;
using waterway::Lanterns;

TEST(Match, CountsEveryGameOnceAndTakesTurnsAtMovingFirst) {
    const Lanterns game({3, 3, 3, false});
    const auto a = make_opponent(game, read_opponent("ruled"));
    const auto b = make_opponent(game, read_opponent("random"));
    int first_by_a = 0, wins_a = 0, wins_b = 0;
    const auto result = play_match(
        game, *a, *b, {.games = 40, .seed = 9}, game.initial_position(), [&](const PlayedGame<Lanterns>& played) {
            first_by_a += played.player_a == Player::First ? 1 : 0;
            auto position = game.initial_position();
            for (const auto& move : played.moves) {
                ASSERT_FALSE(game.outcome(position).has_value()) << "nobody moves after the end";
                ASSERT_TRUE(legal_moves(game, position).contains(move));
                game.play(position, move);
            }
            ASSERT_EQ(position, played.end);
            ASSERT_EQ(game.outcome(position), played.outcome);
            wins_a += played.outcome->payoff(played.player_a) > 0 ? 1 : 0;
            wins_b += played.outcome->payoff(played.player_a) < 0 ? 1 : 0;
        });
    EXPECT_EQ(first_by_a, 20);
    EXPECT_EQ(result.games, 40);
    EXPECT_EQ(result.wins_a, wins_a);
    EXPECT_EQ(result.wins_b, wins_b);
    EXPECT_EQ(result.wins_a + result.draws + result.wins_b, 40);
    EXPECT_GT(result.score_a(), 0.8);
}

TEST(Match, TheSameSeedGivesTheSameGamesAndAnotherGivesOthers) {
    const Lanterns game;
    const auto a = make_opponent(game, read_opponent("alphabeta@5"));
    const auto b = make_opponent(game, read_opponent("ruled@5"));
    const auto moves_of = [&](std::uint64_t seed) {
        std::vector<Lanterns::Move> all;
        play_match(game, *a, *b, {.games = 6, .seed = seed}, game.initial_position(),
                   [&](const PlayedGame<Lanterns>& played) {
                       all.insert(all.end(), played.moves.begin(), played.moves.end());
                   });
        return all;
    };
    EXPECT_EQ(moves_of(1), moves_of(1));
    EXPECT_NE(moves_of(1), moves_of(2));
}

TEST(Match, ALongestGameIsCutOffAndSaysSo) {
    const Lanterns game;
    const auto a = make_opponent(game, read_opponent("random"));
    const auto result = play_match(game, *a, *a, {.games = 3, .longest_game = 2});
    EXPECT_EQ(result.unfinished, 3);
    EXPECT_EQ(result.draws, 3);
    EXPECT_THROW((void)play_match(game, *a, *a, {.games = 0}), InputError);
}

TEST(Match, TheIntervalIsWilsons) {
    // Known: 8 of 10 gives 0.490 to 0.943.
    const Interval known = wilson_interval(8, 10);
    EXPECT_NEAR(known.low, 0.4902, 0.0005);
    EXPECT_NEAR(known.high, 0.9433, 0.0005);
    EXPECT_EQ(wilson_interval(0, 20).low, 0.0);
    EXPECT_EQ(wilson_interval(20, 20).high, 1.0);
    EXPECT_GT(wilson_interval(0, 20).high, 0.1) << "twenty losses do not prove that all are lost";
    EXPECT_EQ(wilson_interval(0, 0).high, 1.0);
}

TEST(Match, TheIntervalHoldsTheTrueScoreAboutNineteenTimesInTwenty) {
    Random random(6);
    int held = 0;
    constexpr int matches = 2'000;
    for (int i = 0; i < matches; ++i) {
        double points = 0;
        for (int game = 0; game < 50; ++game) points += random.chance(0.7) ? 1 : 0;
        const Interval interval = wilson_interval(points, 50);
        held += interval.low <= 0.7 && 0.7 <= interval.high ? 1 : 0;
    }
    EXPECT_NEAR(held, matches * 0.95, matches * 0.02);
}

TEST(Match, DrawsTheEventsOfChanceAlikeForBothGamesOfAPair) {
    using testing_support::Dice;
    const Dice game;
    const auto ruled = make_opponent(game, read_opponent("ruled")),
               random = make_opponent(game, read_opponent("random"));
    std::vector<std::vector<int>> rolls;
    std::array<int, 7> seen{};
    const auto result = play_match(game, *ruled, *random, {.games = 600, .seed = 3}, game.initial_position(),
                                   [&](const PlayedGame<Dice>& played) {
                                       auto& faces = rolls.emplace_back();
                                       auto position = game.initial_position();
                                       for (const int move : played.moves) {
                                           ASSERT_EQ(game.chance_is_next(position), move <= 6);
                                           if (move <= 6) ++seen[static_cast<std::size_t>(move)], faces.push_back(move);
                                           game.play(position, move);
                                       }
                                       ASSERT_EQ(position, played.end);
                                   });
    for (std::size_t pair = 0; pair < rolls.size(); pair += 2) EXPECT_EQ(rolls[pair], rolls[pair + 1]);
    EXPECT_NE(rolls[0], rolls[2]);
    for (int face = 1; face <= 6; ++face) EXPECT_NEAR(seen[static_cast<std::size_t>(face)] / 3600.0, 1.0 / 6, 0.03);
    EXPECT_EQ(result.moves_a + result.moves_b, 3600u) << "events are nobody's moves";
    EXPECT_GT(result.interval().low, 0.5);
}

TEST(Match, OpponentsThatWouldTakeChanceForAPlayerAreRefused) {
    using testing_support::Dice;
    const Dice game;
    for (const char* name : {"minimax", "alphabeta", "standard"})
        EXPECT_THROW((void)make_opponent(game, read_opponent(name)), InputError) << name;
    const auto ruled = make_opponent(game, read_opponent("ruled@3"));
    EXPECT_THROW((void)ruled->decide(game.initial_position(), 1), InputError) << "chance is next there";
    auto position = game.initial_position();
    game.play(position, 4);
    EXPECT_NO_THROW((void)ruled->decide(position, 1));
}
