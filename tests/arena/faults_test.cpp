// What a match does with opponents and games that break, and with records that were tampered with.

#include <gtest/gtest.h>

#include <arvek/arena/match.hpp>
#include <arvek/arena/record.hpp>
#include <arvek/arena/steady_clock.hpp>
#include <filesystem>
#include <fstream>
#include <sstream>
#include <thread>

#include "support/compiled_games.hpp"

using namespace arvek;
using testing_support::RandomTree;
using waterway::Lanterns;

namespace {

enum class Mischief { Illegal, Throws, ThrowsNoException, Slow };

/// Plays at random until its third decision, and then does what it should not.
class Faulty final : public Opponent<Lanterns> {
   public:
    explicit Faulty(Mischief fault) : fault_(fault) {}
    Decision<Lanterns::Move> decide(const Lanterns::Position& position, std::uint64_t seed,
                                    std::span<const Lanterns::Position> earlier, StopToken) override {
        const auto moves = legal_moves(game_, position);
        Decision<Lanterns::Move> decision;
        decision.move = moves[static_cast<std::size_t>(Random(derived_seed(seed, earlier.size())).below(moves.size()))];
        if (earlier.size() < 4) return decision;
        switch (fault_) {
            case Mischief::Illegal: decision.move = game_.read_move(game_.initial_position(), "a1"); break;
            case Mischief::Throws: throw std::runtime_error("out of ideas");
            case Mischief::ThrowsNoException: throw 7;
            case Mischief::Slow: std::this_thread::sleep_for(std::chrono::milliseconds(150));
        }
        return decision;
    }

   private:
    Lanterns game_;
    Mischief fault_;
};

std::string read(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream text;
    text << in.rdbuf();
    return text.str();
}

}  // namespace

TEST(MatchFaults, AFaultLosesTheGameAndTheMatchGoesOn) {
    const Lanterns game;
    for (const auto& [fault, end] : {std::pair{Mischief::Throws, EndedBy::Exception},
                                     {Mischief::ThrowsNoException, EndedBy::Exception},
                                     {Mischief::Slow, EndedBy::Time},
                                     {Mischief::Illegal, EndedBy::IllegalMove}}) {
        const EndedBy expected = end;
        Faulty faulty(fault);
        const auto random = make_opponent(game, read_opponent("random"));
        MatchOptions options{.games = 6, .clock = steady_seconds};
        options.seconds_a = 0.02;
        int seen = 0, by_fault = 0;
        const auto result = play_match(game, faulty, *random, options, game.initial_position(),
                                       [&](const PlayedGame<Lanterns>& played) {
                                           ++seen;
                                           by_fault += played.result.ended_by == expected ? 1 : 0;
                                           if (played.result.is_lost_by_fault()) {
                                               EXPECT_EQ(played.result.winner, MatchWinner::B);
                                               EXPECT_FALSE(played.result.fault.empty());
                                           }
                                       });
        EXPECT_EQ(seen, 6);
        EXPECT_EQ(result.games, 6);
        EXPECT_EQ(result.faults_a, by_fault);
        EXPECT_EQ(result.faults_b, 0);
        if (fault != Mischief::Illegal) {
            EXPECT_EQ(by_fault, 6) << name_of(end);
        }
        EXPECT_EQ(ended_by_named(name_of(end)), end);
    }
}

TEST(MatchFaults, RulesThatBreakAreNobodysFault) {
    const RandomTree game{.seed = 1, .longest = 9, .barren_from = 1};
    const auto random = make_opponent(game, read_opponent("random"));
    const auto result = play_match(game, *random, *random, {.games = 5, .seed = 3});
    EXPECT_GE(result.broken, 3);
    EXPECT_EQ(result.games + result.broken, 5);
    EXPECT_NE(result.first_fault.find("generate_moves"), std::string::npos) << result.first_fault;
}

TEST(MatchFaults, SaysHowGamesWereDrawn) {
    const testing_support::Hop game;
    const auto random = make_opponent(game, read_opponent("random"));
    const auto result = play_match(game, *random, *random, {.games = 30, .seed = 2, .longest_game = 60});
    EXPECT_GT(result.repetitions, 0);
    EXPECT_GT(result.unfinished, 0);
    EXPECT_EQ(result.draws, result.repetitions + result.unfinished);
}

TEST(MatchFaults, GoingRoundIsNoWayOutForALevel) {
    const testing_support::Hop game;
    const auto random = make_opponent(game, read_opponent("random"));
    const auto score = [&](int level) {
        OpponentSpec spec = read_opponent("standard");
        spec.level = level;
        return play_match(game, *make_opponent(game, spec), *random,
                          {.games = 30, .seed = 1, .longest_game = 300, .opening_plies = 2});
    };
    const auto third = score(3), fifth = score(5), seventh = score(7);
    EXPECT_GE(fifth.wins_a, 22);
    EXPECT_GE(seventh.wins_a, 22);
    EXPECT_GE(seventh.wins_a + 2, third.wins_a) << "a higher level is not worse against the weakest";
}

TEST(MatchRecord, RefusesWhatCannotBeAndNamesTheLine) {
    const std::string path =
        (std::filesystem::temp_directory_path() / ("arvek_record_" + std::to_string(::getpid()))).string();
    MatchIdentity identity;
    identity.game = "lanterns";
    identity.a = "x";
    identity.b = "y";
    identity.digests["parameter teal"] = 1;
    GameRecord game;
    game.moves = {"a1", "b2"};
    game.counted.plies = 2;
    game.counted.moves_a = game.counted.moves_b = 1;
    {
        MatchRecord record(path, identity, false);
        record.add(game);
        game.counted.number = 1;
        game.counted.a_first = false;
        game.counted.seat_a = 1;
        record.add(game);
    }
    const std::string whole = read(path);
    const auto refused = [&](const std::string& from, const std::string& to) -> std::string {
        std::string text = whole;
        const auto at = text.rfind(from);
        EXPECT_NE(at, std::string::npos) << from;
        text.replace(at, from.size(), to);
        std::ofstream(path, std::ios::binary) << text;
        try {
            MatchRecord record(path, identity, true);
        } catch (const InputError& error) {
            EXPECT_EQ(read(path), text) << "nothing is changed";
            return error.what();
        }
        return "accepted";
    };
    for (const auto& [from, to] :
         std::vector<std::pair<std::string, std::string>>{{"\"number\":1", "\"number\":-1"},
                                                          {"\"number\":1", "\"number\":0"},
                                                          {"\"number\":1", "\"number\":99999999999"},
                                                          {"\"number\":1", "\"number\":1.5"},
                                                          {"\"number\":1", "\"number\":3000000"},
                                                          {"\"plies\":2", "\"plies\":7"},
                                                          {"\"plies\":2", "\"plies\":-2"},
                                                          {"\"moves_a\":1", "\"moves_a\":900"},
                                                          {"\"seconds_a\":0.0", "\"seconds_a\":-1.0"},
                                                          {"\"seconds_a\":0.0", "\"seconds_a\":1e300"},
                                                          {"\"a_first\":false", "\"a_first\":true"},
                                                          {"\"seat_a\":1", "\"seat_a\":0"},
                                                          {"\"points_a\":0.5", "\"points_a\":1.0"},
                                                          {"\"points_a\":0.5", "\"points_a\":7.5"},
                                                          {"\"payoff_a\":0", "\"payoff_a\":200000000"},
                                                          {"\"winner\":\"none\"", "\"winner\":\"c\""},
                                                          {"\"ended_by\":\"rules\"", "\"ended_by\":\"time\""},
                                                          {"\"chosen_a\":{}", "\"chosen_a\":{\"x\":12}"},
                                                          {"\"result\"", "\"resolt\""}})
        EXPECT_NE(refused(from, to).find(", line 3: "), std::string::npos)
            << from << " as " << to << ": " << refused(from, to);
    // What editors do to a file does no harm.
    std::string edited = "\xef\xbb\xbf";
    for (const char letter : whole) edited += letter == '\n' ? std::string("\r\n") : std::string(1, letter);
    std::ofstream(path, std::ios::binary) << edited;
    {
        MatchRecord record(path, identity, true);
        EXPECT_EQ(record.games().size(), 2u);
        game.counted.number = 2;
        game.counted.a_first = true;
        game.counted.seat_a = 0;
        record.add(game);
    }
    EXPECT_EQ(MatchRecord(path, identity, true).games().size(), 3u);
    // Another file behind a parameter is another match.
    identity.digests["parameter teal"] = 2;
    try {
        MatchRecord record(path, identity, true);
        ADD_FAILURE() << "accepted";
    } catch (const InputError& error) {
        EXPECT_NE(std::string(error.what()).find("the file of parameter teal has changed"), std::string::npos);
    }
    std::filesystem::remove(path);
}
