#pragma once
// ConditionalRule: "when ..., do ... to ...". What a designer writes; profiles hold them as data.
//
//     ConditionalRule<MyGame> rule;
//     rule.name = "mend who is nearly out";
//     rule.action = "shanty";
//     rule.when = Condition<MyGame>::test(*find_quantity(game, "target stamina"), Comparison::Below, 8);
//     rule.choose = TargetChoice::Lowest;
//     rule.by = *find_quantity(game, "target stamina");
//     rules.add(make_rule(game, rule));
//
// Rules are asked in order, and the first that can be carried out is. One whose action is not available, whose target
// is gone or whose conditions do not hold is passed over, and the decision says why.

#include <algorithm>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/acting.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/rules/condition.hpp"
#include "arvek/rules/levels.hpp"
#include "arvek/rules/rule.hpp"

namespace arvek {

template <Game G>
struct ConditionalRule {
    std::string name;
    std::string actor{};   ///< who must act; empty: anyone of the side
    std::string action{};  ///< the action, by name; empty: any
    std::string kind{};    ///< a kind that the action must be of; empty: any
    Condition<G> when{};
    TargetChoice choose = TargetChoice::Any;
    Quantity<G> by{};     ///< for Lowest and Highest
    double chance = 1.0;  ///< how surely it fires, 0 to 1
    bool once = false;    ///< at most once a game
    int every = 1;        ///< at most once in so many decisions of the opponent; at least 1
    int from_level = 1;   ///< below that level it is asleep
};

namespace detail {

/// The place of a name among those of a game. Throws InputError where it is none of them.
std::size_t place_of_name(const char* what, const std::string& name, const std::vector<std::string>& names);
/// Throws InputError for a chance, a number of turns or a level out of range.
void check_rule_numbers(const std::string& name, double chance, int every, int from_level);
/// Why a rule is not asked at all; empty where it is. `fired`: what chose each earlier decision.
std::string why_not_due(bool once, int every, const std::string& name, const std::vector<std::string>* fired);

}  // namespace detail

/// The rule for a list of rules, at a level. Throws InputError for an actor, action or kind that the game does not
/// have, and for numbers out of range.
template <Game G>
Rule<G> make_rule(const G& game, const ConditionalRule<G>& rule, int level = highest_level) {
    using Move = typename G::Move;
    detail::check_rule_numbers(rule.name, rule.chance, rule.every, rule.from_level);
    std::optional<std::size_t> actor, action, kind;
    const bool has_acts = acts_in(game);
    if constexpr (ActingGame<G>) {
        if (has_acts) {
            const ActNames names = game.act_names();
            if (!rule.actor.empty()) actor = detail::place_of_name("actor", rule.actor, names.actors);
            if (!rule.action.empty()) action = detail::place_of_name("action", rule.action, names.actions);
            if (!rule.kind.empty()) kind = detail::place_of_name("kind", rule.kind, names.kinds);
        }
    }
    if (!has_acts && (!rule.actor.empty() || !rule.action.empty() || !rule.kind.empty()))
        throw InputError("rule", "'" + rule.name + "' names an actor or an action, and the game has none",
                         "a rule with conditions alone");
    if (rule.choose != TargetChoice::Any && rule.by.value == nullptr)
        throw InputError("rule", "'" + rule.name + "' has no quantity to choose by", "one that the game offers");

    std::string unavailable = "no action is available";
    if (!rule.action.empty())
        unavailable = rule.action + " is not available";
    else if (!rule.kind.empty())
        unavailable = "no action of kind " + rule.kind + " is available";
    if (!rule.actor.empty()) unavailable += " to " + rule.actor;
    std::string asleep;
    if (level < rule.from_level) asleep = "asleep below level " + std::to_string(rule.from_level);

    const auto ask = [rule, actor, action, kind, unavailable, asleep,
                      number = hash_of_text(rule.name)](const Situation<G>& now) {
        RuleAnswer<Move> answer;
        if (!asleep.empty()) {
            answer.why = asleep;
            return answer;
        }
        if (rule.once || rule.every > 1) {
            answer.why = detail::why_not_due(rule.once, rule.every, rule.name, now.fired);
            if (!answer.why.empty()) return answer;
        }
        answer.moves.reserve(now.moves.size());
        for (std::size_t i = 0; i < now.moves.size(); ++i) {
            if (now.acts != nullptr) {
                const Act& act = (*now.acts)[i];
                if ((actor && act.actor != *actor) || (action && act.action != *action) || (kind && !act.is_of(*kind)))
                    continue;
            }
            answer.moves.push_back(now.moves[i]);
        }
        if (answer.moves.empty()) {
            answer.why = unavailable;
            return answer;
        }
        answer.why = rule.when.keep(now.game, now.position, answer.moves);
        if (answer.moves.empty()) return answer;
        if (rule.chance < 1 && !Random(derived_seed(now.seed, number)).chance(rule.chance)) {
            answer.moves.clear();
            answer.why = "left to chance, and not this time";
            return answer;
        }
        if (rule.choose != TargetChoice::Any) {
            const double sign = rule.choose == TargetChoice::Lowest ? 1.0 : -1.0;
            double best = 0;
            std::vector<Move> chosen;
            for (const Move& move : answer.moves) {
                const double value = sign * rule.by.value(now.game, now.position, move);
                if (chosen.empty() || value < best) {
                    best = value;
                    chosen.clear();
                }
                if (value == best) chosen.push_back(move);
            }
            answer.why =
                std::string(sign > 0 ? "lowest " : "highest ") + rule.by.name + ": " + number_text(sign * best);
            answer.moves = std::move(chosen);
        } else {
            answer.why = rule.when.text();
            if (answer.why.empty()) answer.why = "it is available";
        }
        return answer;
    };
    return {rule.name, ask};
}

}  // namespace arvek
