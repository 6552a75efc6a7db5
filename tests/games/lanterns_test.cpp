#include "lanterns/lanterns.hpp"

#include <gtest/gtest.h>
#include <arvek/game/missing.hpp>

#include <functional>

#include "support/brute_force.hpp"

using arvek::InputError;
using arvek::Player;
using waterway::Lanterns;

namespace {

const std::vector<Lanterns::Parameters> lanterns_shapes{
    {5, 5, 4, false}, {3, 3, 3, false},  {4, 4, 4, false},  {6, 5, 4, true},  {7, 6, 4, true},
    {8, 8, 5, false}, {12, 5, 8, false}, {1, 12, 3, false}, {2, 2, 8, false}, {12, 1, 2, true}};

/// What a person would do with a finger on the board.
bool has_line_by_walking(const std::string& text, const Lanterns::Parameters& shape, char letter) {
    const auto at = [&](int column, int row) {
        return column < shape.columns && row >= 0 && row < shape.rows &&
               text[static_cast<std::size_t>((shape.rows - 1 - row) * (shape.columns + 1) + column)] == letter;
    };
    for (int column = 0; column < shape.columns; ++column)
        for (int row = 0; row < shape.rows; ++row)
            for (const auto& [across, up] : {std::pair{1, 0}, {0, 1}, {1, 1}, {1, -1}}) {
                int length = 0;
                while (length < shape.line && at(column + length * across, row + length * up)) ++length;
                if (length == shape.line) return true;
            }
    return false;
}

std::string message_of(const std::function<void()>& act) {
    try {
        act();
    } catch (const InputError& error) {
        return error.what();
    }
    return "nothing was thrown";
}

}  // namespace

TEST(Lanterns, SeesALineExactlyWhenOneIsThere) {
    arvek::Random random(1);
    for (const auto& shape : lanterns_shapes) {
        const Lanterns game(shape);
        for (int i = 0; i < 200; ++i) {
            auto position = game.initial_position();
            while (!game.outcome(position)) {
                arvek::MoveList<Lanterns::Move> moves;
                game.generate_moves(position, moves);
                ASSERT_FALSE(moves.empty());
                game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
                const std::string text = game.position_text(position);
                const bool teal = has_line_by_walking(text, shape, 'T'), amber = has_line_by_walking(text, shape, 'A');
                const bool full = text.find('.') == std::string::npos;
                const auto outcome = game.outcome(position);
                ASSERT_EQ(outcome.has_value(), teal || amber || full) << text;
                if (outcome) {
                    ASSERT_EQ(outcome->payoff(Player::First), teal ? 1 : amber ? -1 : 0) << text;
                }
            }
        }
    }
}

TEST(Lanterns, HintsAtWinsAndAtWhatTheRivalWouldWinBy) {
    arvek::Random random(2);
    for (const auto& shape : lanterns_shapes) {
        const Lanterns game(shape);
        for (int i = 0; i < 100; ++i) {
            auto position = game.initial_position();
            while (!game.outcome(position)) {
                const auto moves = arvek::legal_moves(game, position);
                for (const auto& move : moves) {
                    auto hung = position, rival_hung = position;
                    game.play(hung, move);
                    game.play_nothing(rival_hung);
                    game.play(rival_hung, move);
                    const auto ends = game.outcome(hung), rival_ends = game.outcome(rival_hung);
                    const bool wins = ends && ends->payoff(position.to_move) > 0;
                    const bool keeps = rival_ends && rival_ends->payoff(position.to_move) < 0;
                    const int hint = game.order_hint(position, move);
                    ASSERT_EQ(hint >= 1'000, wins) << game.position_text(position);
                    ASSERT_EQ(hint >= 100, wins || keeps) << game.position_text(position);
                }
                game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
        }
    }
}

TEST(Lanterns, TextsComeBackTheSameAndMovesAreDistinct) {
    arvek::Random random(2);
    for (const auto& shape : lanterns_shapes) {
        const Lanterns game(shape);
        for (int i = 0; i < 100; ++i) {
            const auto position = testing_support::random_position(game, i % 40, random);
            ASSERT_EQ(game.read_position(game.position_text(position)), position);
            for (const auto& move : arvek::legal_moves(game, position)) {
                const std::string text = game.move_text(position, move);
                ASSERT_EQ(arvek::move_from_text(game, position, text), move) << text;
                ASSERT_EQ(game.read_move(position, text), move) << text;
            }
        }
    }
}

TEST(Lanterns, TakingBackRestoresAndHashTellsApart) {
    arvek::Random random(3);
    for (const auto& shape : lanterns_shapes) {
        const Lanterns game(shape);
        for (int i = 0; i < 60; ++i) {
            const auto position = testing_support::random_position(game, i % 30, random);
            auto changed = position;
            for (const auto& move : arvek::legal_moves(game, position)) {
                const auto undo = game.play_reversibly(changed, move);
                auto played = position;
                game.play(played, move);
                ASSERT_EQ(changed, played);
                ASSERT_NE(game.hash(changed), game.hash(position));
                game.take_back(changed, move, undo);
                ASSERT_EQ(changed, position);
            }
        }
    }
    const Lanterns game;
    auto other_to_move = game.initial_position();
    other_to_move.to_move = Player::Second;
    EXPECT_NE(game.hash(game.initial_position()), game.hash(other_to_move));
}

TEST(Lanterns, EvaluationIsOppositeForTheTwoAndCountsOpenLines) {
    arvek::Random random(4);
    for (const auto& shape : lanterns_shapes) {
        const Lanterns game(shape);
        for (int i = 0; i < 100; ++i) {
            const auto position = testing_support::random_position(game, i % 40, random);
            ASSERT_EQ(game.evaluate(position, Player::First), -game.evaluate(position, Player::Second));
        }
    }
    const Lanterns small({3, 3, 3, false});
    // Teal is alone in rows 3 and 1 and columns a and c; Amber in row 2, column b and the diagonal from a1.
    const auto position = small.read_position("T../.A./..T A");
    EXPECT_EQ(small.evaluate(position, Player::First).number(), 2 * 4 - 2 * 3);
}

TEST(Lanterns, DropLandsOnTheLowestFreeHook) {
    const Lanterns game({4, 3, 3, true});
    auto position = game.initial_position();
    for (const char* move : {"a", "a", "b", "a"}) game.play(position, arvek::move_from_text(game, position, move));
    EXPECT_EQ(game.position_text(position), "A.../A.../TT.. T");
    EXPECT_EQ(message_of([&] { game.read_move(position, "a"); }),
              "move: column a is full (expected a column with a free hook)");
    EXPECT_EQ(message_of([&] { game.read_position("T.../..../.... A"); }),
              "position, column 1: a lantern in column a hangs over a free hook (expected lanterns that have slid "
              "down, since drop is true)");
}

TEST(Lanterns, BracketsTheWinningLineInTheDrawing) {
    const Lanterns game({3, 3, 3, false});
    EXPECT_EQ(game.drawing(game.read_position("A.T/AT./T.. A")),
              "    +---------+\n"
              "  3 | A  . [T]|\n"
              "  2 | A [T] . |\n"
              "  1 |[T] .  . |\n"
              "    +---------+\n"
              "      a  b  c\n");
}

TEST(Lanterns, SaysWhatIsWrongWithAPositionAndWhere) {
    const Lanterns game({3, 3, 3, false});
    const std::vector<std::pair<std::string, std::string>> wrong{
        {"", "position, column 1: the text is empty"},
        {"..", "position, column 3: row 3 has only 2 hooks"},
        {"..x/.../... T", "position, column 3: 'x' is no lantern (expected T, A or .)"},
        {"..../.../... T", "position, column 4: '.' after row 3"},
        {".../...", "position, column 8: the end of the text after row 2"},
        {".../.../...", "position, column 12: the end of the text after row 1"},
        {".../.../... X", "position, column 13: 'X' is no player (expected T or A)"},
        {".../.../... T ", "position, column 14: ' ' after the player to move (expected the end of the text)"},
        {"TT./.../... T", "position, column 1: Teal has 2 lanterns and Amber 0 with Teal to move"},
        {"TTT/AAA/... T", "position, column 1: Teal has a line already and is still to move"},
    };
    for (const auto& [text, beginning] : wrong) {
        const std::string said = message_of([&, text = text] { game.read_position(text); });
        EXPECT_EQ(said.rfind(beginning, 0), 0u) << text << "\n" << said;
    }
}

TEST(Lanterns, SaysWhatIsWrongWithAMove) {
    const Lanterns game({3, 3, 3, false});
    const auto position = game.read_position(".../.T./... A");
    for (const auto& [text, message] : std::vector<std::pair<std::string, std::string>>{
             {"", "move: the text is empty"},
             {"d1", "move, column 1: 'd1' does not begin with a column of the frame"},
             {"a0", "move, column 2: 'a0' names no row of the frame"},
             {"a4", "move, column 2: 'a4' names no row of the frame"},
             {"a01", "move, column 2: 'a01' names no row of the frame"},
             {"a99999999999999999999", "move, column 2:"},
             {"b2", "move: hook b2 already holds a lantern of Teal (expected a free hook)"}}) {
        const std::string said = message_of([&, text = text] { (void)arvek::move_from_text(game, position, text); });
        EXPECT_EQ(said.rfind(message, 0), 0u) << text << "\n" << said;
    }
}

TEST(Lanterns, RefusesParametersOutOfRange) {
    for (const Lanterns::Parameters& wrong : std::vector<Lanterns::Parameters>{{0, 5, 4, false},
                                                                               {13, 1, 4, false},
                                                                               {5, 0, 4, false},
                                                                               {5, 13, 4, false},
                                                                               {5, 5, 1, false},
                                                                               {5, 5, 9, false},
                                                                               {9, 8, 4, false}})
        EXPECT_THROW((void)Lanterns(wrong), InputError);
}

TEST(Lanterns, MirrorImagesShareTheirEquivalenceHashAndOthersDoNot) {
    const Lanterns square({5, 5, 4, false}), dropping({7, 6, 4, true});
    const auto hash = [](const Lanterns& game, const char* text) {
        return game.equivalence_hash(game.read_position(text));
    };
    const auto corner = hash(square, "...../...../...../..A../T.... T");
    for (const char* image : {"...../...../...../..A../....T T", "T..../..A../...../...../..... T",
                              "...../...../.A.../...../T.... T", "....T/...../...A./...../..... T"})
        EXPECT_EQ(hash(square, image), corner) << image;
    for (const char* other :
         {"...../...../...../..T../A.... T", "...../...../...../.A.../T.... T", "...../...../...../...A./T.... T"})
        EXPECT_NE(hash(square, other), corner) << other;
    EXPECT_EQ(hash(dropping, "......./......./......./......./......./TA..... T"),
              hash(dropping, "......./......./......./......./......./.....AT T"));
}
