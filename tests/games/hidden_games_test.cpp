// Tolls, Wager, Stowage and Lanterns for many: their rules.

#include <gtest/gtest.h>

#include <arvek/game/text.hpp>
#include <arvek/lab/check.hpp>
#include <map>
#include <set>

#include "compiled.hpp"
#include "stowage/stowage.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using waterway::ManyLanterns;
using waterway::Stowage;
using waterway::Tolls;
using waterway::Wager;

namespace {

template <class G>
typename G::Position played(const G& game, typename G::Position position, const std::vector<std::string>& moves) {
    for (const std::string& move : moves) game.play(position, move_from_text(game, position, move));
    return position;
}

template <class G>
std::string refusal(const G& game, const std::string& text) {
    try {
        (void)game.read_position(text);
    } catch (const InputError& error) {
        return error.what();
    }
    return "accepted";
}

}  // namespace

TEST(Tolls, FollowsSuitTakesTricksAndPays) {
    const Tolls game({3, 4, 5, 2, "g"});
    auto position = game.read_position("T:r3,w1 A:r5,g1 P:s2,g4 table:- took:0,0,0 lacks:- T");
    position = played(game, position, {"r3"});
    EXPECT_EQ(legal_moves(game, position).size(), 1u) << "red is led and held";
    position = played(game, position, {"r5"});
    EXPECT_EQ(legal_moves(game, position).size(), 2u) << "Plum has no red";
    position = played(game, position, {"g4"});
    EXPECT_EQ(game.position_text(position), "T:w1 A:g1 P:s2 table:- took:0,0,1 lacks:P.r gone:r3,r5,g4 P");
    position = played(game, position, {"s2", "w1", "g1"});
    const auto outcome = game.outcome(position);
    ASSERT_TRUE(outcome.has_value());
    EXPECT_EQ(outcome->payoff(Player::First), -2);
    EXPECT_EQ(outcome->payoff(Player::Second), 1);
    EXPECT_EQ(outcome->payoff(Player::Third), 1);
}

TEST(Tolls, SamplesAgreeWithTheViewAndTheVoids) {
    const Tolls game({4, 3, 7, 5, "none"});
    // Amber lacks red and white, so all that it holds is sea green; Plum lacks sea green.
    const auto position =
        game.read_position("T:r1,w2,s1 A:s3,s4,s5 P:r2,r3,w3 S:w4,r5,s6 table:- took:1,1,0,0 lacks:A.rw,P.s T");
    const auto view = game.view(position, Player::First);
    EXPECT_EQ(game.view_text(view), "T:r1,w2,s1 A:?3 P:?3 S:?3 table:- took:1,1,0,0 lacks:A.rw,P.s T");
    Random random(3);
    std::set<std::uint64_t> hands;
    for (int i = 0; i < 500; ++i) {
        const auto drawn = game.sample(view, random);
        ASSERT_EQ(game.view(drawn, Player::First), view);
        ASSERT_NO_THROW((void)game.read_position(game.position_text(drawn))) << game.position_text(drawn);
        hands.insert(drawn.hands[1]);
    }
    EXPECT_EQ(hands.size(), 20u) << "three of the six sea green cards that Teal does not hold";
}

TEST(Tolls, SaysWhatIsWrongWithAPosition) {
    const Tolls game;
    const std::string good = "T:r1,r5,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:- T";
    EXPECT_EQ(refusal(game, good), "accepted");
    for (const auto& [text, part] : std::vector<std::pair<std::string, std::string>>{
             {"", "empty"},
             {"T:r1,r1,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:- T", "r1 is there twice"},
             {"T:r1,r6,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:- T", "rank"},
             {"T:r1,r5,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:- A", "Teal"},
             {"T:r1,r5,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:T.r T", "said to lack"},
             {"T:r1,r5,w2 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:s3 took:0,0,0 lacks:- P", "holds"},
             {"T:r1,r5,w2,s3 A:?4 P:?4 table:- took:0,0,0 lacks:- T", "suit"}})
        EXPECT_NE(refusal(game, text).find(part), std::string::npos) << text << ": " << refusal(game, text);
    EXPECT_THROW(Tolls({3, 3, 5, 6, "none"}), InputError);
    EXPECT_THROW(Tolls({3, 3, 5, 4, "g"}), InputError) << "green is no suit of three";
}

TEST(Wager, PaysWhatIsIn) {
    const Wager game;
    const auto paid = [&](const char* start, const std::vector<std::string>& moves) {
        return game.outcome(played(game, game.read_position(start), moves))->payoff(Player::First);
    };
    EXPECT_EQ(paid("3 1 - T", {"check", "check"}), 1);
    EXPECT_EQ(paid("1 3 - T", {"check", "check"}), -1);
    EXPECT_EQ(paid("1 3 - T", {"bet", "fold"}), 1);
    EXPECT_EQ(paid("1 3 - T", {"bet", "call"}), -2);
    EXPECT_EQ(paid("3 1 - T", {"check", "bet", "fold"}), -1);
    EXPECT_EQ(paid("3 1 - T", {"check", "bet", "call"}), 2);
    EXPECT_EQ(game.position_text(played(game, game.read_position("3 1 - T"), {"check", "bet"})), "3 1 kb T");
    EXPECT_EQ(game.view_text(game.view(game.read_position("3 1 kb T"), Player::First)), "3 ? kb T");
    for (const char* wrong : {"3 3 - T", "? 1 - T", "3 1 bb T", "3 1 k T", "4 1 - T", "3 1 kk", "? ? k A"})
        EXPECT_NE(refusal(game, wrong), "accepted") << wrong;
}

TEST(Stowage, StowsHoistsAndKeepsTheTrim) {
    const Stowage game({.rows = 3, .columns = 4, .lot = 2, .trim = 4, .lots = 2});
    auto position = game.read_position("..../..../.... I3b,O4 0 0");
    EXPECT_EQ(legal_moves(game, position).size(), 4u + 6u);
    position = played(game, position, {"I3b-a1"});
    EXPECT_EQ(game.position_text(position), "..../..../.... O4 0 13") << "a whole column: three cells and ten";
    position = played(game, position, {"O4-a1"});
    EXPECT_EQ(game.position_text(position), "..../##../##.. ?,? 1 17");
    // Four more on the left tilt it too far, on the right they do not.
    position = played(game, position, {"lot-O4", "lot-I2b"});
    const auto moves = legal_moves(game, position);
    for (const auto& move : moves) EXPECT_NE(game.move_text(position, move), "O4-a2");
    EXPECT_TRUE(moves.contains(move_from_text(game, position, "O4-c1")));
    // Two of one kind are one move.
    const auto twice = game.read_position("..../..../.... I3b,I3b 0 0");
    EXPECT_EQ(legal_moves(game, twice).size(), 4u);
    const auto over = played(game, game.read_position("..../..../.... I3b 1 30"), {"I3b-b1"});
    ASSERT_TRUE(game.outcome(over).has_value());
    EXPECT_EQ(game.outcome(over)->payoff(Player::First), 43);
    // Two columns at once: forty and the cells.
    const auto both = played(game, game.read_position("..../##../##.. I2a,I2a 0 0"), {"I2a-a3"});
    EXPECT_EQ(game.position_text(both), "..../..../.... I2a 0 42");
}

TEST(Stowage, SaysWhatIsWrongWithAPosition) {
    const Stowage game({.rows = 3, .columns = 4, .lot = 2, .trim = 4, .lots = 2});
    for (const auto& [text, part] : std::vector<std::pair<std::string, std::string>>{
             {"..../..../.... X9 0 0", "there is no crate 'X9'"},
             {"..../..../.... I3b,O4,O4 0 0", "more than a lot"},
             {"#.../#.../#... I3b,O4 0 0", "a column is full"},
             {"..../..../.... - 0 0", "the quay is empty"},
             {"..../..../.... ?,I3b 0 0", "after one that is still to be drawn"},
             {"..../..../.... I3b,O4 2 0", "after the last lot"}})
        EXPECT_NE(refusal(game, text).find(part), std::string::npos) << text << ": " << refusal(game, text);
}

TEST(ManyLanterns, TurnsGoRoundAndTheFirstLineWins) {
    const ManyLanterns game({.columns = 3, .rows = 3, .line = 3, .players = 3});
    auto position = played(game, game.initial_position(), {"a1", "a2", "a3", "b1", "b2", "b3"});
    EXPECT_EQ(game.position_text(position), "PP./AA./TT. T");
    const auto won = game.outcome(played(game, position, {"c1"}));
    ASSERT_TRUE(won.has_value());
    EXPECT_EQ(won->payoff(Player::First), 2);
    EXPECT_EQ(won->payoff(Player::Second), -1);
    EXPECT_EQ(won->payoff(Player::Third), -1);
    for (const char* wrong : {"PP./AA./TT. A", "PP./TA./TT. A", "SS./AA./TT. T"})
        EXPECT_NE(refusal(game, wrong), "accepted") << wrong;
    // All complete games for three on 3 x 3.
    const auto count = [&](const auto& self, const ManyLanterns::Position& at) -> int {
        if (game.outcome(at)) return 1;
        int games = 0;
        for (const auto& move : legal_moves(game, at)) {
            auto next = at;
            game.play(next, move);
            games += self(self, next);
        }
        return games;
    };
    if (!testing_support::sanitized) {
        EXPECT_EQ(count(count, game.initial_position()), 345'600);
    }
}

TEST(HiddenGames, RulesAreSound) {
    const CheckOptions few{.games = testing_support::sanitized ? 2 : 12,
                           .short_positions = testing_support::sanitized ? 60 : 400};
    const auto expect_sound = [&](const auto& game) {
        const auto report = check_rules(game, few);
        EXPECT_TRUE(report.sound()) << report.text();
    };
    expect_sound(Tolls{});
    expect_sound(Tolls({2, 2, 4, 3, "w"}));
    expect_sound(Wager{});
    expect_sound(Stowage({.rows = 4, .columns = 4, .lot = 2, .trim = 5, .lots = 4}));
    expect_sound(ManyLanterns({.columns = 3, .rows = 3, .line = 3, .players = 3}));
    expect_sound(ManyLanterns({.columns = 4, .rows = 3, .line = 3, .drop = true, .players = 4}));
}
