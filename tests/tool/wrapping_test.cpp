#include "wrapping.hpp"

#include <gtest/gtest.h>

#include <sstream>

using arvek::tool::wrapped;

TEST(Wrapping, BreaksBetweenWordsAndLosesNothing) {
    EXPECT_EQ(wrapped("short", 10), "short");
    EXPECT_EQ(wrapped("  one two three four", 12), "  one two\n    three\n    four");
    EXPECT_EQ(wrapped("averylongwordwithoutanyend and more", 10), "averylongwordwithoutanyend\n  and more");
    EXPECT_EQ(wrapped("", 10), "");
    EXPECT_EQ(wrapped("          ", 5), "          ");
    // Colours take no room, and letters of several bytes one column each.
    EXPECT_EQ(wrapped("\033[1mone\033[0m two", 7), "\033[1mone\033[0m two");
    EXPECT_EQ(wrapped("\xc3\xa4\xc3\xa4\xc3\xa4 \xc3\xa4", 5), "\xc3\xa4\xc3\xa4\xc3\xa4 \xc3\xa4");
    // What follows goes on below the last column, unless that leaves too little room.
    EXPECT_EQ(wrapped("  1  c3   one two three", 20), "  1  c3   one two\n          three");
    EXPECT_EQ(wrapped("  1  c3            one two", 22), "  1  c3            one\n    two");
    const std::string text =
        "  At level 3 it played the move ranked 5 of 26, +6 instead of +9: 3 given away (as far as it saw).";
    for (std::size_t width = 1; width < 120; ++width) {
        std::istringstream words(wrapped(text, width)), as_they_were(text);
        for (std::string one, other; as_they_were >> other;) {
            ASSERT_TRUE(words >> one);
            EXPECT_EQ(one, other) << width;
        }
        std::istringstream lines(wrapped(text, width));
        for (std::string line; width > 20 && std::getline(lines, line);) EXPECT_LE(line.size(), width);
    }
}

TEST(Wrapping, CountsTheLinesOfAText) {
    using arvek::tool::lines_of;
    EXPECT_EQ(lines_of("", 10), 0u);
    EXPECT_EQ(lines_of("one\n\ntwo\n", 10), 3u);
    EXPECT_EQ(lines_of("one two three four\nno end", 12), 3u);
    EXPECT_EQ(lines_of("one two three four\n", 0), 1u);
}

TEST(Wrapping, PassesOnLinesAndWhatIsFlushed) {
    std::ostringstream out;
    {
        arvek::tool::WrappingBuffer buffer(out, 12);
        std::ostream stream(&buffer);
        stream << "one two three four\n";
        EXPECT_EQ(out.str(), "one two\n  three four\n");
        stream << "your move: " << std::flush;
        EXPECT_EQ(out.str(), "one two\n  three four\nyour move: ");
        stream << "and then a long line\n"
               << "rest";
    }
    EXPECT_EQ(out.str(), "one two\n  three four\nyour move: and then a long line\nrest");
}
