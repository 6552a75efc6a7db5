#include "sluice/sluice.hpp"

#include <gtest/gtest.h>
#include <arvek/game/missing.hpp>

#include "support/brute_force.hpp"

using arvek::InputError;
using arvek::Player;
using waterway::Sluice;

namespace {

std::string after(const Sluice& game, const std::string& position, const std::string& move) {
    auto p = game.read_position(position);
    game.play(p, arvek::move_from_text(game, p, move));
    return game.position_text(p);
}

const std::vector<Sluice::Parameters> sluice_shapes{{6, 4, false, false}, {6, 3, true, false}, {4, 4, false, true},
                                                    {1, 1, false, false}, {1, 12, true, true}, {12, 12, false, true},
                                                    {2, 3, false, false}};

}  // namespace

TEST(Sluice, PoursCountsAndMovesAgain) {
    const Sluice game;
    EXPECT_EQ(after(game, "4,4,4,4,4,4:0 4,4,4,4,4,4:0 T", "1"), "0,5,5,5,5,4:0 4,4,4,4,4,4:0 A");
    EXPECT_EQ(after(game, "4,4,4,4,4,4:0 4,4,4,4,4,4:0 T", "3"), "4,4,0,5,5,5:1 4,4,4,4,4,4:0 T")
        << "the last bucket in the own store moves again";
    EXPECT_EQ(after(game, "4,4,4,4,4,4:0 4,4,4,4,4,4:0 T", "6"), "4,4,4,4,4,0:1 5,5,5,4,4,4:0 A");
    EXPECT_EQ(after(game, "4,4,4,4,4,4:0 4,4,4,4,4,4:0 A", "6"), "5,5,5,4,4,4:0 4,4,4,4,4,0:1 T");
}

TEST(Sluice, CapturesWhatLiesOpposite) {
    const Sluice game;
    // From 1 with one bucket into the empty 2; opposite Teal's 2 is Amber's 5.
    EXPECT_EQ(after(game, "1,0,4,4,4,4:0 4,4,4,4,7,4:4 T", "1"), "0,0,4,4,4,4:8 4,4,4,4,0,4:4 A");
    EXPECT_EQ(after(game, "1,0,4,4,4,4:7 4,4,4,4,0,4:4 T", "1"), "0,1,4,4,4,4:7 4,4,4,4,0,4:4 A")
        << "nothing opposite, nothing captured";
    const Sluice empty_captures({6, 4, true, false});
    EXPECT_EQ(after(empty_captures, "1,0,4,4,4,4:7 4,4,4,4,0,4:4 T", "1"), "0,0,4,4,4,4:8 4,4,4,4,0,4:4 A");
    // A pour of exactly one whole round, thirteen buckets, ends in its own emptied basin and captures.
    EXPECT_EQ(after(game, "13,0,0,0,0,1:9 1,1,1,1,1,1:19 T", "1"), "0,1,1,1,1,2:13 2,2,2,2,2,0:19 A");
}

TEST(Sluice, PassesTheRivalsStoreOverAndSweepsAtTheEnd) {
    const Sluice game({2, 2, false, false});
    EXPECT_EQ(after(game, "0,5:1 1,0:1 T", "2"), "1,0:5 0,1:1 A") << "a whole round: over Amber's store, and a capture";
    // Teal pours its last water away: what Amber has left is Amber's.
    EXPECT_EQ(after(game, "0,1:3 1,2:1 T", "2"), "0,0:4 0,0:4 T");
    EXPECT_EQ(game.outcome(game.read_position("0,0:5 0,0:3 T"))->payoff(Player::First), 2);
}

TEST(Sluice, RelayPoursOnFromAnOwnBasinWithWater) {
    const Sluice game({4, 2, false, true});
    // 1 has two: 2, 3; the last falls into 3 with water, which pours its three on: 4, store, Amber's 1.
    EXPECT_EQ(after(game, "2,2,2,2:0 2,2,2,2:0 T", "1"), "0,3,0,3:1 3,2,2,2:0 A");
}

TEST(Sluice, KeepsItsWaterAndItsTexts) {
    arvek::Random random(41);
    for (const auto& shape : sluice_shapes) {
        const Sluice game(shape);
        const int total = 2 * shape.basins * shape.buckets;
        for (int i = 0; i < 40; ++i) {
            auto position = game.initial_position();
            for (int ply = 0; !game.outcome(position); ++ply) {
                ASSERT_LT(ply, 2'000) << "play must end";
                int sum = 0;
                for (const int buckets : position.places) sum += buckets;
                ASSERT_EQ(sum, total);
                ASSERT_EQ(game.read_position(game.position_text(position)), position);
                ASSERT_EQ(game.evaluate(position, Player::First), -game.evaluate(position, Player::Second));
                const auto moves = arvek::legal_moves(game, position);
                const auto move = moves[static_cast<std::size_t>(random.below(moves.size()))];
                const auto before = position;
                const auto undo = game.play_reversibly(position, move);
                auto back = position;
                game.take_back(back, move, undo);
                ASSERT_EQ(back, before);
                ASSERT_NE(game.hash(position), game.hash(before));
            }
            ASSERT_EQ(game.read_position(game.position_text(position)), position);
        }
    }
}

TEST(Sluice, SaysWhatIsWrong) {
    const Sluice game({2, 2, false, false});
    for (const auto& [text, part] : std::vector<std::pair<std::string, std::string>>{
             {"", "the text is empty"},
             {"2,2:0 2,2:0", "column 12: the end of the text after Amber's store"},
             {"2,x:0 2,2:0 T", "column 3: 'x' does not begin a number"},
             {"2,2,2:0 2,2:0 T", "column 4: ',' after Teal's basin 2"},
             {"2,2:0 2,2:0 X", "column 13: 'X' is no player"},
             {"2,2:0 2,2:0 T!", "column 14: '!' after the player"},
             {"2,2:1 2,2:0 T", "there are 9 buckets in all (expected 8)"},
             {"-2,2:0 2,2:0 T", "column 1: '-'"},
             {"0,0:4 2,2:0 T", "the basins of one side are all empty"}}) {
        try {
            (void)game.read_position(text);
            ADD_FAILURE() << text << " was read";
        } catch (const InputError& error) {
            EXPECT_NE(std::string(error.what()).find(part), std::string::npos) << text << "\n" << error.what();
        }
    }
    for (const Sluice::Parameters& wrong : std::vector<Sluice::Parameters>{
             {0, 4, false, false}, {13, 4, false, false}, {6, 0, false, false}, {6, 13, false, false}})
        EXPECT_THROW((void)Sluice(wrong), InputError);
}
