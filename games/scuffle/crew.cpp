#include "scuffle/crew.hpp"

#include <algorithm>
#include <optional>
#include <sstream>

#include <arvek/arena/files.hpp>
#include <arvek/game/data_file.hpp>

namespace waterway {

using arvek::DataFile;
using arvek::DataNode;
using arvek::InputError;

namespace {

constexpr std::array element_names{"rope", "water", "smoke", "song"};
constexpr std::array condition_names{"soaked", "winded", "braced"};
constexpr std::array target_names{"one rival", "all rivals", "one mate", "self"};
template <class Names>
std::vector<std::string> texts_of(const Names& names) {
    return {names.begin(), names.end()};
}

constexpr std::size_t most_hands = 5, most_actions = 12, most_gear = 20, largest_file = 200'000;

/// A name that can stand in a move: letters, digits and hyphens.
std::string plain_name(const DataFile& file, const DataNode& table, const std::string& example) {
    const DataNode& node = file.required(table, "name", "\"" + example + "\"");
    const std::string& found = file.text(node, "name");
    const bool plain =
        !found.empty() && found.size() <= 24 &&
        found.find_first_not_of("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-") == std::string::npos;
    if (!plain) file.fail(node, "'" + found + "' cannot stand in a move", "1 to 24 letters, digits and hyphens");
    return found;
}

int number(const DataFile& file, const DataNode& table, const std::string& key, int standard, int least, int most) {
    return static_cast<int>(file.integer_or(table, key, standard, least, most));
}

/// What a hand and a piece of gear have alike.
struct Outfit {
    std::array<Rating, element_count> ratings{};
    std::vector<ScuffleAction> actions;
};

ScuffleAction read_action(const DataFile& file, const DataNode& table) {
    file.allow_only(table, {"name", "element", "power", "time", "hits", "target", "lays", "turns"});
    ScuffleAction action;
    action.name = plain_name(file, table, "haul");
    action.element = static_cast<Element>(
        file.choice(file.required(table, "element", "\"rope\""), "element", texts_of(element_names)));
    action.power = number(file, table, "power", 0, 0, 99);
    action.time = number(file, table, "time", 10, 1, 99);
    action.hits = number(file, table, "hits", 100, 1, 100);
    action.target = static_cast<TargetKind>(
        file.choice(file.required(table, "target", "\"one rival\""), "target", texts_of(target_names)));
    const DataNode* lays = table.find("lays");
    action.lays = lays != nullptr;
    if (lays != nullptr) {
        action.condition = static_cast<Condition>(file.choice(*lays, "condition", texts_of(condition_names)));
        action.turns = number(file, table, "turns", 2, 1, 9);
    } else if (const DataNode* turns = table.find("turns")) {
        file.fail(*turns, "'turns' without a condition means nothing", "lays = \"soaked\", or no turns");
    }
    return action;
}

Outfit read_outfit(const DataFile& file, const DataNode& table) {
    Outfit outfit;
    if (const DataNode* node = table.find("rating")) {
        const DataNode* ratings = node;
        file.require_table(*node, "'rating'", "rating.rope = { attack = 2, guard = 1 }");
        file.allow_only(*ratings, {element_names.begin(), element_names.end()});
        for (std::size_t i = 0; i < element_count; ++i) {
            const DataNode* entry = ratings->find(element_names[i]);
            if (entry == nullptr) continue;
            const DataNode* values = entry;
            file.require_table(*entry, "a rating", "{ attack = 2, guard = 1 }");
            file.allow_only(*values, {"attack", "guard", "mends"});
            Rating& rating = outfit.ratings[i];
            rating.attack = number(file, *values, "attack", 0, -20, 20);
            rating.guard = number(file, *values, "guard", 0, -20, 20);
            rating.mends = file.boolean_or(*values, "mends", false);
        }
    }
    for (const DataNode* action : file.tables(table, "action", most_actions))
        outfit.actions.push_back(read_action(file, *action));
    return outfit;
}

void wear(Hand& hand, const Outfit& outfit) {
    for (std::size_t i = 0; i < element_count; ++i) {
        hand.ratings[i].attack += outfit.ratings[i].attack;
        hand.ratings[i].guard += outfit.ratings[i].guard;
        hand.ratings[i].mends = hand.ratings[i].mends || outfit.ratings[i].mends;
    }
    hand.actions.insert(hand.actions.end(), outfit.actions.begin(), outfit.actions.end());
}

}  // namespace

const char* name_of(Element element) { return element_names[static_cast<std::size_t>(element)]; }
const char* name_of(Condition condition) { return condition_names[static_cast<std::size_t>(condition)]; }
const char* name_of(TargetKind target) { return target_names[static_cast<std::size_t>(target)]; }

Crew read_crew(std::string_view text, std::string_view source) {
    const DataFile file(text, source, largest_file);
    const DataNode& table = file.root();
    file.allow_only(table, {"name", "hand", "gear"});
    Crew crew;
    const DataNode& name = file.required(table, "name", "\"The Eel Street Hands\"");
    crew.name = file.text(name, "name");
    for (const char letter : crew.name)
        if (static_cast<unsigned char>(letter) < 0x20)
            file.fail(name, "the name has a control character", "plain text");
    if (crew.name.empty() || crew.name.size() > 60) file.fail(name, "the name is empty or too long", "1 to 60 letters");

    std::vector<std::pair<std::string, Outfit>> gear;
    for (const DataNode* entry : file.tables(table, "gear", most_gear)) {
        file.allow_only(*entry, {"name", "rating", "action"});
        const std::string gear_name = plain_name(file, *entry, "billhook");
        for (const auto& known : gear)
            if (known.first == gear_name)
                file.fail(*entry->find("name"), "there is gear '" + gear_name + "' already", "another name");
        gear.emplace_back(gear_name, read_outfit(file, *entry));
    }
    const auto hands = file.tables(table, "hand", most_hands);
    if (hands.empty()) file.fail(table, "the crew has no hands", "[[hand]], one to five times");
    for (const DataNode* entry : hands) {
        file.allow_only(*entry, {"name", "stamina", "quickness", "rating", "action", "gear"});
        Hand hand;
        hand.name = plain_name(file, *entry, "Nessa");
        for (const Hand& known : crew.hands)
            if (known.name == hand.name)
                file.fail(*entry->find("name"), "there is a hand '" + hand.name + "' already", "another name");
        (void)file.required(*entry, "stamina", "24");
        hand.stamina = number(file, *entry, "stamina", 1, 1, 999);
        hand.quickness = number(file, *entry, "quickness", 10, 1, 40);
        wear(hand, read_outfit(file, *entry));
        if (const DataNode* node = entry->find("gear")) {
            if (node->kind != DataNode::Kind::List) file.fail(*node, "'gear' is not a list", "[\"billhook\"]");
            std::vector<std::string> names;
            for (const auto& known : gear) names.push_back(known.first);
            for (const DataNode& item : node->items) {
                if (names.empty()) file.fail(item, "the crew has no gear", "[[gear]] with that name");
                wear(hand, gear[file.choice(item, "gear", names)].second);
            }
        }
        if (hand.actions.size() > most_actions)
            file.fail(*entry, hand.name + " has " + std::to_string(hand.actions.size()) + " actions with its gear",
                      "at most " + std::to_string(most_actions));
        for (std::size_t i = 0; i < hand.actions.size(); ++i)
            for (std::size_t j = 0; j < i; ++j)
                if (hand.actions[i].name == hand.actions[j].name)
                    file.fail(*entry, hand.name + " has two actions '" + hand.actions[i].name + "'", "different names");
        const bool can_always_act = std::any_of(hand.actions.begin(), hand.actions.end(), [](const auto& action) {
            return action.target != TargetKind::OneMate;
        });
        if (!can_always_act)
            file.fail(*entry, hand.name + " has no action for when its mates are out",
                      "one at least with the target one rival, all rivals or self");
        crew.hands.push_back(std::move(hand));
    }
    return crew;
}

Crew read_crew_file(const std::string& path) {
    const std::string text = arvek::read_text_file(path, largest_file);
    if (text.empty()) throw InputError(path, "the file is empty", "a crew");
    return read_crew(text, path);
}

}  // namespace waterway
