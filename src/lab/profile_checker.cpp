// What is wrong with a profile in its game, or probably not meant.

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <limits>
#include <optional>
#include <set>
#include <tuple>

#include "arvek/game/input_error.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/playing_out.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/seen_so_far.hpp"
#include "arvek/game/text.hpp"
#include "arvek/lab/profile_check.hpp"
#include "arvek/opponent/make_opponent.hpp"
#include "arvek/rules/act_filter.hpp"
#include "arvek/rules/measure.hpp"

namespace arvek {

std::string ProfileFinding::text() const {
    std::string text = file;
    if (line > 0) text += ", line " + std::to_string(line) + ", column " + std::to_string(column);
    text += ": " + problem;
    return advice.empty() ? text : text + " (" + advice + ")";
}

bool ProfileReport::is_right() const {
    return std::none_of(findings.begin(), findings.end(), [](const auto& finding) { return finding.is_error; });
}

ProfileFinding finding_of(const std::string& complaint) {
    ProfileFinding finding;
    std::string rest = complaint;
    const std::size_t line = rest.find(", line ");
    if (line != std::string::npos) {
        int read = 0;
        if (std::sscanf(rest.c_str() + line, ", line %d, column %d: %n", &finding.line, &finding.column, &read) == 2 &&
            read > 0) {
            finding.file = rest.substr(0, line);
            rest.erase(0, line + static_cast<std::size_t>(read));
        }
    }
    const std::size_t expected = rest.rfind(" (expected ");
    if (expected != std::string::npos && rest.ends_with(')')) {
        finding.advice = "expected " + rest.substr(expected + 11, rest.size() - expected - 12);
        rest.resize(expected);
    }
    finding.problem = rest;
    return finding;
}

namespace {

constexpr double endless = std::numeric_limits<double>::infinity();
constexpr std::size_t most_decisions = 20'000;
constexpr std::size_t longest_game = 400;

/// Numbers from least to most, the ends perhaps not among them.
struct Span {
    double least = -endless, most = endless;
    bool without_least = false, without_most = false;

    bool is_empty() const { return least > most || (least == most && (without_least || without_most)); }
    void keep_below(double number, bool with) {
        if (number < most || (number == most && !with)) {
            most = number;
            without_most = !with;
        }
    }
    void keep_above(double number, bool with) {
        if (number > least || (number == least && !with)) {
            least = number;
            without_least = !with;
        }
    }
};

std::string span_text(const Span& span) {
    if (span.least == -endless && span.most == endless) return "any number";
    if (span.most == endless) return number_text(span.least) + " or more";
    if (span.least == -endless) return number_text(span.most) + " or less";
    return number_text(span.least) + " to " + number_text(span.most);
}

void name_filter(std::string& text, const char* what, const std::vector<PlacedName>& names) {
    for (const PlacedName& name : names) text += std::string("|") + what + name.name;
}

std::string filter_key(const ActFilterText& filter) {
    std::string text;
    name_filter(text, "a:", filter.actors);
    name_filter(text, "d:", filter.actions);
    name_filter(text, "k:", filter.kinds);
    name_filter(text, "t:", filter.targets);
    name_filter(text, "na:", filter.no_actors);
    name_filter(text, "nd:", filter.no_actions);
    name_filter(text, "nk:", filter.no_kinds);
    name_filter(text, "nt:", filter.no_targets);
    return text;
}

/// Two measures of one key are the same number.
std::string measure_key(const MeasureText& measure) {
    std::string key;
    switch (measure.kind) {
        case MeasureText::Kind::Number: key = number_text(measure.number); break;
        case MeasureText::Kind::Named:
        case MeasureText::Kind::Quantity:
        case MeasureText::Kind::State: key = "n:" + measure.name.name; break;
        case MeasureText::Kind::Count: key = "c:" + measure.name.name + filter_key(measure.done); break;
        case MeasureText::Kind::TurnsSince: key = "s:" + measure.name.name + filter_key(measure.done); break;
    }
    key += "/" + std::to_string(static_cast<int>(measure.by));
    for (const MeasureText& other : measure.with)
        key += "(" + std::to_string(static_cast<int>(other.operation)) + measure_key(other) + ")";
    return key;
}

std::string condition_key(const ConditionText& condition) {
    if (condition.kind == ConditionText::Kind::Named) return condition_key(condition.parts.front());
    std::string key = std::to_string(static_cast<int>(condition.kind));
    if (condition.kind == ConditionText::Kind::Test)
        key += measure_key(condition.left) + std::to_string(static_cast<int>(condition.comparison)) +
               measure_key(condition.right);
    for (const ConditionText& part : condition.parts) key += "{" + condition_key(part) + "}";
    return key;
}

class ProfileChecker {
   public:
    ProfileChecker(const AnyGame& game, const Profile& profile, const ChooserSet& choosers,
                   const ProfileCheckOptions& options)
        : game_(game), profile_(profile), choosers_(choosers), options_(options) {
        if (acts_in(game)) names_ = game.act_names();
    }

    ProfileReport check() {
        std::vector<std::string> problems;
        find_profile_problems(game_, profile_, choosers_, problems);
        for (const std::string& problem : problems) {
            ProfileFinding finding = finding_of(problem);
            if (finding.file.empty()) finding.file = profile_.source;
            report_.findings.push_back(std::move(finding));
        }
        const bool bound = report_.is_right() && !options_.is_partial;
        // A rule that could not be read may use what seems to be of no use.
        if (!options_.is_partial) look_at_states();
        look_at_conditions();
        look_at_rules();
        look_at_suggestions();
        look_at_levels();
        if (bound) {
            watch_random_games();
            look_at_acts();
            look_at_fallback();
            look_at_book();
            if (options_.games > 0) {
                play();
                look_at_use();
            }
        }
        auto& findings = report_.findings;
        std::stable_sort(findings.begin(), findings.end(), [](const auto& a, const auto& b) {
            return std::tie(a.file, a.line, a.column) < std::tie(b.file, b.line, b.column);
        });
        findings.erase(std::unique(findings.begin(), findings.end(),
                                   [](const auto& a, const auto& b) { return a.text() == b.text(); }),
                       findings.end());
        return std::move(report_);
    }

   private:
    void find(bool is_error, const DataPlace& place, std::string problem, std::string advice) {
        report_.findings.push_back({is_error, profile_.sources[static_cast<std::size_t>(place.file)], place.line,
                                    place.column, std::move(problem), std::move(advice)});
    }
    void warn(const DataPlace& place, std::string problem, std::string advice) {
        find(false, place, std::move(problem), std::move(advice));
    }

    // Conditions.

    template <class Look>
    static void each_test(const ConditionText& condition, const Look& look) {
        if (condition.kind == ConditionText::Kind::Test) look(condition);
        for (const ConditionText& part : condition.parts) each_test(part, look);
    }

    /// Every condition of the profile, with what it is of; those by name once.
    template <class Look>
    void each_condition(const Look& look) const {
        for (const auto& [name, condition] : profile_.conditions) look(condition, "the condition '" + name.name + "'");
        for (const GroupText& group : profile_.groups) look(group.when, "the group '" + group.name.name + "'");
        for (const ChangeText& change : profile_.changes) look(change.when, "'" + change.name.name + "'");
        for (const RuleText& rule : profile_.rules) look(rule.when, "'" + rule.name.name + "'");
        for (const FallbackText& fallback : profile_.fallback) look(fallback.when, "the fallback");
        for (const SuggestionText& suggestion : profile_.suggestions)
            look(suggestion.when, "'" + suggestion.name.name + "'");
    }

    const Quantity<AnyGame>* quantity(const std::string& name) const { return find_quantity(game_, name); }

    const StateText* state(const std::string& name) const {
        for (const StateText& each : profile_.states)
            if (each.name.name == name) return &each;
        return nullptr;
    }

    /// Every value that a state can have; nothing where it can have any.
    std::optional<std::set<double>> values_of(const StateText& state) const {
        std::set<double> values{state.first};
        bool any = false;
        const auto add = [&](const std::vector<StateChangeText>& changes) {
            for (const StateChangeText& change : changes) {
                if (change.state.name != state.name.name) continue;
                any = any || change.kind == StateChange::Kind::Add || change.to_turn;
                values.insert(change.number);
            }
        };
        for (const ChangeText& change : profile_.changes) add(change.changes);
        for (const RuleText& rule : profile_.rules) add(rule.changes);
        if (any) return std::nullopt;
        return values;
    }

    Span span_of(const MeasureText& measure) const {
        if (!measure.with.empty()) return {};
        switch (measure.kind) {
            case MeasureText::Kind::Number: return {measure.number, measure.number};
            case MeasureText::Kind::Count: return {0, endless};
            case MeasureText::Kind::TurnsSince: return {1, endless};
            default: break;
        }
        if (const StateText* known = state(measure.name.name); known && measure.kind != MeasureText::Kind::Quantity) {
            const auto values = values_of(*known);
            return values ? Span{*values->begin(), *values->rbegin()} : Span{};
        }
        if (measure.name.name == "turn") return {1, endless};
        if (const auto* found = quantity(measure.name.name)) {
            const auto [least, most] = range_of(*found);
            return {least, most};
        }
        return {};
    }

    /// Whether no number of the left is so against any of the right.
    bool is_never(const ConditionText& test) const {
        const Span left = span_of(test.left), right = span_of(test.right);
        if (test.left.with.empty() && test.right.kind == MeasureText::Kind::Number &&
            test.comparison == Comparison::Is && test.left.kind != MeasureText::Kind::Quantity)
            if (const StateText* known = state(test.left.name.name)) {
                const auto values = values_of(*known);
                if (values && !values->contains(test.right.number)) return true;
            }
        switch (test.comparison) {
            case Comparison::Is: return left.most < right.least || left.least > right.most;
            case Comparison::Below: return left.least >= right.most;
            case Comparison::AtMost: return left.least > right.most;
            case Comparison::Above: return left.most <= right.least;
            case Comparison::AtLeast: return left.most < right.least;
        }
        return false;
    }
    bool is_always(const ConditionText& test) const {
        if (measure_key(test.left) == measure_key(test.right))
            return test.comparison == Comparison::Is || test.comparison == Comparison::AtMost ||
                   test.comparison == Comparison::AtLeast;
        const Span left = span_of(test.left), right = span_of(test.right);
        switch (test.comparison) {
            case Comparison::Is:
                return left.least == left.most && right.least == right.most && left.least == right.least;
            case Comparison::Below: return left.most < right.least;
            case Comparison::AtMost: return left.most <= right.least;
            case Comparison::Above: return left.least > right.most;
            case Comparison::AtLeast: return left.least >= right.most;
        }
        return false;
    }

    struct Demand {
        const ConditionText* test;
        bool positive;
    };

    /// What must hold together, and what is a choice.
    void collect(const ConditionText& condition, bool positive, std::vector<Demand>& demands,
                 std::vector<std::pair<const ConditionText*, bool>>& choices) const {
        switch (condition.kind) {
            case ConditionText::Kind::Test: demands.push_back({&condition, positive}); return;
            case ConditionText::Kind::Named: collect(condition.parts.front(), positive, demands, choices); return;
            case ConditionText::Kind::All:
            case ConditionText::Kind::Any:
            case ConditionText::Kind::None: break;
        }
        const bool is_none = condition.kind == ConditionText::Kind::None;
        const bool together =
            positive ? condition.kind != ConditionText::Kind::Any : condition.kind == ConditionText::Kind::Any;
        if (!together) {
            choices.emplace_back(&condition, positive);
            return;
        }
        for (const ConditionText& part : condition.parts)
            collect(part, is_none ? !positive : positive, demands, choices);
    }

    /// Whether a condition cannot hold, or with `positive` false, cannot fail.
    bool is_impossible(const ConditionText& condition, bool positive) const {
        if (condition.always_holds()) return !positive;
        std::vector<Demand> demands;
        std::vector<std::pair<const ConditionText*, bool>> choices;
        collect(condition, positive, demands, choices);
        std::map<std::string, Span> spans;
        for (const Demand& demand : demands) {
            const ConditionText& test = *demand.test;
            if (demand.positive ? is_never(test) : is_always(test)) return true;
            if (test.right.kind != MeasureText::Kind::Number || !test.right.with.empty()) continue;
            Span& span = spans.try_emplace(measure_key(test.left), span_of(test.left)).first->second;
            const double number = test.right.number;
            switch (test.comparison) {
                case Comparison::Is:
                    if (demand.positive) {
                        span.keep_above(number, true);
                        span.keep_below(number, true);
                    } else if (is_boolean(test.left)) {  // not true is false
                        span.keep_above(1 - number, true);
                        span.keep_below(1 - number, true);
                    }
                    break;
                case Comparison::Below:
                    demand.positive ? span.keep_below(number, false) : span.keep_above(number, true);
                    break;
                case Comparison::AtMost:
                    demand.positive ? span.keep_below(number, true) : span.keep_above(number, false);
                    break;
                case Comparison::Above:
                    demand.positive ? span.keep_above(number, false) : span.keep_below(number, true);
                    break;
                case Comparison::AtLeast:
                    demand.positive ? span.keep_above(number, true) : span.keep_below(number, false);
                    break;
            }
            if (span.is_empty()) return true;
        }
        for (const auto& [choice, way] : choices) {
            const bool inner = choice->kind == ConditionText::Kind::None ? !way : way;
            if (std::all_of(choice->parts.begin(), choice->parts.end(),
                            [&](const ConditionText& part) { return is_impossible(part, inner); }))
                return true;
        }
        return false;
    }

    bool is_boolean(const MeasureText& measure) const {
        if (const StateText* known = state(measure.name.name)) return known->is_boolean;
        const auto* found = quantity(measure.name.name);
        return found != nullptr && std::string_view(found->unit) == "0 or 1";
    }

    std::string said(const MeasureText& measure) const {
        if (measure.kind == MeasureText::Kind::Number) return number_text(measure.number);
        if (measure.kind == MeasureText::Kind::Count) return "the count";
        if (measure.kind == MeasureText::Kind::TurnsSince) return "the turns since";
        return measure.name.name;
    }

    void look_at_conditions() {
        each_condition([&](const ConditionText& condition, const std::string& whose) {
            bool told = false;
            each_test(condition, [&](const ConditionText& test) {
                const bool never = is_never(test), always = is_always(test);
                if (!never && !always) return;
                told = true;
                std::string advice = "another number, or no such condition";
                const auto* found = quantity(test.left.name.name);
                if (found != nullptr && std::string_view(found->unit) == "0 to 1" &&
                    test.right.kind == MeasureText::Kind::Number && test.right.number > 1 && test.right.number <= 100)
                    advice = "a share: " + number_text(test.right.number / 100) + ", perhaps";
                const Span span = span_of(test.left);
                const StateText* known = state(test.left.name.name);
                std::string why = said(test.left) + " is " + span_text(span);
                if (known != nullptr && known->is_boolean && test.left.with.empty())
                    why = said(test.left) + " is " + (known->first != 0 ? "true" : "false") + " all game long";
                warn(test.place, std::string("this is ") + (never ? "never" : "always") + " so: " + why, advice);
            });
            if (told || condition.always_holds()) return;
            if (is_impossible(condition, true))
                warn(condition.place, whose + " asks for what cannot be together", "'any' where one of them is enough");
            else if (is_impossible(condition, false))
                warn(condition.place, whose + " asks for what is always so", "'all' where both are meant");
        });
    }

    void look_at_states() {
        for (const StateText& state : profile_.states) {
            bool asked = false, changed = false;
            const auto names = [&](const MeasureText& measure) {
                const auto is = [&](const MeasureText& each) {
                    return each.kind != MeasureText::Kind::Quantity && each.name.name == state.name.name;
                };
                return is(measure) || std::any_of(measure.with.begin(), measure.with.end(), is);
            };
            each_condition([&](const ConditionText& condition, const std::string&) {
                each_test(condition,
                          [&](const ConditionText& test) { asked = asked || names(test.left) || names(test.right); });
            });
            for (const RuleText& rule : profile_.rules)
                for (const ChoiceText& key : rule.choose) asked = asked || key.by.name == state.name.name;
            const auto look = [&](const std::vector<StateChangeText>& changes) {
                for (const StateChangeText& change : changes) changed = changed || change.state.name == state.name.name;
            };
            for (const ChangeText& change : profile_.changes) look(change.changes);
            for (const RuleText& rule : profile_.rules) look(rule.changes);
            if (!asked && !changed)
                warn(state.name.place, "the state '" + state.name.name + "' is neither set nor asked", "no such state");
            else if (!asked)
                warn(state.name.place, "the state '" + state.name.name + "' is set, and nobody asks it",
                     "{ state = \"" + state.name.name + "\" } in a condition");
            else if (!changed)
                warn(state.name.place, "the state '" + state.name.name + "' is asked, and nothing sets it",
                     "set = { \"" + state.name.name + "\" = ... } in a rule, or [[change]]");
        }
        std::set<std::string> used;
        const std::function<void(const ConditionText&)> note = [&](const ConditionText& condition) {
            if (condition.kind == ConditionText::Kind::Named) used.insert(condition.name.name);
            for (const ConditionText& part : condition.parts) note(part);
        };
        each_condition([&](const ConditionText& condition, const std::string&) { note(condition); });
        for (const auto& [name, condition] : profile_.conditions)
            if (!used.contains(name.name))
                warn(name.place, "nobody uses the condition '" + name.name + "'",
                     "{ condition = \"" + name.name + "\" } in a rule");
        for (const GroupText& group : profile_.groups)
            if (std::none_of(profile_.rules.begin(), profile_.rules.end(),
                             [&](const RuleText& rule) { return rule.group && rule.group->name == group.name.name; }))
                warn(group.name.place, "no rule is in the group '" + group.name.name + "'",
                     "group = \"" + group.name.name + "\" in a rule");
    }

    // Rules.

    const GroupText* group_of(const RuleText& rule) const {
        for (const GroupText& group : profile_.groups)
            if (rule.group && group.name.name == rule.group->name) return &group;
        return nullptr;
    }

    /// Whether the rule is carried out whenever it is asked.
    bool is_unconditional(const RuleText& rule) const {
        const GroupText* group = group_of(rule);
        return !rule.use && rule.acts.asks_nothing() && is_always_met(rule.when) && rule.chance >= 1 && !rule.once &&
               rule.every == 1 && (group == nullptr || is_always_met(group->when));
    }
    bool is_always_met(const ConditionText& condition) const {
        return condition.always_holds() || is_impossible(condition, false);
    }

    void look_at_rules() {
        const RuleText* last = nullptr;
        std::map<std::string, const RuleText*> alike;
        for (const RuleText& rule : profile_.rules) {
            const bool in_lot = last != nullptr && last->group && rule.group && last->group->name == rule.group->name &&
                                group_of(rule) != nullptr && group_of(rule)->draw;
            if (last != nullptr && !in_lot) {
                warn(rule.place,
                     "'" + rule.name.name + "' is never asked, as '" + last->name.name + "' above always applies",
                     "the other order, or a condition above");
                break;
            }
            const GroupText* group = group_of(rule);
            if (rule.from_level <= lowest_level && (group == nullptr || group->from_level <= lowest_level) &&
                is_unconditional(rule) && last == nullptr)
                last = &rule;
            if (rule.chance <= 0)
                warn(rule.place, "'" + rule.name.name + "' never fires, as its chance is 0",
                     "a chance above 0, or no rule");
            if (rule.use || rule.once || rule.every > 1 || rule.chance < 1 || (group != nullptr && group->draw))
                continue;
            const std::string key = filter_key(rule.acts) + condition_key(rule.when) +
                                    (group != nullptr ? condition_key(group->when) : std::string());
            const auto [at, is_new] = alike.try_emplace(key, &rule);
            if (!is_new && at->second->from_level <= rule.from_level && !is_unconditional(rule))
                warn(rule.place,
                     "'" + rule.name.name + "' asks for the same as '" + at->second->name.name +
                         "' above, so it never fires",
                     "another condition, or one rule of the two");
        }
        if (last != nullptr && !profile_.fallback.empty())
            warn(profile_.fallback.front().place,
                 "the fallback is never needed, as '" + last->name.name + "' always applies", "no fallback");
        if (profile_.chooser.name != "ruled" || options_.is_partial) return;
        unconditional_last_ = last != nullptr;
        if (!unconditional_last_ && profile_.fallback.empty() && !profile_.rules.empty())
            find(true, profile_.rules.back().place, "there is no fallback, so it loses the game where no rule applies",
                 "[[fallback]] behind the last rule; without keys it takes any move");
    }

    // Suggestions.

    void look_at_suggestions() {
        for (std::size_t i = 0; i < profile_.temperament.axes.size(); ++i) {
            const TemperamentAxis& axis = profile_.temperament.axes[i];
            bool is_something = axis.value != 0 || axis.dealt_least != 0 || axis.dealt_most != 0;
            for (const auto& [actor, more] : axis.of) is_something = is_something || more != 0;
            if (!is_something || axis.pulls.empty())
                warn(profile_.axis_places[i],
                     "the axis '" + axis.name + "' changes nothing, as its " +
                         (axis.pulls.empty() ? "pulls are empty" : "value is 0"),
                     "pulls on reasons, and a value from -1 to 1");
        }
        if (profile_.suggestions.empty()) return;
        for (const PlacedName& reason : profile_.reasons) {
            const bool awake =
                std::any_of(profile_.suggestions.begin(), profile_.suggestions.end(),
                            [&](const auto& each) { return each.name.name == reason.name && each.weight > 0; });
            if (!awake && is_reason(reason.name))
                warn(reason.place, "'" + reason.name + "' is weighed, and sleeps: [suggestions] does not name it",
                     "\"" + reason.name + "\" = {} in [suggestions]");
        }
    }

    bool is_reason(const std::string& name) const {
        const auto suggesters = game_.suggesters();
        return std::any_of(suggesters.begin(), suggesters.end(), [&](const auto& each) { return each.reason == name; });
    }

    // Levels.

    void look_at_levels() {
        const ChooserInfo* info = choosers_.find(game_, profile_.chooser.name);
        if (info == nullptr || !info->looks_ahead) return;
        const LevelTable table = level_table_of(*info);
        const auto reach = [&](int level) -> double {
            const LevelSettings settings = level_settings(profile_, level, table, level_change_of(game_, level, table));
            if (table == LevelTable::Playouts)
                return static_cast<double>(settings.limits.playouts.value_or(UINT64_MAX));
            return settings.limits.depth ? static_cast<double>(*settings.limits.depth) : endless;
        };
        for (int level = lowest_level; level <= highest_level; ++level) {
            const LevelText& text = profile_.levels[static_cast<std::size_t>(level - lowest_level)];
            if (!text.depth && !text.playouts) continue;
            for (int higher = level + 1; higher <= highest_level; ++higher)
                if (reach(higher) < reach(level)) {
                    warn(text.place,
                         "level " + std::to_string(level) + " looks farther than level " + std::to_string(higher),
                         "levels that look farther the higher they are");
                    break;
                }
            if (text.depth && profile_.depth && *text.depth > *profile_.depth)
                warn(text.place,
                     "level " + std::to_string(level) + " looks " + std::to_string(*text.depth) +
                         " plies ahead, and the search itself " + std::to_string(*profile_.depth),
                     "no more than the search");
        }
        if (profile_.follow && profile_.follow->least == profile_.follow->most)
            warn(profile_.follow->place, "it follows nobody: the least level is the most", "a range of levels");
    }

    // What occurs in the game.

    template <class See>
    void random_game(std::uint64_t number, const See& see) const {
        Random random(derived_seed(options_.seed, number));
        AnyPosition position = game_.initial_position();
        for (std::size_t ply = 0; ply < longest_game && !game_.outcome(position); ++ply) {
            if (chance_is_next(game_, position)) {
                game_.play(position, drawn_event(game_, position, random));
                continue;
            }
            const auto moves = legal_moves(game_, position);
            if (moves.empty()) return;
            if (!see(position, moves)) return;
            game_.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
    }

    void note_quantities(const AnyPosition& position, std::span<const AnyMove> moves) {
        for (const std::string& name : asked_quantities_) {
            const Quantity<AnyGame>& found = *quantity(name);
            const std::size_t count = found.of == QuantityOf::Position ? 1 : moves.size();
            for (std::size_t i = 0; i < count; ++i) {
                const double value = found.value(game_, position, moves[i]);
                auto [at, is_new] = seen_quantities_.try_emplace(name, Span{value, value});
                at->second.least = std::min(at->second.least, value);
                at->second.most = std::max(at->second.most, value);
            }
        }
    }

    void watch_random_games() {
        each_condition([&](const ConditionText& condition, const std::string&) {
            each_test(condition, [&](const ConditionText& test) {
                for (const MeasureText* measure : {&test.left, &test.right})
                    if (quantity(measure->name.name) != nullptr) asked_quantities_.insert(measure->name.name);
            });
        });
        std::size_t decisions = 0;
        const bool covers_needed =
            profile_.chooser.name == "ruled" && !unconditional_last_ && !profile_.fallback.empty();
        std::vector<BoundActFilter> fallbacks;
        for (const FallbackText& fallback : profile_.fallback)
            if (is_always_met(fallback.when)) fallbacks.push_back(bound(fallback.acts));
        for (int number = 0; number < options_.random_games && decisions < most_decisions; ++number)
            random_game(static_cast<std::uint64_t>(number), [&](const AnyPosition& position, const auto& moves) {
                bool covered = false;
                std::set<std::size_t> actors;
                for (const AnyMove& move : moves) {
                    Act act;
                    if (acts_in(game_)) act = game_.act(position, move);
                    acts_.insert({act.actor, act.action, act.target, act.kinds});
                    actors.insert(act.actor);
                    covered = covered || std::any_of(fallbacks.begin(), fallbacks.end(),
                                                     [&](const auto& fallback) { return fallback.fits(act); });
                }
                if (covers_needed && !covered && uncovered_.empty()) {
                    uncovered_ = names_.actors.empty() || actors.size() != 1
                                     ? player_name_of(game_, game_.player_to_move(position))
                                     : names_.actors[*actors.begin()];
                    if (offers(game_, Ability::Text)) uncovered_position_ = game_.position_text(position);
                }
                return ++decisions < most_decisions;
            });
    }

    BoundActFilter bound(const ActFilterText& text) const {
        const auto names = [](const std::vector<PlacedName>& some) {
            std::vector<std::string> all;
            for (const PlacedName& name : some) all.push_back(name.name);
            return all;
        };
        return BoundActFilter(
            {names(text.actors), names(text.actions), names(text.kinds), names(text.targets), names(text.no_actors),
             names(text.no_actions), names(text.no_kinds), names(text.no_targets)},
            names_);
    }

    /// Filters that nothing in the games ever fitted.
    void look_at_acts() {
        if (!acts_in(game_)) return;
        const auto look = [&](const ActFilterText& text) {
            if (text.asks_nothing()) return;
            const BoundActFilter filter = bound(text);
            for (const Known& known : acts_)
                if (filter.fits(known.act())) return;
            const auto places = [&](const auto& names) -> const PlacedName* {
                return names.empty() ? nullptr : &names.front();
            };
            const PlacedName* first = nullptr;
            for (const auto* names : {&text.actions, &text.kinds, &text.targets, &text.actors, &text.no_actions,
                                      &text.no_kinds, &text.no_targets, &text.no_actors})
                if (first == nullptr) first = places(*names);
            warn(first->place,
                 "there was no " + filter.text() + " in " + std::to_string(options_.random_games) + " random games",
                 what_there_is(text));
        };
        for (const RuleText& rule : profile_.rules) look(rule.acts);
        for (const FallbackText& fallback : profile_.fallback) look(fallback.acts);
        for (const SuggestionText& suggestion : profile_.suggestions) look(suggestion.acts);
    }

    /// What the actors that are asked for do, or who does what is asked for.
    std::string what_there_is(const ActFilterText& text) const {
        std::set<std::string> names;
        const auto is_in = [](const std::vector<PlacedName>& some, const std::string& name) {
            return std::any_of(some.begin(), some.end(), [&](const auto& each) { return each.name == name; });
        };
        for (const Known& known : acts_) {
            const std::string& actor = names_.actors[known.actor];
            const std::string& action = names_.actions[known.action];
            if (!text.actors.empty() && is_in(text.actors, actor)) names.insert(action);
            if (text.actors.empty() && !text.actions.empty() && is_in(text.actions, action))
                for (std::size_t kind = 0; kind < names_.kinds.size(); ++kind)
                    if ((known.kinds >> kind & 1u) != 0) names.insert(names_.kinds[kind]);
        }
        if (names.empty()) return "what the game has; see 'words'";
        std::vector<std::string> list(names.begin(), names.end());
        if (!text.actors.empty()) return text.actors.front().name + " has " + any_of_text(list);
        return text.actions.front().name + " is of kind " + any_of_text(list);
    }

    void look_at_fallback() {
        if (uncovered_.empty()) return;
        find(true, profile_.fallback.front().place,
             "nothing of the fallback is sure to be available to " + uncovered_ +
                 (uncovered_position_.empty() ? "" : ", as at " + uncovered_position_) +
                 ", so it loses the game where no rule applies there",
             "one more [[fallback]] without keys, which takes any move");
    }

    void look_at_book() {
        if (!offers(game_, Ability::Text) || profile_.book.empty()) return;
        struct Line {
            AnyPosition position;
            const BookEntry* entry;
            std::vector<AnyMove> replies;
        };
        std::vector<Line> lines;
        for (const BookEntry& entry : profile_.book) {
            Line line{game_.initial_position(), &entry, {}};
            if (entry.position) line.position = game_.read_position(*entry.position);
            std::vector<std::pair<AnyPosition, AnyMove>> way;
            for (const std::string& text : entry.moves) {
                const AnyMove move = move_from_text(game_, line.position, text);
                way.emplace_back(line.position, move);
                game_.play(line.position, move);
            }
            for (const WeightText& reply : entry.replies)
                line.replies.push_back(move_from_text(game_, line.position, reply.name.name));
            for (const Line& other : lines)
                if (other.position == line.position)
                    warn(entry.place,
                         "this line of the book leads where that of line " + std::to_string(other.entry->place.line) +
                             " leads, which is taken",
                         "one entry for a position, with all replies");
            const Player own = game_.player_to_move(line.position);
            for (const auto& [position, move] : way) {
                if (chance_is_next(game_, position) || game_.player_to_move(position) != own) continue;
                for (const Line& other : lines)
                    if (other.position == position &&
                        std::find(other.replies.begin(), other.replies.end(), move) == other.replies.end())
                        warn(entry.place,
                             "this line is behind the own move " + game_.move_text(position, move) +
                                 ", which the book at line " + std::to_string(other.entry->place.line) + " never plays",
                             "a move that is among its replies");
            }
            lines.push_back(std::move(line));
        }
    }

    // What it does in games.

    RuleUse& use_of(const std::string& rule) {
        for (RuleUse& use : report_.use.rules)
            if (use.rule == rule) return use;
        const auto seats = static_cast<std::size_t>(players_of(game_));
        report_.use.rules.push_back(
            {rule, std::vector<std::uint64_t>(seats), std::vector<std::uint64_t>(seats), {}, {}});
        return report_.use.rules.back();
    }

    void play() {
        const auto seats = static_cast<std::size_t>(players_of(game_));
        report_.use.decisions.assign(seats, 0);
        for (const ChangeText& change : profile_.changes) (void)use_of(change.name.name);
        for (const RuleText& rule : profile_.rules) (void)use_of(rule.name.name);
        OpponentSpec spec = opponent_of_profile(profile_);
        const auto random = make_opponent(game_, {.name = "random"}, {}, choosers_);
        std::vector<std::unique_ptr<Opponent<AnyGame>>> own;
        for (std::size_t seat = 0; seat < seats; ++seat) own.push_back(make_opponent(game_, spec, {}, choosers_));
        for (int number = 0; number < options_.games; ++number) {
            // Against itself, and against random moves from every seat.
            const std::size_t rival = static_cast<std::size_t>(number) % (seats + 1);
            const std::uint64_t seed = derived_seed(options_.seed, 1'000'000 + static_cast<std::uint64_t>(number));
            Random luck(derived_seed(seed, 1));
            std::vector<AnyPosition> positions{game_.initial_position()};
            SeenSoFar seen_so_far;
            try {
                while (positions.size() < longest_game && !game_.outcome(positions.back())) {
                    AnyPosition next = positions.back();
                    if (chance_is_next(game_, next)) {
                        game_.play(next, drawn_event(game_, next, luck));
                        positions.push_back(std::move(next));
                        continue;
                    }
                    const std::size_t seat = index_of(game_.player_to_move(next));
                    const bool is_own = rival == seats || seat == rival;
                    const auto seen = seen_so_far.of(game_, positions, static_cast<Player>(seat));
                    Opponent<AnyGame>& opponent = is_own ? *own[seat] : *random;
                    const auto decision = opponent.decide(seen.back(), seed, seen.first(seen.size() - 1));
                    if (is_own) count(decision, seat);
                    const auto legal = legal_moves(game_, next);
                    const std::vector<AnyMove> moves(legal.begin(), legal.end());
                    note_quantities(next, moves);
                    game_.play(next, decision.move);
                    positions.push_back(std::move(next));
                }
                ++report_.use.games;
            } catch (const InputError& error) {
                ProfileFinding finding;
                finding.file = profile_.source;
                finding.problem = std::string("a game ended where it could not choose: ") + error.what();
                finding.advice = "a [[fallback]] without keys, which takes any move";
                report_.findings.push_back(std::move(finding));
                return;
            }
        }
    }

    void count(const Decision<AnyMove>& decision, std::size_t seat) {
        ++report_.use.decisions[seat];
        std::set<std::string> asked;
        for (const RuleReport& rule : decision.rules) {
            if (rule.kind == RuleKind::TieBreak) continue;
            RuleUse& use = use_of(rule.rule);
            ++use.asked[seat];
            asked.insert(rule.rule);
            if (rule.fired)
                ++use.fired[seat];
            else
                use.last_why = rule.why;
        }
        for (const RuleText& rule : profile_.rules)
            if (!asked.contains(rule.name.name) && !decision.chosen_by.empty())
                ++use_of(rule.name.name).instead[decision.chosen_by];
    }

    void look_at_use() {
        std::uint64_t decisions = 0, by_fallback = 0;
        for (const std::uint64_t each : report_.use.decisions) decisions += each;
        const auto sum = [](const std::vector<std::uint64_t>& counts) {
            std::uint64_t all = 0;
            for (const std::uint64_t each : counts) all += each;
            return all;
        };
        const std::string games = " in " + std::to_string(report_.use.games) + " games";
        for (const RuleUse& use : report_.use.rules) {
            if (use.rule == "fallback") by_fallback = sum(use.fired);
            const auto rule = std::find_if(profile_.rules.begin(), profile_.rules.end(),
                                           [&](const RuleText& each) { return each.name.name == use.rule; });
            const auto change = std::find_if(profile_.changes.begin(), profile_.changes.end(),
                                             [&](const ChangeText& each) { return each.name.name == use.rule; });
            const DataPlace* place = rule != profile_.rules.end()       ? &rule->place
                                     : change != profile_.changes.end() ? &change->name.place
                                                                        : nullptr;
            if (place == nullptr || sum(use.fired) > 0) continue;
            if (sum(use.asked) > 0) {
                warn(*place,
                     "'" + use.rule + "' never fired" + games + ", though it was asked " +
                         std::to_string(sum(use.asked)) + " times",
                     "the last time: " + use.last_why);
            } else {
                const auto most = std::max_element(use.instead.begin(), use.instead.end(),
                                                   [](const auto& a, const auto& b) { return a.second < b.second; });
                warn(*place, "'" + use.rule + "' was never asked" + games,
                     most == use.instead.end() ? "" : "before it always fired another, mostly '" + most->first + "'");
            }
        }
        if (decisions > 0 && by_fallback * 2 > decisions && !profile_.fallback.empty())
            warn(profile_.fallback.front().place,
                 "the fallback chose " + std::to_string(100 * by_fallback / decisions) + " % of the moves" + games,
                 "rules that apply more often");
        each_condition([&](const ConditionText& condition, const std::string&) {
            each_test(condition, [&](const ConditionText& test) {
                if (test.right.kind != MeasureText::Kind::Number || !test.left.with.empty()) return;
                const auto seen = seen_quantities_.find(test.left.name.name);
                if (seen == seen_quantities_.end() || is_never(test) || is_always(test)) return;
                const double number = test.right.number;
                if (number >= seen->second.least && number <= seen->second.most) return;
                warn(test.place,
                     test.left.name.name + " is compared with " + number_text(number) + ", and was " +
                         span_text(seen->second) + games,
                     "a number in that range, unless rare cases are meant");
            });
        });
    }

    /// What occurred, whoever could do it to whom.
    struct Known {
        std::uint16_t actor, action, target;
        std::uint64_t kinds;

        Act act() const { return {actor, action, kinds, target}; }
        friend auto operator<=>(const Known&, const Known&) = default;
    };

    const AnyGame& game_;
    const Profile& profile_;
    const ChooserSet& choosers_;
    ProfileCheckOptions options_;
    ActNames names_;
    ProfileReport report_;
    bool unconditional_last_ = false;
    std::set<Known> acts_;
    std::set<std::string> asked_quantities_;
    std::map<std::string, Span> seen_quantities_;
    std::string uncovered_, uncovered_position_;
};

}  // namespace

ProfileReport check_profile(const AnyGame& game, const Profile& profile, const ChooserSet& choosers,
                            const ProfileCheckOptions& options) {
    if (options.games < 0 || options.random_games < 1)
        throw InputError("games", "a number of games is out of range", "0 or more, and 1 or more random ones");
    return ProfileChecker(game, profile, choosers, options).check();
}

}  // namespace arvek
