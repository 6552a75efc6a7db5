// A computer player for a battle of crews, by ordered rules: what a designer would write, in code. Plays one Scuffle
// against random moves and prints why each of its actions was chosen. The same rules as data: demo/opponents/.

#include <cstdio>

#include <arvek/opponent/make_opponent.hpp>
#include <arvek/rules/rule_list.hpp>

#include "scuffle/scuffle.hpp"

using arvek::Comparison, arvek::TargetChoice;
using waterway::Scuffle;
using Rule = arvek::ConditionalRule<Scuffle>;
using When = arvek::Condition<Scuffle>;
using Key = arvek::ChoiceKey<Scuffle>;

int main() {
    const Scuffle game;
    const auto is = [&](const char* quantity, Comparison comparison, double number) {
        return When::test(*arvek::find_quantity(game, quantity), comparison, number);
    };
    const auto by = [&](TargetChoice choose, const char* quantity) {
        return Key{choose, arvek::Measure<Scuffle>::quantity(*arvek::find_quantity(game, quantity))};
    };

    Rule finish;
    finish.name = "finish whom a blow puts out";
    finish.when = is("put out", Comparison::AtLeast, 1);
    finish.choose = {by(TargetChoice::Highest, "hits")};

    Rule mend;
    mend.name = "mend a mate in trouble";
    mend.acts.kinds = {"one mate"};
    mend.when = When::all({is("target share", Comparison::Below, 0.4), is("harm", Comparison::AtMost, -5)});
    mend.choose = {by(TargetChoice::Lowest, "target share")};

    Rule soak;
    soak.name = "soak them all, now and then";
    soak.acts.actions = {"douse"};
    soak.when = When::none({is("target soaked", Comparison::Is, 1), is("rival hands", Comparison::Below, 2)});
    soak.every = 3;

    Rule strike;
    strike.name = "strike where it tells";
    strike.when = is("harm", Comparison::Above, 0);
    strike.choose = {by(TargetChoice::Highest, "harm a tick"), by(TargetChoice::Lowest, "target stamina")};

    arvek::RuleList<Scuffle> rules;
    for (const Rule& rule : {finish, mend, soak, strike}) rules.add(make_rule(game, rule));
    rules.fallback({{"dig-in", 2.0}, {"", 1.0}});

    const auto rival = arvek::make_opponent(game, arvek::read_opponent("random"));
    auto position = game.initial_position();
    arvek::GameMemory memory = rules.new_memory();  // for rules that wait between two times
    arvek::Random dice(3);
    for (std::uint64_t turn = 0; !game.outcome(position); ++turn) {
        Scuffle::Move move;
        if (game.player_to_move(position) == arvek::Player::First) {
            const auto decision = rules.decide(game, position, turn, {}, &memory);
            move = decision.move;
            rules.remember(memory, decision);
            std::printf("%s: %s\n", game.hand(game.actor(position)).name.c_str(),
                        game.move_text(position, move).c_str());
            for (const auto& rule : decision.rules)
                std::printf("    %-28s %s: %s\n", rule.rule.c_str(), rule.fired ? "YES" : "no ", rule.why.c_str());
        } else {
            move = rival->decide(position, turn).move;
        }
        game.play(position, move);
        settle_chance(game, position, dice);
    }
    const auto payoff = game.outcome(position)->payoff(arvek::Player::First);
    std::printf("%s after %d actions\n",
                payoff > 0   ? "Teal wins"
                : payoff < 0 ? "Amber wins"
                             : "A draw",
                position.actions);
}
