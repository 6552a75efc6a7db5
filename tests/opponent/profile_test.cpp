#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/person.hpp>
#include <arvek/opponent/profile.hpp>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "chess/chess.hpp"
#include "compiled.hpp"
#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "scuffle/scuffle.hpp"

using namespace arvek;
using waterway::Convoy;
using waterway::Lanterns;
using waterway::Scuffle;

namespace {

std::string demo_profile(const std::string& name) {
    std::ifstream file(std::string(ARVEK_SOURCE_DIR) + "/demo/opponents/" + name);
    std::ostringstream text;
    text << file.rdbuf();
    return text.str();
}

template <class G>
std::unique_ptr<Opponent<G>> opponent(const G& game, const std::string& text, std::optional<int> level = std::nullopt) {
    return make_opponent(game, opponent_of_profile(read_profile(text, "own.toml"), level));
}

const std::string scuffle_rules = "name = 'x'\ngame = 'scuffle'\nchoose = 'rules'\n";
const std::string convoy_rules = "name = 'x'\ngame = 'convoy'\nchoose = 'rules'\n";

}  // namespace

// Each kind of mistake: what the file holds after three lines of a head, and how the complaint begins.
TEST(Profile, EveryMistakeIsOneLineWithItsPlace) {
    struct Mistake {
        const char* text;
        const char* complaint;
    };
    const std::vector<Mistake> mistakes{
        {"levle = 3\n", "own.toml, line 4, column 1: there is no key 'levle' (expected level, perhaps;"},
        {"level = 11\n", "own.toml, line 4, column 9: 'level' = 11 is out of range (expected 1 to 10)"},
        {"level = 'high'\n", "own.toml, line 4, column 9: 'level' is not an integer"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'target stamna', below = 3 }\n",
         "own.toml, line 6, column 21: there is no quantity 'target stamna' (expected target stamina, perhaps;"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', below = 'powr' }\n",
         "own.toml, line 6, column 37: there is no quantity 'powr' (expected power, perhaps;"},
        {"[[rule]]\nname = 'a'\naction = 'haull'\n",
         "own.toml, line 6, column 10: there is no action 'haull' (expected haul, perhaps;"},
        {"[[rule]]\nname = 'a'\nactor = 'Nesa'\n",
         "own.toml, line 6, column 9: there is no actor 'Nesa' (expected Nessa, perhaps;"},
        {"[[rule]]\nname = 'a'\nkind = 'one rivals'\n",
         "own.toml, line 6, column 8: there is no kind of action 'one rivals' (expected one rival, perhaps;"},
        {"[[rule]]\nname = 'a'\nlowest = 'stamina'\n", "own.toml, line 6, column 10: there is no quantity 'stamina'"},
        {"[[rule]]\nname = 'a'\nlowest = 'harm'\nhighest = 'harm'\n",
         "own.toml, line 7, column 11: a rule chooses the lowest or the highest, not both"},
        {"[[rule]]\nname = 'a'\nchance = 1.5\n", "own.toml, line 6, column 10: 'chance' = 1.5 is out of range"},
        {"[[rule]]\nname = 'a'\nevery = 0\n", "own.toml, line 6, column 9: 'every' = 0 is out of range"},
        {"[[rule]]\nname = 'a'\nonce = 1\n", "own.toml, line 6, column 8: 'once' is neither true nor false"},
        {"[[rule]]\nname = 'a'\nfrom_level = 0\n", "own.toml, line 6, column 14: 'from_level' = 0 is out of range"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm' }\n",
         "own.toml, line 6, column 8: the quantity is not compared"},
        {"[[rule]]\nname = 'a'\nwhen = { below = 3 }\n", "own.toml, line 6, column 8: a comparison is of no quantity"},
        {"[[rule]]\nname = 'a'\nwhen = { all = [] }\n",
         "own.toml, line 6, column 16: 'all' has no conditions, or too many"},
        {"[[rule]]\nname = 'a'\nwhen = { quantity = 'harm', beneath = 3 }\n",
         "own.toml, line 6, column 29: there is no key 'beneath'"},
        {"[[rule]]\nname = 'a'\n[[rule]]\nname = 'a'\n", "own.toml, line 7, column 8: there is a rule 'a' already"},
        {"[[rule]]\nuse = 'win later'\n", "own.toml, line 5, column 7: there is no ready rule 'win later'"},
        {"[[rule]]\nuse = 'win now'\nabove = 0.5\n",
         "own.toml, line 6, column 9: 'above' is for use = \"suggestions\""},
        {"[[rule]]\naction = 'haul'\n", "own.toml, line 4, column 1: there is no key 'name'"},
        {"[[fallback]]\nweight = 0\n", "own.toml, line 5, column 10: 'weight' = 0 is out of range"},
        {"[[fallback]]\naction = 'doze'\n", "own.toml, line 5, column 10: there is no action 'doze'"},
        {"[temperament.hunger]\nvalue = 0.5\n",
         "own.toml, line 4, column 2: 'temperament' means nothing to this chooser"},
        {"[levels.11]\nnoise = 1\n", "own.toml, line 4, column 9: there is no key '11'"},
        {"[levels.3]\nsees_wins = 2\n", "own.toml, line 5, column 13: 'sees_wins' = 2 is out of range"},
        {"[levels.3]\ndepth = 2\n", "own.toml, line 5, column 1: there is no key 'depth'"},
        {"[follow]\nleast = 5\nmost = 3\n", "own.toml, line 4, column 1: the least level is above the most"},
        {"[[book]]\nreplies = { 'haul:Bram' = 1 }\n", "own.toml, line 4, column 1: an entry of the book needs"},
        {"[[book]]\nmoves = []\nreplies = { 'haul:Bran' = 1 }\n", "own.toml, line 6, column 13: "},
        {"[[book]]\nmoves = ['haul:Bram']\nreplies = { 'haul:Bram' = 1 }\n",
         "own.toml, line 5, column 9: nobody is to move there"},
        {"[pace]\nleast_seconds = -1\n", "own.toml, line 5, column 17: 'least_seconds' = -1 is out of range"},
        {"level = \n", "own.toml, line 4"},
        {"[[rule\n", "own.toml, line 4"},
    };
    const Scuffle game;
    for (const Mistake& mistake : mistakes) {
        const std::string rules =
            std::string(mistake.text).find("[[rule]]") == std::string::npos ? "\n[[rule]]\nname = 'r'\n" : "";
        try {
            (void)opponent(game, scuffle_rules + mistake.text + rules);
            ADD_FAILURE() << "no complaint about " << mistake.text;
        } catch (const InputError& error) {
            const std::string said = error.what();
            EXPECT_TRUE(said.starts_with(mistake.complaint)) << said << "\n  not\n" << mistake.complaint;
            EXPECT_EQ(said.find('\n'), std::string::npos);
        }
    }
    for (const char* head :
         {"", "name = 'x'\n", "name = 'x'\ngame = 'scuffle'\n", "name = 'x'\ngame = 'scuffle'\nchoose = 'rules'\n",
          "name = 'x'\ngame = 'scuffle'\nchoose = 'feelings'\n",
          "name = 'x'\ngame = 'scuffle'\nchoose = 'search'\n[search]\nalgorithm = 'alphabeta'\n",
          "name = 'x'\ngame = 'scuffle'\nchoose = 'random'\nlevel = 3\n",
          "name = 'x'\ngame = 'scuffle'\nchoose = 'features'\n"})
        EXPECT_THROW((void)opponent(game, head), InputError) << head;
}

TEST(Profile, TheShippedOnesAreRightAndPlay) {
    int seen = 0;
    for (const auto& entry : std::filesystem::directory_iterator(std::string(ARVEK_SOURCE_DIR) + "/demo/opponents")) {
        if (entry.path().extension() != ".toml") continue;
        ++seen;
        EXPECT_NO_THROW((void)read_profile(demo_profile(entry.path().filename()), "own.toml",
                                           {[](const std::string& path) { return demo_profile(path); }, nullptr, {}}))
            << entry.path();
    }
    EXPECT_GE(seen, 5) << "one of each kind";
    const Scuffle game;
    const auto foreman = opponent(game, demo_profile("towpath_foreman.toml"));
    const auto random = make_opponent(game, read_opponent("random"));
    EXPECT_GT(play_match(game, *foreman, *random, {.games = 100, .seed = 1}).interval().low, 0.5);
}

TEST(Profile, ARuleThatFiresOnceRemembersTheGameItIsInAndNoOther) {
    const Convoy game;
    const auto own = opponent(game, convoy_rules +
                                        "[[rule]]\nname = 'first'\naction = 'skiff'\nonce = true\n"
                                        "[[rule]]\nname = 'then'\naction = 'wait'\n");
    for (int round = 0; round < 2; ++round) {
        std::vector<Convoy::Position> positions{game.initial_position()};
        std::vector<std::string> chosen;
        for (int i = 0; i < 6; ++i) {
            const auto decision = own->decide(positions.back(), 1, {positions.data(), positions.size() - 1});
            chosen.push_back(decision.chosen_by);
            auto after = positions.back();
            game.play(after, decision.move);
            positions.push_back(after);
        }
        // Both sides are played by it, and each remembers its own.
        EXPECT_EQ(chosen, (std::vector<std::string>{"first", "first", "then", "then", "then", "then"}));
        // Taken back to the beginning, it is as if nothing had been.
        EXPECT_EQ(own->decide(positions.front(), 1).chosen_by, "first");
    }
}

TEST(Profile, TheOpeningBookIsPlayedByWeightAndOnlyWhereItsPositionIs) {
    const Lanterns game;
    const std::string text = demo_profile("lock_keeper.toml");
    const auto keeper = opponent(game, text, 4);
    std::map<std::string, int> replies;
    for (std::uint64_t seed = 0; seed < 600; ++seed) {
        const auto decision = keeper->decide(game.initial_position(), seed);
        EXPECT_EQ(decision.chosen_by, "opening book");
        ++replies[game.move_text({}, decision.move)];
    }
    EXPECT_NEAR(replies["c3"], 400, 60);
    EXPECT_NEAR(replies["c2"], 100, 40);
    EXPECT_NE(keeper->decide(game.read_position("T..../...../...../...../..... A"), 1).chosen_by, "opening book");
    const auto low = opponent(game, text, 1);
    EXPECT_NE(low->decide(game.initial_position(), 1).chosen_by, "opening book") << "below book_from_level";
    // Another frame: what the book names is not there.
    EXPECT_THROW((void)opponent(Lanterns({2, 2, 2, false}), text), InputError);
}

TEST(Profile, LevelsOfAFileReplaceTheUsualOnes) {
    const Profile profile = read_profile(demo_profile("lock_keeper.toml"), "own.toml");
    EXPECT_EQ(level_settings(profile, 2, LevelTable::Search).limits.depth, 1);
    EXPECT_EQ(level_settings(profile, 2, LevelTable::Search).noise, 1.0);
    EXPECT_EQ(level_settings(profile, 2, LevelTable::Search).sees_wins, 1.0);
    EXPECT_EQ(level_settings(profile, 4, LevelTable::Search).limits.nodes, 2'000u);
    EXPECT_EQ(level_settings(profile, 5, LevelTable::Search).noise, level_settings(5).noise);
    EXPECT_EQ(level_settings(profile, 10, LevelTable::Search).limits.nodes, 300'000u);
    EXPECT_LE(*level_settings(profile, 9, LevelTable::Search).limits.nodes, 300'000u)
        << "no level looks farther than the search may";
}

TEST(Profile, LevelsOfTheGameGoBeforeTheUsualOnesAndThoseOfAFileBeforeBoth) {
    const AnyGame chess{waterway::Chess()};
    const LevelChange of_game = level_change_of(chess, 1, LevelTable::Search);
    EXPECT_EQ(level_change_of(chess, 1, LevelTable::Playouts), LevelChange{});
    EXPECT_EQ(level_change_of(AnyGame(Lanterns()), 1, LevelTable::Search), LevelChange{});
    ASSERT_TRUE(of_game.overlooks.has_value());
    EXPECT_NE(of_game.overlooks, level_settings(1).overlooks);
    const Profile silent = read_profile("game = \"chess\"\nname = \"Silent\"\nchoose = \"standard\"\n", "silent.toml");
    EXPECT_EQ(level_settings(silent, 1, LevelTable::Search, of_game).overlooks, of_game.overlooks);
    const Profile keen = read_profile(
        "game = \"chess\"\nname = \"Keen\"\nchoose = \"standard\"\n[levels.1]\noverlooks = 0.1\n", "keen.toml");
    EXPECT_EQ(level_settings(keen, 1, LevelTable::Search, of_game).overlooks, 0.1);
    EXPECT_EQ(level_settings(keen, 1, LevelTable::Search, of_game).noise,
              of_game.noise.value_or(level_settings(1).noise));
}

TEST(FollowingLevel, GoesUpAndDownWithinItsBounds) {
    FollowingLevel level(4, 3, 5, 2);
    level.player_won();
    EXPECT_EQ(level.level(), 4) << "one game is not enough";
    for (int i = 0; i < 12; ++i) level.player_won();
    EXPECT_EQ(level.level(), 5) << "its most";
    for (int i = 0; i < 20; ++i) level.player_lost();
    EXPECT_EQ(level.level(), 3) << "its least";
    FollowingLevel even(5);
    for (int i = 0; i < 40; ++i) even.drawn();
    EXPECT_EQ(even.level(), 5);
}

TEST(FollowingLevel, SettlesAtThePlayersStrengthWithoutSwinging) {
    // Players who win against a level by the odds of how far it is from their own.
    for (const double strength : {2.0, 5.0, 8.0}) {
        int swings = 0, runs = 0;
        double off = 0;
        for (std::uint64_t seed = 0; seed < 40; ++seed) {
            Random random(seed);
            FollowingLevel level(4);
            int least = 10, most = 1;
            double sum = 0;
            for (int game = 0; game < 60; ++game) {
                const bool wins = random.chance(1.0 / (1.0 + std::exp(-0.8 * (strength - level.level()))));
                wins ? level.player_won() : level.player_lost();
                if (game < 30) continue;
                least = std::min(least, level.level());
                most = std::max(most, level.level());
                sum += level.level();
            }
            swings += most - least;
            off += sum / 30 - strength;
            ++runs;
        }
        EXPECT_LT(static_cast<double>(swings) / runs, 3.0) << strength << ": levels from the lowest to the highest";
        EXPECT_LT(std::abs(off / runs), 0.8) << strength;
        FollowingLevel one(4);
        EXPECT_GT(one.player().second, 1.5) << "nothing is known yet";
    }
}

TEST(Profile, SaysOnceWhatIsWrongWithAConditionHoweverOftenItIsUsed) {
    std::vector<std::string> problems;
    const char* text =
        "name = 'x'\ngame = 'scuffle'\nchoose = 'rules'\n[conditions]\nweak = { quantity = 'target stamina' }\n"
        "worse = { condition = 'weak' }\n[groups.rage]\nwhen = { condition = 'worse' }\n[[rule]]\nname = 'a'\n"
        "when = { condition = 'worse' }\n[[rule]]\nname = 'b'\nwhen = { condition = 'wrose' }\n[[fallback]]\n";
    (void)read_profile(text, "x", {nullptr, &problems, {}});
    ASSERT_EQ(problems.size(), 2u) << problems[2];
    EXPECT_NE(problems[0].find("line 5"), std::string::npos) << problems[0];
    EXPECT_NE(problems[1].find("'wrose'"), std::string::npos) << problems[1];
}

TEST(Person, IntervalsHoldTheTruthAndLevelsAreFound) {
    // People as strong as is thought of them beforehand, each after eight games at levels near them.
    const LevelRatings ratings = level_ratings(nullptr);
    Random random(5);
    int held = 0, near = 0;
    constexpr int people = 400;
    for (int i = 0; i < people; ++i) {
        double drawn = -6;
        for (int j = 0; j < 12; ++j) drawn += random.unit();
        const double truth = ratings[3] + 350 * drawn;
        std::vector<PersonGame> games;
        for (int game = 0; game < 8; ++game) {
            const PersonRating now = rate_person(games, ratings);
            const auto level = static_cast<std::size_t>(std::lround(level_of_rating(now.mean, ratings)) - lowest_level);
            const double wins = 1.0 / (1.0 + std::pow(10.0, (ratings[level] - truth) / 400));
            games.push_back({ratings[level], random.chance(wins) ? 1.0 : 0.0});
        }
        const PersonRating rating = rate_person(games, ratings);
        held += truth >= rating.low && truth <= rating.high ? 1 : 0;
        near += std::abs(truth - rating.mean) < 2 * rating.spread ? 1 : 0;
        EXPECT_LT(rating.spread, 350);
    }
    EXPECT_GT(held, people * 91 / 100);
    EXPECT_GT(near, people * 91 / 100);
}

TEST(Person, LevelsStandWhereTheProfileSaysAndInOrder) {
    const std::string text =
        "name = \"R\"\ngame = \"lanterns\"\nchoose = \"standard\"\n[levels.2]\nrating = "
        "100\n[levels.4]\nrating = 300\n[levels.6]\nrating = 290.5\n";
    const Profile profile = read_profile(text, "r.toml");
    const LevelRatings ratings = level_ratings(&profile);
    EXPECT_EQ(ratings[1], 100);
    EXPECT_EQ(ratings[2], 200);
    EXPECT_LT(ratings[0], 100);
    for (std::size_t i = 1; i < ratings.size(); ++i) EXPECT_GT(ratings[i], ratings[i - 1]);
    EXPECT_NEAR(level_of_rating(250, ratings), 3.5, 1e-9);
    EXPECT_EQ(level_of_rating(-5000, ratings), 1.0);
    EXPECT_EQ(level_of_rating(5000, ratings), 10.0);
    FollowingLevel follow(6.3, 0.8, 2, 9, 1);
    EXPECT_EQ(follow.level(), 6);
    EXPECT_NEAR(follow.player().first, 6.3, 0.1);
}
