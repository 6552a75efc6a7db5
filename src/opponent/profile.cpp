#include "arvek/opponent/profile.hpp"

#include <algorithm>

#include "arvek/search/limits.hpp"

namespace arvek {

namespace {

constexpr std::size_t most_rules = 500, most_replies = 50, most_book_entries = 10'000, most_parts = 100;
constexpr std::size_t most_bytes = 1'000'000;
constexpr double large = 1e9;

/// What a profile may choose by without naming a chooser of its own kind; "search" names its algorithm elsewhere.
constexpr const char* by_search = "search";
constexpr const char* by_rules = "rules";

const std::vector<std::string>& comparison_keys() {
    static const std::vector<std::string> keys{"is", "below", "at_most", "above", "at_least"};
    return keys;
}

/// Reads the parts of a profile.
class ProfileReader {
   public:
    ProfileReader(std::string_view text, std::string_view source) : file_(text, source, most_bytes) {}

    Profile read() {
        const DataNode& root = file_.root();
        Profile profile;
        profile.source = file_.source();
        file_.allow_only(
            root, {"name",     "about",           "game",        "choose",      "level",    "search",    "rule",
                   "fallback", "suggestions",     "temperament", "preferences", "features", "levels",    "follow",
                   "book",     "book_from_level", "pace",        "options",     "limits",   "evaluation"});
        profile.name = line(file_.required(root, "name", "\"The Lock Keeper\""), "'name'");
        profile.about = file_.text_or(root, "about", "");
        profile.game = placed(file_.required(root, "game", "\"scuffle\""), "'game'");
        profile.chooser = placed(file_.required(root, "choose", "\"rules\""), "'choose'");
        chosen_ = profile.chooser.name;
        profile.level = static_cast<int>(file_.integer_or(root, "level", highest_level, lowest_level, highest_level));
        if (const DataNode* level = root.find("level")) profile.level_place = level->place;
        read_search(root, profile);
        read_limits_and_options(root, profile);
        for (const DataNode* table : {root.find("evaluation")}) {
            if (table == nullptr) continue;
            file_.require_table(*table, "'evaluation'", "[evaluation]");
            for (const auto& [key, place, value] : table->entries)
                profile.evaluation.push_back({{key, place}, file_.number(value, "'" + key + "'", -large, large), 1});
        }
        read_rules(root, profile);
        read_suggestions(root, profile);
        read_features(root, profile);
        read_levels(root, profile);
        read_book(root, profile);
        if (const DataNode* pace = root.find("pace")) {
            file_.require_table(*pace, "'pace'", "[pace]");
            file_.allow_only(*pace, {"least_seconds", "variation"});
            profile.pace.least_seconds = file_.number_or(*pace, "least_seconds", 0.0, 0.0, 60.0);
            profile.pace.variation = file_.number_or(*pace, "variation", profile.pace.variation, 0.0, 1.0);
        }
        return profile;
    }

   private:
    std::string line(const DataNode& node, const std::string& what) const {
        const std::string& text = file_.text(node, what);
        if (text.empty() || text.size() > 80 || text.find('\n') != std::string::npos)
            file_.fail(node, what + " is empty or too long", "1 to 80 letters in one line");
        return text;
    }

    PlacedName placed(const DataNode& node, const std::string& what) const { return {line(node, what), node.place}; }

    std::optional<PlacedName> placed_or_none(const DataNode& table, const std::string& key) const {
        const DataNode* node = table.find(key);
        if (node == nullptr) return std::nullopt;
        return placed(*node, "'" + key + "'");
    }

    /// Complains when a part is there that the chooser has no use for.
    const DataNode* part(const DataNode& root, const std::string& key, bool used, const char* by) const {
        const DataNode* node = root.find(key);
        if (node == nullptr || used) return node;
        for (const auto& entry : root.entries)
            if (entry.key == key)
                file_.fail(entry.place, "'" + key + "' means nothing to this chooser",
                           std::string("choose = \"") + by + "\"");
        return nullptr;
    }

    void read_limits(const DataNode& table, Profile& profile) const {
        if (const DataNode* depth = table.find("depth"))
            profile.depth = static_cast<int>(file_.integer(*depth, "'depth'", 1, max_depth));
        if (const DataNode* nodes = table.find("nodes"))
            profile.nodes = static_cast<std::uint64_t>(file_.integer(*nodes, "'nodes'", 1, 1'000'000'000'000));
        if (const DataNode* playouts = table.find("playouts"))
            profile.playouts = static_cast<std::uint64_t>(file_.integer(*playouts, "'playouts'", 1, 1'000'000'000'000));
        if (const DataNode* seconds = table.find("seconds"))
            profile.seconds = file_.number(*seconds, "'seconds'", 0.001, 86'400);
    }

    void add_option(Profile& profile, const std::string& name, const DataPlace& place, const DataNode& value) const {
        PlacedOption option{{name, place}, {}, value.place};
        switch (value.kind) {
            case DataNode::Kind::Boolean: option.value = value.truth; break;
            case DataNode::Kind::Integer: option.value = value.integer; break;
            case DataNode::Kind::Number: option.value = value.number; break;
            case DataNode::Kind::String: option.value = file_.text(value, "'" + name + "'"); break;
            default: file_.fail(value, "'" + name + "' has a value of a wrong kind", "a boolean, a number or a string");
        }
        profile.options.push_back(std::move(option));
    }

    void read_search(const DataNode& root, Profile& profile) const {
        const DataNode* search = part(root, "search", chosen_ == by_search, by_search);
        if (chosen_ == by_search) profile.chooser.name = "standard";
        if (chosen_ == by_rules) profile.chooser.name = "ruled";
        if (search == nullptr) return;
        file_.require_table(*search, "'search'", "[search]");
        if (const DataNode* algorithm = search->find("algorithm")) profile.chooser = placed(*algorithm, "'algorithm'");
        read_limits(*search, profile);
        profile.margins = file_.boolean_or(*search, "margins", true);
        for (const bool on : {true, false}) {
            const char* key = on ? "with" : "without";
            const DataNode* list = search->find(key);
            if (list == nullptr) continue;
            if (list->kind != DataNode::Kind::List)
                file_.fail(*list, std::string("'") + key + "' is not a list", "[\"killers\"]");
            for (const DataNode& name : list->items)
                profile.options.push_back({placed(name, "a technique"), on, name.place});
        }
        static const std::vector<std::string> own{"algorithm", "depth",   "nodes", "playouts",
                                                  "seconds",   "margins", "with",  "without"};
        for (const auto& [key, place, value] : search->entries)
            if (std::find(own.begin(), own.end(), key) == own.end()) add_option(profile, key, place, value);
    }

    void read_limits_and_options(const DataNode& root, Profile& profile) const {
        for (const char* key : {"limits", "options"}) {
            const DataNode* table = root.find(key);
            if (table == nullptr) continue;
            file_.require_table(*table, std::string("'") + key + "'", std::string("[") + key + "]");
            if (chosen_ == by_search)
                file_.fail(*table, std::string("'") + key + "' is for choosers of other names", "[search]");
            if (key == std::string_view("options")) {
                for (const auto& [name, place, value] : table->entries) add_option(profile, name, place, value);
            } else {
                file_.allow_only(*table, {"depth", "nodes", "playouts", "seconds"});
                read_limits(*table, profile);
                profile.limits_place = table->place;
            }
        }
    }

    ConditionText condition(const DataNode& node, int depth) const {
        constexpr int deepest = 20;
        file_.require_table(node, "a condition", "{ quantity = \"target stamina\", below = 8 }");
        if (depth > deepest) file_.fail(node, "conditions are nested too deeply", "at most 20 in one another");
        ConditionText condition;
        const auto group = [&](const char* key, ConditionText::Kind kind) {
            const DataNode* parts = node.find(key);
            if (parts == nullptr) return;
            if (parts->kind != DataNode::Kind::List)
                file_.fail(*parts, std::string("'") + key + "' is not a list of conditions",
                           std::string(key) + " = [{ ... }, { ... }]");
            if (parts->items.empty() || parts->items.size() > most_parts)
                file_.fail(*parts, std::string("'") + key + "' has no conditions, or too many", "1 to 100");
            ConditionText own{kind, {}, {}, 0, {}, {}};
            for (const DataNode& part : parts->items) own.parts.push_back(this->condition(part, depth + 1));
            condition.parts.push_back(std::move(own));
        };
        std::vector<std::string> keys{"all", "any", "none", "quantity"};
        keys.insert(keys.end(), comparison_keys().begin(), comparison_keys().end());
        file_.allow_only(node, keys);
        group("all", ConditionText::Kind::All);
        group("any", ConditionText::Kind::Any);
        group("none", ConditionText::Kind::None);
        std::vector<std::size_t> comparisons;
        for (std::size_t i = 0; i < comparison_keys().size(); ++i)
            if (node.find(comparison_keys()[i]) != nullptr) comparisons.push_back(i);
        const DataNode* quantity = node.find("quantity");
        if (quantity == nullptr && !comparisons.empty())
            file_.fail(node, "a comparison is of no quantity", "quantity = \"target stamina\"");
        if (quantity != nullptr) {
            if (comparisons.size() != 1)
                file_.fail(node,
                           comparisons.empty() ? "the quantity is not compared" : "the quantity is compared twice",
                           "one of " + any_of_text(comparison_keys()));
            ConditionText test{ConditionText::Kind::Test,
                               placed(*quantity, "'quantity'"),
                               static_cast<Comparison>(comparisons.front()),
                               0,
                               {},
                               {}};
            const std::string& key = comparison_keys()[comparisons.front()];
            const DataNode& with = *node.find(key);
            if (with.kind == DataNode::Kind::String)
                test.other = placed(with, "'" + key + "'");
            else if (with.kind == DataNode::Kind::Integer || with.kind == DataNode::Kind::Number)
                test.number = file_.number(with, "'" + key + "'", -large, large);
            else
                file_.fail(with, "'" + key + "' is neither a number nor the name of a quantity", key + " = 8");
            condition.parts.push_back(std::move(test));
        }
        if (condition.parts.empty())
            file_.fail(node, "the condition is empty", "{ quantity = \"target stamina\", below = 8 }");
        return condition.parts.size() == 1 ? std::move(condition.parts.front()) : condition;
    }

    void read_rules(const DataNode& root, Profile& profile) const {
        const bool used = chosen_ == by_rules;
        part(root, "rule", used, "rules");
        part(root, "fallback", used, "rules");
        for (const DataNode* table : file_.tables(root, "rule", most_rules)) {
            file_.allow_only(*table, {"name", "use", "actor", "action", "kind", "when", "lowest", "highest", "chance",
                                      "once", "every", "from_level"});
            RuleText rule;
            rule.use = placed_or_none(*table, "use");
            if (rule.use) {
                for (const auto& entry : table->entries)
                    if (entry.key != "use" && entry.key != "from_level")
                        file_.fail(entry.place, "'" + entry.key + "' does not go with a ready rule",
                                   "use and from_level alone");
                if (std::find(ready_rule_names().begin(), ready_rule_names().end(), rule.use->name) ==
                    ready_rule_names().end())
                    file_.fail_unknown(rule.use->place, "ready rule", rule.use->name, ready_rule_names());
                rule.name = *rule.use;
            } else {
                rule.name = placed(file_.required(*table, "name", "\"finish the weakest\""), "'name'");
            }
            for (const RuleText& other : profile.rules)
                if (other.name.name == rule.name.name)
                    file_.fail(rule.name.place, "there is a rule '" + rule.name.name + "' already", "another name");
            rule.actor = placed_or_none(*table, "actor");
            rule.action = placed_or_none(*table, "action");
            rule.kind = placed_or_none(*table, "kind");
            if (const DataNode* when = table->find("when")) rule.when = condition(*when, 1);
            const DataNode *lowest = table->find("lowest"), *highest = table->find("highest");
            if (lowest != nullptr && highest != nullptr)
                file_.fail(*highest, "a rule chooses the lowest or the highest, not both", "one of them");
            if (lowest != nullptr || highest != nullptr) {
                rule.choose = lowest != nullptr ? TargetChoice::Lowest : TargetChoice::Highest;
                rule.by = placed(lowest != nullptr ? *lowest : *highest, "the quantity to choose by");
            }
            rule.chance = file_.number_or(*table, "chance", 1.0, 0.0, 1.0);
            rule.once = file_.boolean_or(*table, "once", false);
            rule.every = static_cast<int>(file_.integer_or(*table, "every", 1, 1, 1'000));
            rule.from_level = level_key(*table);
            profile.rules.push_back(std::move(rule));
        }
        for (const DataNode* table : file_.tables(root, "fallback", most_rules)) {
            file_.allow_only(*table, {"action", "weight"});
            profile.fallback.push_back(
                {placed_or_none(*table, "action"), file_.number_or(*table, "weight", 1.0, 1e-6, 1e6)});
        }
        if (used && profile.rules.empty() && profile.fallback.empty())
            file_.fail(root, "there are no rules", "[[rule]], one for each");
    }

    int level_key(const DataNode& table) const {
        return static_cast<int>(file_.integer_or(table, "from_level", lowest_level, lowest_level, highest_level));
    }

    void read_suggestions(const DataNode& root, Profile& profile) const {
        const bool used = chosen_ == "suggestions";
        if (const DataNode* table = part(root, "suggestions", used, "suggestions")) {
            file_.require_table(*table, "'suggestions'", "[suggestions]");
            for (const auto& [key, place, value] : table->entries) {
                file_.require_table(value, "'" + key + "'", key + " = { from_level = 3 }");
                file_.allow_only(value, {"from_level"});
                profile.suggestions.push_back({{key, place}, 1.0, level_key(value)});
            }
        }
        if (const DataNode* table = part(root, "temperament", used, "suggestions")) {
            file_.require_table(*table, "'temperament'", "[temperament.daring]");
            for (const auto& [key, place, value] : table->entries) {
                file_.require_table(value, "'" + key + "'", "[temperament." + key + "]");
                file_.allow_only(value, {"value", "pulls"});
                TemperamentAxis axis;
                axis.name = key;
                axis.value = file_.number(file_.required(value, "value", "0.8"), "'value'", -1.0, 1.0);
                const DataNode& pulls = file_.required(value, "pulls", "{ take = 3.0 }");
                file_.require_table(pulls, "'pulls'", "{ take = 3.0 }");
                for (const auto& pull : pulls.entries) {
                    axis.pulls.emplace_back(pull.key, file_.number(pull.value, "'" + pull.key + "'", 0.001, 1000.0));
                    profile.reasons.push_back({pull.key, pull.place});
                }
                profile.temperament.axes.push_back(std::move(axis));
            }
        }
        if (const DataNode* table = part(root, "preferences", used, "suggestions")) {
            file_.require_table(*table, "'preferences'", "[preferences]");
            for (const auto& [key, place, value] : table->entries) {
                profile.temperament.preferences.emplace_back(key, file_.number(value, "'" + key + "'", 0.0, 1000.0));
                profile.reasons.push_back({key, place});
            }
        }
    }

    void read_features(const DataNode& root, Profile& profile) const {
        const bool used = chosen_ == "features";
        const DataNode* table = part(root, "features", used, "features");
        if (table == nullptr) {
            if (used) file_.fail(root, "there are no features", "[features]");
            return;
        }
        file_.require_table(*table, "'features'", "[features]");
        if (table->entries.empty()) file_.fail(*table, "there are no features", "\"hits\" = 2.0");
        for (const auto& [key, place, value] : table->entries) {
            const double weight = file_.number(value, "'" + key + "'", -large, large);
            if (key == "ends the game")
                profile.ends_weight = weight;
            else
                profile.features.push_back({{key, place}, weight, lowest_level});
        }
    }

    void read_levels(const DataNode& root, Profile& profile) const {
        const bool used = chosen_ != "random";
        if (const DataNode* table = part(root, "levels", used, "rules")) {
            file_.require_table(*table, "'levels'", "[levels.3]");
            std::vector<std::string> numbers;
            for (int level = lowest_level; level <= highest_level; ++level) numbers.push_back(std::to_string(level));
            file_.allow_only(*table, numbers);
            for (const auto& [key, place, value] : table->entries) {
                file_.require_table(value, "level " + key, "[levels." + key + "]");
                LevelText& level = profile.levels[static_cast<std::size_t>(std::stoi(key) - lowest_level)];
                std::vector<std::string> keys{"overlooks", "noise", "most_lost", "sees_wins", "sees_losses"};
                if (chosen_ == by_search || limits_in_levels(chosen_))
                    keys.insert(keys.begin(), {"depth", "nodes", "playouts", "seconds"});
                file_.allow_only(value, keys);
                if (const DataNode* depth = value.find("depth"))
                    level.depth = static_cast<int>(file_.integer(*depth, "'depth'", 1, max_depth));
                if (const DataNode* playouts = value.find("playouts"))
                    level.playouts =
                        static_cast<std::uint64_t>(file_.integer(*playouts, "'playouts'", 1, 1'000'000'000'000));
                if (const DataNode* nodes = value.find("nodes"))
                    level.nodes = static_cast<std::uint64_t>(file_.integer(*nodes, "'nodes'", 1, 1'000'000'000'000));
                if (const DataNode* seconds = value.find("seconds"))
                    level.seconds = file_.number(*seconds, "'seconds'", 0.001, 86'400);
                if (const DataNode* share = value.find("overlooks"))
                    level.overlooks = file_.number(*share, "'overlooks'", 0.0, 1.0);
                if (const DataNode* noise = value.find("noise"))
                    level.noise = file_.number(*noise, "'noise'", 0.0, 1000.0);
                if (const DataNode* lost = value.find("most_lost"))
                    level.most_lost = file_.number(*lost, "'most_lost'", 0.0, 1000.0);
                if (const DataNode* sees = value.find("sees_wins"))
                    level.sees_wins = file_.boolean(*sees, "'sees_wins'");
                if (const DataNode* sees = value.find("sees_losses"))
                    level.sees_losses = file_.boolean(*sees, "'sees_losses'");
                const int number = std::stoi(key);
                if (number >= sees_wins_from_level && level.sees_wins == false)
                    file_.fail(*value.find("sees_wins"), "from level 3 on a win in one is never missed", "true");
                if (number >= sees_losses_from_level && level.sees_losses == false)
                    file_.fail(*value.find("sees_losses"), "from level 5 on a loss in one is never let be", "true");
            }
        }
        if (const DataNode* table = part(root, "follow", used, "rules")) {
            file_.require_table(*table, "'follow'", "[follow]");
            file_.allow_only(*table, {"least", "most", "after"});
            FollowText follow;
            follow.least =
                static_cast<int>(file_.integer_or(*table, "least", lowest_level, lowest_level, highest_level));
            follow.most =
                static_cast<int>(file_.integer_or(*table, "most", highest_level, lowest_level, highest_level));
            follow.after = static_cast<int>(file_.integer_or(*table, "after", 1, 1, 100));
            if (follow.most < follow.least)
                file_.fail(*table, "the least level is above the most", "least = 2, most = 8");
            if (profile.level < follow.least || profile.level > follow.most)
                file_.fail(
                    *table,
                    "level " + std::to_string(profile.level) + ", which it begins with, is not within its bounds",
                    "a level from least to most");
            profile.follow = follow;
        }
    }

    void read_book(const DataNode& root, Profile& profile) const {
        profile.book_from_level =
            static_cast<int>(file_.integer_or(root, "book_from_level", lowest_level, lowest_level, highest_level));
        for (const DataNode* table : file_.tables(root, "book", most_book_entries)) {
            file_.allow_only(*table, {"position", "moves", "replies"});
            BookEntry entry;
            entry.place = table->place;
            const DataNode *position = table->find("position"), *moves = table->find("moves");
            if ((position == nullptr) == (moves == nullptr))
                file_.fail(*table, "an entry of the book needs a position or moves, and not both",
                           "moves = [\"c3\", \"b2\"]");
            if (position != nullptr) {
                entry.position = file_.text(*position, "'position'");
                entry.place = position->place;
            } else {
                if (moves->kind != DataNode::Kind::List)
                    file_.fail(*moves, "'moves' is not a list", "moves = [\"c3\", \"b2\"]");
                for (const DataNode& move : moves->items) entry.moves.push_back(file_.text(move, "a move"));
                entry.place = moves->place;
            }
            const DataNode& replies = file_.required(*table, "replies", "{ c2 = 3, d4 = 1 }");
            file_.require_table(replies, "'replies'", "{ c2 = 3, d4 = 1 }");
            if (replies.entries.empty() || replies.entries.size() > most_replies)
                file_.fail(replies, "there are no replies, or too many", "1 to 50");
            for (const auto& [key, place, value] : replies.entries)
                entry.replies.push_back({{key, place}, file_.number(value, "'" + key + "'", 1e-6, 1e6), 1});
            profile.book.push_back(std::move(entry));
        }
    }

    /// A chooser that is none of those below may look ahead; when the opponent is made it is known.
    static bool limits_in_levels(const std::string& chosen) {
        return chosen != by_rules && chosen != "suggestions" && chosen != "features" && chosen != "random";
    }

    DataFile file_;
    std::string chosen_;  ///< what the file says that it chooses by
};

}  // namespace

const std::vector<std::string>& ready_rule_names() {
    static const std::vector<std::string> names{"win now", "stop the rival", "the game's preference"};
    return names;
}

Profile read_profile(std::string_view text, std::string_view source) { return ProfileReader(text, source).read(); }

OpponentSpec opponent_of_profile(Profile profile, std::optional<int> level) {
    OpponentSpec spec;
    spec.name = profile.source;
    spec.level = level;
    if (level) check_level(*level);
    spec.profile = std::make_shared<const Profile>(std::move(profile));
    return spec;
}

std::string opponent_title(const OpponentSpec& spec) {
    if (!spec.profile) return opponent_text(spec);
    const int level = level_of(spec);
    return level == highest_level ? spec.profile->name : spec.profile->name + ", level " + std::to_string(level);
}

LevelSettings level_settings(const Profile& profile, int level, LevelTable table) {
    LevelSettings settings = level_settings(level, table);
    if (profile.depth || profile.nodes || profile.playouts || profile.seconds) {
        if (level == highest_level) settings.limits = {};
        if (profile.depth)
            settings.limits.depth = std::min(settings.limits.depth.value_or(*profile.depth), *profile.depth);
        if (profile.playouts)
            settings.limits.playouts =
                std::min(settings.limits.playouts.value_or(*profile.playouts), *profile.playouts);
        if (profile.nodes)
            settings.limits.nodes = std::min(settings.limits.nodes.value_or(*profile.nodes), *profile.nodes);
        settings.limits.seconds = profile.seconds;
    }
    settings.playouts_by_moves = settings.playouts_by_moves && !profile.playouts;
    settings.margins = profile.margins;
    const LevelText& text = profile.levels[static_cast<std::size_t>(level - lowest_level)];
    if (text.depth) settings.limits.depth = text.depth;
    if (text.nodes) settings.limits.nodes = text.nodes;
    if (text.playouts) {
        settings.limits.playouts = text.playouts;
        settings.playouts_by_moves = false;
    }
    if (text.seconds) settings.limits.seconds = text.seconds;
    settings.overlooks = text.overlooks.value_or(settings.overlooks);
    settings.noise = text.noise.value_or(settings.noise);
    settings.most_lost = text.most_lost.value_or(settings.most_lost);
    settings.sees_wins = text.sees_wins.value_or(settings.sees_wins);
    settings.sees_losses = text.sees_losses.value_or(settings.sees_losses);
    return settings;
}

void fail_in_profile(const Profile& profile, const DataPlace& place, const std::string& problem,
                     const std::string& expected) {
    throw InputError(
        profile.source + ", line " + std::to_string(place.line) + ", column " + std::to_string(place.column), problem,
        expected);
}

void fail_unknown_in_profile(const Profile& profile, const PlacedName& name, const char* what,
                             const std::vector<std::string>& known) {
    if (known.empty())
        fail_in_profile(profile, name.place,
                        "there is no " + std::string(what) + " '" + name.name + "', as the game has none",
                        "a game that has");
    const std::string nearest = nearest_of(name.name, known);
    fail_in_profile(profile, name.place, "there is no " + std::string(what) + " '" + name.name + "'",
                    (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(known));
}

}  // namespace arvek
