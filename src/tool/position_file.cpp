#include "position_file.hpp"

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <sstream>
#include <string_view>

#include "arvek/game/input_error.hpp"
#include "values.hpp"

#define TOML_EXCEPTIONS 1
// What the parser asserts can be wrong about a wrong file, which it then reports as an error; the same in every source.
#define TOML_ASSERT(condition) static_assert(true)
#include <toml++/toml.h>

namespace arvek::tool {

namespace {

/// A TOML document that names file, line and column in every complaint.
class Document {
   public:
    explicit Document(std::string path) : path_(std::move(path)) {
        const std::string content = file_text(path_);
        try {
            table_ = toml::parse(content);
        } catch (const toml::parse_error& error) {
            throw InputError(place(error.source()), std::string(error.description()), "TOML");
        }
        if (table_.empty()) throw InputError(path_, "the file is empty", "a TOML document with keys");
    }

    const toml::table& table() const { return table_; }

    std::string place(const toml::source_region& source) const {
        return path_ + ", line " + std::to_string(source.begin.line) + ", column " +
               std::to_string(source.begin.column);
    }

    std::string text(const toml::table& table, std::string_view key, bool required) const {
        const toml::node* node = table.get(key);
        if (node == nullptr) {
            if (required)
                throw InputError(place(table.source()), "there is no key " + in_quotes(key),
                                 std::string(key) + " = \"...\"");
            return {};
        }
        if (!node->is_string())
            throw InputError(place(node->source()), in_quotes(key) + " is not a text", "a text in quotes");
        return node->as_string()->get();
    }

    void allow_only(const toml::table& table, const std::vector<std::string>& known) const {
        for (const auto& [key, node] : table) {
            const std::string name(key.str());
            if (std::find(known.begin(), known.end(), name) != known.end()) continue;
            const std::string nearest = nearest_of(name, known);
            throw InputError(
                place(key.source()), "there is no key " + in_quotes(name),
                nearest.empty() ? any_of_text(known) : nearest + ", perhaps; there are " + any_of_text(known));
        }
    }

   private:
    std::string path_;
    toml::table table_;
};

std::vector<std::string> texts_of(const Document& document, const toml::node& node, const char* what) {
    std::vector<std::string> texts;
    const toml::array* array = node.as_array();
    if (array == nullptr)
        throw InputError(document.place(node.source()), std::string(what) + " is not a list", "[\"...\", \"...\"]");
    for (const toml::node& entry : *array) {
        if (!entry.is_string())
            throw InputError(document.place(entry.source()), std::string("an entry of ") + what + " is not a text",
                             "a text in quotes");
        texts.push_back(entry.as_string()->get());
    }
    return texts;
}

}  // namespace

std::string file_text(const std::string& path) {
    std::error_code problem;
    if (!std::filesystem::exists(path, problem) || std::filesystem::is_directory(path, problem))
        throw InputError(path, "there is no such file", "a readable .toml file");
    std::ifstream stream(path, std::ios::binary);
    std::ostringstream content;
    content << stream.rdbuf();
    if (!stream) throw InputError(path, "the file can not be read", "a readable .toml file");
    return content.str();
}

bool names_position_file(const std::string& text) {
    constexpr std::string_view ending = ".toml";
    return text.size() > ending.size() && text.compare(text.size() - ending.size(), ending.size(), ending) == 0;
}

PositionFile read_position_file(const std::string& path) {
    const Document document(path);
    const toml::table& table = document.table();
    document.allow_only(table, {"game", "set", "position", "note"});
    PositionFile file;
    file.game = document.text(table, "game", false);
    file.position = document.text(table, "position", true);
    (void)document.text(table, "note", false);
    if (const toml::node* set = table.get("set")) {
        if (!set->is_table())
            throw InputError(document.place(set->source()), "'set' is not a table", "{ name = value, ... }");
        for (const auto& [key, value] : *set->as_table()) {
            std::ostringstream text;
            if (value.is_string())
                text << value.as_string()->get();
            else if (value.is_integer())
                text << value.as_integer()->get();
            else if (value.is_boolean())
                text << (value.as_boolean()->get() ? "true" : "false");
            else
                throw InputError(document.place(value.source()),
                                 in_quotes(std::string(key.str())) + " has a value of a wrong kind",
                                 "a number, true, false or a text");
            file.settings.push_back(std::string(key.str()) + "=" + text.str());
        }
    }
    return file;
}

std::vector<TourStep> read_tour(const std::string& path) {
    const Document document(path);
    document.allow_only(document.table(), {"step"});
    const toml::node* steps = document.table().get("step");
    if (steps == nullptr || !steps->is_array_of_tables())
        throw InputError(path, "'step' is not a list of tables", "[[step]] tables");
    std::vector<TourStep> tour;
    for (const toml::node& node : *steps->as_array()) {
        const toml::table& table = *node.as_table();
        document.allow_only(table, {"title", "say", "run", "type"});
        TourStep step;
        step.title = document.text(table, "title", true);
        step.say = document.text(table, "say", false);
        step.type = document.text(table, "type", false);
        if (const toml::node* run = table.get("run")) {
            const toml::array* commands = run->as_array();
            if (commands == nullptr)
                throw InputError(document.place(run->source()), "'run' is not a list",
                                 "a list of command lines, each a list of texts");
            for (const toml::node& command : *commands)
                step.run.push_back(texts_of(document, command, "a command line"));
        }
        tour.push_back(std::move(step));
    }
    return tour;
}

}  // namespace arvek::tool
