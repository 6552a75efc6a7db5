#include "nightwatch/nightwatch.hpp"

#include <gtest/gtest.h>
#include <algorithm>
#include <arvek/arena/match.hpp>
#include <arvek/game/text.hpp>
#include <arvek/lab/check.hpp>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "compiled.hpp"
#include "support/sanitized.hpp"

using arvek::InputError;
using arvek::Outcome;
using arvek::Player;
using waterway::Nightwatch;

namespace {

Nightwatch game_on(const std::string& map) { return Nightwatch::on_map(map); }

/// The moves of the piece on `cell`, sorted; only those without a pull where `plain`.
std::vector<std::string> moves_from(const Nightwatch& game, const std::string& position, const std::string& cell) {
    const auto at = game.read_position(position);
    std::vector<std::string> texts;
    for (const auto& move : arvek::legal_moves(game, at)) {
        const std::string text = game.move_text(at, move);
        if (text.rfind(cell + "-", 0) == 0) texts.push_back(text.substr(cell.size() + 1));
    }
    std::sort(texts.begin(), texts.end());
    return texts;
}

std::string after(const Nightwatch& game, const std::string& position, const std::string& move) {
    auto at = game.read_position(position);
    game.play(at, arvek::move_from_text(game, at, move));
    return game.position_text(at);
}

using Texts = std::vector<std::string>;

const std::string open_map = "w....\n.....\n.....\n.....\nW....\n";

}  // namespace

TEST(Nightwatch, EveryKindMovesInItsOwnWay) {
    const auto game = game_on(open_map);
    EXPECT_EQ(moves_from(game, "w..../...../..W../...../..... T 0", "c3"),
              (Texts{"b2", "b3", "b4", "c2", "c4", "d2", "d3", "d4"}));
    EXPECT_EQ(moves_from(game, "w..../...../R.r../...../W.... T 0", "a3"), (Texts{"a2", "a4", "b3"}))
        << "a Runner slides along rows and columns up to the next piece";
    EXPECT_EQ(moves_from(game, "w..../...../...../...../W...R T 0", "e1"),
              (Texts{"b1", "c1", "d1", "e2", "e3", "e4", "e5"}));
    EXPECT_EQ(moves_from(game, "w..../...../...../.r.../V.W.. T 0", "a1"), (Texts{"a3", "a4"}))
        << "a Vaulter goes exactly two or three, over nothing";
    EXPECT_EQ(moves_from(game, "w..../...../..H../...../W.... T 0", "c3"), (Texts{"b3", "c2", "c4", "d3"}));
    const auto walled = game_on("w.#..\n..#..\n.....\nW....\n");
    EXPECT_EQ(moves_from(walled, "wR#../..#../...../W.... T 0", "b4"), (Texts{"b1", "b2", "b3"}));
    EXPECT_EQ(moves_from(walled, "w.#../V.#../...../W.... T 0", "a3"), (Texts{"c1"}));
}

TEST(Nightwatch, AHookPullsARivalAcrossAFreeCell) {
    const auto game = game_on(open_map);
    const std::string position = "w..../..r../...../.H.../W.... T 3";
    EXPECT_EQ(moves_from(game, position, "b2"), (Texts{"a2", "b1", "b3", "c2", "c2+c4"}));
    // Pulled next to the Hook, it is hit at once.
    EXPECT_EQ(after(game, position, "b2-c2+c4"), "w..../...../..r1../..H../W.... A 4");
    EXPECT_EQ(moves_from(game, "w..../..r../..R../.H.../W.... T 0", "b2"), (Texts{"a2", "b1", "b3", "c2"}))
        << "not over a piece";
    // The cell that it has just left counts as free.
    EXPECT_EQ(moves_from(game, "w..../...../.r.../.H.../W.... T 0", "b2"), (Texts{"a2", "b1", "b1+b3", "c2"}));
}

TEST(Nightwatch, HitsCountEveryPieceNextToTheRivalAndAddUp) {
    const auto game = game_on(open_map);
    EXPECT_EQ(after(game, "w..../...../..h../...../W.R.. T 5", "c1-c2"), "w..../...../..h1../..R../W.... A 6");
    EXPECT_EQ(after(game, "w..../...../.Rh../...../W.R.. T 5", "c1-c2"), "w..../...../.Rh2../..R../W.... A 6");
    EXPECT_EQ(after(game, "w..../...../.Rh1../...../W.R.. T 5", "c1-c2"), "w..../...../.R.../..R../W.... A 0")
        << "taken off at three, and the count of quiet moves begins again";
    EXPECT_EQ(after(game, "w..../...../.Rr../...../W.R.. T 5", "c1-c2"), "w..../...../.R.../..R../W.... A 0");
    EXPECT_EQ(after(game, "w..../...../.Rh../...../W.... T 5", "pass"), "w..../...../.Rh../...../W.... A 6")
        << "a piece that does not move hits nobody";
}

TEST(Nightwatch, TheGameEndsWithAWardenOrAfterQuietMoves) {
    const auto game = game_on(open_map);
    auto position = game.read_position("w2..../...../R..../...../W.... T 119");
    EXPECT_FALSE(game.outcome(position).has_value());
    auto quiet = position;
    game.play(quiet, {});
    EXPECT_EQ(game.outcome(quiet), Outcome::draw());
    game.play(position, arvek::move_from_text(game, position, "a3-a4"));
    EXPECT_EQ(game.outcome(position), Outcome::win(Player::First));
    EXPECT_EQ(game.position_text(position), "...../R..../...../...../W.... A 0");
}

TEST(Nightwatch, RulesAreSoundOnEveryShippedMapAndTheFirstIsTheDefault) {
    const std::string folder = std::string(ARVEK_SOURCE_DIR) + "/demo/nightwatch";
    const int games = testing_support::sanitized ? 1 : 3, positions = testing_support::sanitized ? 40 : 150;
    int maps = 0;
    for (const auto& file : std::filesystem::directory_iterator(folder)) {
        const auto report = arvek::check_rules(Nightwatch({file.path().string()}),
                                               {.games = games, .short_positions = positions, .compared = 6});
        EXPECT_TRUE(report.sound()) << file.path() << "\n" << report.text();
        ++maps;
    }
    EXPECT_GE(maps, 4);
    std::stringstream shipped;
    shipped << std::ifstream(folder + "/coal_yard.map").rdbuf();
    EXPECT_EQ(shipped.str(), Nightwatch::coal_yard());
}

TEST(Nightwatch, AMapSaysWhereItIsWrong) {
    const auto message = [](const std::string& map) -> std::string {
        try {
            (void)Nightwatch::read_map(map, "yard.map");
        } catch (const InputError& error) {
            return error.what();
        }
        return "no error";
    };
    const auto says = [&](const std::string& map, const std::string& part) {
        EXPECT_NE(message(map).find(part), std::string::npos) << message(map);
    };
    says("", "there is no map");
    says("; nothing\n", "there is no map");
    says("title: x\nw..\n.X.\nW..\n", "line 3 of yard.map");
    says("title: x\nw..\n.X.\nW..\n", "column 2");
    says("w..\nW.\n", "rows of one length");
    says("w..\n...\n", "Teal has no Warden");
    says("w.w\nW..\n", "Amber has a Warden already");
    says("w..\n\nW..\n", "after an empty line");
    says("w..\ntitle: late\nW..\n", "the title comes after the map");
    says(std::string(31, '.') + "\n", "at most 30");
    says("w" + std::string(21, 'r') + "\nW" + std::string(21, '.') + "\n", "more than 20 pieces");
    says(std::string("w.\0\nW..\n", 8), "cannot be shown");
    std::string tall = "w\nW\n";
    for (int i = 0; i < 30; ++i) tall += ".\n";
    says(tall, "more than 30 rows");
    EXPECT_THROW((void)Nightwatch({"no/such.map"}), InputError);
    EXPECT_EQ(Nightwatch::read_map("w.\r\nW.\r\n", "x").rows.size(), 2u) << "lines may end in the other way";
}

TEST(Nightwatch, APositionSaysWhereItIsWrong) {
    const auto game = game_on("w.#\n...\nW..\n");
    for (const char* wrong :
         {"", "w.#/.../W.. T", "w.#/.../W.. T 121", "w.#/.../W.. T 01", "w.#/.../W.. X 0", "w../.../W.. T 0",
          "w.#/#../W.. T 0", "wW#/.../W.. T 0", "..#/.../... T 0", "w3.#/.../W.. T 0", "w.#/.../W..T 0",
          "w.#/.../W... T 0", "w.#/../W.. T 0", "w.#/.../W.. T 0 "})
        EXPECT_THROW((void)game.read_position(wrong), InputError) << wrong;
    EXPECT_EQ(game.position_text(game.read_position("w2.#/.h1./W.. A 17")), "w2.#/.h1./W.. A 17");
}

TEST(Nightwatch, RulesBeatChance) {
    const Nightwatch game;
    const auto ruled = make_opponent(game, arvek::read_opponent("ruled")),
               random = make_opponent(game, arvek::read_opponent("random"));
    EXPECT_GE(play_match(game, *ruled, *random, {.games = 10, .seed = 2}).score_a(), 0.8);
}
