#include "profile_files.hpp"

#include <algorithm>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/input_error.hpp"

namespace arvek::detail {

namespace {

constexpr std::size_t most_bytes_of_a_profile = 1'000'000;

/// Joins what a profile says to what it is based on.
class ProfileMerger {
   public:
    explicit ProfileMerger(const DataFile& file) : file_(file) {}

    /// Of `base` only what `own` does not say stays.
    void merge(DataNode& own, DataNode base) const {
        const std::vector<std::string> dropped = names_in(own, "without");
        for (DataNode::Entry& entry : base.entries) {
            if (entry.key == "based_on" || entry.key == "without") continue;
            const bool by_name =
                (entry.key == "rule" || entry.key == "change") && entry.value.kind == DataNode::Kind::List;
            if (by_name) drop(entry.value, dropped);
            DataNode* mine = find(own, entry.key);
            if (mine == nullptr)
                own.entries.push_back(std::move(entry));
            else if (by_name && mine->kind == DataNode::Kind::List)
                *mine = joined(std::move(*mine), std::move(entry.value));
            else if (mine->kind == DataNode::Kind::Table && entry.value.kind == DataNode::Kind::Table)
                merge_tables(*mine, std::move(entry.value));
        }
    }

    /// Of a rule; empty where it has none.
    static std::string name_of(const DataNode& rule) {
        const DataNode* name = rule.find("name");
        if (name == nullptr) name = rule.find("use");
        return name != nullptr ? name->text : "";
    }

   private:
    static DataNode* find(DataNode& table, const std::string& key) {
        for (DataNode::Entry& entry : table.entries)
            if (entry.key == key) return &entry.value;
        return nullptr;
    }

    void merge_tables(DataNode& own, DataNode base) const {
        for (DataNode::Entry& entry : base.entries) {
            DataNode* mine = find(own, entry.key);
            if (mine == nullptr)
                own.entries.push_back(std::move(entry));
            else if (mine->kind == DataNode::Kind::Table && entry.value.kind == DataNode::Kind::Table &&
                     !is_condition(*mine))
                merge_tables(*mine, std::move(entry.value));
        }
    }

    /// A condition is replaced whole.
    static bool is_condition(const DataNode& table) {
        for (const char* key : {"quantity", "all", "any", "none", "state", "count", "turns_since", "condition"})
            if (table.find(key) != nullptr) return true;
        return false;
    }

    std::vector<std::string> names_in(const DataNode& own, const std::string& key) const {
        std::vector<std::string> names;
        const DataNode* list = own.find(key);
        if (list == nullptr) return names;
        if (list->kind != DataNode::Kind::List)
            file_.fail(*list, "'" + key + "' is not a list of rules", "[\"mend a mate\"]");
        for (const DataNode& item : list->items) names.push_back(file_.text(item, "'" + key + "'"));
        return names;
    }

    void drop(DataNode& rules, const std::vector<std::string>& names) const {
        std::erase_if(rules.items, [&](const DataNode& rule) {
            return std::find(names.begin(), names.end(), name_of(rule)) != names.end();
        });
    }

    /// Rules of one name become one, in the place of the base's; others come behind, or before the one they name.
    DataNode joined(DataNode own, DataNode base) const {
        for (DataNode& rule : own.items) {
            const std::string name = name_of(rule);
            const auto same = std::find_if(base.items.begin(), base.items.end(),
                                           [&](const DataNode& other) { return name_of(other) == name; });
            const DataNode* before = rule.find("before");
            if (same != base.items.end() && !name.empty()) {
                DataNode joined = std::move(rule);
                merge_tables(joined, std::move(*same));
                *same = std::move(joined);
            } else if (before != nullptr) {
                const std::string& other = file_.text(*before, "'before'");
                const auto at = std::find_if(base.items.begin(), base.items.end(),
                                             [&](const DataNode& each) { return name_of(each) == other; });
                if (at == base.items.end()) {
                    std::vector<std::string> known;
                    for (const DataNode& each : base.items) known.push_back(name_of(each));
                    file_.fail_unknown(before->place, "rule", other, known);
                }
                base.items.insert(at, std::move(rule));
            } else {
                base.items.push_back(std::move(rule));
            }
        }
        own.items = std::move(base.items);
        return own;
    }

    const DataFile& file_;
};

}  // namespace

std::string path_beside(const std::string& source, const std::string& name) {
    const std::size_t slash = source.find_last_of('/');
    return name.starts_with('/') || slash == std::string::npos ? name : source.substr(0, slash + 1) + name;
}

DataFile read_with_bases(std::string_view text, const std::string& source, const ReadBase& read_base, int left) {
    DataFile file(text, source, most_bytes_of_a_profile);
    const DataNode* base = file.root().find("based_on");
    if (base == nullptr) {
        if (const DataNode* without = file.root().find("without"))
            file.fail(*without, "'without' is of rules of another file", "based_on = \"other.toml\"");
        return file;
    }
    const DataPlace place = base->place;
    const std::string name = file.text(*base, "'based_on'");
    if (left == 0) file.fail(place, "profiles are based on one another too deeply, or in a circle", "at most 5 deep");
    if (!read_base) file.fail(place, "there are no other files here", "a profile that stands alone");
    const std::string path = path_beside(source, name);
    std::string base_text;
    try {
        base_text = read_base(path);
    } catch (const InputError& error) {
        file.fail(place, error.what(), "");
    }
    const DataFile other = read_with_bases(base_text, path, read_base, left - 1);
    file.take_in(other, [&](DataNode& own, DataNode theirs) { ProfileMerger(file).merge(own, std::move(theirs)); });
    return file;
}

namespace {

/// The node of a key; one that the file leaves out is added, as no number yet.
DataNode& node_of(DataNode& root, const std::string& key) {
    DataNode* at = &root;
    std::string_view left = key;
    const auto fail = [&](const std::vector<std::string>& known) {
        throw InputError("key " + key, "there is no '" + std::string(left) + "' there",
                         known.empty() ? "a key of a number" : any_of_text(known));
    };
    // The longest name that the rest of the key begins with; empty: none.
    const auto longest = [&](const std::vector<std::string>& names) {
        std::string found;
        for (const std::string& name : names)
            if (name.size() >= found.size() && left.starts_with(name) &&
                (left.size() == name.size() || left[name.size()] == '.'))
                found = name;
        return found;
    };
    while (!left.empty()) {
        std::vector<std::string> names;
        if (at->kind == DataNode::Kind::Table)
            for (const auto& entry : at->entries) names.push_back(entry.key);
        if (at->kind == DataNode::Kind::List)
            for (std::size_t i = 0; i < at->items.size(); ++i) {
                const std::string name = ProfileMerger::name_of(at->items[i]);
                names.push_back(name.empty() ? std::to_string(i + 1) : name);
            }
        const std::string name = longest(names);
        if (name.empty()) {
            // The last part may be a key that the file leaves out.
            const bool may_be_added = at->kind == DataNode::Kind::Table && left.find('.') == std::string_view::npos &&
                                      (at != &root || left == "level" || left == "book_from_level");
            if (!may_be_added) fail(names);
            at->entries.push_back({std::string(left), at->place, DataNode{}});
            return at->entries.back().value;
        }
        const auto place = static_cast<std::size_t>(std::find(names.begin(), names.end(), name) - names.begin());
        at = at->kind == DataNode::Kind::Table ? &at->entries[place].value : &at->items[place];
        left.remove_prefix(std::min(left.size(), name.size() + 1));
    }
    if (at->kind != DataNode::Kind::Integer && at->kind != DataNode::Kind::Number)
        throw InputError("key " + key, "it is no number in the profile", "a key of a number");
    return *at;
}

}  // namespace

void set_number(DataNode& root, const std::string& key, double number) {
    DataNode& node = node_of(root, key);
    node.number = number;
    const bool is_integer = number == static_cast<double>(static_cast<std::int64_t>(number));
    node.kind = is_integer ? DataNode::Kind::Integer : DataNode::Kind::Number;
    node.integer = is_integer ? static_cast<std::int64_t>(number) : 0;
}

std::optional<ProfileNumber> number_at(DataNode root, const std::string& key) {
    const DataNode& node = node_of(root, key);
    if (node.kind == DataNode::Kind::Other) return std::nullopt;  // it was added
    return ProfileNumber{node.number, node.kind == DataNode::Kind::Integer, node.place};
}

}  // namespace arvek::detail
