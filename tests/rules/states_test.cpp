// States, what was done, groups, several keys: rules that look beyond one position.

#include <gtest/gtest.h>
#include <arvek/rules/rule_list.hpp>
#include <arvek/rules/suggestion_list.hpp>
#include <arvek/rules/threat_rules.hpp>

#include <functional>
#include <map>
#include <set>

#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "support/brute_force.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using waterway::Convoy;
using waterway::Lanterns;
using waterway::Nightwatch;

namespace {

using Number = Measure<Convoy>;
using When = Condition<Convoy>;

Number number(const Convoy& game, const char* name) { return Number::quantity(*find_quantity(game, name)); }

}  // namespace

TEST(Measure, CalculatesAsPlainCodeDoes) {
    const Convoy game;
    Random random(4);
    const auto position = testing_support::random_position(game, 20, random);
    ASSERT_FALSE(game.outcome(position));
    for (const auto& move : legal_moves(game, position)) {
        const auto of = [&](const Number& each) { return each.value(game, position, move); };
        const Number a = number(game, "strength"), b = number(game, "cost");
        const double x = of(a), y = of(b);
        EXPECT_EQ(of(a.combined(Arithmetic::Plus, b)), x + y);
        EXPECT_EQ(of(a.combined(Arithmetic::Minus, b)), x - y);
        EXPECT_EQ(of(a.combined(Arithmetic::Times, Number::number(3))), 3 * x);
        const Number share = a.combined(Arithmetic::Over, b);
        if (y != 0) {
            EXPECT_EQ(of(share), x / y);
        }
        // A share of nothing meets no comparison, and no comparison's opposite.
        for (const Comparison comparison :
             {Comparison::Is, Comparison::Below, Comparison::AtMost, Comparison::Above, Comparison::AtLeast})
            if (y == 0) {
                EXPECT_FALSE(When::test(share, comparison, Number::number(1)).holds(game, position, move));
            }
    }
    EXPECT_EQ(number(game, "strength").combined(Arithmetic::Over, number(game, "cost")).text(), "strength over cost");
}

TEST(Measure, CountsWhatWasDoneAndByWhom) {
    const Convoy game;
    const auto position = game.initial_position();  // Teal to move
    const Convoy::Move wait = legal_moves(game, position)[0];
    GameMemory memory;
    const auto act = [](std::uint16_t action) { return Act{0, action, action > 0 ? 1u : 0u}; };
    RuleList<Convoy>::saw(memory, Player::First, act(1));   // skiff
    RuleList<Convoy>::saw(memory, Player::Second, act(3));  // tug
    RuleList<Convoy>::saw(memory, Player::First, act(0));   // wait
    RuleList<Convoy>::saw(memory, Player::Second, act(1));
    RuleList<Convoy>::saw(memory, Player::First, act(1));
    const auto value = [&](const Number& each) { return each.value(game, position, wait, &memory); };
    EXPECT_EQ(value(Number::times(game, {.actions = {"skiff"}}, DoneBy::Own)), 2);
    EXPECT_EQ(value(Number::times(game, {.actions = {"skiff"}}, DoneBy::Rival)), 1);
    EXPECT_EQ(value(Number::times(game, {.kinds = {"send"}}, DoneBy::Rival)), 2);
    EXPECT_EQ(value(Number::turns_since(game, {.actions = {"skiff"}}, DoneBy::Own)), 1);
    EXPECT_EQ(value(Number::turns_since(game, {.actions = {"wait"}}, DoneBy::Own)), 2);
    EXPECT_EQ(value(Number::turns_since(game, {.actions = {"tug"}}, DoneBy::Rival)), 2);
    EXPECT_EQ(value(Number::turns_since(game, {.actions = {"barge"}}, DoneBy::Own)),
              std::numeric_limits<double>::infinity());
    EXPECT_THROW((void)Number::times(game, {.actions = {"canoe"}}, DoneBy::Own), InputError);
}

TEST(ActFilter, TakesListsAndLeavesOut) {
    const Nightwatch game;
    const ActNames names = game.act_names();
    const BoundActFilter some({.actors = {"Runner", "Hook"}, .no_actions = {"pull"}}, names);
    EXPECT_TRUE(some.fits({1, 1, 0}));
    EXPECT_TRUE(some.fits({3, 1, 0}));
    EXPECT_FALSE(some.fits({3, 2, 0})) << "a pull";
    EXPECT_FALSE(some.fits({0, 1, 0})) << "the Warden";
    EXPECT_EQ(some.text(), "any action but pull by Runner or Hook");
    EXPECT_TRUE(BoundActFilter({.targets = {"Warden"}}, names).fits({3, 2, 0, 0}));
    EXPECT_FALSE(BoundActFilter({.targets = {"Warden"}}, names).fits({3, 1, 0})) << "on nobody";
    EXPECT_TRUE(BoundActFilter({.no_targets = {"Warden"}}, names).fits({3, 1, 0}));
}

TEST(RuleList, StatesLastAreAskedAndAreSetByRulesAndByThemselves) {
    const Convoy game;
    const auto position = game.initial_position();
    RuleList<Convoy> rules;
    const std::vector<StateInfo> states{{"spending", 0, true}, {"sent", 0, false}};
    rules.state(states);
    rules.change({"the third turn",
                  When::test(Number::turn(), Comparison::AtLeast, Number::number(3)),
                  {{"spending", StateChange::Kind::Set, 1, false}}});
    ConditionalRule<Convoy> spend, save;
    spend.name = "spend";
    spend.acts.actions = {"skiff"};
    spend.when = When::test(Number::state(states[0], 0), Comparison::Is, Number::number(1));
    spend.changes = {{"sent", StateChange::Kind::Add, 1, false}};
    save.name = "save";
    save.acts.actions = {"wait"};
    rules.add(make_rule(game, spend)).add(make_rule(game, save));
    GameMemory memory = rules.new_memory();
    std::vector<std::string> chosen, said;
    for (int turn = 0; turn < 5; ++turn) {
        const auto decision = rules.decide(game, position, 1, {}, &memory);
        chosen.push_back(decision.chosen_by);
        said.push_back(decision.state);
        rules.remember(memory, decision);
    }
    EXPECT_EQ(chosen, (std::vector<std::string>{"save", "save", "spend", "spend", "spend"}));
    EXPECT_EQ(said[0], "spending=false sent=0");
    EXPECT_EQ(said[4], "spending=true sent=3");
    // What is remembered can be said in words and read back.
    GameMemory read = rules.new_memory();
    read_state("sent=2 spending=true turn=7", states, read);
    EXPECT_EQ(read.state, (std::vector<double>{1, 2}));
    EXPECT_EQ(read.turn(), 7);
    EXPECT_EQ(state_text(states, read), "spending=true sent=2");
    for (const char* wrong :
         {"spendin=true", "spending=1", "sent=x", "sent", "sent=", "turn=0", "turn=1.5", "sent=1e999"})
        EXPECT_THROW(read_state(wrong, states, read), InputError) << wrong;
}

TEST(RuleList, ALotDrawsByWeightAmongThoseThatApply) {
    const Convoy game;
    const auto position = game.initial_position();
    RuleList<Convoy> rules;
    for (const auto& [name, action, weight] :
         {std::tuple{"a", "skiff", 3.0}, {"b", "wait", 1.0}, {"never", "tug", 50.0}}) {  // a tug costs too much
        ConditionalRule<Convoy> rule;
        rule.name = name;
        rule.acts.actions = {action};
        rule.lot = "lot";
        rule.weight = weight;
        rules.add(make_rule(game, rule));
    }
    std::map<std::string, int> chosen;
    for (std::uint64_t seed = 0; seed < 2'000; ++seed) ++chosen[rules.decide(game, position, seed).chosen_by];
    EXPECT_NEAR(chosen["a"], 1'500, 100);
    EXPECT_NEAR(chosen["b"], 500, 100);
    EXPECT_EQ(chosen["never"], 0);
}

TEST(RuleList, TheSecondKeyDecidesWhereTheFirstIsLevel) {
    const Convoy game;
    Random random(9);
    for (int i = 0; i < 100; ++i) {
        const auto position = testing_support::random_position(game, static_cast<int>(random.below(60)), random);
        if (game.outcome(position)) continue;
        ConditionalRule<Convoy> rule;
        rule.name = "r";
        rule.choose = {{TargetChoice::Lowest, number(game, "own in lane")},
                       {TargetChoice::Highest, number(game, "strength")}};
        RuleList<Convoy> rules;
        rules.add(make_rule(game, rule));
        const auto played = rules.decide(game, position, 1).move;
        const auto key = [&](const Convoy::Move& move) {
            return std::pair(number(game, "own in lane").value(game, position, move),
                             -number(game, "strength").value(game, position, move));
        };
        for (const auto& move : legal_moves(game, position)) ASSERT_LE(key(played), key(move));
    }
}

TEST(RuleList, WhyNotNamesBothSidesAlsoInsideOthers) {
    const Convoy game;
    const auto position = game.initial_position();
    const auto said = [&](const When& when) {
        const auto legal = legal_moves(game, position);
        std::vector<Convoy::Move> moves(legal.begin(), legal.end());
        return when.keep(game, position, moves);
    };
    const When poor = When::test(number(game, "own purse"), Comparison::Below, number(game, "rival purse"));
    const When dear = When::test(number(game, "cost"), Comparison::Above, Number::number(4));
    EXPECT_EQ(said(poor), "own purse is 3, not below rival purse (3)");
    EXPECT_EQ(said(When::any({poor, dear})),
              "own purse is 3, not below rival purse (3), and cost is 0 to 2, not above 4");
    EXPECT_EQ(said(When::none({When::test(number(game, "own wall"), Comparison::Is, Number::number(12))})),
              "own wall is 12, which is 12");
    EXPECT_EQ(said(When::all({When::test(number(game, "cost"), Comparison::Is, Number::number(2)), dear})),
              "of the 4 left, cost is 2, not above 4");
}

TEST(ThreatRules, WithThemRulesNeverLoseTheSmallFrameWhateverTheReplies) {
    const Lanterns game({3, 3, 3, false});
    RuleList<Lanterns> rules;
    rules.win_now().stop_rival().add(double_threat_rule<Lanterns>()).add(deny_double_threat_rule<Lanterns>());
    RuleList<Lanterns> without;
    without.win_now().stop_rival();
    const std::uint64_t seeds = testing_support::sanitized ? 3 : 16;
    long lost = 0, games = 0;
    // Every reply of the rival, and every move that the rules may choose.
    const std::function<void(const RuleList<Lanterns>&, const Lanterns::Position&, Player)> try_all =
        [&](const RuleList<Lanterns>& by, const Lanterns::Position& position, Player own) {
            if (const auto outcome = game.outcome(position)) {
                ++games;
                lost += outcome->payoff(own) < 0 ? 1 : 0;
                return;
            }
            std::set<std::uint8_t> hooks;
            if (position.to_move == own)
                for (std::uint64_t seed = 0; seed < seeds; ++seed)
                    hooks.insert(by.decide(game, position, seed).move.hook);
            else
                for (const auto& move : legal_moves(game, position)) hooks.insert(move.hook);
            for (const std::uint8_t hook : hooks) {
                auto after = position;
                game.play(after, {hook});
                try_all(by, after, own);
            }
        };
    for (const Player own : {Player::First, Player::Second}) try_all(rules, game.initial_position(), own);
    EXPECT_EQ(lost, 0);
    EXPECT_GT(games, 1'000);
    lost = 0;
    try_all(without, game.initial_position(), Player::Second);
    EXPECT_GT(lost, 100) << "without them it does lose";
}

TEST(ThreatRules, GiveUpWhereThereIsTooMuchToLookAt) {
    const Lanterns game;
    ThreatLimits few;
    few.positions = 50;
    RuleList<Lanterns> rules;
    rules.add(deny_double_threat_rule<Lanterns>(few));
    const auto decision = rules.decide(game, game.initial_position(), 1);
    EXPECT_EQ(decision.rules[0].why, "more than 50 positions to look at, so it cannot be told");
    EXPECT_FALSE(decision.rules[0].fired);
}

TEST(SuggestionList, UsesSayWhenAndForWhomAndHowMuch) {
    const Nightwatch game;
    SuggestionList<Nightwatch> list;
    const auto* close_in = [&]() -> const Suggester<Nightwatch>* {
        for (const auto& each : game.suggesters())
            if (std::string(each.reason) == "close in") return &each;
        return nullptr;
    }();
    ASSERT_NE(close_in, nullptr);
    list.add(game, "close in", close_in->suggest,
             {{{.actors = {"Runner"}}, {}, 0.5}, {{.no_actors = {"Vaulter"}}, {}, 2.0}});
    SuggestionList<Nightwatch> plain;
    plain.add("close in", close_in->suggest);
    const auto position = game.initial_position();
    const auto weighed = list.decide(game, position, 1), whole = plain.decide(game, position, 1);
    int runners = 0, vaulters = 0;
    for (const auto& entry : whole.ranked) {
        if (entry.worth == 0) continue;
        const auto other = std::find_if(weighed.ranked.begin(), weighed.ranked.end(),
                                        [&](const auto& each) { return each.move == entry.move; });
        const auto actor = game.act(position, entry.move).actor;
        EXPECT_DOUBLE_EQ(other->worth, entry.worth * (actor == 1 ? 0.5 : actor == 2 ? 0.0 : 2.0));
        runners += actor == 1 ? 1 : 0;
        vaulters += actor == 2 ? 1 : 0;
    }
    EXPECT_GT(runners, 0);
    EXPECT_GT(vaulters, 0);
    // As a rule among others it stands aside where nothing is urgent enough.
    RuleList<Nightwatch> rules;
    rules.add(suggestions_rule(list, 1e6)).add(suggestions_rule(list));
    const auto decision = rules.decide(game, position, 1);
    EXPECT_FALSE(decision.rules[0].fired);
    EXPECT_TRUE(decision.rules[1].fired);
}
