// The small values of the game room: move lists, random numbers, errors.

#include <gtest/gtest.h>
#include <arvek/game/input_error.hpp>
#include <arvek/game/move_list.hpp>
#include <arvek/game/random.hpp>

#include <array>
#include <set>
#include <string>

using arvek::MoveList;
using arvek::Random;

namespace {

template <class Move>
MoveList<Move> list_of(int count, Move (*make)(int)) {
    MoveList<Move> moves;
    for (int i = 0; i < count; ++i) moves.push_back(make(i));
    return moves;
}

std::string long_text(int i) { return "a text that is too long for small storage " + std::to_string(i); }
int number(int i) { return i; }

template <class Move>
void survives_growing_copying_and_moving(Move (*make)(int)) {
    for (const int count : {0, 1, 8, 31, 32, 33, 500}) {
        const MoveList<Move> original = list_of<Move>(count, make);
        ASSERT_EQ(original.size(), static_cast<std::size_t>(count));
        MoveList<Move> copy(original);
        MoveList<Move> moved(std::move(copy));
        EXPECT_EQ(moved, original);
        MoveList<Move> assigned = list_of<Move>(3, make);
        assigned = moved;
        const MoveList<Move>& alias = assigned;
        assigned = alias;
        EXPECT_EQ(assigned, original);
        assigned.clear();
        EXPECT_TRUE(assigned.empty());
        assigned = std::move(moved);
        EXPECT_EQ(assigned, original);
        if (count > 0) {
            assigned.push_back(assigned[0]);  // an element of its own, perhaps while it grows
            EXPECT_EQ(assigned[assigned.size() - 1], make(0));
        }
    }
}

}  // namespace

TEST(MoveList, SurvivesGrowingCopyingAndMovingPlainMoves) { survives_growing_copying_and_moving<int>(number); }
TEST(MoveList, SurvivesGrowingCopyingAndMovingMovesThatOwnMemory) {
    survives_growing_copying_and_moving<std::string>(long_text);
}

TEST(MoveList, RemovesWhatIsUnwantedAndKeepsTheOrder) {
    auto moves = list_of<std::string>(60, long_text);
    moves.remove_if([](const std::string& move) { return move.back() != '7'; });
    ASSERT_EQ(moves.size(), 6u);
    EXPECT_EQ(moves[1], long_text(17));
    EXPECT_TRUE(moves.contains(long_text(57)));
    EXPECT_FALSE(moves.contains(long_text(8)));
}

TEST(MoveList, AppendsInBulkPastItsInnerRoom) {
    MoveList<int> moves;
    moves.push_back(-1);
    moves.append_at_most(1'000, [](int* end) {
        for (int i = 0; i < 1'000; ++i) {
            *end = i;
            end += i % 2;
        }
        return end;
    });
    ASSERT_EQ(moves.size(), 501u);
    EXPECT_EQ(moves[0], -1);
    EXPECT_EQ(moves[500], 999);
}

TEST(Random, RepeatsFromItsSeedAndDiffersBetweenSeeds) {
    Random a(7), b(7), c(8);
    std::set<std::uint64_t> seen;
    for (int i = 0; i < 1'000; ++i) {
        const auto number = a.next();
        EXPECT_EQ(number, b.next());
        EXPECT_NE(number, c.next());
        EXPECT_TRUE(seen.insert(number).second);
    }
}

TEST(Random, DrawsEveryNumberBelowABoundAboutEquallyOften) {
    Random random(3);
    std::array<int, 7> drawn{};
    for (int i = 0; i < 70'000; ++i) ++drawn[static_cast<std::size_t>(random.below(7))];
    for (const int times : drawn) EXPECT_NEAR(times, 10'000, 500);
    int heads = 0;
    for (int i = 0; i < 10'000; ++i) heads += random.chance(0.3) ? 1 : 0;
    EXPECT_NEAR(heads, 3'000, 250);
}

TEST(Random, ShufflesToEveryOrderAboutEquallyOften) {
    Random random(5);
    std::array<int, 27> seen{};
    for (int i = 0; i < 12'000; ++i) {
        std::array<int, 3> order{0, 1, 2};
        random.shuffle(order);
        ++seen[static_cast<std::size_t>(order[0] * 9 + order[1] * 3 + order[2])];
    }
    for (const int index : {5, 7, 11, 15, 19, 21}) EXPECT_NEAR(seen[static_cast<std::size_t>(index)], 2'000, 200);
}

TEST(InputError, SaysWhereWhatAndWhatWouldBeRight) {
    EXPECT_STREQ(arvek::InputError("position", 7, "'x' is no lantern", "T, A or .").what(),
                 "position, column 7: 'x' is no lantern (expected T, A or .)");
    EXPECT_STREQ(arvek::InputError("", "no verb").what(), "no verb");
}

TEST(InputError, NamesTheNearestKnownWordOnlyWhenOneIsNear) {
    EXPECT_EQ(arvek::nearest_of("colums", {"rows", "columns", "line"}), "columns");
    EXPECT_EQ(arvek::nearest_of("zebra", {"rows", "columns", "line"}), "");
    EXPECT_EQ(arvek::nearest_of(std::string(100'000, 'x'), {"rows"}), "");
}
