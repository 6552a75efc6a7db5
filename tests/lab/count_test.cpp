#include <gtest/gtest.h>
#include <arvek/lab/count.hpp>

#include "chess/chess.hpp"
#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

using namespace arvek;
using waterway::Lanterns;

TEST(Count, GivesTheKnownFiguresOfTheSmallFrame) {
    const Lanterns game({3, 3, 3, false});
    const std::vector<std::uint64_t> known{9, 72, 504, 3024, 15120, 54720, 148176, 200448, 127872};
    const auto counts = count_sequences(game, game.initial_position(), 9);
    ASSERT_EQ(counts.size(), known.size());
    LargeCount finished;
    for (std::size_t i = 0; i < known.size(); ++i) {
        EXPECT_EQ(counts[i].depth, static_cast<int>(i) + 1);
        EXPECT_EQ(counts[i].sequences, known[i]);
        finished += counts[i].finished;
    }
    EXPECT_EQ(finished, 255'168u);
}

TEST(Count, GivesTheKnownFiguresOfTheDroppingFrame) {
    // Four in a line on seven columns of six: 7, 49, 343, 2401, 16807, 117649, then the first full columns and wins.
    const Lanterns game({7, 6, 4, true});
    const auto counts = count_sequences(game, game.initial_position(), 7);
    EXPECT_EQ(counts[5].sequences, 117'649u);
    EXPECT_EQ(counts[6].sequences, 823'536u);
}

TEST(Count, IsTheSameWithTheTable) {
    const Lanterns lanterns({4, 3, 3, true});
    const waterway::Windlass windlass({8, 3});
    const waterway::Sluice sluice({4, 3, true, true});
    const auto expect_same = [](const auto& game, int depth) {
        const auto plain = count_sequences(game, game.initial_position(), depth);
        const auto with_table = count_sequences_with_table(game, game.initial_position(), depth);
        ASSERT_EQ(plain.size(), with_table.size());
        for (std::size_t i = 0; i < plain.size(); ++i) {
            EXPECT_EQ(plain[i].depth, with_table[i].depth);
            EXPECT_EQ(plain[i].sequences, with_table[i].sequences);
            EXPECT_EQ(plain[i].finished, with_table[i].finished);
        }
    };
    expect_same(lanterns, 12);
    expect_same(windlass, 7);
    expect_same(sluice, 8);
}

TEST(Count, IsTheSameWhereTheLastPlyIsOnlyCounted) {
    const waterway::Chess game;
    const auto position = game.read_position("8/8/8/8/8/5k2/7p/5K2 b - - 0 1");  // with a stalemate and mates close by
    for (const int depth : {1, 2, 5}) {
        const auto all = count_sequences(game, position, depth),
                   quick = count_sequences(game, position, depth, LastPly::Counted);
        for (std::size_t i = 0; i < all.size(); ++i) EXPECT_EQ(all[i].sequences, quick[i].sequences) << depth;
        EXPECT_TRUE(all.back().knows_finished);
        EXPECT_FALSE(quick.back().knows_finished);
        if (depth > 1) {
            EXPECT_EQ(all[0].finished, quick[0].finished);
        }
    }
    // A game that cannot tell plays the last ply.
    const waterway::Sluice sluice;
    EXPECT_TRUE(count_sequences(sluice, sluice.initial_position(), 3, LastPly::Counted).back().knows_finished);
}

TEST(Count, GoesNoFurtherThanTheEnd) {
    const Lanterns game({3, 3, 3, false});
    const auto counts = count_sequences(game, game.initial_position(), 12);
    EXPECT_EQ(counts[10].sequences, 0u);
    EXPECT_THROW((void)count_sequences(game, game.initial_position(), 0), InputError);
    EXPECT_THROW((void)count_sequences(game, game.initial_position(), -3), InputError);
}
