// The shipped profiles have the characters that they claim, in numbers, against a control.

#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/profile.hpp>
#include <arvek/rules/measure.hpp>

#include <fstream>
#include <functional>
#include <map>
#include <set>
#include <sstream>

#include "compiled.hpp"
#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"
#include "sluice/sluice.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using namespace waterway;

namespace {

std::string text_of_profile(const std::string& path) {
    std::ifstream file(path);
    std::ostringstream text;
    text << file.rdbuf();
    return text.str();
}

const std::string folder = std::string(ARVEK_SOURCE_DIR) + "/demo/opponents/";

OpponentSpec shipped(const std::string& name) {
    return opponent_of_profile(
        read_profile(text_of_profile(folder + name), folder + name,
                     {[](const std::string& path) { return text_of_profile(path); }, nullptr, {}}));
}

/// A decision of the opponent that is watched, and what it was taken in.
template <class G>
struct Taken {
    const G& game;
    const typename G::Position& position;
    const Decision<typename G::Move>& decision;
    std::uint64_t seed;

    double number(const char* quantity) const {
        return find_quantity(game, quantity)->value(game, position, decision.move);
    }
    /// The least and the most over all legal moves.
    std::pair<double, double> range(const char* quantity) const {
        std::pair<double, double> found{1e300, -1e300};
        for (const auto& move : legal_moves(game, position)) {
            const double value = find_quantity(game, quantity)->value(game, position, move);
            found = {std::min(found.first, value), std::max(found.second, value)};
        }
        return found;
    }
};

/// Games of `who` against the rival, in both seats by turns.
template <class G>
void watch(const G& game, const OpponentSpec& who, const OpponentSpec& rival, int games,
           const std::function<void(const Taken<G>&)>& see) {
    const auto own = make_opponent(game, who);
    const auto other = make_opponent(game, rival);
    const int played = testing_support::sanitized ? std::max(4, games / 8) : games;
    for (int number = 0; number < played; ++number) {
        const auto seed = static_cast<std::uint64_t>(number);
        Random luck(seed + 77);
        std::vector<typename G::Position> positions{game.initial_position()};
        settle_chance(game, positions.back(), luck);
        for (int ply = 0; ply < 300 && !game.outcome(positions.back()); ++ply) {
            const bool is_own = (game.player_to_move(positions.back()) == Player::First) == (number % 2 == 0);
            auto next = positions.back();
            const std::span<const typename G::Position> earlier(positions.data(), positions.size() - 1);
            const auto decision = (is_own ? own : other)->decide(next, seed, earlier);
            if (is_own) see({game, positions.back(), decision, seed});
            game.play(next, decision.move);
            if (chance_is_next(game, next) && !game.outcome(next)) {
                positions.push_back(next);
                settle_chance(game, next, luck);
            }
            positions.push_back(next);
        }
    }
}

/// How often a number is so, as a share of the decisions in which it is asked.
struct Share {
    int asked = 0, held = 0;

    void add(bool holds) {
        ++asked;
        held += holds ? 1 : 0;
    }
    double value() const { return asked > 0 ? static_cast<double>(held) / asked : -1.0; }
};

}  // namespace

TEST(Characters, TheFloodCaptainHasThreePhasesThatLast) {
    std::map<int, Share> hardest;
    std::set<int> phases;
    int last = 0, went_back = 0;
    std::uint64_t game_of_last = UINT64_MAX;
    watch<Scuffle>(Scuffle(), shipped("flood_captain.toml"), read_opponent("ruled"), 30,
                   [&](const Taken<Scuffle>& seen) {
                       const std::string& state = seen.decision.state;
                       ASSERT_EQ(state.find("phase="), 0u) << state;
                       const int phase = state[6] - '0';
                       if (seen.seed != game_of_last) last = 1;
                       went_back += phase < last ? 1 : 0;
                       last = phase;
                       game_of_last = seen.seed;
                       phases.insert(phase);
                       if (seen.range("harm").second > seen.range("harm").first && seen.number("harm") > 0)
                           hardest[phase].add(seen.number("harm") == seen.range("harm").second);
                   });
    EXPECT_EQ(phases, (std::set<int>{1, 2, 3}));
    EXPECT_EQ(went_back, 0) << "a phase lasts, however much a crew recovers";
    EXPECT_GT(hardest[3].value(), 0.95) << "it rages";
    EXPECT_LT(hardest[1].value(), 0.4) << "it tests";
}

TEST(Characters, TheMedicMendsAndTheOthersMendLess) {
    const auto mends = [](const OpponentSpec& who) {
        Share share;
        watch<Scuffle>(Scuffle(), who, read_opponent("ruled"), 20, [&](const Taken<Scuffle>& seen) {
            const auto [least, most] = seen.range("harm");
            if (least < 0) share.add(seen.number("harm") < 0);
        });
        return share.value();
    };
    EXPECT_GT(mends(shipped("towpath_medic.toml")), mends(read_opponent("random")) + 0.3);
}

TEST(Characters, TheBullyPicksOnTheLeastGuard) {
    const auto picks = [](const OpponentSpec& who) {
        Share share;
        watch<Scuffle>(Scuffle(), who, read_opponent("ruled"), 20, [&](const Taken<Scuffle>& seen) {
            const auto [least, most] = seen.range("target guard");
            if (least < most && seen.number("harm") > 0) share.add(seen.number("target guard") == least);
        });
        return share.value();
    };
    EXPECT_GT(picks(shipped("harbour_bully.toml")), picks(read_opponent("random")) + 0.2);
}

TEST(Characters, TheCowardHidesAndTheDaredevilDoesNot) {
    const auto hides = [](const OpponentSpec& who) {
        Share share;
        watch<Scuffle>(Scuffle(), who, read_opponent("ruled"), 20, [&](const Taken<Scuffle>& seen) {
            const auto is_self = [&](const Scuffle::Move& move) {
                return seen.game.act(seen.position, move).is_of(7);  // "self", in act_names()
            };
            const auto legal = legal_moves(seen.game, seen.position);
            if (seen.number("actor share") < 1 && seen.number("actor braced") == 0 &&
                std::any_of(legal.begin(), legal.end(), is_self))
                share.add(is_self(seen.decision.move));
        });
        return share.value();
    };
    const auto risk = [](const OpponentSpec& who) {
        double sum = 0, decisions = 0;
        watch<Scuffle>(Scuffle(), who, read_opponent("ruled"), 20, [&](const Taken<Scuffle>& seen) {
            if (seen.number("harm") <= 0) return;
            sum += seen.number("hits");
            ++decisions;
        });
        return sum / decisions;
    };
    EXPECT_GT(hides(shipped("timid_hand.toml")), hides(shipped("weir_jumper.toml")) + 0.5);
    EXPECT_LT(risk(shipped("weir_jumper.toml")), risk(shipped("timid_hand.toml")) - 3) << "percent";
}

TEST(Characters, ThePlannerGathersAndThenLetsGo) {
    Share lets_go_early, lets_go_late;
    watch<Sluice>(Sluice(), shipped("lock_planner.toml"), read_opponent("random"), 20, [&](const Taken<Sluice>& seen) {
        if (seen.range("gained").second < 3) return;
        int gathered = 0;
        ASSERT_EQ(std::sscanf(seen.decision.state_before.c_str(), "gathered=%d", &gathered), 1);
        (gathered >= 3 ? lets_go_late : lets_go_early).add(seen.number("gained") == seen.range("gained").second);
    });
    EXPECT_EQ(lets_go_late.value(), 1.0);
    EXPECT_LT(lets_go_early.value(), 0.6);
}

TEST(Characters, TheTutorStopsThreatsAndLetsItsWinsBe) {
    Share wins, stops;
    watch<Lanterns>(Lanterns(), shipped("lantern_tutor.toml"), read_opponent("standard@4"),
                    testing_support::sanitized ? 320 : 40, [&](const Taken<Lanterns>& seen) {
                        const auto after = [&] {
                            auto position = seen.position;
                            seen.game.play(position, seen.decision.move);
                            return position;
                        }();
                        bool can_win = false;
                        for (const auto& move : legal_moves(seen.game, seen.position)) {
                            auto position = seen.position;
                            seen.game.play(position, move);
                            const auto outcome = seen.game.outcome(position);
                            can_win = can_win || (outcome && outcome->payoff(seen.position.to_move) > 0);
                        }
                        const bool won = seen.game.outcome(after).has_value() &&
                                         seen.game.outcome(after)->payoff(seen.position.to_move) > 0;
                        if (can_win && seen.number("lanterns so far") < 16) wins.add(won);
                        if (!can_win && seen.number("rival threats") == 1) stops.add(seen.number("threats left") == 0);
                    });
    EXPECT_LT(wins.value(), 0.7) << "the usual rules take every one";
    EXPECT_GT(stops.value(), 0.9);
}

TEST(Characters, ThePairStrikesTwoToOne) {
    const auto alone = [](const OpponentSpec& who) {
        Share share;
        watch<Nightwatch>(Nightwatch(), who, read_opponent("random"), 8, [&](const Taken<Nightwatch>& seen) {
            if (seen.number("hits") > 0) share.add(seen.number("hits") < 2);
        });
        return share.value();
    };
    EXPECT_LT(alone(shipped("watch_pair.toml")), 0.05);
    EXPECT_GT(alone(read_opponent("random")), 0.5);
}

TEST(Characters, PiecesOfOneKindDifferAndTheSameSeedDealsTheSame) {
    const Nightwatch game;
    // The factors of two Runners for one reason, as the decision says them.
    const auto factors = [&](std::uint64_t seed) {
        std::map<std::string, std::set<std::string>> found;
        const auto opponent = make_opponent(game, shipped("quay_characters.toml"));
        const auto position = game.initial_position();
        for (const auto& entry : opponent->decide(position, seed).ranked)
            for (const std::string& reason : entry.reasons) {
                const auto at = reason.find("Runner's hunger ");
                if (at != std::string::npos)
                    found[game.move_text(position, entry.move).substr(0, 2)].insert(reason.substr(at, 20));
            }
        return found;
    };
    const auto one = factors(3), same = factors(3), other = factors(4);
    ASSERT_GE(one.size(), 2u) << "two Runners are suggested to come closer";
    EXPECT_NE(one.begin()->second, std::next(one.begin())->second) << "two pieces of one kind differ";
    EXPECT_EQ(one, same);
    EXPECT_NE(one, other);
}

TEST(Characters, TheSaverFillsThePurseAndTheRusherEmptiesIt) {
    const auto purse = [](const OpponentSpec& who) {
        std::vector<double> when_sent;
        watch<Convoy>(Convoy(), who, read_opponent("random"), 6, [&](const Taken<Convoy>& seen) {
            if (seen.number("cost") > 0) when_sent.push_back(seen.number("own purse"));
        });
        double sum = 0;
        for (const double coins : when_sent) sum += coins;
        return sum / static_cast<double>(when_sent.size());
    };
    EXPECT_GT(purse(shipped("wharf_saver.toml")), purse(shipped("skiff_rusher.toml")) + 2);
    Share skiffs;
    watch<Convoy>(Convoy(), shipped("skiff_rusher.toml"), read_opponent("random"), 6, [&](const Taken<Convoy>& seen) {
        if (seen.number("cost") > 0) skiffs.add(seen.number("cost") == 2);
    });
    EXPECT_GT(skiffs.value(), 0.9);
}

TEST(Characters, TheCounterAnswersEveryTugOnce) {
    int answers = 0, asked = 0;
    watch<Convoy>(Convoy(), shipped("lane_counter.toml"), shipped("wharf_saver.toml"), 10,
                  [&](const Taken<Convoy>& seen) {
                      for (const RuleReport& rule : seen.decision.rules)
                          if (rule.rule == "answer a tug") {
                              ++asked;
                              answers += rule.fired ? 1 : 0;
                          }
                  });
    EXPECT_GT(answers, 3);
    EXPECT_LT(answers, asked / 2) << "not without a tug";
}

TEST(Characters, TheBookmanVariesItsBook) {
    const Lanterns game;
    std::map<std::string, int> first;
    const auto opponent = make_opponent(game, shipped("frame_bookman.toml"));
    for (std::uint64_t seed = 0; seed < 100; ++seed)
        ++first[game.move_text({}, opponent->decide(game.initial_position(), seed).move)];
    EXPECT_GE(first.size(), 5u);
    for (const auto& [move, times] : first) EXPECT_LT(times, 50) << move;
}

TEST(Characters, NeverTheSameOpeningTwiceWhereItRemembers) {
    const Lanterns game;
    OpponentMeans means;
    means.openings = std::make_shared<OpeningMemory>();
    const auto opponent = make_opponent(game, shipped("frame_bookman.toml"), means);
    std::set<std::string> first;
    for (std::uint64_t seed = 0; seed < 5; ++seed)
        first.insert(game.move_text({}, opponent->decide(game.initial_position(), seed).move));
    EXPECT_EQ(first.size(), 5u) << "five replies, each once before one comes twice";
    EXPECT_EQ(means.openings->played.size(), 5u);
}

TEST(Characters, TheCrewHasHabitsOfItsOwn) {
    const std::string crew = std::string(ARVEK_SOURCE_DIR) + "/demo/scuffle/eel_street_hands.toml";
    Share hauls, twice;
    std::string last;
    std::uint64_t game_of_last = UINT64_MAX;
    watch<Scuffle>(Scuffle({crew, ""}), shipped("eel_street_habits.toml"), read_opponent("ruled"), 20,
                   [&](const Taken<Scuffle>& seen) {
                       const std::string actor = seen.game.hand(seen.game.actor(seen.position)).name;
                       const std::string move = seen.game.move_text(seen.position, seen.decision.move);
                       if (actor == "Nessa") hauls.add(move.starts_with("haul"));
                       if (actor == "Corin") {
                           if (last == "douse" && game_of_last == seen.seed)
                               twice.add(seen.decision.chosen_by.starts_with("Corin"));
                           last = move;
                           game_of_last = seen.seed;
                       }
                   });
    EXPECT_GT(hauls.value(), 0.7);
    EXPECT_LT(twice.value(), 0.05);
}

TEST(Characters, DecideTheSameWithoutSayingWhy) {
    int decisions = 0, silent_texts = 0, texts = 0;
    const auto compare = [&](const auto& game, const char* profile) {
        using G = std::decay_t<decltype(game)>;
        using Position = typename G::Position;
        const auto talking = make_opponent(game, shipped(profile)), silent = make_opponent(game, shipped(profile));
        silent->explain(false);
        const auto rival = make_opponent(game, read_opponent("random"));
        for (std::uint64_t seed = 1; seed <= 3; ++seed) {
            Random random(seed);
            std::vector<Position> course{game.initial_position()};
            while (course.size() < 80 && !game.outcome(course.back())) {
                Position next = course.back();
                const std::span<const Position> earlier(course.data(), course.size() - 1);
                if (game.player_to_move(next) == Player::First) {
                    const auto said = talking->decide(next, seed, earlier),
                               unsaid = silent->decide(next, seed, earlier);
                    ASSERT_EQ(said.move, unsaid.move) << profile;
                    ASSERT_EQ(said.chosen_by, unsaid.chosen_by);
                    ASSERT_EQ(said.state, unsaid.state);
                    ASSERT_EQ(said.rules.size(), unsaid.rules.size());
                    for (std::size_t i = 0; i < said.rules.size(); ++i) {
                        ASSERT_EQ(said.rules[i].rule, unsaid.rules[i].rule);
                        ASSERT_EQ(said.rules[i].fired, unsaid.rules[i].fired);
                        ASSERT_EQ(said.rules[i].kind, unsaid.rules[i].kind);
                        texts += said.rules[i].why.empty() ? 0 : 1;
                        silent_texts += unsaid.rules[i].why.empty() ? 0 : 1;
                    }
                    game.play(next, said.move);
                    ++decisions;
                } else {
                    game.play(next, rival->decide(next, seed, earlier).move);
                }
                settle_chance(game, next, random);
                course.push_back(next);
            }
        }
    };
    compare(Scuffle(), "flood_captain.toml");
    compare(Scuffle(), "towpath_medic.toml");
    compare(Convoy(), "lane_counter.toml");
    compare(Convoy(), "wharf_clerk.toml");
    EXPECT_GT(decisions, 100);
    EXPECT_GT(texts, 4 * silent_texts);
    // A match keeps no texts, and does not silence the opponents of its caller.
    const Convoy game;
    const auto own = make_opponent(game, shipped("lane_counter.toml")),
               other = make_opponent(game, read_opponent("random"));
    (void)play_match(game, *own, *other, {.games = 2, .seed = 1});
    const auto said = own->decide(game.initial_position(), 1);
    ASSERT_FALSE(said.rules.empty());
    EXPECT_FALSE(said.rules.front().why.empty());
}

TEST(Advised, LooksBeforeItLeaps) {
    const Nightwatch game;
    // Without the care that a level takes.
    const auto rash = make_opponent(
        game,
        opponent_of_profile(
            read_profile("name = 'rash'\ngame = 'nightwatch'\nchoose = 'suggestions'\ncare = false\n", "rash"), 10));
    OpponentSpec two_plies = read_opponent("advised");
    two_plies.depth = 2;
    const auto careful = make_opponent(game, two_plies);
    // How often each of them lets the rival take the Warden next, where another move does not.
    const auto lets_it = [&](Nightwatch::Position position, const Nightwatch::Move& move) {
        const Player own = position.to_move;
        game.play(position, move);
        if (const auto outcome = game.outcome(position)) return outcome->payoff(own) < 0;
        const auto replies = legal_moves(game, position);
        return std::any_of(replies.begin(), replies.end(), [&](const auto& reply) {
            auto after = position;
            game.play(after, reply);
            const auto outcome = game.outcome(after);
            return outcome && outcome->payoff(own) < 0;
        });
    };
    Random random(3);
    int in_danger = 0, rash_losses = 0, careful_losses = 0, said = 0;
    for (int i = 0; i < 40; ++i) {
        auto position = game.initial_position();
        for (int ply = 0; ply < 80 && !game.outcome(position); ++ply) {
            const auto legal = legal_moves(game, position);
            const auto losing =
                std::count_if(legal.begin(), legal.end(), [&](const auto& move) { return lets_it(position, move); });
            if (losing > 0 && losing < static_cast<std::ptrdiff_t>(legal.size())) {
                ++in_danger;
                const auto seed = static_cast<std::uint64_t>(i);
                const auto thought = careful->decide(position, seed);
                rash_losses += lets_it(position, rash->decide(position, seed).move) ? 1 : 0;
                careful_losses += lets_it(position, thought.move) ? 1 : 0;
                // It says both what the search found and what was suggested.
                ASSERT_TRUE(thought.has_scores);
                ASSERT_EQ(thought.rules.front().rule, "suggestions");
                said += thought.ranked.front().reasons.empty() ? 0 : 1;
            }
            game.play(position, legal[static_cast<std::size_t>(random.below(legal.size()))]);
        }
    }
    EXPECT_GT(in_danger, 20);
    EXPECT_GT(said, in_danger / 2);
    EXPECT_EQ(careful_losses, 0);
    EXPECT_GT(rash_losses, in_danger / 10) << "the suggestions alone do";
}

TEST(Variety, MakesGamesOfTheBestDifferAndGivesNothingProvenAway) {
    const Sluice game;
    OpponentSpec spec = opponent_of_profile(
        read_profile("name = 'x'\ngame = 'sluice'\nchoose = 'search'\n[search]\nnodes = 4000\n", "x"), 10);
    OpponentSpec always = opponent_of_profile(
        read_profile(
            "name = 'y'\ngame = 'sluice'\nchoose = 'search'\n[search]\nnodes = 4000\n[levels.10]\nvariety = 0\n", "y"),
        10);
    const auto courses = [&](const OpponentSpec& who) {
        std::set<std::string> seen;
        for (std::uint64_t seed = 0; seed < 30; ++seed) {
            const auto opponent = make_opponent(game, who);
            std::vector<Sluice::Position> course{game.initial_position()};
            std::string moves;
            for (int ply = 0; ply < 8 && !game.outcome(course.back()); ++ply) {
                const auto decision = opponent->decide(course.back(), seed, {course.data(), course.size() - 1});
                const auto& best = decision.ranked.front();
                const auto& played = decision.ranked[static_cast<std::size_t>(decision.rank - 1)];
                EXPECT_FALSE(best.score.is_proven_win() && !played.score.is_proven_win());
                EXPECT_FALSE(played.score.is_proven_loss() && !best.score.is_proven_loss());
                moves += game.move_text(course.back(), decision.move) + " ";
                auto next = course.back();
                game.play(next, decision.move);
                course.push_back(next);
            }
            seen.insert(moves);
        }
        return seen.size();
    };
    const std::size_t varied = courses(spec), alike = courses(always);
    EXPECT_GE(varied, 6u);
    EXPECT_GE(varied, 2 * alike);
}
