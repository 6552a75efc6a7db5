#include "position_file.hpp"

#include <filesystem>
#include <fstream>
#include <string_view>

#include "arvek/game/data_file.hpp"
#include "values.hpp"

namespace arvek::tool {

namespace {

DataFile opened(const std::string& path) {
    DataFile file(file_text(path), path);
    if (file.root().entries.empty()) throw InputError(path, "the file is empty", "a TOML document with keys");
    return file;
}

/// More than any kind of file may have, and little enough to hold in memory.
constexpr std::streamsize most_file_bytes = 4'000'000;

/// Of a list of texts.
std::vector<std::string> texts_of(const DataFile& file, const DataNode& node, const std::string& what) {
    if (node.kind != DataNode::Kind::List) file.fail(node, what + " is not a list", "[\"...\", \"...\"]");
    std::vector<std::string> texts;
    for (const DataNode& entry : node.items) texts.push_back(file.text(entry, "an entry of " + what));
    return texts;
}

}  // namespace

std::string file_text(const std::string& path) {
    std::error_code problem;
    if (!std::filesystem::exists(path, problem))
        throw InputError(path, "there is no such file", "a readable .toml file");
    if (std::filesystem::is_directory(path, problem)) throw InputError(path, "it is a folder", "a readable .toml file");
    std::ifstream stream(path, std::ios::binary);
    std::string content(most_file_bytes + 1, '\0');
    stream.read(content.data(), static_cast<std::streamsize>(content.size()));
    if (!stream.eof() && stream.gcount() <= most_file_bytes)
        throw InputError(path, "the file can not be read", "a readable .toml file");
    if (stream.gcount() > most_file_bytes)
        throw InputError(path, "the file is larger than " + std::to_string(most_file_bytes) + " bytes",
                         "a smaller one");
    content.resize(static_cast<std::size_t>(stream.gcount()));
    return content;
}

bool names_position_file(const std::string& text) {
    constexpr std::string_view ending = ".toml";
    return text.size() > ending.size() && text.compare(text.size() - ending.size(), ending.size(), ending) == 0;
}

PositionFile read_position_file(const std::string& path) {
    const DataFile file = opened(path);
    const DataNode& root = file.root();
    file.allow_only(root, {"game", "set", "position", "note"});
    PositionFile found;
    found.game = file.text_or(root, "game", "");
    found.position = file.text(file.required(root, "position", "\"...\""), "'position'");
    (void)file.text_or(root, "note", "");
    if (const DataNode* set = root.find("set")) {
        file.require_table(*set, "'set'", "{ name = value, ... }");
        for (const auto& [key, place, value] : set->entries) {
            std::string text;
            switch (value.kind) {
                case DataNode::Kind::Text: text = value.text; break;
                case DataNode::Kind::WholeNumber: text = std::to_string(value.whole); break;
                case DataNode::Kind::TrueOrFalse: text = value.truth ? "true" : "false"; break;
                default:
                    file.fail(value, in_quotes(key) + " has a value of a wrong kind",
                              "a number, true, false or a text");
            }
            found.settings.push_back(key + "=" + text);
        }
    }
    return found;
}

std::vector<TourStep> read_tour(const std::string& path) {
    const DataFile file = opened(path);
    file.allow_only(file.root(), {"step"});
    std::vector<TourStep> tour;
    for (const DataNode* table : file.tables(file.root(), "step", 1'000)) {
        file.allow_only(*table, {"title", "say", "run", "type"});
        TourStep step;
        step.title = file.text(file.required(*table, "title", "\"...\""), "'title'");
        step.say = file.text_or(*table, "say", "");
        step.type = file.text_or(*table, "type", "");
        if (const DataNode* run = table->find("run")) {
            if (run->kind != DataNode::Kind::List)
                file.fail(*run, "'run' is not a list", "a list of command lines, each a list of texts");
            for (const DataNode& command : run->items) step.run.push_back(texts_of(file, command, "a command line"));
        }
        tour.push_back(std::move(step));
    }
    return tour;
}

}  // namespace arvek::tool
