#include "convoy/convoy.hpp"

#include <gtest/gtest.h>
#include <algorithm>
#include <arvek/arena/match.hpp>
#include <arvek/lab/check.hpp>

#include "compiled.hpp"

using arvek::InputError;
using arvek::Outcome;
using arvek::Player;
using waterway::Convoy;

namespace {

/// One lane, so that a position is short; Amber is to move and waits, which ends the tick.
std::string after_tick(const std::string& lane, const std::string& rest = "12:12 0:0 0:0") {
    const Convoy game({1, 8});
    auto position = game.read_position(lane + " A 4 " + rest);
    game.play(position, {});
    return game.position_text(position);
}

std::string lane_after(const std::string& lane) {
    const std::string text = after_tick(lane);
    return text.substr(0, text.find(' '));
}

std::vector<std::string> moves_at(const Convoy& game, const std::string& text) {
    const auto position = game.read_position(text);
    std::vector<std::string> moves;
    for (const auto& move : arvek::legal_moves(game, position)) moves.push_back(game.move_text(position, move));
    std::sort(moves.begin(), moves.end());
    return moves;
}

}  // namespace

TEST(Convoy, BoatsAdvanceByTheirSpeedAndWaitBehindTheirOwn) {
    EXPECT_EQ(lane_after("S......."), "..S.....");
    EXPECT_EQ(lane_after("B......t"), ".B....t.");
    EXPECT_EQ(lane_after("SB......"), ".SB.....") << "a Skiff behind a Barge";
    EXPECT_EQ(lane_after("......bs"), ".....bs.");
}

TEST(Convoy, RivalsThatMeetTakeEachOthersStrengthOff) {
    EXPECT_EQ(lane_after("...Bb..."), "........") << "equal ones are both gone";
    EXPECT_EQ(lane_after("...Bs..."), "....B2...") << "the one left goes on into the cell";
    EXPECT_EQ(lane_after("...B.s.."), "....B2...") << "and where both want the same cell";
    EXPECT_EQ(lane_after("...S..s."), "........") << "two Skiffs in their second step";
    EXPECT_EQ(lane_after("...T.b.."), "....T!...") << "a Tug's first meeting costs it nothing";
    EXPECT_EQ(lane_after("...T!.b.."), "....T!2...");
    EXPECT_EQ(lane_after("...Tt..."), "...T!t!...") << "two Tugs that have met nobody stay where they are";
    EXPECT_EQ(lane_after("..BBb..."), "...B....") << "the one behind advances";
    // A Barge stands still in the second step: the Skiff runs into it.
    EXPECT_EQ(lane_after("...B..s."), "....B2...");
}

TEST(Convoy, ABoatAtTheFarEndTakesItsStrengthFromTheWall) {
    EXPECT_EQ(after_tick(".......B"), "........ T 5 12:9 1:1 0:0");
    EXPECT_EQ(after_tick("......S."), "........ T 5 12:11 1:1 0:0");
    EXPECT_EQ(after_tick("t!2.......", "12:12 12:11 3:1"), "........ T 5 10:12 12:12 2:0");
}

TEST(Convoy, AWallAtZeroLosesAndBothDraw) {
    const Convoy game({1, 8});
    const auto outcome_after = [&](const std::string& text) {
        auto position = game.read_position(text);
        EXPECT_FALSE(game.outcome(position).has_value()) << text;
        game.play(position, {});
        return game.outcome(position);
    };
    EXPECT_EQ(outcome_after(".......B A 4 12:3 0:0 0:0"), Outcome::win(Player::First));
    EXPECT_EQ(outcome_after("b....... A 4 1:12 0:0 0:0"), Outcome::win(Player::Second));
    EXPECT_EQ(outcome_after(".......B A 4 12:4 0:0 0:0"), std::nullopt);
    EXPECT_EQ(outcome_after("........ A 199 5:4 0:0 0:0"), Outcome::win(Player::First));
    EXPECT_EQ(outcome_after("........ A 199 4:4 0:0 0:0"), Outcome::draw());
    const Convoy wide({2, 6});
    auto both = wide.read_position(".....B/b..... A 9 3:2 0:0 00:00");
    wide.play(both, {});
    EXPECT_EQ(wide.outcome(both), Outcome::draw());
}

TEST(Convoy, BoatsCostAndLanesCloseForThreeTicks) {
    const Convoy game({2, 6});
    EXPECT_EQ(moves_at(game, "....../...... T 0 12:12 3:3 00:00"),
              (std::vector<std::string>{"skiff-1", "skiff-2", "wait"}));
    EXPECT_EQ(moves_at(game, "S...../...... T 0 12:12 6:0 00:00"),
              (std::vector<std::string>{"barge-2", "skiff-2", "tug-2", "wait"}));
    EXPECT_EQ(moves_at(game, ".....B/...... A 0 12:12 0:12 00:00").size(), 4u) << "nor into a rival's boat";
    auto position = game.read_position("....../...... T 0 12:12 12:12 00:00");
    std::vector<bool> open;
    for (int tick = 0; tick < 4; ++tick) {
        const auto sent = tick == 0 ? "skiff-1" : "wait";
        const auto legal = moves_at(game, game.position_text(position));
        open.push_back(std::count(legal.begin(), legal.end(), "skiff-1") > 0);
        game.play(position, arvek::move_from_text(game, position, sent));
        game.play(position, arvek::move_from_text(game, position, "wait"));
    }
    EXPECT_EQ(open, (std::vector<bool>{true, false, false, true}));
    EXPECT_EQ(position.purses, (std::array<std::int8_t, 2>{12, 12})) << "the purse holds no more";
}

TEST(Convoy, HasSoundRulesAndRulesAndLookingAheadBeatChance) {
    const auto report = arvek::check_rules(Convoy({2, 6}), {.games = 10, .short_positions = 300, .compared = 10});
    EXPECT_TRUE(report.sound()) << report.text();
    const Convoy game;
    const auto random = make_opponent(game, arvek::read_opponent("random"));
    for (const char* name : {"ruled", "standard@7"}) {
        const auto a = make_opponent(game, arvek::read_opponent(name));
        EXPECT_GE(play_match(game, *a, *random, {.games = 10, .seed = 2}).score_a(), 0.8) << name;
    }
}

TEST(Convoy, APositionSaysWhereItIsWrong) {
    const Convoy game({2, 6});
    for (const char* wrong :
         {"", "....../...... T 0 12:12 3:3", "....../..... T 0 12:12 3:3 00:00", "....../...... X 0 12:12 3:3 00:00",
          "....../...... T 201 12:12 3:3 00:00", "....../...... T 0 13:12 3:3 00:00",
          "....../...... T 0 12:12 13:3 00:00", "....../...... T 0 12:12 3:3 04:00",
          "....../...... T 0 12:12 3:3 00:00 ", "S1..../...... T 0 12:12 3:3 00:00",
          "..T4../...... T 0 12:12 3:3 00:00", "..s.S./...... T 0 12:12 3:3 00:00", "S!..../...... T 0 12:12 3:3 00:00",
          "..?.../...... T 0 12:12 3:3 00:00", "....../...... T 00 12:12 3:3 00:00"})
        EXPECT_THROW((void)game.read_position(wrong), InputError) << wrong;
    EXPECT_THROW((void)Convoy({0, 6}), InputError);
    EXPECT_THROW((void)Convoy({4, 21}), InputError);
}
