#include "arvek/game/data_file.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>

#include "arvek/game/utf8.hpp"

#define TOML_EXCEPTIONS 1
// What the parser asserts can be wrong about a wrong file, which it then reports as an error; the same in every source.
#define TOML_ASSERT(condition) static_assert(true)
#include <toml++/toml.h>

namespace arvek {

namespace {

// Nesting is what the parser recurses over: brackets in brackets, and keys of many parts.
constexpr int deepest_brackets = 100, most_key_parts = 50;

bool comes_before(const DataPlace& a, const DataPlace& b) {
    return a.line != b.line ? a.line < b.line : a.column < b.column;
}

/// A text of which the parser sees no comments and nothing but plain ASCII: it is not to be trusted with control
/// characters, other letters, nor with brackets of a table that no name follows. Other letters, allowed in quotes, are
/// spelled out for it and put back into what it found.
class PlainText {
   public:
    /// Complains to `file`.
    PlainText(std::string_view text, const DataFile& file) {
        for (int number = 0; mark_.empty() || text.find(mark_) != std::string_view::npos; ++number)
            mark_ = "U" + std::to_string(number) + "x";
        if (text.starts_with("\xef\xbb\xbf")) text.remove_prefix(3);  // what some editors begin with
        read(text, file);
    }

    const std::string& plain() const { return plain_; }

    /// The text with the letters that were spelled out.
    std::string restored(std::string_view found) const {
        std::string whole;
        for (;;) {
            const std::size_t at = found.find(mark_);
            whole += found.substr(0, at);
            if (at == std::string_view::npos) return whole;
            found.remove_prefix(at);
            const std::string_view spelled = found.substr(0, mark_.size() + digits);
            std::string letter;
            for (std::size_t i = mark_.size(); i + 1 < spelled.size(); i += 2) {
                unsigned byte = 0;
                std::from_chars(spelled.data() + i, spelled.data() + i + 2, byte, 16);
                if (byte != 0) letter += static_cast<char>(byte);
            }
            // Escapes in the text may have made what looks alike.
            const bool is_letter = letter.size() > 1 && utf8_letter_size(letter) == letter.size();
            whole += is_letter ? letter : spelled;
            found.remove_prefix(spelled.size());
        }
    }

    /// The place in the text itself.
    DataPlace place_of(const toml::source_region& source) const {
        DataPlace place{static_cast<int>(source.begin.line), static_cast<int>(source.begin.column)};
        const auto line = static_cast<std::size_t>(place.line - 1);
        if (line >= spelled_.size()) return place;
        const int size = static_cast<int>(mark_.size() + digits);
        int more = 0;
        for (const int at : spelled_[line]) {
            if (at + size <= place.column)
                more += size - 1;
            else
                place.column = std::min(place.column, at);
        }
        place.column -= more;
        return place;
    }

   private:
    static constexpr std::size_t digits = 8;  ///< of the up to four bytes of a letter

    void spell(std::string_view letter, std::size_t line_start) {
        constexpr std::string_view hex = "0123456789ABCDEF";
        spelled_.back().push_back(static_cast<int>(plain_.size() - line_start) + 1);
        plain_ += mark_;
        for (std::size_t i = 0; i < digits / 2; ++i) {
            const unsigned byte = i < letter.size() ? static_cast<unsigned char>(letter[i]) : 0u;
            plain_ += hex[byte >> 4];
            plain_ += hex[byte & 15];
        }
    }

    void read(std::string_view text, const DataFile& file) {
        enum class Quotes { None, One, Three };
        int depth = 0, dots = 0;
        Quotes quotes = Quotes::None;
        char mark = '\0';
        for (int line = 1; !text.empty(); ++line) {
            const std::size_t line_start = plain_.size();
            spelled_.emplace_back();
            const auto end = text.find('\n');
            const std::string_view whole = text.substr(0, end);
            text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
            const std::size_t start = whole.find_first_not_of(" \t");
            if (quotes == Quotes::None && start != std::string_view::npos && whole[start] == '[') {
                const std::size_t at = whole.find_first_not_of(" \t", start + (whole.substr(start, 2) == "[[" ? 2 : 1));
                const char next = at == std::string_view::npos ? '\0' : whole[at];
                const bool key = (next >= 'a' && next <= 'z') || (next >= 'A' && next <= 'Z') ||
                                 (next >= '0' && next <= '9') || next == '_' || next == '-' || next == '"' ||
                                 next == '\'' || next == ']';
                if (!key)
                    file.fail({line, static_cast<int>(std::min(at, whole.size())) + 1}, "no name follows the bracket",
                              "the name of a table");
            }
            if (quotes == Quotes::One) quotes = Quotes::None;  // the parser says that they were not closed
            if (quotes == Quotes::None) dots = 0;
            for (std::size_t i = 0, column = 1; i < whole.size(); ++column) {
                const auto fail = [&](const char* problem, const char* expected) {
                    file.fail({line, static_cast<int>(column)}, problem, expected);
                };
                const std::string_view rest = whole.substr(i);
                const char letter = rest.front();
                std::size_t size = utf8_letter_size(rest);
                if (size == 0) fail("a character is not UTF-8", "a file that is saved as UTF-8");
                const auto byte = static_cast<unsigned char>(letter);
                const bool last_return = letter == '\r' && rest.size() == 1;
                if ((byte < 0x20 && letter != '\t' && !last_return) || byte == 0x7f)
                    fail("a control character stands here", "letters, digits and signs");
                if (quotes == Quotes::None) {
                    if (letter == '#') break;
                    if (letter == '[' || letter == '{') ++depth;
                    if (letter == ']' || letter == '}') depth = std::max(0, depth - 1);
                    if (depth > deepest_brackets) fail("brackets are nested too deeply", "fewer of them");
                    if (letter == '=' || letter == ',') dots = 0;
                    dots += letter == '.' ? 1 : 0;
                    if (dots > most_key_parts) fail("a key has too many parts", "fewer dots");
                    if (size > 1) fail("a letter beyond ASCII stands outside quotes", "quotes around the text");
                    if (letter == '"' || letter == '\'') {
                        mark = letter;
                        const bool three = rest.size() >= 3 && rest[1] == letter && rest[2] == letter;
                        quotes = three ? Quotes::Three : Quotes::One;
                        size = three ? 3 : 1;
                    }
                } else if (letter == '\\' && mark == '"') {
                    if (rest.size() > 1 && rest[1] >= 0x20 && rest[1] < 0x7f) size = 2;
                } else if (letter == mark) {
                    if (quotes == Quotes::One) {
                        quotes = Quotes::None;
                    } else if (rest.size() >= 3 && rest[1] == mark && rest[2] == mark) {
                        size = 3;
                        while (size < rest.size() && size < 5 && rest[size] == mark) ++size;
                        quotes = Quotes::None;
                    }
                }
                size > 1 && byte >= 0x80 ? spell(rest.substr(0, size), line_start)
                                         : void(plain_ += rest.substr(0, size));
                i += size;
                column += size > 1 && byte < 0x80 ? size - 1 : 0;
            }
            plain_ += '\n';
        }
    }

    std::string mark_;
    std::string plain_;
    std::vector<std::vector<int>> spelled_;  ///< of each line: the columns where letters are spelled out
};

DataNode node_of(const toml::node& node, const PlainText& text) {
    DataNode found;
    found.place = text.place_of(node.source());
    if (const toml::table* table = node.as_table()) {
        found.kind = DataNode::Kind::Table;
        for (const auto& [key, value] : *table)
            found.entries.push_back({text.restored(key.str()), text.place_of(key.source()), node_of(value, text)});
        std::stable_sort(found.entries.begin(), found.entries.end(),
                         [](const auto& a, const auto& b) { return comes_before(a.place, b.place); });
    } else if (const toml::array* array = node.as_array()) {
        found.kind = DataNode::Kind::List;
        for (const toml::node& item : *array) found.items.push_back(node_of(item, text));
    } else if (const auto* words = node.as_string()) {
        found.kind = DataNode::Kind::String;
        found.text = text.restored(words->get());
    } else if (const auto* whole = node.as_integer()) {
        found.kind = DataNode::Kind::Integer;
        found.integer = whole->get();
        found.number = static_cast<double>(whole->get());
    } else if (const auto* number = node.as_floating_point()) {
        found.kind = DataNode::Kind::Number;
        found.number = number->get();
    } else if (const auto* truth = node.as_boolean()) {
        found.kind = DataNode::Kind::Boolean;
        found.truth = truth->get();
    }
    return found;
}

std::string text_of(double number) {
    char text[32];
    return {text, std::to_chars(text, text + sizeof text, number).ptr};
}

}  // namespace

const DataNode* DataNode::find(std::string_view key) const {
    for (const Entry& entry : entries)
        if (entry.key == key) return &entry.value;
    return nullptr;
}

DataFile::DataFile(std::string_view text, std::string_view source, std::size_t most_bytes)
    : sources_{std::string(source)} {
    if (text.size() > most_bytes)
        throw InputError(sources_.front(), "the file is larger than " + std::to_string(most_bytes) + " bytes",
                         "a smaller one");
    const PlainText plain(text, *this);
    try {
        root_ = node_of(toml::parse(plain.plain()), plain);
    } catch (const toml::parse_error& error) {
        fail(plain.place_of(error.source()), plain.restored(error.description()), "TOML");
    }
}

std::string DataFile::at(const DataPlace& place) const {
    return sources_[static_cast<std::size_t>(place.file)] + ", line " + std::to_string(place.line) + ", column " +
           std::to_string(place.column);
}

namespace {

void move_to_file(DataNode& node, int first) {
    node.place.file += first;
    for (auto& entry : node.entries) {
        entry.place.file += first;
        move_to_file(entry.value, first);
    }
    for (DataNode& item : node.items) move_to_file(item, first);
}

}  // namespace

void DataFile::take_in(const DataFile& other, const std::function<void(DataNode& own, DataNode theirs)>& merge) {
    DataNode theirs = other.root_;
    move_to_file(theirs, static_cast<int>(sources_.size()));
    sources_.insert(sources_.end(), other.sources_.begin(), other.sources_.end());
    merge(root_, std::move(theirs));
}

void DataFile::fail(const DataPlace& place, const std::string& problem, const std::string& expected) const {
    throw InputError(at(place), problem, expected);
}

void DataFile::fail_unknown(const DataPlace& place, const std::string& what, const std::string& name,
                            const std::vector<std::string>& known) const {
    const std::string nearest = nearest_of(name, known);
    fail(place, "there is no " + what + " '" + name + "'",
         (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(known));
}

void DataFile::allow_only(const DataNode& table, const std::vector<std::string>& known) const {
    for (const auto& entry : table.entries)
        if (std::find(known.begin(), known.end(), entry.key) == known.end())
            fail_unknown(entry.place, "key", entry.key, known);
}

const DataNode& DataFile::required(const DataNode& table, const std::string& key, const std::string& example) const {
    const DataNode* node = table.find(key);
    if (node == nullptr) fail(table, "there is no key '" + key + "'", key + " = " + example);
    return *node;
}

void DataFile::require_table(const DataNode& node, const std::string& what, const std::string& example) const {
    if (node.kind != DataNode::Kind::Table) fail(node, what + " is not a table", example);
}

const std::string& DataFile::text(const DataNode& node, const std::string& what) const {
    if (node.kind != DataNode::Kind::String) fail(node, what + " is not a string", "a string in quotes");
    for (const char letter : node.text)  // by an escape: nobody is to pass on to a terminal what it would obey
        if ((static_cast<unsigned char>(letter) < 0x20 && letter != '\n' && letter != '\t') || letter == 0x7f)
            fail(node, what + " has a control character in it", "letters, digits and signs");
    return node.text;
}

bool DataFile::boolean(const DataNode& node, const std::string& what) const {
    if (node.kind != DataNode::Kind::Boolean) fail(node, what + " is neither true nor false", "true or false");
    return node.truth;
}

std::int64_t DataFile::integer(const DataNode& node, const std::string& what, std::int64_t least,
                               std::int64_t most) const {
    const std::string range = std::to_string(least) + " to " + std::to_string(most);
    if (node.kind != DataNode::Kind::Integer) fail(node, what + " is not an integer", range);
    if (node.integer < least || node.integer > most)
        fail(node, what + " = " + std::to_string(node.integer) + " is out of range", range);
    return node.integer;
}

double DataFile::number(const DataNode& node, const std::string& what, double least, double most) const {
    const std::string range = text_of(least) + " to " + text_of(most);
    if (node.kind != DataNode::Kind::Integer && node.kind != DataNode::Kind::Number)
        fail(node, what + " is not a number", range);
    if (!(node.number >= least && node.number <= most))
        fail(node, what + " = " + text_of(node.number) + " is out of range", range);
    return node.number;
}

std::size_t DataFile::choice(const DataNode& node, const std::string& what,
                             const std::vector<std::string>& names) const {
    const std::string& found = text(node, what);
    const auto at = std::find(names.begin(), names.end(), found);
    if (at == names.end()) fail_unknown(node.place, what, found, names);
    return static_cast<std::size_t>(at - names.begin());
}

std::vector<const DataNode*> DataFile::tables(const DataNode& table, const std::string& key, std::size_t most) const {
    std::vector<const DataNode*> found;
    const DataNode* node = table.find(key);
    if (node == nullptr) return found;
    if (node->kind != DataNode::Kind::List)
        fail(*node, "'" + key + "' is not a list of tables", "[[" + key + "]] before each");
    for (const DataNode& entry : node->items) {
        if (entry.kind != DataNode::Kind::Table)
            fail(entry, "an entry of '" + key + "' is not a table", "[[" + key + "]] before each");
        if (found.size() == most)
            fail(entry, "there are more than " + std::to_string(most) + " of '" + key + "'", "at most that many");
        found.push_back(&entry);
    }
    return found;
}

std::int64_t DataFile::integer_or(const DataNode& table, const std::string& key, std::int64_t otherwise,
                                  std::int64_t least, std::int64_t most) const {
    const DataNode* node = table.find(key);
    return node == nullptr ? otherwise : integer(*node, "'" + key + "'", least, most);
}

double DataFile::number_or(const DataNode& table, const std::string& key, double otherwise, double least,
                           double most) const {
    const DataNode* node = table.find(key);
    return node == nullptr ? otherwise : number(*node, "'" + key + "'", least, most);
}

bool DataFile::boolean_or(const DataNode& table, const std::string& key, bool otherwise) const {
    const DataNode* node = table.find(key);
    return node == nullptr ? otherwise : boolean(*node, "'" + key + "'");
}

std::string DataFile::text_or(const DataNode& table, const std::string& key, const std::string& otherwise) const {
    const DataNode* node = table.find(key);
    return node == nullptr ? otherwise : text(*node, "'" + key + "'");
}

}  // namespace arvek
