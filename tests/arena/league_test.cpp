#include "arvek/arena/league.hpp"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>
#include <cstdio>
#include <filesystem>

#include "arvek/arena/league_record.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "support/sanitized.hpp"

using namespace arvek;

namespace {

/// Players whose strengths are known, on the scale of ratings.
struct Simulated {
    std::vector<double> strengths;
    double draws = 0.0;  ///< how much of what may be drawn is

    GameRecord play(const League& league, const GameTask& task, Random& random) const {
        const auto [a, b] = league.players_of(task.pairing);
        const double expected = 1 / (1 + std::pow(10, (strengths[b] - strengths[a]) / 400));
        const double drawn = draws * 2 * std::min(expected, 1 - expected);
        const double lot = random.unit();
        GameRecord game;
        game.counted.number = task.number;
        game.counted.a_first = task.number % 2 == 0;
        game.counted.winner = lot < drawn                  ? MatchWinner::Nobody
                              : lot < drawn / 2 + expected ? MatchWinner::A
                                                           : MatchWinner::B;
        game.counted.points_a = game.counted.winner == MatchWinner::A   ? 1.0
                                : game.counted.winner == MatchWinner::B ? 0.0
                                                                        : 0.5;
        return game;
    }
    LeagueResult league(LeagueOptions options, std::uint64_t seed) const {
        options.players = static_cast<int>(strengths.size());
        League league(options);
        Random random(seed);
        while (const auto task = league.next()) league.add(*task, play(league, *task, random));
        return league.result();
    }
};

/// How many of the intervals of leagues hold the truth.
double share_within(const Simulated& players, const LeagueOptions& options, int leagues) {
    double mean = 0;
    for (const double strength : players.strengths) mean += strength / static_cast<double>(players.strengths.size());
    const bool from_first = options.shape == LeagueShape::AgainstFirst;
    int within = 0, all = 0;
    for (int i = 0; i < leagues; ++i)
        for (const Standing& standing : players.league(options, static_cast<std::uint64_t>(i) + 1).standings) {
            if (from_first && standing.player == 0) continue;
            const double truth = players.strengths[standing.player] - (from_first ? players.strengths[0] : mean);
            within += standing.rating.low <= truth && truth <= standing.rating.high ? 1 : 0;
            ++all;
        }
    return static_cast<double>(within) / all;
}

}  // namespace

TEST(League, IntervalsHoldTheTruthAboutNineteenTimesInTwenty) {
    const int leagues = testing_support::sanitized ? 150 : 1'000;
    const double off = testing_support::sanitized ? 0.03 : 0.02;
    const Simulated decided{{-150, -40, 0, 30, 160}, 0.0}, drawish{{-150, -40, 0, 30, 160}, 0.7};
    EXPECT_NEAR(share_within(decided, {.games = 40}, leagues), 0.95, off);
    EXPECT_NEAR(share_within(drawish, {.games = 40}, leagues), 0.96, off) << "few games, mostly drawn: a little wide";
    EXPECT_NEAR(share_within(drawish, {.games = 100, .shape = LeagueShape::AgainstFirst}, leagues), 0.95, off);
}

TEST(League, IsHardlyEverSureOfAnOrderThatIsNone) {
    const int leagues = testing_support::sanitized ? 40 : 300;
    const Simulated equal{{0, 0, 0}, 0.3}, apart{{0, 120, 260}, 0.3};
    int sure = 0, wrong = 0, unsure = 0;
    for (int i = 0; i < leagues; ++i) {
        const LeagueOptions options{.games = 400, .order_error = 0.05};
        sure += equal.league(options, static_cast<std::uint64_t>(i)).is_sure ? 1 : 0;
        const LeagueResult result = apart.league(options, static_cast<std::uint64_t>(i));
        if (!result.is_sure)
            ++unsure;
        else
            wrong += result.standings[0].player != 2 || result.standings[1].player != 1 ? 1 : 0;
    }
    EXPECT_LE(sure, leagues / 20 + 3);
    EXPECT_LE(wrong, leagues / 20);
    EXPECT_LE(unsure, leagues / 5) << "of those that 120 and more lie between";
}

TEST(League, GoesByRoundsInWhichAllPlayAsMuch) {
    League league({.players = 3, .games = 5});  // three rounds of two games of each pairing
    EXPECT_EQ(league.all_games(), 18u);
    std::map<std::pair<std::size_t, int>, int> met;
    int games = 0;
    while (const auto task = league.next()) {
        ++met[{task->pairing, task->number}];
        EXPECT_EQ(task->number / 2, games / 6) << "no round begins before the one before it";
        ++games;
    }
    EXPECT_EQ(met.size(), 18u);
    EXPECT_EQ(League({.players = 4, .games = 2, .shape = LeagueShape::AgainstFirst}).all_games(), 6u);
    EXPECT_EQ(League({.players = 4, .seats = 1, .games = 3}).all_games(), 12u) << "each plays every deal once";
    EXPECT_EQ(League({.players = 2, .seats = 3, .games = 3}).all_games(), 3u);
    EXPECT_THROW(League({.players = 1}), InputError);
    EXPECT_THROW(League({.players = 65}), InputError);
    EXPECT_THROW(League({.games = 0}), InputError);
    EXPECT_THROW(League({.order_error = 0.5}), InputError);
    EXPECT_THROW(League({.players = 64, .games = 1'000'000}), InputError);
}

TEST(League, ComparesPlayersOfAGameForOneOnTheSameDeals) {
    League league({.players = 3, .seats = 1, .games = 10});
    while (const auto task = league.next()) {
        GameRecord game;
        game.counted.number = task->number;
        // The deal counts for more than the player.
        game.counted.payoff_a = 100 * task->number + static_cast<Payoff>(task->pairing);
        game.counted.moves_a = 4;
        game.counted.seconds_a = 2.0;
        league.add(*task, game);
    }
    const LeagueResult result = league.result();
    EXPECT_EQ(result.standings[0].player, 2u);
    EXPECT_EQ(result.standings[0].wins, 20);
    EXPECT_EQ(result.standings[2].losses, 20);
    EXPECT_EQ(result.standings[0].games, 10);
    EXPECT_EQ(result.standings[0].scores.best, 1802);
    EXPECT_EQ(result.standings[1].seconds_per_move(), 0.5);
    EXPECT_EQ(result.games, 30);
}

TEST(League, EndsAlikeWhateverFinishesFirstAndWhoeverWasStopped) {
    const Simulated players{{0, 60, 200, 210}, 0.2};
    const LeagueOptions options{.players = 4, .games = 60, .order_error = 0.05};
    // A game by its task alone, as an opponent with a seed plays it.
    const auto play = [&](const League& league, const GameTask& task) {
        Random random(1000 * task.pairing + static_cast<std::uint64_t>(task.number));
        return players.play(league, task, random);
    };
    const auto finished = [&](int threads, int stop_after, const std::vector<std::pair<GameTask, GameRecord>>& played,
                              std::vector<std::pair<GameTask, GameRecord>>& kept) {
        struct Kept final : GameSchedule {
            Kept(const LeagueOptions& own, std::vector<std::pair<GameTask, GameRecord>>& all)
                : league(own), games(all) {}
            std::optional<GameTask> next() override { return league.next(); }
            void add(const GameTask& task, const GameRecord& game) override {
                games.emplace_back(task, game);
                league.add(task, game);
            }
            League league;
            std::vector<std::pair<GameTask, GameRecord>>& games;
        } schedule(options, kept);
        for (const auto& [task, game] : played) schedule.league.add(task, game);
        std::atomic<int> left = stop_after;
        ThreadPool pool(threads);
        pool.play(schedule, [&](std::size_t, const GameTask& task) -> std::optional<GameRecord> {
            if (--left < 0) return std::nullopt;
            return play(schedule.league, task);
        });
        return schedule.league.result();
    };
    std::vector<std::pair<GameTask, GameRecord>> ignored;
    const LeagueResult whole = finished(1, 1'000'000, {}, ignored);
    const auto expect_same = [&](const LeagueResult& other) {
        ASSERT_EQ(other.games, whole.games);
        ASSERT_EQ(other.rounds, whole.rounds);
        for (std::size_t i = 0; i < whole.standings.size(); ++i) {
            EXPECT_EQ(other.standings[i].player, whole.standings[i].player);
            EXPECT_EQ(other.standings[i].rating.rating, whole.standings[i].rating.rating);
            EXPECT_EQ(other.standings[i].rating.low, whole.standings[i].rating.low);
        }
    };
    expect_same(finished(4, 1'000'000, {}, ignored));
    for (const int stop_after : {0, 1, 7, 100}) {
        std::vector<std::pair<GameTask, GameRecord>> before;
        (void)finished(3, stop_after, {}, before);
        EXPECT_EQ(before.size(), static_cast<std::size_t>(stop_after));
        expect_same(finished(2, 1'000'000, before, ignored));
    }
}

TEST(League, ARecordGoesOnAndRefusesAnother) {
    const std::string path = (std::filesystem::temp_directory_path() / "arvek_league_record.jsonl").string();
    std::filesystem::remove(path);
    LeagueIdentity identity;
    identity.game = "none";
    identity.names = {"one", "two", "three"};
    const Simulated players{{0, 60, 200}, 0.2};
    const League league({.players = 3, .games = 4});
    Random random(1);
    {
        LeagueRecord record(path, identity, false);
        for (const GameTask& task : {GameTask{0, 0}, GameTask{2, 1}, GameTask{1, 3}}) {
            GameRecord game = players.play(league, task, random);
            game.counted.seat_a = task.number % 2;
            record.add(task, game);
        }
        EXPECT_THROW(LeagueRecord(path, identity, true), InputError) << "one league at a time";
    }
    EXPECT_THROW(LeagueRecord(path, identity, false), InputError);
    {
        const LeagueRecord again(path, identity, true);
        ASSERT_EQ(again.games().size(), 3u);
        EXPECT_EQ(again.games()[1].first, (GameTask{2, 1}));
        EXPECT_EQ(again.games()[1].second.seats, (std::vector<std::string>{"three", "two"}));
    }
    LeagueIdentity other = identity;
    other.names[1] = "another";
    EXPECT_THROW(LeagueRecord(path, other, true), InputError);
    std::filesystem::remove(path);
}
