#include "downstream/downstream.hpp"

#include <gtest/gtest.h>
#include <arvek/lab/check.hpp>
#include <arvek/lab/count.hpp>

#include "support/compiled_games.hpp"

using arvek::InputError;
using arvek::Player;
using waterway::Downstream;

namespace {

std::string after(const Downstream& game, const char* position, const char* move) {
    auto at = game.read_position(position);
    for (const auto& each : arvek::legal_moves(game, at))
        if (game.move_text(at, each) == move) {
            game.play(at, each);
            return game.position_text(at);
        }
    return "not legal";
}

}  // namespace

TEST(Downstream, GivesTheKnownCounts) {
    const Downstream game;
    const std::vector<std::uint64_t> known{4, 4, 16, 20, 80, 120, 480, 852};
    const auto counts = arvek::count_sequences(game, game.initial_position(), 8);
    for (std::size_t i = 0; i < known.size(); ++i) EXPECT_EQ(counts[i].sequences, known[i]) << i + 1;
}

TEST(Downstream, MovesSendsBackAndRollsAgain) {
    const Downstream game;
    EXPECT_EQ(after(game, "0,3/0,6 T 3", "3"), "0,6/0,0 A ?") << "sent back";
    EXPECT_EQ(after(game, "0,3/0,5 T 2", "3"), "0,5/0,5 A ?") << "a mooring is safe";
    EXPECT_EQ(after(game, "0,2/6,6 T 4", "2"), "0,6/0,0 T ?") << "both, and the highest face rolls again";
    EXPECT_EQ(after(game, "3,9/0,0 T 1", "3"), "4,9/0,0 A ?");
    EXPECT_EQ(after(game, "3,3/0,0 T 2", "3"), "3,5/0,0 A ?") << "the order stays";
    EXPECT_EQ(after(game, "11,h/0,0 A 1", "h"), "not legal");
    EXPECT_EQ(after(game, "10,11/0,0 T 3", "10"), "11,h/0,0 A ?") << "no exact roll is needed";
    const auto won = game.outcome(game.read_position("h,h/0,3 A ?"));
    ASSERT_TRUE(won.has_value());
    EXPECT_EQ(won->payoff(Player::First), 1);
    EXPECT_EQ(won->payoff(Player::Second), -1);
    const Downstream four({4, 1, 6, 6, 0});
    const auto of_four = four.outcome(four.read_position("0/3/h/2 S ?"));
    ASSERT_TRUE(of_four.has_value());
    EXPECT_EQ(of_four->payoff(Player::Third), 3);
    EXPECT_EQ(of_four->payoff(Player::Fourth), -1);
    EXPECT_EQ(after(four, "4/3/2/1 S 2", "1"), "4/0/2/3 T ?");
}

TEST(Downstream, IsSoundInEveryShape) {
    for (const Downstream::Parameters& shape : std::vector<Downstream::Parameters>{
             {2, 2, 12, 4, 5}, {3, 2, 8, 3, 3}, {4, 4, 30, 6, 10}, {2, 1, 4, 2, 0}, {4, 1, 5, 2, 1}}) {
        const auto report = arvek::check_rules(Downstream(shape), {.games = 8, .short_positions = 300});
        EXPECT_TRUE(report.sound()) << report.text();
    }
}

TEST(Downstream, SaysWhatIsWrongWithAPosition) {
    const Downstream game;
    for (const char* text : {"", "0,0/0,0 T", "0,0/0,0 T 5", "0,0/0,0 P ?", "3,1/0,0 T ?", "0,13/0,0 T ?",
                             "0,7/0,7 T ?", "h,h/h,h T ?", "0,0,0/0,0 T ?", "0,0/0,0 T ? "})
        EXPECT_THROW((void)game.read_position(text), InputError) << text;
    EXPECT_EQ(game.position_text(game.read_position("0,h/5,10 A 4")), "0,h/5,10 A 4");
    EXPECT_THROW(Downstream({.players = 1}), InputError);
    EXPECT_THROW(Downstream({.die = 7}), InputError);
    EXPECT_NE(game.drawing(game.read_position("3,9/0,7 T 2")).find("rolled: 2"), std::string::npos);
}
