#pragma once
// ConditionalRule: "when ..., do ... to ...". What a designer writes; profiles hold them as data.
//
//     ConditionalRule<MyGame> rule;
//     rule.name = "mend who is nearly out";
//     rule.acts.actions = {"shanty"};
//     rule.when = Condition<MyGame>::test(*find_quantity(game, "target stamina"), Comparison::Below, 8);
//     rule.choose = {{TargetChoice::Lowest, Measure<MyGame>::quantity(*find_quantity(game, "target stamina"))}};
//     rules.add(make_rule(game, rule));
//
// Rules are asked in order, and the first that can be carried out is. One whose action is not available, whose target
// is gone or whose conditions do not hold is passed over, and the decision says why.

#include <algorithm>
#include <cstddef>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/acting.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/rules/act_filter.hpp"
#include "arvek/rules/condition.hpp"
#include "arvek/rules/levels.hpp"
#include "arvek/rules/rule.hpp"

namespace arvek {

/// How a rule chooses among the moves that meet its conditions.
template <Game G>
struct ChoiceKey {
    TargetChoice choose = TargetChoice::Lowest;  ///< the lowest or the highest
    Measure<G> by{};                             ///< of which number
};

/// A rule that applies under a condition.
template <Game G>
struct ConditionalRule {
    std::string name;                    ///< unique in the list
    ActFilter acts{};                    ///< who must act, what, and on whom
    Condition<G> when{};                 ///< when it applies
    std::vector<ChoiceKey<G>> choose{};  ///< the second where the first is level, and so on; empty: all of them
    double chance = 1.0;                 ///< how surely it fires, 0 to 1
    bool once = false;                   ///< at most once a game
    int every = 1;                       ///< at most once in so many decisions of the opponent; at least 1
    int from_level = 1;                  ///< below that level it is asleep
    std::vector<StateChange> changes{};  ///< of the player's own states, when it is carried out
    std::string lot{};                   ///< rules of one lot draw by weight which of those that apply is carried out
    double weight = 1.0;                 ///< more than 0
};

namespace detail {

/// The place of a name among those of a game. Throws InputError where it is none of them.
std::size_t place_of_name(const char* what, const std::string& name, const std::vector<std::string>& names);
/// Throws InputError for a chance, a number of turns, a level or a weight out of range.
void check_rule_numbers(const std::string& name, double chance, int every, int from_level, double weight);
/// Why a rule is not asked at all; empty where it is. `fired`: what chose each earlier decision.
std::string why_not_due(bool once, int every, const std::string& name, const std::vector<std::string>& fired);

/// Leaves of the moves those that the keys like best, one key after the other; says so where texts are wanted.
template <Game G>
std::string choose_by_keys(const Situation<G>& now, const std::vector<ChoiceKey<G>>& keys,
                           std::vector<typename G::Move>& moves) {
    std::string text;
    std::vector<double> values;
    for (const ChoiceKey<G>& key : keys) {
        const double sign = key.choose == TargetChoice::Lowest ? 1.0 : -1.0;
        values.clear();
        double best = 0;
        bool any = false;
        for (const auto& move : moves) {
            const double value = sign * key.by.value(now.game, now.position, move, now.memory);
            values.push_back(value);
            if (value == value && (!any || value < best)) {
                best = value;
                any = true;
            }
        }
        if (!any) continue;  // not defined for any of them
        std::size_t kept = 0;
        for (std::size_t i = 0; i < moves.size(); ++i)
            if (values[i] == best) {
                if (kept != i) moves[kept] = moves[i];
                ++kept;
            }
        moves.erase(moves.begin() + static_cast<std::ptrdiff_t>(kept), moves.end());
        if (now.explains) {
            if (!text.empty()) text += ", then ";
            text += key.choose == TargetChoice::Lowest ? "lowest " : "highest ";
            text += key.by.text();
            text += ": ";
            text += short_number(sign * best);
        }
        if (moves.size() == 1) break;
    }
    return text;
}

}  // namespace detail

/// The rule for a list of rules, at a level. With `ready`, that rule is asked, and everything that `rule` says holds
/// besides: it is asked about the moves alone that meet the conditions. Throws InputError for an actor, action, kind or
/// target that the game does not have, and for numbers out of range.
template <Game G>
Rule<G> make_rule(const G& game, const ConditionalRule<G>& rule, int level = highest_level, Rule<G> ready = {}) {
    detail::check_rule_numbers(rule.name, rule.chance, rule.every, rule.from_level, rule.weight);
    BoundActFilter acts;
    if constexpr (ActingGame<G>) {
        if (acts_in(game)) acts = BoundActFilter(rule.acts, game.act_names());
    }
    if (!acts_in(game) && !rule.acts.asks_nothing())
        throw InputError("rule", "'" + rule.name + "' names an actor or an action, and the game has none",
                         "a rule with conditions alone");
    std::string asleep;
    if (level < rule.from_level) asleep = "asleep below level " + std::to_string(rule.from_level);

    Rule<G> made;
    made.name = rule.name;
    made.settles_ties = ready.settles_ties;
    made.changes = rule.changes;
    made.lot = rule.lot;
    made.weight = rule.weight;
    made.asks_deeds =
        rule.when.asks_deeds() || ready.asks_deeds ||
        std::any_of(rule.choose.begin(), rule.choose.end(), [](const auto& key) { return key.by.asks_deeds(); });
    made.ask = [rule, acts, asleep, ready = std::move(ready),
                number = hash_of_text(rule.name)](const Situation<G>& now) {
        RuleAnswer<typename G::Move> answer;
        const auto passed_over = [&](std::string why) {
            answer.moves.clear();
            answer.why = std::move(why);
            return std::move(answer);
        };
        if (!asleep.empty()) return passed_over(asleep);
        if ((rule.once || rule.every > 1) && now.memory != nullptr) {
            std::string why = detail::why_not_due(rule.once, rule.every, rule.name, now.memory->fired);
            if (!why.empty()) return passed_over(std::move(why));
        }
        answer.moves.reserve(now.moves.size());
        if (acts.asks_nothing() || now.acts == nullptr) {
            answer.moves.assign(now.moves.begin(), now.moves.end());
        } else {
            for (std::size_t i = 0; i < now.moves.size(); ++i)
                if (acts.fits((*now.acts)[i])) answer.moves.push_back(now.moves[i]);
            if (answer.moves.empty()) return passed_over(now.explains ? acts.why_none(*now.acts) : std::string());
        }
        if (!rule.when.always_holds()) {
            std::string why = rule.when.keep(now.game, now.position, answer.moves, now.memory, now.explains);
            if (answer.moves.empty()) return passed_over(std::move(why));
        }
        if (rule.chance < 1 && !Random(derived_seed(now.seed, number)).chance(rule.chance))
            return passed_over("left to chance, and not this time");
        if (now.explains) answer.why = rule.when.text();
        if (ready.ask) {
            const std::vector<typename G::Move> some = std::move(answer.moves);
            RuleAnswer<typename G::Move> asked = ready.ask(
                {now.game, now.position, now.player, some, nullptr, now.memory, now.seed, now.game_seed, now.explains});
            asked.positions_seen += answer.positions_seen;
            answer = std::move(asked);
            if (answer.moves.empty()) return answer;
        }
        if (!rule.choose.empty()) {
            const std::size_t before = answer.moves.size();
            std::string why = detail::choose_by_keys(now, rule.choose, answer.moves);
            if (now.explains && !why.empty() && before > 1) {
                why += " (of " + std::to_string(before) + ")";
                answer.why = std::move(why);
            }
        }
        if (!now.explains) return answer;
        if (answer.why.empty()) answer.why = "it is available";
        if (answer.moves.size() == 1) answer.why += ": " + move_name_of(now.game, now.position, answer.moves.front());
        return answer;
    };
    return made;
}

}  // namespace arvek
