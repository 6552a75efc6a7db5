#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/arena/ratings.hpp>

#include <cmath>
#include <set>

#include "support/compiled_games.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using waterway::Lanterns;

TEST(Match, CountsEveryGameOnceAndTakesTurnsAtMovingFirst) {
    const Lanterns game({3, 3, 3, false});
    const auto a = make_opponent(game, read_opponent("ruled"));
    const auto b = make_opponent(game, read_opponent("random"));
    int first_by_a = 0, wins_a = 0, wins_b = 0;
    const auto result = play_match(
        game, *a, *b, {.games = 40, .seed = 9}, game.initial_position(), [&](const PlayedGame<Lanterns>& played) {
            first_by_a += played.player_a == Player::First ? 1 : 0;
            auto position = game.initial_position();
            for (const auto& move : played.moves) {
                ASSERT_FALSE(game.outcome(position).has_value()) << "nobody moves after the end";
                ASSERT_TRUE(legal_moves(game, position).contains(move));
                game.play(position, move);
            }
            ASSERT_EQ(position, played.end);
            ASSERT_EQ(game.outcome(position), played.outcome);
            wins_a += played.outcome->payoff(played.player_a) > 0 ? 1 : 0;
            wins_b += played.outcome->payoff(played.player_a) < 0 ? 1 : 0;
        });
    EXPECT_EQ(first_by_a, 20);
    EXPECT_EQ(result.games, 40);
    EXPECT_EQ(result.wins_a, wins_a);
    EXPECT_EQ(result.wins_b, wins_b);
    EXPECT_EQ(result.wins_a + result.draws + result.wins_b, 40);
    EXPECT_GT(result.score_a(), 0.8);
}

TEST(Match, IsTheSameForAGameWhoseTypeIsGone) {
    const Lanterns own;
    const AnyGame game(own);
    const auto choosers = Choosers<Lanterns>::built_in();
    const auto a = make_opponent(game, read_opponent("standard@3"), {}, choosers.erased());
    const auto b = make_opponent(game, read_opponent("random"), {}, choosers.erased());
    const auto own_a = make_opponent(own, read_opponent("standard@3")),
               own_b = make_opponent(own, read_opponent("random"));
    const auto any = play_match(game, *a, *b, {.games = 10, .seed = 4}),
               typed = play_match(own, *own_a, *own_b, {.games = 10, .seed = 4});
    EXPECT_EQ(any.wins_a, typed.wins_a);
    EXPECT_EQ(any.wins_b, typed.wins_b);
    EXPECT_GT(any.wins_a, 5);
}

TEST(Match, TheSameSeedGivesTheSameGamesAndAnotherGivesOthers) {
    const Lanterns game;
    const auto a = make_opponent(game, read_opponent("alphabeta@5"));
    const auto b = make_opponent(game, read_opponent("ruled@5"));
    const auto moves_of = [&](std::uint64_t seed) {
        std::vector<Lanterns::Move> all;
        play_match(game, *a, *b, {.games = 6, .seed = seed}, game.initial_position(),
                   [&](const PlayedGame<Lanterns>& played) {
                       all.insert(all.end(), played.moves.begin(), played.moves.end());
                   });
        return all;
    };
    EXPECT_EQ(moves_of(1), moves_of(1));
    EXPECT_NE(moves_of(1), moves_of(2));
}

TEST(Match, ALongestGameIsCutOffAndSaysSo) {
    const Lanterns game;
    const auto a = make_opponent(game, read_opponent("random"));
    const auto result = play_match(game, *a, *a, {.games = 3, .longest_game = 2});
    EXPECT_EQ(result.unfinished, 3);
    EXPECT_EQ(result.draws, 3);
    EXPECT_THROW((void)play_match(game, *a, *a, {.games = 0}), InputError);
}

TEST(Match, AStopEndsASearchTooAndTheGameItWasInDoesNotCount) {
    const Lanterns game({8, 8, 4, false});
    struct Moment {  // in the middle of the first search
        mutable int asked = 0;
        bool stop_requested() const { return ++asked > 200; }
    };
    const Moment moment;
    OpponentSpec endless = read_opponent("alphabeta");
    endless.nodes = UINT64_MAX;
    const auto quick = make_opponent(game, read_opponent("random"));
    const auto slow = make_opponent(game, endless);
    int seen = 0;
    MatchOptions options{.games = 10, .stop = StopToken::of(moment)};
    const auto result =
        play_match(game, *slow, *quick, options, game.initial_position(), [&](const PlayedGame<Lanterns>&) { ++seen; });
    EXPECT_EQ(result.games, 0);
    EXPECT_EQ(seen, 0);
    EXPECT_GT(moment.asked, 200);
    options.stop = {};
    EXPECT_EQ(play_match(game, *quick, *quick, options).games, 10);
}

TEST(Match, TheIntervalIsWilsons) {
    // Known: 12 of 20 gives 0.387 to 0.781.
    const Interval known = wilson_interval(12, 20);
    EXPECT_NEAR(known.low, 0.3866, 0.0005);
    EXPECT_NEAR(known.high, 0.7812, 0.0005);
    // One lost of ten: Wilson's reaches to 0.982, and so would miss 0.99 in one match of ten.
    EXPECT_GT(wilson_interval(9, 10).high, 0.99);
    EXPECT_NEAR(wilson_interval(9, 10).low, 0.5958, 0.0005);
    EXPECT_EQ(wilson_interval(0, 20).low, 0.0);
    EXPECT_EQ(wilson_interval(20, 20).high, 1.0);
    EXPECT_GT(wilson_interval(0, 20).high, 0.1) << "twenty losses do not prove that all are lost";
    EXPECT_EQ(wilson_interval(0, 0).high, 1.0);
}

TEST(Match, TheIntervalHoldsTheTrueScoreAboutNineteenTimesInTwenty) {
    Random random(6);
    int held = 0;
    constexpr int matches = 2'000;
    for (int i = 0; i < matches; ++i) {
        double points = 0;
        for (int game = 0; game < 50; ++game) points += random.chance(0.7) ? 1 : 0;
        const Interval interval = wilson_interval(points, 50);
        held += interval.low <= 0.7 && 0.7 <= interval.high ? 1 : 0;
    }
    EXPECT_NEAR(held, matches * 0.95, matches * 0.02);
}

TEST(Match, DrawsTheEventsOfChanceAlikeForBothGamesOfAPair) {
    using testing_support::Dice;
    const Dice game;
    const auto ruled = make_opponent(game, read_opponent("ruled")),
               random = make_opponent(game, read_opponent("random"));
    std::vector<std::vector<int>> rolls;
    std::array<int, 7> seen{};
    const auto result = play_match(game, *ruled, *random, {.games = 600, .seed = 3}, game.initial_position(),
                                   [&](const PlayedGame<Dice>& played) {
                                       auto& faces = rolls.emplace_back();
                                       auto position = game.initial_position();
                                       for (const int move : played.moves) {
                                           ASSERT_EQ(game.chance_is_next(position), move <= 6);
                                           if (move <= 6) ++seen[static_cast<std::size_t>(move)], faces.push_back(move);
                                           game.play(position, move);
                                       }
                                       ASSERT_EQ(position, played.end);
                                   });
    for (std::size_t pair = 0; pair < rolls.size(); pair += 2) EXPECT_EQ(rolls[pair], rolls[pair + 1]);
    EXPECT_NE(rolls[0], rolls[2]);
    for (int face = 1; face <= 6; ++face) EXPECT_NEAR(seen[static_cast<std::size_t>(face)] / 3600.0, 1.0 / 6, 0.03);
    EXPECT_EQ(result.moves_a + result.moves_b, 3600u) << "events are nobody's moves";
    EXPECT_GT(result.interval().low, 0.5);
}

TEST(Match, OpponentsThatWouldTakeChanceForAPlayerAreRefused) {
    using testing_support::Dice;
    const Dice game;
    for (const char* name : {"minimax", "alphabeta", "maxn"})
        EXPECT_THROW((void)make_opponent(game, read_opponent(name)), InputError) << name;
    const auto ruled = make_opponent(game, read_opponent("ruled@3"));
    EXPECT_THROW((void)ruled->decide(game.initial_position(), 1), InputError) << "chance is next there";
    auto position = game.initial_position();
    game.play(position, 4);
    EXPECT_NO_THROW((void)ruled->decide(position, 1));
    const auto standard = make_opponent(game, read_opponent("standard"));
    EXPECT_EQ(standard->decide(position, 1).searched_by, "montecarlo") << "what suits a game of chance";
}

TEST(Match, IsTheSameWithAnyNumberOfThreads) {
    const Lanterns game({5, 5, 4, true});
    const auto make = [&](const char* text) {
        return [&game, text] { return make_opponent(game, read_opponent(text)); };
    };
    const auto play = [&](int threads) {
        std::vector<std::vector<Lanterns::Move>> games(40);
        const auto result = play_match_in_threads(
            game, make("standard@4"), make("ruled@6"), {.games = 40, .seed = 3, .threads = threads, .opening_plies = 2},
            MatchStart<Lanterns>{game.initial_position(), {}},
            [&](const PlayedGame<Lanterns>& played) { games[static_cast<std::size_t>(played.number)] = played.moves; });
        return std::tuple(result.wins_a, result.draws, result.wins_b, result.chosen_b, games);
    };
    EXPECT_EQ(play(1), play(4));
    const auto games = std::get<4>(play(2));
    for (std::size_t i = 0; i < games.size(); i += 2) {
        EXPECT_EQ(games[i][0], games[i + 1][0]) << "both games of a pair open alike";
        EXPECT_EQ(games[i][1], games[i + 1][1]);
    }
    EXPECT_NE(games[0], games[2]);
}

TEST(Match, TellsHowManyOfItsGamesDiffer) {
    const Lanterns game({4, 4, 3, true});
    const auto search = make_opponent(game, read_opponent("standard"));
    const auto random = make_opponent(game, read_opponent("random"));
    // Two that leave nothing to chance but the choice among equals: as many games as a set of whole games holds.
    for (auto* b : {search.get(), random.get()}) {
        std::set<std::pair<bool, std::vector<int>>> games;
        const auto result = play_match(game, *search, *b, {.games = 60, .seed = 2}, game.initial_position(),
                                       [&](const PlayedGame<Lanterns>& played) {
                                           std::vector<int> hooks;
                                           for (const auto& move : played.moves) hooks.push_back(move.hook);
                                           games.emplace(played.player_a == Player::First, hooks);
                                       });
        EXPECT_EQ(result.different_games(), static_cast<int>(games.size()));
        EXPECT_GT(result.different_games(), 1);
        EXPECT_LT(result.different_games(), 61);
    }
}

TEST(Match, BeginsWithTheOpeningsGiven) {
    const Lanterns game({3, 3, 3, false});
    const MatchStart<Lanterns> start{game.initial_position(),
                                     {{Lanterns::Move{4}, Lanterns::Move{0}}, {Lanterns::Move{1}}}};
    const auto make = [&] { return make_opponent(game, read_opponent("random")); };
    play_match_in_threads(game, make, make, {.games = 8}, start, [&](const PlayedGame<Lanterns>& played) {
        const auto& opening = start.openings[static_cast<std::size_t>(played.number / 2) % 2];
        ASSERT_TRUE(std::equal(opening.begin(), opening.end(), played.moves.begin()));
    });
    const MatchStart<Lanterns> wrong{game.initial_position(), {{Lanterns::Move{4}, Lanterns::Move{4}}}};
    EXPECT_THROW((void)play_match_in_threads(game, make, make, {.games = 2}, wrong, [](const auto&) {}), InputError);
}

TEST(Match, WhatWasPlayedBeforeIsNotPlayedAgainAndCountsOnce) {
    const Lanterns game({4, 4, 3, true});
    const auto make = [&](const char* text) {
        return [&game, text] { return make_opponent(game, read_opponent(text)); };
    };
    const MatchStart<Lanterns> start{game.initial_position(), {}};
    MatchOptions options{.games = 30, .seed = 5, .opening_plies = 1};
    std::vector<GameResult> all;
    const auto whole = play_match_in_threads(game, make("ruled@3"), make("random"), options, start,
                                             [&](const auto& played) { all.push_back(played.result); });
    Random random(2);
    for (int i = 0; i < 20; ++i) {
        std::vector<GameResult> some;
        for (const auto& result : all)
            if (random.chance(0.5)) some.push_back(result);
        random.shuffle(some);
        options.played = some;
        options.threads = 1 + i % 3;
        std::size_t fresh = 0;
        const auto rest =
            play_match_in_threads(game, make("ruled@3"), make("random"), options, start, [&](const auto&) { ++fresh; });
        EXPECT_EQ(fresh + some.size(), all.size());
        EXPECT_EQ(std::tuple(rest.wins_a, rest.draws, rest.wins_b, rest.moves_a, rest.chosen_a),
                  std::tuple(whole.wins_a, whole.draws, whole.wins_b, whole.moves_a, whole.chosen_a));
    }
}

namespace {

/// Rounds of two games, of which A wins a share of `p` in points; `draws`: of the points that the weaker one gets, how many
/// come from draws.
RoundSums played_rounds(int rounds, double p, double draws, Random& random, const SequentialTest* until = nullptr,
                        bool* missed = nullptr) {
    RoundSums seen;
    const double drawn = draws * 2 * std::min(p, 1 - p);
    for (int round = 0; round < rounds; ++round) {
        double points = 0;
        for (int game = 0; game < 2; ++game) {
            const double lot = random.unit();
            points += lot < drawn ? 0.5 : lot < drawn + p - drawn / 2 ? 1 : 0;
        }
        seen.add(points, 2);
        if (until == nullptr) continue;
        const Interval share = until->interval(seen);
        *missed = *missed || p < share.low || p > share.high;
        if (until->verdict(seen) != 0) break;
    }
    return seen;
}

}  // namespace

TEST(SequentialTest, TellsEqualsApartNoOftenerThanItsErrorRateHoweverOftenOneLooks) {
    const SequentialTest test;
    Random random(1);
    constexpr int runs = 1'000;
    for (const double draws : {0.0, 0.5})
        for (const double p : {0.5, 0.55, 0.65, 0.9}) {
            int better = 0, worse = 0, missed = 0;
            double games = 0;
            for (int run = 0; run < runs; ++run) {
                bool outside = false;
                const RoundSums seen = played_rounds(400, p, draws, random, &test, &outside);
                better += test.verdict(seen) > 0 ? 1 : 0;
                worse += test.verdict(seen) < 0 ? 1 : 0;
                missed += outside ? 1 : 0;
                games += seen.comparisons;
            }
            EXPECT_LE(missed, runs * 0.05 + 15) << "the interval holds at every look, p " << p;
            if (p == 0.5) {
                EXPECT_LE(better + worse, runs * 0.05 + 15) << "two equals are told apart";
            } else {
                EXPECT_LE(worse, runs * 0.01) << "the worse one is named, p " << p;
            }
            if (p >= 0.65) {
                EXPECT_EQ(better, runs);
                EXPECT_LT(games / runs, 160) << "p " << p;
            }
        }
    EXPECT_THROW(check_sequential_test({.error = 0.0}), InputError);
}

TEST(Ratings, IntervalsHoldWhereOneSideWinsNearlyAll) {
    Random random(5);
    const double scale = 400 / std::log(10.0);
    constexpr int runs = testing_support::sanitized ? 200 : 1'000;
    for (const double draws : {0.0, 0.4})
        for (const double p : {0.5, 0.75, 0.95, 0.99, 0.999})
            for (const int games : {10, 40, 100, 1'000}) {
                int within = 0;
                for (int run = 0; run < runs; ++run) {
                    const RoundSums seen = played_rounds(games / 2, p, draws, random);
                    const PairScore score{0, 1, seen.points, seen.comparisons, seen.variance()};
                    const Rating rating = rate_players(2, std::span(&score, 1), 1).ratings[0];
                    const double truth = scale * std::log(p / (1 - p));
                    within += rating.low <= truth && truth <= rating.high ? 1 : 0;
                }
                // Where hardly a game is lost, more: no interval between whole games holds 95 % there.
                EXPECT_GE(within, runs * 0.93 - 12) << "p " << p << ", " << games << " games, draws " << draws;
                if (games * (1 - p) >= 10) {
                    EXPECT_LE(within, runs * 0.97 + 12) << "p " << p << ", " << games;
                }
            }
    const std::vector<PairScore> all{{0, 1, 1'000.0, 1'000, 0.0}};
    EXPECT_LT(rate_players(2, all, 1).ratings[0].low, 980) << "about as Wilson's interval";
}

TEST(Ratings, IntervalsHoldInLeagues) {
    Random random(6);
    const double scale = 400 / std::log(10.0);
    for (const std::size_t players : {3u, 5u, 10u})
        for (const double spread : {0.5, 3.0})
            for (const int games : {10, 100}) {
                int within = 0, all = 0;
                const int runs = (testing_support::sanitized ? 60 : 400) / static_cast<int>(players);
                for (int run = 0; run < runs; ++run) {
                    std::vector<double> strength(players);
                    double mean = 0;
                    for (double& each : strength)
                        mean += (each = spread * (2 * random.unit() - 1)) / static_cast<double>(players);
                    std::vector<PairScore> scores;
                    for (std::size_t a = 0; a < players; ++a)
                        for (std::size_t b = a + 1; b < players; ++b) {
                            const RoundSums seen =
                                played_rounds(games / 2, 1 / (1 + std::exp(strength[b] - strength[a])), 0, random);
                            scores.push_back({a, b, seen.points, seen.comparisons, seen.variance()});
                        }
                    const RatingTable table = rate_players(players, scores);
                    for (std::size_t i = 0; i < players; ++i, ++all) {
                        const double truth = scale * (strength[i] - mean);
                        within += table.ratings[i].low <= truth && truth <= table.ratings[i].high ? 1 : 0;
                    }
                }
                EXPECT_GE(within, all * 0.93 - 12) << players << " players, spread " << spread << ", " << games;
                EXPECT_LE(within, all * 0.97 + 12) << players << " players, spread " << spread << ", " << games;
            }
}

TEST(SequentialTest, StopsAMatchAtTheSameGameWithAnyNumberOfThreads) {
    const Lanterns game;
    const auto make = [&](const char* text) {
        return [&game, text] { return make_opponent(game, read_opponent(text)); };
    };
    std::set<int> stopped_after;
    for (const int threads : {1, 2, 4}) {
        const auto result = play_match_in_threads(game, make("ruled"), make("random"),
                                                  {.games = 1'000, .threads = threads, .until_sure = SequentialTest{}});
        EXPECT_EQ(result.verdict, 1);
        stopped_after.insert(result.games);
    }
    EXPECT_EQ(stopped_after.size(), 1u);
    EXPECT_LT(*stopped_after.begin(), 40);
}

TEST(Ratings, AreTheLikeliestAndKnowHowSureTheyAre) {
    // Two players, 3 to 1: the odds are 3.5 to 1.5 with the half drawn game added to 40.
    const std::vector<PairScore> two{{0, 1, 30.0, 40}};
    const auto known = fit_ratings(2, two, 1);
    EXPECT_NEAR(known[0].rating, 400 * std::log10(30.25 / 10.25), 1e-6);
    EXPECT_EQ(known[1].rating, 0.0);
    EXPECT_LT(known[0].low, known[0].rating);
    // A chain of players with known strengths is found again, within its intervals about nineteen times in twenty.
    Random random(3);
    const std::vector<double> strengths{0, 90, 150, 260};
    int within = 0;
    constexpr int rounds = 150;
    for (int round = 0; round < rounds; ++round) {
        std::vector<PairScore> scores;
        for (std::size_t a = 0; a < strengths.size(); ++a)
            for (std::size_t b = 0; b < a; ++b) {
                PairScore score{a, b, 0, 100};
                const double chance = 1 / (1 + std::pow(10, (strengths[b] - strengths[a]) / 400));
                for (int i = 0; i < 100; ++i) score.points_a += random.chance(chance) ? 1 : 0;
                scores.push_back(score);
            }
        const auto ratings = fit_ratings(strengths.size(), scores, 0);
        for (std::size_t i = 1; i < strengths.size(); ++i)
            within += ratings[i].low <= strengths[i] && strengths[i] <= ratings[i].high ? 1 : 0;
    }
    EXPECT_NEAR(within, rounds * 3 * 0.95, rounds * 3 * 0.04);
    // Who lost everything has a rating as well; who met nobody has none.
    const std::vector<PairScore> rout{{0, 1, 0.0, 20}};
    EXPECT_LT(fit_ratings(2, rout, 1)[0].rating, -400);
    EXPECT_THROW((void)fit_ratings(3, rout, 0), InputError);
    const std::vector<PairScore> impossible{{0, 1, 21.0, 20}};
    EXPECT_THROW((void)fit_ratings(2, impossible, 0), InputError);
}

TEST(Match, IntervalsOfPayoffsHold) {
    struct Law {
        const char* name;
        std::vector<Payoff> payoffs;
        std::vector<double> weights;
    };
    std::vector<Payoff> margins;
    std::vector<double> bell;
    for (int payoff = -30; payoff <= 30; ++payoff) {
        margins.push_back(payoff);
        bell.push_back(std::exp(-std::pow((payoff - 6) / 10.0, 2) / 2));
    }
    Random random(12);
    for (const Law& law : {Law{"even", {1, -1}, {0.5, 0.5}}, Law{"one side wins nine in ten", {1, -1}, {0.9, 0.1}},
                           Law{"one side wins nearly all", {1, -1}, {0.99, 0.01}},
                           Law{"nearly all drawn", {1, 0, -1}, {0.05, 0.9, 0.05}},
                           Law{"three seats", {2, -1}, {0.5, 0.5}}, Law{"margins", margins, bell}}) {
        double mean = 0, sum = 0;
        for (std::size_t i = 0; i < law.payoffs.size(); ++i)
            mean += law.payoffs[i] * law.weights[i], sum += law.weights[i];
        mean /= sum;
        for (const int games : {5, 10, 40, 100, 400}) {
            const int matches = testing_support::sanitized ? 200 : 1'000;
            int held = 0;
            for (int i = 0; i < matches; ++i) {
                MatchResult result;
                result.players = 2;
                for (int game = 0; game < games; ++game)
                    result.payoffs_a.push_back(law.payoffs[weighted_draw(law.weights, random.unit() * sum)]);
                const Interval interval = result.payoff_interval();
                held += interval.low <= mean + 1e-9 && interval.high >= mean - 1e-9 ? 1 : 0;
            }
            const double share = 100.0 * held / matches;
            std::printf("%s, %d games: %.1f\n", law.name, games, share);
            EXPECT_GE(share, games < 10 ? 85.0 : 91.0) << law.name << ", " << games << " games";
        }
    }
}
