#include <gtest/gtest.h>
#include <arvek/arena/match.hpp>
#include <arvek/rules/rule_list.hpp>

#include "convoy/convoy.hpp"
#include "scuffle/scuffle.hpp"
#include "support/brute_force.hpp"

using namespace arvek;
using waterway::Convoy;
using waterway::Scuffle;

namespace {

template <class G>
Condition<G> test(const G& game, const char* quantity, Comparison comparison, double number) {
    return Condition<G>::test(*find_quantity(game, quantity), comparison, number);
}

template <class G>
Measure<G> quantity(const G& game, const char* name) {
    return Measure<G>::quantity(*find_quantity(game, name));
}

/// A position that random moves lead to and where a player is to move.
template <class G>
typename G::Position some_position(const G& game, int moves, Random& random) {
    for (;;) {
        auto position = game.initial_position();
        settle_chance(game, position, random);
        for (int i = 0; i < moves && !game.outcome(position); ++i) {
            const auto legal = legal_moves(game, position);
            game.play(position, legal[static_cast<std::size_t>(random.below(legal.size()))]);
            settle_chance(game, position, random);
        }
        if (!game.outcome(position)) return position;
    }
}

/// A random condition, and the same thing said by plain code.
template <class G>
struct Twin {
    Condition<G> condition;
    std::function<bool(const typename G::Position&, const typename G::Move&)> plain;
};

template <class G>
Twin<G> random_condition(const G& game, Random& random, int depth) {
    const std::span<const Quantity<G>> all = game.quantities();
    if (depth == 0 || random.chance(0.4)) {
        const Quantity<G> quantity = all[static_cast<std::size_t>(random.below(all.size()))];
        const auto comparison = static_cast<Comparison>(random.below(5));
        const auto number = static_cast<double>(random.below(12));
        return {Condition<G>::test(quantity, comparison, number), [=, &game](const auto& position, const auto& move) {
                    const double value = quantity.value(game, position, move);
                    return comparison == Comparison::Is       ? value == number
                           : comparison == Comparison::Below  ? value < number
                           : comparison == Comparison::AtMost ? value <= number
                           : comparison == Comparison::Above  ? value > number
                                                              : value >= number;
                }};
    }
    std::vector<Condition<G>> parts;
    std::vector<Twin<G>> twins;
    for (std::uint64_t i = 0, count = 1 + random.below(3); i < count; ++i) {
        twins.push_back(random_condition(game, random, depth - 1));
        parts.push_back(twins.back().condition);
    }
    const auto how = random.below(3);
    return {how == 0   ? Condition<G>::all(parts)
            : how == 1 ? Condition<G>::any(parts)
                       : Condition<G>::none(parts),
            [=](const auto& position, const auto& move) {
                std::size_t held = 0;
                for (const auto& twin : twins) held += twin.plain(position, move) ? 1 : 0;
                return how == 0 ? held == twins.size() : how == 1 ? held > 0 : held == 0;
            }};
}

template <class G>
void expect_conditions_hold_as_plain_code_says(const G& game) {
    Random random(3);
    int kept = 0, dropped = 0;
    for (int i = 0; i < 400; ++i) {
        const auto position = some_position(game, static_cast<int>(random.below(20)), random);
        const auto twin = random_condition(game, random, 3);
        const auto legal = legal_moves(game, position);
        std::vector<typename G::Move> moves(legal.begin(), legal.end()), expected;
        for (const auto& move : legal) {
            ASSERT_EQ(twin.condition.holds(game, position, move), twin.plain(position, move)) << twin.condition.text();
            if (twin.plain(position, move)) expected.push_back(move);
        }
        const std::string why = twin.condition.keep(game, position, moves);
        // Where no single move meets it, none is kept; what is kept meets it.
        ASSERT_EQ(moves, expected) << twin.condition.text();
        ASSERT_EQ(why.empty(), !expected.empty()) << "a reason where nothing is left, and only there";
        kept += expected.empty() ? 0 : 1;
        dropped += expected.empty() ? 1 : 0;
    }
    EXPECT_GT(kept, 50);
    EXPECT_GT(dropped, 50);
}

}  // namespace

TEST(Condition, HoldsAsPlainCodeSays) {
    expect_conditions_hold_as_plain_code_says(Convoy());
    expect_conditions_hold_as_plain_code_says(Scuffle());
}

TEST(Condition, SaysWhatIsWrongWithNumbers) {
    const Convoy game;
    const auto position = game.initial_position();
    const auto legal = legal_moves(game, position);
    std::vector<Convoy::Move> moves(legal.begin(), legal.end());
    EXPECT_EQ(test(game, "own purse", Comparison::AtLeast, 6).keep(game, position, moves),
              "own purse is 3, not at least 6");
    moves.assign(legal.begin(), legal.end());
    EXPECT_EQ(test(game, "cost", Comparison::Above, 4).keep(game, position, moves), "cost is 0 to 2, not above 4");
}

TEST(ConditionalRule, TheFirstThatCanBeCarriedOutWinsAndTheOthersSayWhyNot) {
    const Scuffle game;
    RuleList<Scuffle> rules;
    ConditionalRule<Scuffle> mend, plant, strike;
    mend.name = "mend";
    mend.acts.actions = {"shanty"};  // Old-Maud's, and Nessa is to move
    plant.name = "plant";
    plant.acts.actors = {"Bram"};
    strike.name = "strike";
    strike.acts.kinds = {"one rival"};
    strike.choose = {{TargetChoice::Lowest, quantity(game, "target stamina")}};
    rules.add(make_rule(game, mend)).add(make_rule(game, plant)).add(make_rule(game, strike));
    const auto position = game.initial_position();
    const auto decision = rules.decide(game, position, 1);
    ASSERT_EQ(decision.rules.size(), 4u);
    EXPECT_EQ(decision.rules[0].why, "shanty is not available");
    EXPECT_EQ(decision.rules[1].why, "it is Nessa's turn, not that of Bram");
    EXPECT_TRUE(decision.rules[2].fired);
    EXPECT_EQ(decision.chosen_by, "strike");
    EXPECT_EQ(game.move_text(position, decision.move).substr(5), "Ames") << "the one with the least stamina";
    EXPECT_THROW((void)make_rule(game, ConditionalRule<Scuffle>{.name = "x", .acts = {.actions = {"shant"}}}),
                 InputError);
}

TEST(ConditionalRule, WhateverTheRulesTheMoveIsLegalAndTheSameSeedRepeatsIt) {
    const Scuffle game;
    const ActNames names = game.act_names();
    Random random(8);
    for (int i = 0; i < 300; ++i) {
        RuleList<Scuffle> rules;
        for (int r = 0; r < 12; ++r) {
            ConditionalRule<Scuffle> rule;
            rule.name = "rule " + std::to_string(r);
            if (random.chance(0.4))
                rule.acts.actors = {names.actors[static_cast<std::size_t>(random.below(names.actors.size()))]};
            if (random.chance(0.6))
                rule.acts.actions = {names.actions[static_cast<std::size_t>(random.below(names.actions.size()))]};
            if (random.chance(0.3))
                rule.acts.kinds = {names.kinds[static_cast<std::size_t>(random.below(names.kinds.size()))]};
            rule.when = random_condition(game, random, 2).condition;
            for (std::uint64_t keys = random.below(3); keys > 0; --keys)
                rule.choose.push_back(
                    {static_cast<TargetChoice>(random.below(2)),
                     Measure<Scuffle>::quantity(
                         game.quantities()[static_cast<std::size_t>(random.below(game.quantities().size()))])});
            rule.chance = random.unit();
            rules.add(make_rule(game, rule));
        }
        rules.fallback({{"", 1.0}});
        const auto position = some_position(game, static_cast<int>(random.below(30)), random);
        const auto decision = rules.decide(game, position, static_cast<std::uint64_t>(i));
        ASSERT_TRUE(legal_moves(game, position).contains(decision.move));
        ASSERT_EQ(decision.move, rules.decide(game, position, static_cast<std::uint64_t>(i)).move);
        ASSERT_EQ(decision.ranked.size(), legal_moves(game, position).size());
    }
}

TEST(ConditionalRule, FiresOnceOrEverySoOftenOrByChanceOrFromALevel) {
    const Convoy game;
    const auto position = game.initial_position();
    const auto fires = [&](const ConditionalRule<Convoy>& rule, std::vector<std::string> fired, int level = 10,
                           std::uint64_t seed = 0) {
        RuleList<Convoy> rules;
        rules.add(make_rule(game, rule, level)).fallback({{"wait", 1.0}});
        GameMemory memory;
        memory.fired = std::move(fired);
        return rules.decide(game, position, seed, {}, &memory).chosen_by == "r";
    };
    ConditionalRule<Convoy> rule;
    rule.name = "r";
    rule.once = true;
    EXPECT_TRUE(fires(rule, {"other", "other"}));
    EXPECT_FALSE(fires(rule, {"r", "other"}));
    rule.once = false;
    rule.every = 3;
    EXPECT_FALSE(fires(rule, {"r"}));
    EXPECT_FALSE(fires(rule, {"r", "other"}));
    EXPECT_TRUE(fires(rule, {"r", "other", "other"}));
    rule.every = 1;
    rule.from_level = 5;
    EXPECT_FALSE(fires(rule, {}, 4));
    EXPECT_TRUE(fires(rule, {}, 5));
    rule.chance = 0.3;
    int fired = 0;
    for (std::uint64_t seed = 0; seed < 2'000; ++seed) fired += fires(rule, {}, 10, seed) ? 1 : 0;
    EXPECT_NEAR(fired, 600, 80);
}

TEST(ConditionalRule, FallsBackByWeightAndWithoutAFallbackNamesTheActor) {
    const Scuffle game;
    const auto position = game.initial_position();
    RuleList<Scuffle> rules;
    ConditionalRule<Scuffle> never;
    never.name = "never";
    never.when = test(game, "rival hands", Comparison::Is, 0);
    rules.add(make_rule(game, never));
    rules.fallback({{"haul", 3.0}, {"snag", 1.0}, {"shanty", 50.0}});  // shanty is not Nessa's
    int hauls = 0;
    for (std::uint64_t seed = 0; seed < 2'000; ++seed) {
        const auto decision = rules.decide(game, position, seed);
        EXPECT_EQ(decision.chosen_by, "fallback");
        hauls += game.move_text(position, decision.move).starts_with("haul") ? 1 : 0;
    }
    EXPECT_NEAR(hauls, 1'500, 100);
    using Choices = std::vector<Fallback<Scuffle>>;
    for (const Choices& useless : {Choices{}, Choices{{"shanty", 1.0}}}) {
        rules.fallback(useless);
        try {
            (void)rules.decide(game, position, 0);
            ADD_FAILURE() << "nothing applies";
        } catch (const InputError& error) {
            EXPECT_NE(std::string(error.what()).find("no rule applies to Nessa"), std::string::npos) << error.what();
        }
    }
}
