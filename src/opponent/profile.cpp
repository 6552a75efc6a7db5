#include "arvek/opponent/profile.hpp"

#include <algorithm>

#include "arvek/game/text.hpp"
#include "arvek/game/utf8.hpp"
#include "arvek/opponent/model_file.hpp"
#include "arvek/search/limits.hpp"
#include "condition_reader.hpp"
#include "profile_files.hpp"

namespace arvek {

namespace {

constexpr std::size_t most_rules = 500, most_replies = 50, most_book_entries = 10'000, most_conditions = 500;

/// What a profile may choose by without naming a chooser of its own kind; "search" names its algorithm elsewhere.
constexpr const char* by_search = "search";
constexpr const char* by_program = "program";
constexpr const char* by_rules = "rules";

/// Reads the parts of a profile.
class ProfileReader final : ConditionReader {
   public:
    ProfileReader(DataFile file, const ReadBase& read_base, std::vector<std::string>* problems)
        : ConditionReader(std::move(file)), read_base_(read_base), problems_(problems) {}

    Profile read() {
        const DataNode& root = file_.root();
        Profile profile;
        profile.source = file_.source();
        profile.sources = file_.sources();
        attempt([&] {
            file_.allow_only(root, {"name",   "about",      "game",        "choose",          "level",       "search",
                                    "rule",   "fallback",   "suggestions", "temperament",     "preferences", "features",
                                    "levels", "follow",     "book",        "book_from_level", "pace",        "options",
                                    "limits", "evaluation", "state",       "change",          "conditions",  "groups",
                                    "care",   "parameters", "set",         "based_on",        "without",     "program",
                                    "model"});
        });
        // Without these nothing else means anything.
        profile.name = line(file_.required(root, "name", "\"The Lock Keeper\""), "'name'");
        profile.game = placed(file_.required(root, "game", "\"scuffle\""), "'game'");
        profile.chooser = placed(file_.required(root, "choose", "\"rules\""), "'choose'");
        chosen_ = profile.chooser.name;
        attempt([&] {
            profile.about = file_.text_or(root, "about", "");
            profile.level =
                static_cast<int>(file_.integer_or(root, "level", highest_level, lowest_level, highest_level));
            if (const DataNode* level = root.find("level")) profile.level_place = level->place;
        });
        attempt([&] { read_parameters(root, profile); });
        attempt([&] { read_care(root, profile); });
        attempt([&] { read_search(root, profile); });
        attempt([&] { read_limits_and_options(root, profile); });
        attempt([&] {
            if (const DataNode* table = root.find("evaluation")) {
                file_.require_table(*table, "'evaluation'", "[evaluation]");
                for (const auto& [key, place, value] : table->entries)
                    profile.evaluation.push_back(
                        {{key, place}, file_.number(value, "'" + key + "'", -largest_number, largest_number), 1});
            }
        });
        attempt([&] { read_learned(root, profile); });
        attempt([&] { read_state(root, profile); });
        attempt([&] { read_conditions(root, profile); });
        attempt([&] { read_groups(root, profile); });
        attempt([&] { read_changes(root, profile); });
        attempt([&] { read_rules(root, profile); });
        attempt([&] { read_suggestions(root, profile); });
        attempt([&] { read_features(root, profile); });
        attempt([&] { read_levels(root, profile); });
        attempt([&] { read_book(root, profile); });
        attempt([&] { read_program(root, profile); });
        attempt([&] {
            if (const DataNode* pace = root.find("pace")) {
                file_.require_table(*pace, "'pace'", "[pace]");
                file_.allow_only(*pace, {"least_seconds", "variation"});
                profile.pace.least_seconds = file_.number_or(*pace, "least_seconds", 0.0, 0.0, 60.0);
                profile.pace.variation = file_.number_or(*pace, "variation", profile.pace.variation, 0.0, 1.0);
            }
        });
        return profile;
    }

   private:
    /// What goes wrong within does not keep the rest from being read, where all problems are wanted.
    template <class Read>
    void attempt(Read read) const {
        if (problems_ == nullptr) return read();
        try {
            read();
        } catch (const InputError& error) {
            problems_->push_back(error.what());
        } catch (const AlreadySaid&) {
        }
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

    void read_learned(const DataNode& root, Profile& profile) const {
        const DataNode* node = root.find("model");
        if (node == nullptr) return;
        profile.model_place = node->place;
        const std::string name = file_.text(*node, "'model'");
        if (!profile.evaluation.empty())
            file_.fail(*node, "there are both a 'model' and an [evaluation]", "one of them");
        if (!read_base_) file_.fail(*node, "there are no other files here", "a profile that stands alone");
        const std::string path = detail::path_beside(profile.sources[static_cast<std::size_t>(node->place.file)], name);
        try {
            profile.model = std::make_shared<const LearnedNetwork>(read_model(read_base_(path), path));
        } catch (const InputError& error) {
            file_.fail(*node, error.what(), "");
        }
        profile.sources.push_back(path);
    }

    void read_program(const DataNode& root, Profile& profile) const {
        const DataNode* table = part(root, "program", chosen_ == by_program, by_program);
        if (table == nullptr) {
            if (chosen_ != by_program) return;
            file_.fail(root, "choose = \"program\" needs a table 'program'",
                       "[program] with command = [\"a program\"]");
        }
        file_.require_table(*table, "'program'", "[program]");
        file_.allow_only(*table, {"command", "folder", "environment", "protocol", "options", "start_seconds",
                                  "answer_seconds", "restart"});
        ProgramText program;
        program.place = table->place;
        const DataNode& command = file_.required(*table, "command", "[\"a program\", \"an argument\"]");
        if (command.kind != DataNode::Kind::List || command.items.empty())
            file_.fail(command, "'command' is not a list of strings", "[\"a program\", \"an argument\"]");
        for (const DataNode& item : command.items) program.command.push_back(file_.text(item, "'command'"));
        if (program.command.front().empty())
            file_.fail(command.items.front(), "the program has no name", "a path, or a name to look for in PATH");
        for (const std::string& each : program.command)
            if (each.find('\0') != std::string::npos)
                file_.fail(command, "'command' has a zero byte in it", "strings without");
        program.folder = file_.text_or(*table, "folder", "");
        if (const DataNode* environment = table->find("environment")) {
            file_.require_table(*environment, "'environment'", "environment = { NAME = \"value\" }");
            for (const auto& [key, place, value] : environment->entries) {
                if (key.empty() || key.find('=') != std::string::npos)
                    file_.fail(place, "'" + key + "' cannot be the name of a variable", "a name without =");
                program.environment.emplace_back(key, file_.text(value, "'" + key + "'"));
            }
        }
        program.protocol = file_.text_or(*table, "protocol", program.protocol);
        if (program.protocol != "uci")
            file_.fail(*table->find("protocol"), "there is no protocol '" + program.protocol + "'", "\"uci\"");
        program.start_seconds = file_.number_or(*table, "start_seconds", program.start_seconds, 0.01, 3'600.0);
        program.answer_seconds = file_.number_or(*table, "answer_seconds", program.answer_seconds, 0.01, 86'400.0);
        program.restart = file_.boolean_or(*table, "restart", false);
        if (const DataNode* options = table->find("options")) {
            file_.require_table(*options, "'options'", "[program.options]");
            Profile own;
            for (const auto& [name, place, value] : options->entries) add_option(own, name, place, value);
            program.options = std::move(own.options);
        }
        profile.program = std::move(program);
    }

    void read_parameters(const DataNode& root, Profile& profile) const {
        const DataNode* table = root.find("parameters");
        // Files of positions said 'set', as the option does.
        if (table != nullptr && root.find("set") != nullptr)
            file_.fail(*root.find("set"), "'parameters' and 'set' are one and the same", "'parameters' alone");
        if (table == nullptr) table = root.find("set");
        if (table == nullptr) return;
        file_.require_table(*table, "'parameters'", "[parameters]");
        for (const auto& [key, place, value] : table->entries) {
            std::string text;
            switch (value.kind) {
                case DataNode::Kind::Boolean: text = value.truth ? "true" : "false"; break;
                case DataNode::Kind::Integer: text = std::to_string(value.integer); break;
                case DataNode::Kind::String: text = value.text; break;
                default:
                    file_.fail(value, "'" + key + "' has a value of a wrong kind", "an integer, a boolean or a string");
            }
            profile.parameters.push_back({{key, place}, std::move(text)});
        }
    }

    /// A boolean, or a share from 0 to 1.
    double share(const DataNode& node, const std::string& what) const {
        if (node.kind == DataNode::Kind::Boolean) return node.truth ? 1.0 : 0.0;
        return file_.number(node, what, 0.0, 1.0);
    }

    void read_care(const DataNode& root, Profile& profile) const {
        const DataNode* care = root.find("care");
        if (care == nullptr) return;
        if (care->kind == DataNode::Kind::Boolean) {
            profile.care_for_wins = profile.care_for_losses = care->truth ? 1.0 : 0.0;
            return;
        }
        file_.require_table(*care, "'care'", "care = false, or { wins = true, losses = false }");
        file_.allow_only(*care, {"wins", "losses"});
        if (const DataNode* wins = care->find("wins")) profile.care_for_wins = share(*wins, "'wins'");
        if (const DataNode* losses = care->find("losses")) profile.care_for_losses = share(*losses, "'losses'");
    }

    void read_state(const DataNode& root, Profile& profile) const {
        const DataNode* table = part(root, "state", chosen_ == by_rules, by_rules);
        if (table == nullptr) return;
        file_.require_table(*table, "'state'", "[state]");
        if (table->entries.empty()) file_.fail(*table, "there are no states", "furious = false");
        for (const auto& entry : table->entries)
            attempt([&] {
                const auto& [key, place, value] = entry;
                if (value.kind == DataNode::Kind::Boolean)
                    profile.states.push_back({{key, place}, value.truth ? 1.0 : 0.0, true});
                else
                    profile.states.push_back(
                        {{key, place}, file_.number(value, "'" + key + "'", -largest_number, largest_number), false});
                if (key == "turn") file_.fail(place, "'turn' is counted by itself", "another name");
                if (key.find('=') != std::string::npos || key.empty() || key.size() > 80)
                    file_.fail(place, "'" + key + "' is no name for a state", "1 to 80 letters, without '='");
            });
    }

    std::vector<StateChangeText> state_changes(const DataNode& table, const Profile& profile) const {
        std::vector<StateChangeText> changes;
        std::vector<std::string> known;
        for (const StateText& state : profile.states) known.push_back(state.name.name);
        for (const bool sets : {true, false}) {
            const char* key = sets ? "set" : "add";
            const DataNode* entries = table.find(key);
            if (entries == nullptr) continue;
            file_.require_table(*entries, std::string("'") + key + "'",
                                sets ? "set = { furious = true }" : "add = { grudge = 1 }");
            if (entries->entries.empty())
                file_.fail(*entries, std::string("'") + key + "' changes nothing", "set = { furious = true }");
            for (const auto& [name, place, value] : entries->entries) {
                const auto state = std::find_if(profile.states.begin(), profile.states.end(),
                                                [&, name = name](const auto& each) { return each.name.name == name; });
                if (state == profile.states.end()) {
                    if (known.empty())
                        file_.fail(place, "there is no state '" + name + "'",
                                   "[state], with its first value: " + name + " = 0");
                    file_.fail_unknown(place, "state", name, known);
                }
                StateChangeText change;
                change.state = {name, place};
                change.kind = sets ? StateChange::Kind::Set : StateChange::Kind::Add;
                change.place = value.place;
                if (sets && value.kind == DataNode::Kind::String && value.text == "turn")
                    change.to_turn = true;
                else if (value.kind == DataNode::Kind::Boolean)
                    change.number = value.truth ? 1.0 : 0.0;
                else
                    change.number = file_.number(value, "'" + name + "'", -largest_number, largest_number);
                change.is_boolean = value.kind == DataNode::Kind::Boolean;
                if (change.is_boolean != state->is_boolean)
                    file_.fail(
                        value,
                        "'" + name + "' is " + (state->is_boolean ? "true or false" : "a number") + ", as [state] says",
                        state->is_boolean ? "true or false" : "a number");
                changes.push_back(std::move(change));
            }
        }
        return changes;
    }

    void read_conditions(const DataNode& root, Profile& profile) {
        const DataNode* table = part(root, "conditions", may_have_rules(), "rules");
        if (table == nullptr) return;
        file_.require_table(*table, "'conditions'", "[conditions]");
        if (table->entries.size() > most_conditions) file_.fail(*table, "there are too many conditions", "at most 500");
        const auto note_unless = [&](bool right, const std::string& name) {
            if (!right) wrong_conditions_.push_back(name);
        };
        for (const auto& [key, place, value] : table->entries) {
            bool read = false;
            attempt([&, key = key, place = place, &value = value] {
                profile.conditions.push_back({{key, place}, condition(value)});
                read = true;
            });
            note_unless(read, key);
        }
        // In place of every name its condition, so that whoever reads on need not look it up.
        for (std::size_t i = 0; i < profile.conditions.size(); ++i) {
            bool done = false;
            attempt([&] {
                resolve(profile.conditions[i].second, profile, i);
                done = true;
            });
            note_unless(done, profile.conditions[i].first.name);
        }
        std::erase_if(profile.conditions, [&](const auto& each) {
            return std::find(wrong_conditions_.begin(), wrong_conditions_.end(), each.first.name) !=
                   wrong_conditions_.end();
        });
    }

    ConditionText resolved(ConditionText condition, const Profile& profile) const {
        resolve(condition, profile, profile.conditions.size());
        return condition;
    }

    void read_groups(const DataNode& root, Profile& profile) const {
        const DataNode* table = part(root, "groups", chosen_ == by_rules, by_rules);
        if (table == nullptr) return;
        file_.require_table(*table, "'groups'", "[groups.rage]");
        for (const auto& [key, place, value] : table->entries)
            attempt([&, key = key, place = place, &value = value] {
                file_.require_table(value, "'" + key + "'", "[groups." + key + "]");
                file_.allow_only(value, {"when", "draw", "from_level"});
                profile.groups.push_back({{key, place},
                                          resolved(condition_or_none(value), profile),
                                          file_.boolean_or(value, "draw", false),
                                          level_key(value)});
            });
    }

    void read_changes(const DataNode& root, Profile& profile) const {
        part(root, "change", chosen_ == by_rules, by_rules);
        for (const DataNode* table : file_.tables(root, "change", most_rules))
            attempt([&] {
                file_.allow_only(*table, {"name", "when", "set", "add"});
                ChangeText change;
                change.name = placed(file_.required(*table, "name", "\"grows furious\""), "'name'");
                change.when = resolved(condition_or_none(*table), profile);
                change.changes = state_changes(*table, profile);
                if (change.changes.empty()) file_.fail(*table, "it changes nothing", "set = { furious = true }");
                profile.changes.push_back(std::move(change));
            });
    }

    std::vector<ChoiceText> choice_keys(const DataNode& table) const {
        std::vector<ChoiceText> keys;
        const DataNode *lowest = table.find("lowest"), *highest = table.find("highest"), *list = table.find("choose");
        if (lowest != nullptr && highest != nullptr)
            file_.fail(*highest, "a rule chooses the lowest or the highest, not both",
                       "one of them, or choose = [{ lowest = \"...\" }, { highest = \"...\" }]");
        if (list != nullptr && (lowest != nullptr || highest != nullptr))
            file_.fail(*list, "'choose' says it already", "one of choose, lowest and highest");
        const auto add = [&](const DataNode& from) {
            for (const bool low : {true, false})
                for (PlacedName& name : names(from, low ? "lowest" : "highest"))
                    keys.push_back({low ? TargetChoice::Lowest : TargetChoice::Highest, std::move(name)});
        };
        add(table);
        if (list == nullptr) return keys;
        if (list->kind != DataNode::Kind::List || list->items.empty())
            file_.fail(*list, "'choose' is not a list of what counts first, second and so on",
                       "choose = [{ lowest = \"target stamina\" }, { highest = \"harm\" }]");
        for (const DataNode& item : list->items) {
            file_.require_table(item, "a part of 'choose'", "{ lowest = \"target stamina\" }");
            file_.allow_only(item, {"lowest", "highest"});
            if (item.entries.size() != 1)
                file_.fail(item, "a part of 'choose' says the lowest or the highest of one thing",
                           "{ lowest = \"target stamina\" }");
            add(item);
        }
        return keys;
    }

    void read_rules(const DataNode& root, Profile& profile) const {
        const bool used = chosen_ == by_rules;
        part(root, "rule", used, "rules");
        part(root, "fallback", used, "rules");
        for (const DataNode* table : file_.tables(root, "rule", most_rules))
            attempt([&] { read_rule(*table, profile); });
        for (const DataNode* table : file_.tables(root, "fallback", most_rules))
            attempt([&] {
                std::vector<std::string> keys{"weight", "when"};
                keys.insert(keys.end(), filter_keys().begin(), filter_keys().end());
                file_.allow_only(*table, keys);
                profile.fallback.push_back({act_filter(*table), resolved(condition_or_none(*table), profile),
                                            file_.number_or(*table, "weight", 1.0, 1e-6, 1e6), table->place});
            });
        if (used && root.find("rule") == nullptr && root.find("fallback") == nullptr)
            file_.fail(root, "there are no rules", "[[rule]], one for each");
        // What is drawn among stands together.
        for (std::size_t i = 1; i < profile.rules.size(); ++i) {
            const auto& group = profile.rules[i].group;
            if (!group || (profile.rules[i - 1].group && profile.rules[i - 1].group->name == group->name)) continue;
            for (std::size_t before = 0; before + 1 < i; ++before)
                if (profile.rules[before].group && profile.rules[before].group->name == group->name)
                    attempt([&] {
                        file_.fail(group->place, "the rules of group '" + group->name + "' do not stand together",
                                   "one after the other");
                    });
        }
    }

    void read_rule(const DataNode& table, Profile& profile) const {
        std::vector<std::string> keys{"name",  "use",        "when", "lowest", "highest", "choose", "chance", "once",
                                      "every", "from_level", "set",  "add",    "group",   "weight", "above",  "before"};
        keys.insert(keys.end(), filter_keys().begin(), filter_keys().end());
        file_.allow_only(table, keys);
        RuleText rule;
        rule.place = table.place;
        rule.use = placed_or_none(table, "use");
        if (rule.use) {
            if (std::find(ready_rule_names().begin(), ready_rule_names().end(), rule.use->name) ==
                ready_rule_names().end())
                file_.fail_unknown(rule.use->place, "ready rule", rule.use->name, ready_rule_names());
            rule.name = table.find("name") != nullptr ? placed(*table.find("name"), "'name'") : *rule.use;
        } else {
            rule.name = placed(file_.required(table, "name", "\"finish the weakest\""), "'name'");
        }
        for (const RuleText& other : profile.rules)
            if (other.name.name == rule.name.name)
                file_.fail(rule.name.place, "there is a rule '" + rule.name.name + "' already", "another name");
        if (const DataNode* before = table.find("before"); before != nullptr && file_.sources().size() == 1)
            file_.fail(*before, "'before' is for rules that are added to those of another file",
                       "based_on = \"other.toml\"");
        rule.acts = act_filter(table);
        rule.when = resolved(condition_or_none(table), profile);
        rule.choose = choice_keys(table);
        rule.chance = file_.number_or(table, "chance", 1.0, 0.0, 1.0);
        rule.once = file_.boolean_or(table, "once", false);
        rule.every = static_cast<int>(file_.integer_or(table, "every", 1, 1, 1'000));
        rule.from_level = level_key(table);
        rule.changes = state_changes(table, profile);
        rule.group = placed_or_none(table, "group");
        rule.weight = file_.number_or(table, "weight", 1.0, 1e-6, 1e6);
        rule.above = file_.number_or(table, "above", 0.0, 0.0, largest_number);
        const DataNode *above = table.find("above"), *weight = table.find("weight");
        if (above != nullptr && (!rule.use || rule.use->name != "suggestions"))
            file_.fail(*above, "'above' is for use = \"suggestions\"", "a condition");
        const GroupText* group = nullptr;
        if (rule.group) {
            std::vector<std::string> known;
            for (const GroupText& each : profile.groups) {
                known.push_back(each.name.name);
                if (each.name.name == rule.group->name) group = &each;
            }
            if (group == nullptr && known.empty())
                file_.fail(rule.group->place, "there is no group '" + rule.group->name + "'",
                           "[groups." + rule.group->name + "]");
            if (group == nullptr) file_.fail_unknown(rule.group->place, "group", rule.group->name, known);
        }
        if (weight != nullptr && (group == nullptr || !group->draw))
            file_.fail(*weight, "a weight is for rules of a group that draws among them",
                       "group = \"...\", and draw = true there");
        profile.rules.push_back(std::move(rule));
    }

    /// Whether conditions and states mean anything to the chooser.
    bool may_have_rules() const { return chosen_ == by_rules || by_suggestions(); }
    bool by_suggestions() const { return chosen_ == "suggestions" || chosen_ == "advised"; }

    int level_key(const DataNode& table) const {
        return static_cast<int>(file_.integer_or(table, "from_level", lowest_level, lowest_level, highest_level));
    }

    void read_suggestions(const DataNode& root, Profile& profile) const {
        const bool used = by_suggestions() ||
                          std::any_of(profile.rules.begin(), profile.rules.end(),
                                      [](const auto& rule) { return rule.use && rule.use->name == "suggestions"; });
        if (const DataNode* table = part(root, "suggestions", used, "suggestions")) {
            file_.require_table(*table, "'suggestions'", "[suggestions]");
            for (const auto& entry : table->entries) attempt([&] { read_suggestion(entry, profile); });
        }
        if (const DataNode* table = part(root, "temperament", used, "suggestions")) {
            file_.require_table(*table, "'temperament'", "[temperament.hunger]");
            for (const auto& [key, place, value] : table->entries)
                attempt([&, key = key, &value = value] { read_axis(key, value, profile); });
        }
        if (const DataNode* table = part(root, "preferences", used, "suggestions")) {
            file_.require_table(*table, "'preferences'", "[preferences]");
            for (const auto& [key, place, value] : table->entries) {
                profile.temperament.preferences.emplace_back(key, file_.number(value, "'" + key + "'", 0.0, 1000.0));
                profile.reasons.push_back({key, place});
            }
        }
    }

    void read_suggestion(const DataNode::Entry& entry, Profile& profile) const {
        const auto one = [&](const DataNode& table) {
            file_.require_table(table, "'" + entry.key + "'", entry.key + " = { from_level = 3 }");
            std::vector<std::string> keys{"from_level", "when", "weight"};
            keys.insert(keys.end(), filter_keys().begin(), filter_keys().end());
            file_.allow_only(table, keys);
            profile.suggestions.push_back({{entry.key, entry.place},
                                           act_filter(table),
                                           resolved(condition_or_none(table), profile),
                                           file_.number_or(table, "weight", 1.0, 0.0, 1000.0),
                                           level_key(table)});
        };
        if (entry.value.kind != DataNode::Kind::List) return one(entry.value);
        if (entry.value.items.empty()) file_.fail(entry.value, "'" + entry.key + "' is empty", entry.key + " = {}");
        for (const DataNode& item : entry.value.items) one(item);
    }

    void read_axis(const std::string& name, const DataNode& table, Profile& profile) const {
        file_.require_table(table, "'" + name + "'", "[temperament." + name + "]");
        file_.allow_only(table, {"value", "pulls", "of", "dealt"});
        TemperamentAxis axis;
        axis.name = name;
        axis.value = file_.number(file_.required(table, "value", "0.8"), "'value'", -1.0, 1.0);
        const DataNode& pulls = file_.required(table, "pulls", "{ take = 3.0 }");
        file_.require_table(pulls, "'pulls'", "{ take = 3.0 }");
        for (const auto& pull : pulls.entries) {
            axis.pulls.emplace_back(pull.key, file_.number(pull.value, "'" + pull.key + "'", 0.001, 1000.0));
            profile.reasons.push_back({pull.key, pull.place});
        }
        if (const DataNode* of = table.find("of")) {
            file_.require_table(*of, "'of'", "{ Runner = 0.5 }");
            for (const auto& [actor, place, more] : of->entries) {
                axis.of.emplace_back(actor, file_.number(more, "'" + actor + "'", -2.0, 2.0));
                profile.individuals.push_back({actor, place});
            }
        }
        if (const DataNode* dealt = table.find("dealt")) {
            file_.require_table(*dealt, "'dealt'", "{ least = -0.4, most = 0.4 }");
            file_.allow_only(*dealt, {"least", "most"});
            axis.dealt_least = file_.number(file_.required(*dealt, "least", "-0.4"), "'least'", -2.0, 2.0);
            axis.dealt_most = file_.number(file_.required(*dealt, "most", "0.4"), "'most'", -2.0, 2.0);
            if (axis.dealt_most < axis.dealt_least)
                file_.fail(*dealt, "the least is above the most", "{ least = -0.4, most = 0.4 }");
        }
        profile.temperament.axes.push_back(std::move(axis));
        profile.axis_places.push_back(table.place);
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
            const double weight = file_.number(value, "'" + key + "'", -largest_number, largest_number);
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
                level.place = place;
                std::vector<std::string> keys{"overlooks",   "noise",   "most_lost", "sees_wins",
                                              "sees_losses", "variety", "rating"};
                if (chosen_ == by_search || limits_in_levels(chosen_))
                    keys.insert(keys.begin(), {"depth", "nodes", "playouts", "seconds", "deeper"});
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
                if (const DataNode* rating = value.find("rating"))
                    level.rating = file_.number(*rating, "'rating'", -100'000, 100'000);
                if (const DataNode* share = value.find("overlooks"))
                    level.overlooks = file_.number(*share, "'overlooks'", 0.0, 1.0);
                if (const DataNode* noise = value.find("noise"))
                    level.noise = file_.number(*noise, "'noise'", 0.0, 1000.0);
                if (const DataNode* lost = value.find("most_lost"))
                    level.most_lost = file_.number(*lost, "'most_lost'", 0.0, 1000.0);
                if (const DataNode* sees = value.find("sees_wins")) level.sees_wins = share(*sees, "'sees_wins'");
                if (const DataNode* sees = value.find("sees_losses")) level.sees_losses = share(*sees, "'sees_losses'");
                if (const DataNode* deeper = value.find("deeper")) level.deeper = share(*deeper, "'deeper'");
                if (const DataNode* variety = value.find("variety"))
                    level.variety = file_.number(*variety, "'variety'", 0.0, 1000.0);
            }
        }
        if (const DataNode* table = part(root, "follow", used, "rules")) {
            file_.require_table(*table, "'follow'", "[follow]");
            file_.allow_only(*table, {"least", "most", "after"});
            FollowText follow;
            follow.place = table->place;
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

    const ReadBase& read_base_;
    std::vector<std::string>* problems_;
    std::string chosen_;  ///< what the file says that it chooses by
};

}  // namespace

const std::vector<std::string>& ready_rule_names() {
    static const std::vector<std::string> names{
        "win now",     "stop the rival",       "make a double threat", "deny a double threat",
        "suggestions", "the game's preference"};
    return names;
}

namespace {
constexpr int deepest_bases = 5;
}

Profile read_profile(std::string_view text, std::string_view source, const ProfileReading& reading) {
    DataFile file = detail::read_with_bases(text, std::string(source), reading.read_base, deepest_bases);
    for (const auto& [key, number] : reading.numbers)
        file.change([&, &key = key, number = number](DataNode& root) { detail::set_number(root, key, number); });
    return ProfileReader(std::move(file), reading.read_base, reading.problems).read();
}

std::optional<ProfileNumber> number_of_profile(std::string_view text, std::string_view source,
                                               const ReadBase& read_base, const std::string& key) {
    return detail::number_at(detail::read_with_bases(text, std::string(source), read_base, deepest_bases).root(), key);
}

std::string text_with_numbers(std::string_view text, std::string_view source, const ReadBase& read_base,
                              const std::vector<std::pair<std::string, double>>& numbers) {
    const DataFile file = detail::read_with_bases(text, std::string(source), read_base, deepest_bases);
    std::vector<std::pair<DataPlace, double>> places;
    for (const auto& [key, number] : numbers) {
        const auto found = detail::number_at(file.root(), key);
        if (!found || found->place.file != 0)
            throw InputError(std::string(source), "the number of " + key + " does not stand in the file itself",
                             "a profile in which it is written");
        places.emplace_back(found->place, number);
    }
    // From the end, so that the places before stay where they are.
    std::sort(places.begin(), places.end(), [](const auto& x, const auto& y) {
        return std::pair(x.first.line, x.first.column) > std::pair(y.first.line, y.first.column);
    });
    std::string changed(text);
    for (const auto& [place, number] : places) {
        std::size_t at = 0;
        for (int line = 1; line < place.line; ++line) at = changed.find('\n', at) + 1;
        for (int column = 1; column < place.column; ++column)
            at += std::max<std::size_t>(1, utf8_letter_size(std::string_view(changed).substr(at)));
        const std::size_t end = changed.find_first_not_of("0123456789+-._eEinfaxob", at);
        changed.replace(at, end == std::string::npos ? end : end - at, number_text(number));
    }
    return changed;
}

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

LevelSettings level_settings(const Profile& profile, int level, LevelTable table, const LevelChange& of_game) {
    LevelSettings settings = changed(level_settings(level, table), of_game);
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
    settings = changed(settings, text);
    if (text.depth || profile.depth) settings.deeper_at_first = 0;
    if (text.playouts) {
        settings.limits.playouts = text.playouts;
        settings.playouts_by_moves = false;
    }
    if (text.seconds) settings.limits.seconds = text.seconds;
    settings.sees_wins = profile.care_for_wins.value_or(settings.sees_wins);
    settings.sees_losses = profile.care_for_losses.value_or(settings.sees_losses);
    return settings;
}

void fail_in_profile(const Profile& profile, const DataPlace& place, const std::string& problem,
                     const std::string& expected) {
    throw InputError(profile.sources[static_cast<std::size_t>(place.file)] + ", line " + std::to_string(place.line) +
                         ", column " + std::to_string(place.column),
                     problem, expected);
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
