// Rules against another statement of them: a slow reference, and facts.

#include <gtest/gtest.h>
#include <arvek/lab/check.hpp>
#include <arvek/lab/facts.hpp>
#include <arvek/lab/reference.hpp>

#include "lab/zoo/locks.hpp"
#include "lab/zoo/tides.hpp"
#include "support/sanitized.hpp"

using namespace arvek;

namespace {

const CheckOptions few_games{.games = testing_support::sanitized ? 4 : 20,
                             .short_positions = testing_support::sanitized ? 60 : 600,
                             .compared = 4};

/// Tides as its rules are told: from every cell in every direction, on letters.
struct PlainTides {
    struct Position {
        std::string cells;
        char mover = 't';
    };
    using Move = std::string;

    Position read_position(std::string_view text) const {
        Position p;
        for (const char letter : text.substr(0, text.find(' ')))
            if (letter != '/') p.cells += letter;
        p.mover = text.back();
        return p;
    }
    static std::string turned(const Position& p, int row, int column) {
        std::string after = p.cells;
        if (p.cells[static_cast<std::size_t>(4 * row + column)] != '.') return "";
        bool any = false;
        const char rival = p.mover == 't' ? 'a' : 't';
        for (int way = 0; way < 9; ++way) {
            const int dr = way / 3 - 1, dc = way % 3 - 1;
            if (dr == 0 && dc == 0) continue;
            int length = 1;
            const auto at = [&](int steps) {
                const int r = row + steps * dr, c = column + steps * dc;
                return r < 0 || r > 3 || c < 0 || c > 3 ? '#' : p.cells[static_cast<std::size_t>(4 * r + c)];
            };
            while (at(length) == rival) ++length;
            if (length == 1 || at(length) != p.mover) continue;
            any = true;
            for (int step = 0; step < length; ++step)
                after[static_cast<std::size_t>(4 * (row + step * dr) + column + step * dc)] = p.mover;
        }
        return any ? after : "";
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        for (int row = 0; row < 4; ++row)
            for (int column = 0; column < 4; ++column)
                if (!turned(p, row, column).empty())
                    moves.push_back({static_cast<char>('a' + column), static_cast<char>('1' + row)});
        if (moves.empty()) moves.push_back("pass");
    }
    std::string move_text(const Position&, const Move& move) const { return move; }
    void play(Position& p, const Move& move) const {
        if (move != "pass") p.cells = turned(p, move[1] - '1', move[0] - 'a');
        p.mover = p.mover == 't' ? 'a' : 't';
    }
    std::string position_text(const Position& p) const {
        std::string text;
        for (std::size_t i = 0; i < 16; ++i) text += (i > 0 && i % 4 == 0 ? "/" : "") + std::string(1, p.cells[i]);
        return text + " " + p.mover;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        for (const char mover : {'t', 'a'})
            for (int cell = 0; cell < 16; ++cell)
                if (!turned({p.cells, mover}, cell / 4, cell % 4).empty()) return std::nullopt;
        int more = 0;
        for (const char letter : p.cells) more += letter == 't' ? 1 : letter == 'a' ? -1 : 0;
        return Outcome::of_payoffs({more, -more});
    }
};

/// Of the rules of Tides, only who wins when the basin is full.
struct OnlyTheEnd {
    using Position = std::string;
    Position read_position(std::string_view text) const { return std::string(text); }
    std::optional<Outcome> outcome(const Position& text) const {
        const PlainTides plain;
        return plain.outcome(plain.read_position(text));
    }
};

/// Locks without texts to read: a whole game that is played along.
struct PlainLocks : zoo::Locks {
    Position read_position(std::string_view) const = delete;
};

constexpr const char* tides_facts = R"(
[[fact]]
about = "along a slope a mark turns over as well"
position = ".t../.tt./.ta./.... a"
legal = ["a1"]
not_legal = ["b1", "d4"]
only = ["a1", "c1", "a3"]

[[fact]]
about = "the first moves"
to_move = "First"
over = false
sequences = [4, 12, 44]

[[fact]]
about = "after three moves"
moves = ["b1", "a1", "a2"]
after = { a3 = "at../att./aaa./.... t" }

[[fact]]
about = "who has more marks wins by so many"
position = "tttt/tttt/tttt/aaaa a"
payoffs = [8, -8]
over = true

[[fact]]
about = "a basin of fifteen cells is none"
position = "tttt/tttt/tttt/aaa a"
refused = true
)";

}  // namespace

TEST(Reference, FindsWhatAgreesWithItself) {
    for (const char* wrong : zoo::tides_wrong_rules) {
        zoo::Tides game;
        game.broken = wrong;
        const auto alone = check_rules(game, few_games);
        EXPECT_TRUE(alone.sound()) << wrong << ": " << alone.text();
        const auto report = check_against(game, PlainTides{}, few_games);
        ASSERT_FALSE(report.sound()) << wrong;
        for (const Fault& fault : report.faults) EXPECT_EQ(fault.law, "reference") << report.text();
    }
    const auto sound = check_against(zoo::Tides{}, PlainTides{}, few_games);
    EXPECT_TRUE(sound.sound()) << sound.text();
    EXPECT_GT(sound.positions, testing_support::sanitized ? 60u : 600u);
}

TEST(Reference, ShowsTheShortestPlayInWhichTheyPart) {
    zoo::Tides game;
    game.broken = "no turning along a slope";
    const auto report = check_against(game, PlainTides{}, few_games);
    ASSERT_FALSE(report.faults.empty());
    EXPECT_LE(report.faults[0].moves.size(), 3u) << report.text();
}

TEST(Reference, MayBeAPartOrAWholeGameThatIsPlayedAlong) {
    zoo::Tides tides;
    EXPECT_TRUE(check_against(tides, OnlyTheEnd{}, few_games).sound());
    tides.broken = "over when one cannot turn";
    const auto part = check_against(tides, OnlyTheEnd{}, few_games);
    ASSERT_FALSE(part.sound());
    EXPECT_EQ(part.faults[0].function, "outcome");
    zoo::Locks locks;
    EXPECT_TRUE(check_against(locks, PlainLocks{}, few_games).sound());
    for (const char* wrong : zoo::locks_wrong_rules) {
        locks.broken = wrong;
        EXPECT_FALSE(check_against(locks, PlainLocks{}, few_games).sound()) << wrong;
    }
}

TEST(Facts, HoldOfSoundRulesAndFindWhatAgreesWithItself) {
    const auto sound = check_facts(zoo::Tides{}, tides_facts, "tides.toml");
    EXPECT_TRUE(sound.sound()) << sound.text();
    EXPECT_EQ(sound.facts, 5);
    zoo::Tides game;
    game.broken = "no turning along a slope";
    const auto found = check_facts(game, tides_facts, "tides.toml");
    ASSERT_FALSE(found.sound());
    EXPECT_NE(found.text().find("tides.toml, line"), std::string::npos) << found.text();
}

TEST(Facts, NameThePlaceOfWhatIsWrongInTheFile) {
    const auto refused = [](const std::string& text) -> std::string {
        try {
            const auto report = check_facts(zoo::Tides{}, text, "tides.toml");
            return report.text();
        } catch (const InputError& error) {
            return std::string("refused: ") + error.what();
        }
    };
    for (const auto& [text, said] : std::vector<std::pair<std::string, std::string>>{
             {"", "no fact"},
             {"[[fact]]\nlegal = [\"b1\"]", "about"},
             {"[[fact]]\nabout = \"x\"", "nothing that could hold"},
             {"[[fact]]\nabout = \"x\"\nlegel = [\"b1\"]", "legel"},
             {"[[fact]]\nabout = \"x\"\nlegal = \"b1\"", "line 3"},
             {"[[fact]]\nabout = \"x\"\npayoffs = [1]", "list of 2"},
             {"[[fact]]\nabout = \"x\"\nrefused = true", "no position"},
             {"[[fact]]\nabout = \"x\"\nmoves = [\"b1\"]\nposition = \"..\"\nover = true", "one of the two"},
             {"[[fact]]\nabout = \"x\"\nsequences = [-1]", "line 3"}})
        EXPECT_TRUE(refused(text).starts_with("refused") && refused(text).find(said) != std::string::npos)
            << text << "\n"
            << refused(text);
    for (const auto& [text, said] : std::vector<std::pair<std::string, std::string>>{
             {"[[fact]]\nabout = \"x\"\nmoves = [\"b1\", \"z9\"]\nover = false", "cannot be played"},
             {"[[fact]]\nabout = \"x\"\nposition = \"t\"\nover = false", "is refused"},
             {"[[fact]]\nabout = \"x\"\nlegal = [\"z9\"]", "not legal: z9"},
             {"[[fact]]\nabout = \"x\"\nonly = [\"b1\"]", "besides"},
             {"[[fact]]\nabout = \"x\"\nto_move = \"Second\"", "First is next"},
             {"[[fact]]\nabout = \"x\"\nover = true", "play goes on"},
             {"[[fact]]\nabout = \"x\"\nafter = { b1 = \"..\" }", "leads to"},
             {"[[fact]]\nabout = \"x\"\nchance = true", "not next"},
             {"[[fact]]\nabout = \"x\"\nsequences = [4, 13]", "there are 12"}})
        EXPECT_NE(refused(text).find(said), std::string::npos) << text << "\n" << refused(text);
}
