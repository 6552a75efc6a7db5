#include "scuffle/scuffle.hpp"

#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/lab/check.hpp>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "compiled.hpp"

using arvek::InputError;
using arvek::Outcome;
using arvek::Player;
using waterway::read_crew;
using waterway::Scuffle;

namespace {

const std::string two_hands = R"(name = "Two"
[[hand]]
name = "Ann"
stamina = 20
quickness = 10
rating.rope = { attack = 2, guard = 1 }
rating.song = { mends = true }
gear = ["hook"]
[[hand.action]]
name = "pull"
element = "rope"
power = 4
target = "one rival"
[[hand.action]]
name = "sing"
element = "song"
power = 5
time = 5
target = "one mate"
[[hand]]
name = "Ben"
stamina = 10
quickness = 5
rating.song = { mends = true }
[[hand.action]]
name = "spray"
element = "water"
power = 3
hits = 50
target = "all rivals"
lays = "soaked"
turns = 2
[[gear]]
name = "hook"
rating.rope = { attack = 3, guard = -2 }
[[gear.action]]
name = "brace"
element = "rope"
time = 4
target = "self"
lays = "braced"
turns = 3
)";

Scuffle twins() { return Scuffle::of_crews(read_crew(two_hands, "two"), read_crew(two_hands, "two")); }

std::string after(const Scuffle& game, const std::string& position, std::initializer_list<const char*> moves) {
    auto at = game.read_position(position);
    for (const char* move : moves) game.play(at, arvek::move_from_text(game, at, move));
    return game.position_text(at);
}

std::string message_of(const std::string& crew) {
    try {
        (void)read_crew(crew, "crew.toml");
    } catch (const InputError& error) {
        return error.what();
    }
    return "no error";
}

}  // namespace

TEST(Scuffle, TheLowestClockActsAndItsTimeIsScaledByQuickness) {
    const auto game = twins();
    EXPECT_EQ(game.position_text(game.initial_position()), "20@10,10@20|20@10,10@20 0 -");
    // Ann of Teal first (of two, the one named earlier), then Ann of Amber, then Teal's Ann again: 20 is Ben's clock
    // too.
    EXPECT_EQ(after(game, "20@10,10@20|20@10,10@20 0 -", {"brace"}), "20@14b3,10@20|20@10,10@20 1 -");
    EXPECT_EQ(after(game, "20@30,10@20|20@30,10@40 0 -", {"spray", "miss"}), "20@30,10@40|20@30,10@40 1 -")
        << "quickness 5 takes twice the time";
    EXPECT_EQ(after(game, "20@10w1,10@20|20@30,10@40 0 -", {"brace"}), "20@18b3,10@20|20@30,10@40 1 -")
        << "winded costs four more, and the turn is used up";
}

TEST(Scuffle, HarmIsPowerAndAttackLessGuardWithGearAndConditions) {
    const auto game = twins();
    // 4 + (2 + 3) - (1 - 2) = 10 against Ann; 9 against Ben, who has no guard.
    EXPECT_EQ(after(game, "20@10,10@20|20@10,10@20 0 -", {"pull:Ann"}), "20@20,10@20|10@10,10@20 1 -");
    EXPECT_EQ(after(game, "20@10,10@20|20@10,10@20 0 -", {"pull:Ben"}), "20@20,10@20|20@10,1@20 1 -");
    EXPECT_EQ(after(game, "20@10,10@20|20@10s1,10@20 0 -", {"pull:Ann"}), "20@20,10@20|7@10s1,10@20 1 -");
    EXPECT_EQ(after(game, "20@10,10@20|20@10b1,10@20 0 -", {"pull:Ann"}), "20@20,10@20|13@10b1,10@20 1 -");
    // All rivals, one roll for all.
    EXPECT_EQ(after(game, "20@30,10@20|20@30,2@40 0 -", {"spray", "hit"}), "20@30,10@40|17@30s2,0@40 1 -");
    // A hand that mends by song is healed, up to its full stamina.
    EXPECT_EQ(after(game, "20@10,3@20|20@10,10@20 0 -", {"sing:Ben"}), "20@15,8@20|20@10,10@20 1 -");
    EXPECT_EQ(after(game, "20@10,9@20|20@10,10@20 0 -", {"sing:Ben"}), "20@15,10@20|20@10,10@20 1 -");
}

TEST(Scuffle, HitOrMissIsChanceWithTheProbabilityOfTheAction) {
    const auto game = twins();
    auto position = game.read_position("20@30,10@20|20@30,10@40 0 -");
    game.play(position, arvek::move_from_text(game, position, "spray"));
    EXPECT_EQ(game.position_text(position), "20@30,10@20|20@30,10@40 1 spray");
    EXPECT_TRUE(game.chance_is_next(position));
    arvek::Random random(7);
    int hits = 0;
    for (int i = 0; i < 4000; ++i) hits += drawn_event(game, position, random).action == Scuffle::Move::hit ? 1 : 0;
    EXPECT_NEAR(hits / 4000.0, 0.5, 0.04);
}

TEST(Scuffle, ACrewAllOutLosesAndTheActionsRunOut) {
    const auto game = twins();
    auto position = game.read_position("20@10,10@20|5@10,0@20 8 -");
    EXPECT_FALSE(game.outcome(position).has_value());
    EXPECT_EQ(arvek::legal_moves(game, position).size(), 3u) << "nothing is aimed at a hand that is out";
    game.play(position, arvek::move_from_text(game, position, "pull:Ann"));
    EXPECT_EQ(game.outcome(position), Outcome::win(Player::First));
    EXPECT_EQ(game.outcome(game.read_position("0@10,0@20|5@10,0@20 8 -")), Outcome::win(Player::Second));
    EXPECT_EQ(game.outcome(game.read_position("1@10,0@20|5@10,0@20 200 -")), Outcome::draw());
}

TEST(Scuffle, EveryPairOfShippedCrewsIsSoundAndRulesBeatChance) {
    const std::string folder = std::string(ARVEK_SOURCE_DIR) + "/demo/scuffle";
    std::vector<std::string> files;
    for (const auto& file : std::filesystem::directory_iterator(folder)) files.push_back(file.path().string());
    ASSERT_GE(files.size(), 4u);
    for (std::size_t i = 0; i < files.size(); ++i) {
        const Scuffle game({files[i], files[(i + 1) % files.size()]});
        const auto report = arvek::check_rules(game, {.games = 5, .short_positions = 200});
        EXPECT_TRUE(report.sound()) << files[i] << "\n" << report.text();
    }
    const Scuffle game;
    const auto ruled = make_opponent(game, arvek::read_opponent("ruled")),
               random = make_opponent(game, arvek::read_opponent("random"));
    EXPECT_GE(play_match(game, *ruled, *random, {.games = 100, .seed = 2}).score_a(), 0.8);
    for (const auto& [file, text] : {std::pair{"eel_street_hands", Scuffle::eel_street_hands()},
                                     std::pair{"malthouse_five", Scuffle::malthouse_five()}}) {
        std::stringstream shipped;
        shipped << std::ifstream(folder + "/" + file + ".toml").rdbuf();
        EXPECT_EQ(shipped.str(), text) << "the crew of a game without settings is that of its file";
    }
}

TEST(Scuffle, ACrewFileSaysWhereItIsWrong) {
    const auto says = [](const std::string& crew, const std::string& part) {
        EXPECT_NE(message_of(crew).find(part), std::string::npos) << message_of(crew);
    };
    const auto with = [](const std::string& from, const std::string& to) {
        std::string crew = two_hands;
        crew.replace(crew.find(from), from.size(), to);
        return crew;
    };
    EXPECT_EQ(message_of(two_hands), "no error");
    says("", "there is no key 'name'");
    says("name = \"x\"\n", "the crew has no hands");
    says("name = \n", "crew.toml, line 1, column");
    says(with("stamina = 20", "stamna = 20"), "line 4, column 1: there is no key 'stamna' (expected stamina, perhaps");
    says(with("stamina = 20", "stamina = 1000"), "'stamina' = 1000 is out of range (expected 1 to 999)");
    says(with("stamina = 20", "stamina = \"20\""), "line 4, column 11: 'stamina' is not an integer");
    says(with("stamina = 20\n", ""), "there is no key 'stamina'");
    says(with("\"Ann\"", "\"Ann Lee\""), "cannot stand in a move");
    says(with("element = \"song\"", "element = \"sogn\""),
         "there is no element 'sogn' (expected rope, water, smoke or song");
    says(with("target = \"one mate\"", "target = \"mate\""), "there is no target 'mate'");
    says(with("gear = [\"hook\"]", "gear = [\"hock\"]"), "there is no gear 'hock' (expected hook, perhaps");
    says(with("hits = 50", "hits = 0"), "'hits' = 0 is out of range");
    says(with("lays = \"soaked\"\n", ""), "'turns' without a condition");
    says(with("name = \"brace\"", "name = \"pull\""), "Ann has two actions 'pull'");
    says(with("\"Ben\"", "\"Ann\""), "there is a hand 'Ann' already");
    says(with("mends = true", "mends = 1"), "neither true nor false");
    says(with("target = \"all rivals\"", "target = \"one mate\""), "no action for when its mates are out");
    says("name = \"x\"\nhand = 3\n", "'hand' is not a list of tables");
    says("name = " + std::string(5'000, '['), "nested too deeply");
    says("[[= \"rope\"\n", "line 1, column 3: no name follows the bracket");
    says("name = \"x\"\n[[[\n", "line 2, column 3: no name follows the bracket");
    says(with("\"Ann\"", "\"Zoë\""), "letters, digits and hyphens");
    EXPECT_EQ(message_of("# Zoë's crew [[[\n" + two_hands), "no error") << "a comment may say anything";
    EXPECT_THROW((void)Scuffle({"no/such.toml", ""}), InputError);
    EXPECT_THROW((void)Scuffle({"/", ""}), InputError) << "a folder";
}

TEST(Scuffle, APositionSaysWhereItIsWrong) {
    const auto game = twins();
    for (const char* wrong :
         {"", "20@10,10@20|20@10 0 -", "21@10,10@20|20@10,10@20 0 -", "20@10,10@20|20@10,10@20 201 -",
          "20@10,10@20|20@10,10@20 0 haul", "20@10,10@20|20@10,10@20 0 pull:Ann", "20@10s0,10@20|20@10,10@20 0 -",
          "0@10s1,10@20|20@10,10@20 0 -", "20@10,10@20 20@10,10@20 0 -", "20@10,10@20|20@10,10@20 0",
          "20@x,10@20|20@10,10@20 0 -", "20@10,10@20|20@10,10@20 0 - ", "020@10,10@20|20@10,10@20 0 -"})
        EXPECT_THROW((void)game.read_position(wrong), InputError) << wrong;
}
