#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/opponent/profile.hpp>
#include <arvek/rules/condition.hpp>
#include <arvek/rules/feature_list.hpp>
#include <arvek/rules/suggestion_list.hpp>

#include <cmath>

#include "compiled.hpp"
#include "nightwatch/nightwatch.hpp"
#include "support/brute_force.hpp"

using namespace arvek;
using waterway::Nightwatch;

namespace {

const Nightwatch yard;

Temperament hungry(double value) { return {{{"hunger", value, {{"take", 4.0}, {"flee", 0.25}}}}, {{"strike", 1.5}}}; }

}  // namespace

TEST(Temperament, MultipliesUrgenciesByReason) {
    const Temperament bold = hungry(0.5);
    EXPECT_DOUBLE_EQ(bold.factor("take"), 2.0);
    EXPECT_DOUBLE_EQ(bold.factor("flee"), 0.5);
    EXPECT_DOUBLE_EQ(bold.factor("strike"), 1.5);
    EXPECT_DOUBLE_EQ(bold.factor("something else"), 1.0);
    EXPECT_DOUBLE_EQ(hungry(-0.5).factor("take"), 0.5);
    EXPECT_THROW(check_temperament(hungry(1.1)), InputError);
    EXPECT_THROW(check_temperament({{{"x", 0.5, {{"take", 0.0}}}}, {}}), InputError);
}

TEST(SuggestionList, EveryMoveIsWorthTheSumOfWhatIsSuggestedTimesItsFactors) {
    Random random(4);
    SuggestionList<Nightwatch> list;
    list.add_all_of(yard).temperament(hungry(0.7));
    const Temperament temperament = hungry(0.7);
    for (int i = 0; i < 60; ++i) {
        const auto position = testing_support::random_position(yard, static_cast<int>(random.below(60)), random);
        if (yard.outcome(position)) continue;
        const auto decision = list.decide(yard, position, static_cast<std::uint64_t>(i));
        ASSERT_EQ(decision.ranked.size(), legal_moves(yard, position).size());
        for (const auto& entry : decision.ranked) {
            double worth = 0;
            for (const auto& suggester : yard.suggesters()) {
                Proposals<Nightwatch::Move> proposals;
                suggester.suggest(yard, position, proposals);
                for (const auto& proposal : proposals.all())
                    if (proposal.move == entry.move) worth += proposal.urgency * temperament.factor(suggester.reason);
            }
            ASSERT_NEAR(entry.worth, worth, 1e-9);
            ASSERT_LE(entry.worth, decision.ranked.front().worth);
        }
        ASSERT_EQ(decision.move, decision.ranked.front().move);
        ASSERT_EQ(decision.move, list.decide(yard, position, static_cast<std::uint64_t>(i)).move);
    }
}

TEST(SuggestionList, ShowsEveryFactor) {
    const auto position =
        yard.read_position("..w....../......r../..#...#../......R../..#...#../........./....W.... T 0");
    SuggestionList<Nightwatch> list;
    list.add("take",
             [](const Nightwatch&, const auto&, auto& proposals) { proposals.add({}, 6.0, "takes the Runner off"); })
        .temperament({{{"hunger", 0.5, {{"take", 4.0}}}}, {{"take", 1.5}}});
    const auto decision = list.decide(yard, position, 1);
    ASSERT_EQ(decision.ranked.front().reasons.size(), 1u);
    EXPECT_EQ(decision.ranked.front().reasons.front(), "takes the Runner off: 6 x hunger 2 x preference 1.5 = 18");
    EXPECT_EQ(decision.chosen_by, "take");
    list.add("wrong", [](const Nightwatch&, const auto&, auto& proposals) {
        proposals.add({0, 0, Nightwatch::no_cell}, 1.0, "no move");
    });
    EXPECT_THROW((void)list.decide(yard, position, 1), InputError) << "what is proposed must be legal";
}

TEST(SuggestionList, TwoTemperamentsPlayVisiblyDifferently) {
    const auto share = [](double hunger, const char* reason) {
        Profile profile;
        profile.chooser.name = "suggestions";
        profile.temperament = {{{"hunger", hunger, {{"take", 3.0}, {"close in", 3.0}, {"flee", 0.2}}}}, {}};
        const auto own = make_opponent(yard, opponent_of_profile(profile));
        profile.temperament = {};
        const auto other = make_opponent(yard, opponent_of_profile(profile));
        const auto result = play_match(yard, *own, *other, {.games = 30, .seed = 1, .opening_plies = 2});
        const auto found = result.chosen_a.find(reason);
        return found == result.chosen_a.end()
                   ? 0.0
                   : static_cast<double>(found->second) / static_cast<double>(result.moves_a);
    };
    EXPECT_GT(share(1.0, "close in"), 1.3 * share(-1.0, "close in"));
    EXPECT_LT(share(1.0, "flee"), share(-1.0, "flee") / 2);
}

TEST(FeatureList, WeighsEveryMoveByItsFeatures) {
    FeatureList<Nightwatch> list;
    list.add_ends(1'000).add(*find_quantity(yard, "hits"), 2.0).add(*find_quantity(yard, "nearer"), 0.5);
    Random random(5);
    for (int i = 0; i < 30; ++i) {
        const auto position = testing_support::random_position(yard, static_cast<int>(random.below(50)), random);
        if (yard.outcome(position)) continue;
        for (const auto& entry : list.decide(yard, position, 0).ranked) {
            auto after = position;
            yard.play(after, entry.move);
            const auto outcome = yard.outcome(after);
            const double ends = outcome ? outcome->payoff(position.to_move) : 0;
            const double worth = 1'000 * ends + 2 * yard.effect(position, entry.move).hits +
                                 0.5 * find_quantity(yard, "nearer")->value(yard, position, entry.move);
            ASSERT_NEAR(entry.worth, worth, 1e-9);
        }
    }
    EXPECT_THROW(list.add(*find_quantity(yard, "own pieces"), 1.0), InputError) << "the same for every move";
}
