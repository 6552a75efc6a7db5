#include "windlass/windlass.hpp"

#include <gtest/gtest.h>
#include <arvek/game/missing.hpp>
#include <arvek/lab/count.hpp>

#include "support/brute_force.hpp"

using arvek::InputError;
using arvek::Player;
using waterway::Windlass;

namespace {

const std::vector<Windlass::Parameters> windlass_shapes{{9, 4}, {8, 3}, {6, 3}, {12, 5}, {4, 2}, {5, 2}, {10, 5}};

}  // namespace

TEST(Windlass, GivesTheKnownCounts) {
    const Windlass game({8, 3});
    const std::vector<std::uint64_t> known{9, 72, 504, 3024, 15120, 51840, 180288, 622656};
    const auto counts = arvek::count_sequences(game, game.initial_position(), 8);
    for (std::size_t i = 0; i < known.size(); ++i) EXPECT_EQ(counts[i].sequences, known[i]);
}

TEST(Windlass, SeesLinesOnTheRimAndThroughTheHub) {
    const Windlass even({8, 3}), odd({9, 3});
    const auto won = [](const Windlass& game, const char* text) {
        return game.outcome(game.read_position(text)).has_value();
    };
    EXPECT_TRUE(won(even, "./TTT.AA.. A 0 1"));
    EXPECT_TRUE(won(even, "./TT.AA..T A 0 1")) << "the rim has no end";
    EXPECT_TRUE(won(even, "T/.T.A.T.A A 0 1")) << "opposite posts and the hub";
    EXPECT_FALSE(won(odd, "T/.T.A.T.A. A 0 1")) << "nothing is opposite where posts are odd";
    EXPECT_FALSE(won(even, "./TT.TAA.. A 0 1"));
}

TEST(Windlass, ASideThatCannotSlideLoses) {
    const Windlass game({4, 2});
    // Five places; Teal holds posts 1 and 3, Amber 2 and 4, the hub is free: Teal can slide to it.
    EXPECT_FALSE(game.outcome(game.read_position("./TATA T 0 0")).has_value());
    const Windlass tight({6, 3});
    // Amber holds 1, 3 and the hub; Teal 2 is shut in, but 4 and 6 are not.
    EXPECT_FALSE(tight.outcome(tight.read_position("A/ATAT.T T 0 0")).has_value());
    arvek::Random random(51);
    int shut_in = 0;
    for (const auto& shape : windlass_shapes) {
        const Windlass any(shape);
        for (int i = 0; i < 400; ++i) {
            auto position = testing_support::random_position(any, 2 * shape.pegs + i % 30, random);
            arvek::MoveList<Windlass::Move> moves;
            for (int ply = 0; ply < 10 && !any.outcome(position); ++ply) {
                moves.clear();
                any.generate_moves(position, moves);
                ASSERT_FALSE(moves.empty()) << any.position_text(position);
                any.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
            moves.clear();
            any.generate_moves(position, moves);
            if (moves.empty()) {
                ASSERT_TRUE(any.outcome(position).has_value()) << any.position_text(position);
                ++shut_in;
            }
        }
    }
    EXPECT_GT(shut_in, 0);
}

TEST(Windlass, TextsAndTakeBackComeBackTheSame) {
    arvek::Random random(52);
    for (const auto& shape : windlass_shapes) {
        const Windlass game(shape);
        for (int i = 0; i < 120; ++i) {
            const auto position = testing_support::random_position(game, i % 40, random);
            ASSERT_EQ(game.read_position(game.position_text(position)), position) << game.position_text(position);
            ASSERT_EQ(game.evaluate(position, Player::First), -game.evaluate(position, Player::Second));
            for (const auto& move : arvek::legal_moves(game, position)) {
                ASSERT_EQ(arvek::move_from_text(game, position, game.move_text(position, move)), move);
                auto changed = position;
                const auto undo = game.play_reversibly(changed, move);
                ASSERT_NE(game.hash(changed), game.hash(position));
                game.take_back(changed, move, undo);
                ASSERT_EQ(changed, position);
            }
        }
    }
    const Windlass game({9, 4});
    EXPECT_EQ(game.position_text(game.read_position("./T..A..... T 3 3")), "./T..A..... T 3 3");
}

TEST(Windlass, TheThirdOccurrenceIsADraw) {
    const Windlass game({6, 3});
    const auto here = game.read_position("T/T.A.TA A 0 1"), there = game.initial_position();
    EXPECT_FALSE(arvek::outcome_with_history(game, {here}).has_value());
    EXPECT_FALSE(arvek::outcome_with_history(game, {here, there, here}).has_value());
    EXPECT_EQ(arvek::outcome_with_history(game, {here, there, here, there, here}), arvek::Outcome::draw());
    auto rival_to_move = here;
    rival_to_move.sides ^= std::uint64_t{1} << 24 | std::uint64_t{1} << 56;
    EXPECT_FALSE(arvek::outcome_with_history(game, {rival_to_move, rival_to_move, here}).has_value())
        << "with the other side to move it is another position";
}

TEST(Windlass, SaysWhatIsWrong) {
    const Windlass game({6, 3});
    for (const auto& [text, part] : std::vector<std::pair<std::string, std::string>>{
             {"", "the text is empty"},
             {"x/...... T 3 3", "column 1: 'x' is no peg"},
             {"./..... T 3 3", "column 8: ' ' is no peg"},
             {"./...... T 3", "column 13: the end of the text"},
             {"./...... T 3 9", "column 14: '9' is no number of pegs"},
             {"./T..... A 3 3", "Teal has 1 pegs placed and 3 in hand (expected 3 in all)"},
             {"./T..... T 2 3", "do not go with the player to move"},
             {"./TTTAAA T 0 0", "the side to move has a line already"}}) {
        try {
            (void)game.read_position(text);
            ADD_FAILURE() << text << " was read";
        } catch (const InputError& error) {
            EXPECT_NE(std::string(error.what()).find(part), std::string::npos) << text << "\n" << error.what();
        }
    }
    for (const Windlass::Parameters& wrong :
         std::vector<Windlass::Parameters>{{3, 2}, {13, 3}, {9, 1}, {9, 6}, {9, 5}, {4, 3}})
        EXPECT_THROW((void)Windlass(wrong), InputError);
}
