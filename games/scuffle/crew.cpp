#include "scuffle/crew.hpp"

#include <algorithm>
#include <fstream>
#include <optional>
#include <sstream>

#include <arvek/game/input_error.hpp>

#define TOML_EXCEPTIONS 1
// What the parser asserts can be wrong about a wrong file, which it then reports as an error; the same in every source.
#define TOML_ASSERT(condition) static_assert(true)
#include <toml++/toml.h>

namespace waterway {

using arvek::InputError;

namespace {

constexpr std::array element_names{"rope", "water", "smoke", "song"};
constexpr std::array condition_names{"soaked", "winded", "braced"};
constexpr std::array target_names{"one rival", "all rivals", "one mate", "self"};
constexpr std::size_t most_hands = 5, most_actions = 12, most_gear = 20, largest_file = 200'000;

/// A TOML document; every complaint names file, line and column.
class Reader {
   public:
    Reader(std::string_view text, std::string_view source) : source_(source) {
        if (text.size() > largest_file)
            throw InputError(source_, "the file is larger than " + std::to_string(largest_file) + " bytes", "a crew");
        // Nesting is what a reader of TOML recurses over; a crew needs two levels.
        int depth = 0;
        for (const char letter : text) {
            if (letter == '[' || letter == '{') ++depth;
            if (letter == ']' || letter == '}') depth = std::max(0, depth - 1);
            if (depth > 200) throw InputError(source_, "brackets are nested too deeply", "a crew");
        }
        try {
            table_ = toml::parse(plain(text));
        } catch (const toml::parse_error& error) {
            throw InputError(place(error.source()), std::string(error.description()), "TOML");
        }
    }

    const toml::table& table() const { return table_; }

    [[noreturn]] void fail(const toml::node& node, const std::string& problem, const std::string& expected) const {
        throw InputError(place(node.source()), problem, expected);
    }

    void allow_only(const toml::table& table, const std::vector<std::string>& known) const {
        for (const auto& [key, node] : table) {
            const std::string name(key.str());
            if (std::find(known.begin(), known.end(), name) != known.end()) continue;
            const std::string nearest = arvek::nearest_of(name, known);
            throw InputError(place(key.source()), "there is no key '" + name + "'",
                             (nearest.empty() ? "" : nearest + ", perhaps; there are ") + arvek::any_of_text(known));
        }
    }

    const toml::node& required(const toml::table& table, const std::string& key, const std::string& example) const {
        const toml::node* node = table.get(key);
        if (node == nullptr) fail(table, "there is no key '" + key + "'", key + " = " + example);
        return *node;
    }

    std::string text(const toml::node& node, const std::string& what) const {
        if (!node.is_string()) fail(node, what + " is not a text", "a text in quotes");
        return node.as_string()->get();
    }

    /// A name that can stand in a move: letters, digits and hyphens.
    std::string name(const toml::table& table, const std::string& example) const {
        const toml::node& node = required(table, "name", "\"" + example + "\"");
        const std::string found = text(node, "name");
        const bool plain = !found.empty() && found.size() <= 24 &&
                           found.find_first_not_of("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-") ==
                               std::string::npos;
        if (!plain) fail(node, "'" + found + "' can not stand in a move", "1 to 24 letters, digits and hyphens");
        return found;
    }

    int number(const toml::table& table, const std::string& key, int standard, int least, int most) const {
        const toml::node* node = table.get(key);
        if (node == nullptr) return standard;
        const std::string range = std::to_string(least) + " to " + std::to_string(most);
        if (!node->is_integer()) fail(*node, "'" + key + "' is not a whole number", range);
        const std::int64_t value = node->as_integer()->get();
        if (value < least || value > most) fail(*node, key + " = " + std::to_string(value) + " is out of range", range);
        return static_cast<int>(value);
    }

    template <class Names>
    std::size_t choice(const toml::node& node, const std::string& what, const Names& names) const {
        const std::string found = text(node, what);
        const std::vector<std::string> known(names.begin(), names.end());
        const auto at = std::find(known.begin(), known.end(), found);
        if (at == known.end()) {
            const std::string nearest = arvek::nearest_of(found, known);
            fail(node, "there is no " + what + " '" + found + "'",
                 (nearest.empty() ? "" : nearest + ", perhaps; there are ") + arvek::any_of_text(known));
        }
        return static_cast<std::size_t>(at - known.begin());
    }

    /// The tables of [[key]]; none where the key is not there.
    std::vector<const toml::table*> tables(const toml::table& table, const std::string& key, std::size_t most) const {
        std::vector<const toml::table*> found;
        const toml::node* node = table.get(key);
        if (node == nullptr) return found;
        const toml::array* array = node->as_array();
        if (array == nullptr) fail(*node, "'" + key + "' is not a list of tables", "[[" + key + "]] before each");
        for (const toml::node& entry : *array) {
            if (!entry.is_table())
                fail(entry, "an entry of '" + key + "' is not a table", "[[" + key + "]] before each");
            if (found.size() == most)
                fail(entry, "there are more than " + std::to_string(most) + " of '" + key + "'", "at most that many");
            found.push_back(entry.as_table());
        }
        return found;
    }

   private:
    [[noreturn]] void fail_at(std::size_t line, std::size_t column, const std::string& problem,
                              const std::string& expected) const {
        throw InputError(source_ + ", line " + std::to_string(line) + ", column " + std::to_string(column), problem,
                         expected);
    }

    /// The text without its comment lines, which may be in any script; the rest must be plain. The parser is not to be
    /// trusted with anything else, nor with brackets of a table that no name follows.
    std::string plain(std::string_view text) const {
        std::string kept;
        for (std::size_t line = 1; !text.empty(); ++line) {
            const auto end = text.find('\n');
            const std::string_view whole = text.substr(0, end);
            text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
            std::size_t at = whole.find_first_not_of(" \t");
            if (at == std::string_view::npos || whole[at] == '#') {
                kept += '\n';
                continue;
            }
            for (std::size_t i = 0; i < whole.size(); ++i) {
                const auto letter = static_cast<unsigned char>(whole[i]);
                const bool last_return = letter == '\r' && i + 1 == whole.size();
                if ((letter < 0x20 && letter != '\t' && !last_return) || letter >= 0x7f)
                    fail_at(line, i + 1, "a character is not plain text", "letters, digits and signs of ASCII");
            }
            if (whole[at] == '[') {
                at += whole.substr(at, 2) == "[[" ? 2 : 1;
                at = whole.find_first_not_of(" \t", at);
                const char next = at == std::string_view::npos ? '\0' : whole[at];
                const bool key = (next >= 'a' && next <= 'z') || (next >= 'A' && next <= 'Z') ||
                                 (next >= '0' && next <= '9') || next == '_' || next == '-' || next == '"' ||
                                 next == '\'' || next == ']';
                if (!key)
                    fail_at(line, std::min(at, whole.size()) + 1, "no name follows the bracket",
                            "the name of a table, such as [[hand]]");
            }
            kept += whole;
            kept += '\n';
        }
        return kept;
    }

    std::string place(const toml::source_region& source) const {
        return source_ + ", line " + std::to_string(source.begin.line) + ", column " +
               std::to_string(source.begin.column);
    }

    std::string source_;
    toml::table table_;
};

/// What a hand and a piece of gear have alike.
struct Outfit {
    std::array<Rating, element_count> ratings{};
    std::vector<ScuffleAction> actions;
};

ScuffleAction read_action(const Reader& reader, const toml::table& table) {
    reader.allow_only(table, {"name", "element", "power", "time", "hits", "target", "lays", "turns"});
    ScuffleAction action;
    action.name = reader.name(table, "haul");
    action.element =
        static_cast<Element>(reader.choice(reader.required(table, "element", "\"rope\""), "element", element_names));
    action.power = reader.number(table, "power", 0, 0, 99);
    action.time = reader.number(table, "time", 10, 1, 99);
    action.hits = reader.number(table, "hits", 100, 1, 100);
    action.target = static_cast<TargetKind>(
        reader.choice(reader.required(table, "target", "\"one rival\""), "target", target_names));
    const toml::node* lays = table.get("lays");
    action.lays = lays != nullptr;
    if (lays != nullptr) {
        action.condition = static_cast<Condition>(reader.choice(*lays, "condition", condition_names));
        action.turns = reader.number(table, "turns", 2, 1, 9);
    } else if (const toml::node* turns = table.get("turns")) {
        reader.fail(*turns, "'turns' without a condition means nothing", "lays = \"soaked\", or no turns");
    }
    return action;
}

Outfit read_outfit(const Reader& reader, const toml::table& table) {
    Outfit outfit;
    if (const toml::node* node = table.get("rating")) {
        const toml::table* ratings = node->as_table();
        if (ratings == nullptr)
            reader.fail(*node, "'rating' is not a table", "rating.rope = { attack = 2, guard = 1 }");
        reader.allow_only(*ratings, {element_names.begin(), element_names.end()});
        for (std::size_t i = 0; i < element_count; ++i) {
            const toml::node* entry = ratings->get(element_names[i]);
            if (entry == nullptr) continue;
            const toml::table* values = entry->as_table();
            if (values == nullptr) reader.fail(*entry, "a rating is not a table", "{ attack = 2, guard = 1 }");
            reader.allow_only(*values, {"attack", "guard", "mends"});
            Rating& rating = outfit.ratings[i];
            rating.attack = reader.number(*values, "attack", 0, -20, 20);
            rating.guard = reader.number(*values, "guard", 0, -20, 20);
            if (const toml::node* mends = values->get("mends")) {
                if (!mends->is_boolean()) reader.fail(*mends, "'mends' is neither true nor false", "true or false");
                rating.mends = mends->as_boolean()->get();
            }
        }
    }
    for (const toml::table* action : reader.tables(table, "action", most_actions))
        outfit.actions.push_back(read_action(reader, *action));
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
    const Reader reader(text, source);
    const toml::table& table = reader.table();
    reader.allow_only(table, {"name", "hand", "gear"});
    Crew crew;
    const toml::node& name = reader.required(table, "name", "\"The Eel Street Hands\"");
    crew.name = reader.text(name, "name");
    for (const char letter : crew.name)
        if (static_cast<unsigned char>(letter) < 0x20)
            reader.fail(name, "the name has a control character", "plain text");
    if (crew.name.empty() || crew.name.size() > 60)
        reader.fail(name, "the name is empty or too long", "1 to 60 letters");

    std::vector<std::pair<std::string, Outfit>> gear;
    for (const toml::table* entry : reader.tables(table, "gear", most_gear)) {
        reader.allow_only(*entry, {"name", "rating", "action"});
        const std::string gear_name = reader.name(*entry, "billhook");
        for (const auto& known : gear)
            if (known.first == gear_name)
                reader.fail(*entry->get("name"), "there is gear '" + gear_name + "' already", "another name");
        gear.emplace_back(gear_name, read_outfit(reader, *entry));
    }
    const auto hands = reader.tables(table, "hand", most_hands);
    if (hands.empty()) reader.fail(table, "the crew has no hands", "[[hand]], one to five times");
    for (const toml::table* entry : hands) {
        reader.allow_only(*entry, {"name", "stamina", "quickness", "rating", "action", "gear"});
        Hand hand;
        hand.name = reader.name(*entry, "Nessa");
        for (const Hand& known : crew.hands)
            if (known.name == hand.name)
                reader.fail(*entry->get("name"), "there is a hand '" + hand.name + "' already", "another name");
        (void)reader.required(*entry, "stamina", "24");
        hand.stamina = reader.number(*entry, "stamina", 1, 1, 999);
        hand.quickness = reader.number(*entry, "quickness", 10, 1, 40);
        wear(hand, read_outfit(reader, *entry));
        if (const toml::node* node = entry->get("gear")) {
            const toml::array* list = node->as_array();
            if (list == nullptr) reader.fail(*node, "'gear' is not a list", "[\"billhook\"]");
            std::vector<std::string> names;
            for (const auto& known : gear) names.push_back(known.first);
            for (const toml::node& item : *list) {
                if (names.empty()) reader.fail(item, "the crew has no gear", "[[gear]] with that name");
                wear(hand, gear[reader.choice(item, "gear", names)].second);
            }
        }
        if (hand.actions.size() > most_actions)
            reader.fail(*entry, hand.name + " has " + std::to_string(hand.actions.size()) + " actions with its gear",
                        "at most " + std::to_string(most_actions));
        for (std::size_t i = 0; i < hand.actions.size(); ++i)
            for (std::size_t j = 0; j < i; ++j)
                if (hand.actions[i].name == hand.actions[j].name)
                    reader.fail(*entry, hand.name + " has two actions '" + hand.actions[i].name + "'",
                                "different names");
        const bool can_always_act = std::any_of(hand.actions.begin(), hand.actions.end(), [](const auto& action) {
            return action.target != TargetKind::OneMate;
        });
        if (!can_always_act)
            reader.fail(*entry, hand.name + " has no action for when its mates are out",
                        "one at least with the target one rival, all rivals or self");
        crew.hands.push_back(std::move(hand));
    }
    return crew;
}

Crew read_crew_file(const std::string& path) {
    std::ifstream file(path, std::ios::binary);
    std::string text(largest_file + 1, '\0');
    if (file) file.read(text.data(), static_cast<std::streamsize>(text.size()));
    if (!file.is_open() || file.bad() || (file.gcount() == 0 && !file.eof()))
        throw InputError(path, "the file can not be read", "a .toml file with a crew");
    text.resize(static_cast<std::size_t>(file.gcount()));
    if (text.empty()) throw InputError(path, "the file is empty", "a crew");
    return read_crew(text, path);
}

}  // namespace waterway
