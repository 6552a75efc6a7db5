#include "condition_reader.hpp"

#include <algorithm>

namespace arvek {

namespace {

constexpr std::size_t most_condition_parts = 1'000;

const std::vector<std::string>& comparison_keys() {
    static const std::vector<std::string> keys{"is", "below", "at_most", "above", "at_least"};
    return keys;
}

const std::vector<std::string>& operation_keys() {
    static const std::vector<std::string> keys{"plus", "minus", "times", "over"};
    return keys;
}

std::size_t size_of(const ConditionText& condition) {
    std::size_t size = 1;
    for (const ConditionText& part : condition.parts) size += size_of(part);
    return size;
}

}  // namespace

std::string ConditionReader::line(const DataNode& node, const std::string& what) const {
    const std::string& text = file_.text(node, what);
    if (text.empty() || text.size() > 80 || text.find('\n') != std::string::npos)
        file_.fail(node, what + " is empty or too long", "1 to 80 letters in one line");
    return text;
}

std::optional<PlacedName> ConditionReader::placed_or_none(const DataNode& table, const std::string& key) const {
    const DataNode* node = table.find(key);
    if (node == nullptr) return std::nullopt;
    return placed(*node, "'" + key + "'");
}

std::vector<PlacedName> ConditionReader::names(const DataNode& table, const std::string& key) const {
    std::vector<PlacedName> found;
    const DataNode* node = table.find(key);
    if (node == nullptr) return found;
    if (node->kind != DataNode::Kind::List) return {placed(*node, "'" + key + "'")};
    if (node->items.empty() || node->items.size() > most_parts)
        file_.fail(*node, "'" + key + "' has no names, or too many", "1 to 100");
    for (const DataNode& item : node->items) found.push_back(placed(item, "'" + key + "'"));
    return found;
}

const std::vector<std::string>& ConditionReader::filter_keys() {
    static const std::vector<std::string> keys{"actor",     "action",     "kind",     "target",
                                               "not_actor", "not_action", "not_kind", "not_target"};
    return keys;
}

ActFilterText ConditionReader::act_filter(const DataNode& table) const {
    return {names(table, "actor"),    names(table, "action"),    names(table, "kind"),
            names(table, "target"),   names(table, "not_actor"), names(table, "not_action"),
            names(table, "not_kind"), names(table, "not_target")};
}

/// What a comparison or an operation takes: a number, a boolean, or a name.
MeasureText ConditionReader::operand(const DataNode& node, const std::string& key) const {
    MeasureText measure;
    measure.place = node.place;
    if (node.kind == DataNode::Kind::String) {
        measure.kind = MeasureText::Kind::Named;
        measure.name = placed(node, "'" + key + "'");
        if (measure.name.name.find_first_not_of("0123456789.-") == std::string::npos)
            file_.fail(node, "'" + measure.name.name + "' is a number in quotes",
                       measure.name.name + " without quotes");
    } else if (node.kind == DataNode::Kind::Boolean) {
        measure.number = node.truth ? 1.0 : 0.0;
        measure.is_boolean = true;
    } else if (node.kind == DataNode::Kind::Integer || node.kind == DataNode::Kind::Number) {
        measure.number = file_.number(node, "'" + key + "'", -largest_number, largest_number);
    } else {
        file_.fail(node, "'" + key + "' is neither a number nor a name", key + " = 8");
    }
    return measure;
}

/// The number that a condition asks about; nothing where it asks about none.
std::optional<MeasureText> ConditionReader::measure(const DataNode& node) const {
    static const std::vector<std::pair<std::string, MeasureText::Kind>> heads{
        {"quantity", MeasureText::Kind::Quantity},
        {"state", MeasureText::Kind::State},
        {"count", MeasureText::Kind::Count},
        {"turns_since", MeasureText::Kind::TurnsSince}};
    std::optional<MeasureText> found;
    for (const auto& [key, kind] : heads) {
        const DataNode* head = node.find(key);
        if (head == nullptr) continue;
        if (found) file_.fail(*head, "one condition asks about two things", "all = [{ ... }, { ... }]");
        found.emplace();
        found->kind = kind;
        found->place = head->place;
        const bool of_deeds = kind == MeasureText::Kind::Count || kind == MeasureText::Kind::TurnsSince;
        if (of_deeds && head->kind == DataNode::Kind::Table) {
            file_.allow_only(*head, filter_keys());
            found->done = act_filter(*head);
            if (found->done.asks_nothing())
                file_.fail(*head, "'" + key + "' says nothing of what was done", key + " = { action = \"douse\" }");
        } else {
            found->name = placed(*head, "'" + key + "'");
        }
    }
    const DataNode* by = node.find("by");
    if (by != nullptr) {
        if (!found || (found->kind != MeasureText::Kind::Count && found->kind != MeasureText::Kind::TurnsSince))
            file_.fail(*by, "'by' is for what was done", "count = \"douse\", by = \"rival\"");
        found->by = static_cast<DoneBy>(file_.choice(*by, "'by'", {"own", "rival", "actor"}));
    }
    for (const auto& [key, place, value] : node.entries) {
        const auto known = std::find(operation_keys().begin(), operation_keys().end(), key);
        if (known == operation_keys().end()) continue;
        if (!found) file_.fail(place, "'" + key + "' is done to no number", "quantity = \"own hands\"");
        found->with.push_back(operand(value, key));
        found->with.back().operation = static_cast<Arithmetic>(known - operation_keys().begin());
    }
    return found;
}

ConditionText ConditionReader::condition(const DataNode& node, int depth) const {
    constexpr int deepest = 20;
    if (node.kind == DataNode::Kind::List)
        file_.fail(node, "a list of conditions does not say how they go together",
                   "when = { all = [{ ... }, { ... }] }, or any, or none");
    file_.require_table(node, "a condition", "{ quantity = \"target stamina\", below = 8 }");
    if (depth > deepest) file_.fail(node, "conditions are nested too deeply", "at most 20 in one another");
    ConditionText condition;
    condition.place = node.place;
    const auto group = [&](const char* key, ConditionText::Kind kind) {
        const DataNode* parts = node.find(key);
        if (parts == nullptr) return;
        if (parts->kind != DataNode::Kind::List)
            file_.fail(*parts, std::string("'") + key + "' is not a list of conditions",
                       std::string(key) + " = [{ ... }, { ... }]");
        if (parts->items.empty() || parts->items.size() > most_parts)
            file_.fail(*parts, std::string("'") + key + "' has no conditions, or too many", "1 to 100");
        ConditionText own;
        own.kind = kind;
        own.place = parts->place;
        for (const DataNode& part : parts->items) own.parts.push_back(this->condition(part, depth + 1));
        condition.parts.push_back(std::move(own));
    };
    std::vector<std::string> keys{"all", "any", "none", "quantity", "state", "count", "turns_since", "by", "condition"};
    keys.insert(keys.end(), comparison_keys().begin(), comparison_keys().end());
    keys.insert(keys.end(), operation_keys().begin(), operation_keys().end());
    file_.allow_only(node, keys);
    group("all", ConditionText::Kind::All);
    group("any", ConditionText::Kind::Any);
    group("none", ConditionText::Kind::None);
    if (const DataNode* name = node.find("condition")) {
        ConditionText named;
        named.kind = ConditionText::Kind::Named;
        named.place = name->place;
        named.name = placed(*name, "'condition'");
        condition.parts.push_back(std::move(named));
    }
    const std::optional<MeasureText> left = measure(node);
    if (node.find("is") != nullptr)
        for (const std::string& key : comparison_keys())
            if (const DataNode* other = node.find(key); other != nullptr && key != "is")
                file_.fail(*other, "'is' says what the number must be, so '" + key + "' adds nothing",
                           "one of the two");
    bool compared = false;
    for (std::size_t i = 0; i < comparison_keys().size(); ++i) {
        const std::string& key = comparison_keys()[i];
        const DataNode* with = node.find(key);
        if (with == nullptr) continue;
        if (!left) file_.fail(node, "a comparison is of no quantity", "quantity = \"target stamina\"");
        compared = true;
        ConditionText test;
        test.kind = ConditionText::Kind::Test;
        test.place = node.place;
        test.left = *left;
        test.comparison = static_cast<Comparison>(i);
        test.right = operand(*with, key);
        condition.parts.push_back(std::move(test));
    }
    if (left && !compared) {
        if (left->kind != MeasureText::Kind::State || !left->with.empty())
            file_.fail(node,
                       left->kind == MeasureText::Kind::Quantity ? "the quantity is not compared"
                                                                 : "the number is not compared",
                       "one of " + any_of_text(comparison_keys()));
        ConditionText test;  // a state by itself: that it is true
        test.kind = ConditionText::Kind::Test;
        test.place = node.place;
        test.left = *left;
        test.right.number = 1.0;
        test.right.is_boolean = true;
        test.right.place = left->place;
        condition.parts.push_back(std::move(test));
    }
    if (condition.parts.empty())
        file_.fail(node, "the condition is empty", "{ quantity = \"target stamina\", below = 8 }");
    return condition.parts.size() == 1 ? std::move(condition.parts.front()) : condition;
}

ConditionText ConditionReader::condition_or_none(const DataNode& table) const {
    const DataNode* when = table.find("when");
    return when != nullptr ? condition(*when, 1) : ConditionText();
}

void ConditionReader::resolve(ConditionText& condition, const Profile& profile, std::size_t before) const {
    fill_in(condition, profile, before);
    if (size_of(condition) > most_condition_parts)
        file_.fail(condition.place, "the condition is too large, with all that it uses", "at most 1000 comparisons");
}

void ConditionReader::fill_in(ConditionText& condition, const Profile& profile, std::size_t before) const {
    if (condition.kind == ConditionText::Kind::Named && condition.parts.empty()) {
        if (std::find(wrong_conditions_.begin(), wrong_conditions_.end(), condition.name.name) !=
            wrong_conditions_.end())
            throw AlreadySaid{};
        std::vector<std::string> known;
        for (std::size_t i = 0; i < profile.conditions.size(); ++i) {
            if (i < before) known.push_back(profile.conditions[i].first.name);
            if (profile.conditions[i].first.name != condition.name.name) continue;
            if (i >= before)
                file_.fail(condition.name.place, "'" + condition.name.name + "' stands below, or uses itself",
                           "a condition that stands above");
            condition.parts = {profile.conditions[i].second};
            return;
        }
        if (known.empty())
            file_.fail(condition.name.place, "there is no condition '" + condition.name.name + "'",
                       "[conditions], with its name");
        file_.fail_unknown(condition.name.place, "condition", condition.name.name, known);
    }
    for (ConditionText& part : condition.parts) fill_in(part, profile, before);
}

}  // namespace arvek
