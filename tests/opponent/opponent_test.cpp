#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/pace.hpp>
#include <arvek/opponent/profile.hpp>

#include <array>
#include <cmath>
#include <set>

#include "support/brute_force.hpp"
#include "support/compiled_games.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using waterway::Lanterns;

namespace {

OpponentSpec at_level(const std::string& name, int level) {
    OpponentSpec spec;
    spec.name = name;
    spec.level = level;
    return spec;
}

}  // namespace

TEST(OpponentSpec, ReadsNamesAndLevelsAndWritesThemBack) {
    for (const char* text : {"random", "ruled@1", "minimax@9", "alphabeta"})
        EXPECT_EQ(opponent_text(read_opponent(text)), text);
    EXPECT_EQ(opponent_text(read_opponent("alphabeta@10")), "alphabeta");
    for (const char* wrong : {"", "alfa", "alphabeta@", "alphabeta@0", "alphabeta@11", "alphabeta@3x", "alphabeta@-1",
                              "random@3", "alphabeta@99999999999999999999", "@3"})
        EXPECT_THROW((void)read_opponent(wrong), InputError) << wrong;
}

template <class G>
static void expect_legal_and_repeatable(const G& game, const std::string& name, int level, Random& random) {
    const auto opponent = make_opponent(game, at_level(name, level));
    const auto twin = make_opponent(game, at_level(name, level));
    for (int i = 0; i < 20; ++i) {
        auto position = game.initial_position();
        settle_chance(game, position, random);
        for (int ply = 0; ply < i % 12; ++ply) {
            const auto moves = legal_moves(game, position);
            auto next = position;
            game.play(next, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            settle_chance(game, next, random);
            if (game.outcome(next)) break;
            position = next;
        }
        const auto decision = opponent->decide(position, static_cast<std::uint64_t>(i));
        const auto legal = legal_moves(game, position);
        EXPECT_TRUE(legal.contains(decision.move));
        EXPECT_EQ(decision.ranked.size(), legal.size());
        EXPECT_EQ(decision.ranked[static_cast<std::size_t>(decision.rank) - 1].move, decision.move);
        for (const auto& move : decision.overlooked) EXPECT_NE(move, decision.move);
        EXPECT_EQ(decision.move, twin->decide(position, static_cast<std::uint64_t>(i)).move);
    }
}

TEST(Opponent, EveryOneOfThemPlaysLegallyAndRepeatably) {
    const Lanterns game({4, 4, 3, true});
    const waterway::Downstream of_chance({2, 2, 6, 3, 4});
    Random random(1);
    for (const ChooserInfo& info : built_in_choosers())
        for (const int level : {1, 3, 5, 10}) {
            if (info.name == "features") continue;  // it needs weights
            if (!info.has_levels && level < highest_level) continue;
            if (info.needs.empty()) expect_legal_and_repeatable(game, info.name, level, random);
            const AnyGame any(of_chance);
            if (ChooserSet::why_not(any, info).empty() && info.becomes == nullptr &&
                (level < highest_level || !info.looks_ahead))  // that takes half a million nodes
                expect_legal_and_repeatable(of_chance, info.name, level, random);
        }
}

TEST(Opponent, AWinInOneIsSeenMoreSurelyFromLevelToLevelAndAlwaysFromEight) {
    const Lanterns game;
    Random random(2);
    const int positions = testing_support::sanitized ? 40 : 300;
    std::array<int, 11> seen{};
    for (int met = 0; met < positions;) {
        const auto position = testing_support::random_position(game, 8 + static_cast<int>(random.below(12)), random);
        const auto wins = [&](const Lanterns::Move& move) {
            auto after = position;
            game.play(after, move);
            const auto outcome = game.outcome(after);
            return outcome && outcome->payoff(position.to_move) > 0;
        };
        const auto legal = legal_moves(game, position);
        if (std::none_of(legal.begin(), legal.end(), wins)) continue;
        ++met;
        for (int level = 1; level <= 10; ++level)
            for (const std::string name : {"alphabeta", "ruled"}) {
                const bool won = wins(make_opponent(game, at_level(name, level))->decide(position, random.next()).move);
                seen[static_cast<std::size_t>(level)] += won ? 1 : 0;
                if (level >= sees_wins_from_level) {
                    EXPECT_TRUE(won) << name << "@" << level << " " << game.position_text(position);
                }
            }
    }
    EXPECT_GT(seen[1], positions * 2 * 45 / 100) << "own wins are mostly seen by those who see at all";
    EXPECT_LT(seen[1], positions * 2 * 85 / 100) << "level 1 is there to be beaten";
    for (std::size_t level = 2; level <= 10; ++level)
        EXPECT_GT(seen[level], seen[level - 1] - positions / 8) << "no cliff down at " << level;
}

TEST(Opponent, ALossInOneIsPreventedMoreSurelyFromLevelToLevelAndAlwaysFromNine) {
    const Lanterns game;
    Random random(7);
    const int dangers = testing_support::sanitized ? 20 : 200;
    std::array<int, 11> prevented{};
    for (int met = 0; met < dangers;) {
        const auto position = testing_support::random_position(game, 8 + static_cast<int>(random.below(12)), random);
        if (game.outcome(position)) continue;
        const auto loses = [&](const Lanterns::Move& move) {
            auto after = position;
            game.play(after, move);
            if (game.outcome(after)) return false;
            for (const auto& reply : legal_moves(game, after)) {
                auto end = after;
                game.play(end, reply);
                const auto outcome = game.outcome(end);
                if (outcome && outcome->payoff(position.to_move) < 0) return true;
            }
            return false;
        };
        const auto legal = legal_moves(game, position);
        const auto losing = std::count_if(legal.begin(), legal.end(), loses);
        if (losing == 0 || losing == static_cast<std::ptrdiff_t>(legal.size())) continue;
        ++met;
        for (const int level : {1, 3, 5, 7, 9, 10})
            for (const std::string name : {"alphabeta", "ruled"}) {
                const bool kept =
                    !loses(make_opponent(game, at_level(name, level))->decide(position, random.next()).move);
                prevented[static_cast<std::size_t>(level)] += kept ? 1 : 0;
                if (level >= sees_losses_from_level) {
                    EXPECT_TRUE(kept) << name << "@" << level << " " << game.position_text(position);
                }
            }
    }
    EXPECT_LT(prevented[1], 2 * dangers * 8 / 10) << "level 1 is there to be beaten";
    for (std::size_t level = 3; level <= 9; level += 2)
        EXPECT_GT(prevented[level], prevented[level - 2] - dangers / 10) << "no cliff down at " << level;
}

TEST(Opponent, WhatStandsOutIsHardlyOverlookedAndWhatHidesIsMore) {
    // A win in one against a quiet move, over many games.
    const Lanterns game;
    const auto position = game.read_position("TTT../AA.A./...../...../..... T");
    const auto opponent = make_opponent(game, at_level("standard", 3));
    int win_overlooked = 0, quiet_overlooked = 0;
    const auto name = [&](const auto& move) { return game.move_text(position, move); };
    const int games = testing_support::sanitized ? 100 : 600;
    for (int seed = 0; seed < games; ++seed)
        for (const auto& move : opponent->decide(position, static_cast<std::uint64_t>(seed)).overlooked) {
            win_overlooked += name(move) == "d5" ? 1 : 0;
            quiet_overlooked += name(move) == "a1" ? 1 : 0;
        }
    EXPECT_LT(win_overlooked, games / 12);
    EXPECT_GT(quiet_overlooked, games / 4);
    // A game that says itself what stands out.
    LevelSettings level;
    level.overlooks = 0.4;
    EXPECT_LT(level.overlooks_at(1.0), 0.05);
    EXPECT_GT(level.overlooks_at(0.0), 0.6);
    level.overlooks = 1.0;
    EXPECT_EQ(level.overlooks_at(1.0), 1.0) << "who sees nothing does not see that either";
}

TEST(Opponent, TheTopLevelsVaryTheirOpeningsAndLoseNothingProvenByIt) {
    const Lanterns game({5, 4, 4, false});
    std::set<std::string> games;
    const auto opponent = make_opponent(game, [] {
        OpponentSpec spec = at_level("standard", 9);
        spec.nodes = 2'000;
        return spec;
    }());
    const int seeds = testing_support::sanitized ? 10 : 50;
    for (int seed = 0; seed < seeds; ++seed) {
        std::vector<Lanterns::Position> positions{game.initial_position()};
        std::string moves;
        for (int ply = 0; ply < 8 && !game.outcome(positions.back()); ++ply) {
            const auto decision = opponent->decide(positions.back(), static_cast<std::uint64_t>(seed),
                                                   {positions.data(), positions.size() - 1});
            const auto& best = decision.ranked.front();
            const auto& played = decision.ranked[static_cast<std::size_t>(decision.rank) - 1];
            if (best.score.is_proven_win()) {
                EXPECT_EQ(best.score, played.score);
            }
            EXPECT_FALSE(played.score.is_proven_loss() && !best.score.is_proven_loss());
            moves += game.move_text(positions.back(), decision.move);
            auto after = positions.back();
            game.play(after, decision.move);
            positions.push_back(after);
        }
        games.insert(moves);
    }
    EXPECT_GE(static_cast<int>(games.size()), seeds / 2);
}

TEST(Opponent, ALevelSaysWhatItGaveAway) {
    const Lanterns game;
    Random random(9);
    int gave = 0;
    for (int i = 0; i < 100; ++i) {
        const auto position = testing_support::random_position(game, static_cast<int>(random.below(12)), random);
        if (game.outcome(position)) continue;
        const auto decision = make_opponent(game, at_level("standard", 2))->decide(position, random.next());
        for (std::size_t r = 1; r < decision.ranked.size(); ++r)
            ASSERT_GE(decision.ranked[r - 1].score, decision.ranked[r].score) << "best first, whatever is played";
        gave += decision.rank > 1 ? 1 : 0;
    }
    EXPECT_GT(gave, 50);
}

TEST(Opponent, WhatALevelOverlooksStaysOverlookedForAWhile) {
    const Lanterns game({6, 6, 4, false});
    const auto opponent = make_opponent(game, at_level("standard", 3));
    const std::vector<Lanterns::Position> one(1, game.initial_position()), two(2, game.initial_position());
    int stayed = 0, all = 0, other_seed = 0;
    for (std::uint64_t seed = 0; seed < 50; ++seed) {
        const auto now = opponent->decide(game.initial_position(), seed, one);
        const auto later = opponent->decide(game.initial_position(), seed, two);
        const auto elsewhere = opponent->decide(game.initial_position(), seed + 1000, one);
        const auto has = [](const auto& decision, const auto& move) {
            return std::find(decision.overlooked.begin(), decision.overlooked.end(), move) != decision.overlooked.end();
        };
        for (const auto& move : now.overlooked) {
            ++all;
            stayed += has(later, move) ? 1 : 0;
            other_seed += has(elsewhere, move) ? 1 : 0;
        }
    }
    EXPECT_GT(stayed, all * 8 / 10);
    EXPECT_LT(other_seed, stayed * 8 / 10);
}

TEST(Opponent, FullDepthNeverLosesAndTheLowestLevelCanBeBeatenByChance) {
    const Lanterns game({3, 3, 3, false});
    const auto random = make_opponent(game, read_opponent("random"));
    const int part = testing_support::sanitized ? 10 : 1;
    for (const std::string name : {"alphabeta", "minimax"}) {
        const auto strong = make_opponent(game, read_opponent(name));
        EXPECT_EQ(play_match(game, *strong, *random, {.games = 100 / part, .seed = 3}).wins_b, 0) << name;
        const auto weak = make_opponent(game, at_level(name, 1));
        EXPECT_GE(play_match(game, *random, *weak, {.games = 400 / part, .seed = 4}).score_a(), 0.08) << name;
    }
}

TEST(Opponent, HigherLevelsScoreAgainstLowerOnes) {
    const Lanterns game({6, 5, 4, true});
    for (const std::string name : {"alphabeta", "ruled"})
        for (const int level : {3, 5, 7}) {
            const auto higher = make_opponent(game, at_level(name, level));
            const auto lower = make_opponent(game, at_level(name, level - 2));
            EXPECT_GT(play_match(game, *higher, *lower, {.games = 200, .seed = 5}).interval().low, 0.5)
                << name << "@" << level;
        }
}

TEST(Opponent, TheCallersLimitsReplaceTheLevels) {
    const Lanterns game;
    OpponentSpec spec = read_opponent("alphabeta@7");
    spec.depth = 1;
    const auto decision = make_opponent(game, spec)->decide(game.initial_position(), 1);
    EXPECT_EQ(decision.stats.depth, 1);
    EXPECT_EQ(decision.stats.nodes, 1 + decision.ranked.size());
    for (const char* name : {"random", "ruled"}) {
        OpponentSpec blind = read_opponent(name);
        blind.depth = 3;
        EXPECT_THROW((void)make_opponent(game, blind), InputError) << name;
    }
    EXPECT_THROW((void)make_opponent(game, at_level("alphabeta", 11)), InputError);
    EXPECT_THROW((void)make_opponent(game, at_level("alphabet", 10)), InputError);
    EXPECT_THROW((void)make_opponent(game, at_level("random", 2)), InputError);
}

TEST(Pace, WaitsAtLeastItsTimeAndNoLongerThanItsVariation) {
    Random random(1);
    const Pace pace{1.0, 0.5};
    double shortest = 10, longest = 0;
    for (int i = 0; i < 1'000; ++i) {
        const double wait = seconds_to_wait(pace, 0.25, random);
        shortest = std::min(shortest, wait);
        longest = std::max(longest, wait);
    }
    EXPECT_GE(shortest, 0.75);
    EXPECT_LE(longest, 1.25);
    EXPECT_GT(longest - shortest, 0.3);
    EXPECT_EQ(seconds_to_wait(pace, 2.0, random), 0.0);
}

TEST(Level, NoiseLiftsWorseMovesInProportionAndNeverBeyondTheMostThatMayBeLost) {
    LevelSettings level;
    level.noise = 4.0 / 3.0;
    level.most_lost = 3.2;
    // The better half of the others falls short of the best by 1 and 2: 1.5 in the mean, and 9 is beyond what may be lost.
    const std::vector<double> worths{10, 9, 8, 1};
    std::array<int, 4> first{};
    for (std::uint64_t seed = 0; seed < 4'000; ++seed) {
        const auto order = noisy_order(worths, level, seed);
        ASSERT_EQ(order.size(), 4u);
        ASSERT_EQ(order, noisy_order(worths, level, seed));
        ASSERT_EQ(order.back(), 3u) << "what would lose too much comes last";
        ++first[order.front()];
    }
    // With that noise a worth's chance goes with its exponential: e^(w / 2) at 4/3 times 1.5.
    const double sum = std::exp(5.0) + std::exp(4.5) + std::exp(4.0);
    EXPECT_NEAR(first[0], 4'000 * std::exp(5.0) / sum, 150);
    EXPECT_NEAR(first[1], 4'000 * std::exp(4.5) / sum, 150);
    EXPECT_NEAR(first[2], 4'000 * std::exp(4.0) / sum, 150);
    // The same, whatever the unit of the game's scores.
    std::vector<double> large;
    for (const double worth : worths) large.push_back(1'000 * worth);
    EXPECT_EQ(noisy_order(worths, level, 5), noisy_order(large, level, 5));
    level.noise = 0;
    EXPECT_EQ(noisy_order(std::vector<double>{1, 3, 2}, level, 9), (std::vector<std::size_t>{1, 2, 0}));
}

TEST(Level, ProvenScoresStandApartFromEveryEstimate) {
    const std::vector<Score> scores{Score::estimate(40),  Score::proven(1, 3), Score::estimate(-60),
                                    Score::proven(-1, 2), Score::proven(1, 5), Score::proven(-1, 6)};
    const auto worths = worths_of(scores);
    std::vector<std::size_t> order{0, 1, 2, 3, 4, 5};
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return worths[a] > worths[b]; });
    EXPECT_EQ(order, (std::vector<std::size_t>{1, 4, 0, 2, 5, 3})) << "as the scores themselves";
    EXPECT_GT(worths[4] - worths[0], 100) << "by more than the estimates are apart";
}

TEST(Level, EveryChooserPlaysLegallyAtEveryLevel) {
    const Lanterns game({4, 4, 3, false});
    for (const char* chooser : {"standard", "ruled", "random"})
        for (int level = lowest_level; level <= highest_level; ++level) {
            Profile profile;
            profile.chooser.name = chooser;
            profile.fallback = {{}};
            if (std::string(chooser) == "random" && level < highest_level) {
                EXPECT_THROW((void)make_opponent(game, opponent_of_profile(profile, level)), InputError);
                continue;
            }
            const auto opponent = make_opponent(game, opponent_of_profile(profile, level));
            const auto rival = make_opponent(game, read_opponent("random"));
            play_match(game, *opponent, *rival, {.games = 6, .seed = 3}, game.initial_position(),
                       [&](const PlayedGame<Lanterns>& played) {
                           auto position = game.initial_position();
                           for (const auto& move : played.moves) {
                               ASSERT_TRUE(legal_moves(game, position).contains(move)) << chooser << "@" << level;
                               game.play(position, move);
                           }
                       });
        }
}

TEST(Level, AWinInOneIsTakenWhereverPayoffsDiffer) {
    // A larger win further off is preferred by a search; what is played must win at once all the same.
    int met = 0;
    for (const int level : {8}) {
        for (std::uint64_t seed = 1; seed <= (testing_support::sanitized ? 40u : 250u); ++seed) {
            testing_support::RandomTree tree;
            tree.seed = seed;
            const auto opponent = make_opponent(tree, at_level("standard", level));
            auto position = tree.initial_position();
            Random random(seed);
            for (int ply = 0; ply < 7 && !tree.outcome(position); ++ply) {
                const auto moves = legal_moves(tree, position);
                const Player player = tree.player_to_move(position);
                const auto wins = [&](int move) {
                    auto after = position;
                    tree.play(after, move);
                    const auto outcome = tree.outcome(after);
                    return outcome && outcome->payoff(player) > 0;
                };
                const int played = opponent->decide(position, seed).move;
                if (std::any_of(moves.begin(), moves.end(), wins)) {
                    ++met;
                    ASSERT_TRUE(wins(played)) << "level " << level << ", seed " << seed;
                }
                tree.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
        }
    }
    EXPECT_GT(met, testing_support::sanitized ? 8 : 60);
}

TEST(Level, HoldsBesidesATimeLimitOfTheCallers) {
    const Lanterns game;
    struct Ticking {
        mutable double now = 0;
    } ticking;
    const OpponentMeans means{
        Clock([](const void* state) { return static_cast<const Ticking*>(state)->now += 0.001; }, &ticking)};
    OpponentSpec spec = at_level("standard", 6);
    spec.seconds = 1e6;
    EXPECT_LE(make_opponent(game, spec, means)->decide(game.initial_position(), 1).stats.depth, 2)
        << "the level looks two plies far";
    spec.seconds = 0.002;
    EXPECT_EQ(make_opponent(game, spec, means)->decide(game.initial_position(), 1).stats.stopped_by, StoppedBy::Time);
    spec.level.reset();
    spec.seconds = 0.5;
    const auto full = make_opponent(game, spec, means)->decide(game.initial_position(), 1);
    EXPECT_EQ(full.stats.stopped_by, StoppedBy::Time) << "at full strength the time is all there is";
}

TEST(Opponent, IsStoppedDecisionByDecision) {
    const Lanterns game;
    struct Flag {
        mutable bool set = false;
        bool stop_requested() const { return set; }
    } flag;
    const auto opponent = make_opponent(game, at_level("standard", 10));
    flag.set = true;
    EXPECT_EQ(opponent->decide(game.initial_position(), 1, {}, StopToken::of(flag)).stats.stopped_by, StoppedBy::Stop);
    EXPECT_NE(opponent->decide(game.initial_position(), 1).stats.stopped_by, StoppedBy::Stop);
}
