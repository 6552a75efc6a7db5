#include "position_file.hpp"

#include <string_view>

#include "arvek/arena/files.hpp"
#include "arvek/game/data_file.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::tool {

namespace {

DataFile opened(const std::string& path) {
    DataFile file(read_text_file(path), path);
    if (file.root().entries.empty()) throw InputError(path, "the file is empty", "a TOML document with keys");
    return file;
}

/// Of a list of texts.
std::vector<std::string> texts_of(const DataFile& file, const DataNode& node, const std::string& what) {
    if (node.kind != DataNode::Kind::List) file.fail(node, what + " is not a list", "[\"...\", \"...\"]");
    std::vector<std::string> texts;
    for (const DataNode& entry : node.items) texts.push_back(file.text(entry, "an entry of " + what));
    return texts;
}

}  // namespace

bool names_toml_file(const std::string& text) {
    constexpr std::string_view ending = ".toml";
    return text.size() > ending.size() && text.compare(text.size() - ending.size(), ending.size(), ending) == 0;
}

PositionFile read_position_file(const std::string& path) {
    const DataFile file = opened(path);
    const DataNode& root = file.root();
    file.allow_only(root, {"game", "parameters", "set", "position", "note"});
    PositionFile found;
    found.game = file.text_or(root, "game", "");
    const DataNode& position = file.required(root, "position", "\"...\"");
    found.position = file.text(position, "'position'");
    found.position_place = file.at(position.place);
    (void)file.text_or(root, "note", "");
    // Profiles say [parameters]; 'set' is the older name, as of the option.
    const DataNode* set = root.find("parameters");
    if (set != nullptr && root.find("set") != nullptr)
        file.fail(*root.find("set"), "'parameters' and 'set' are one and the same", "'parameters' alone");
    if (set == nullptr) set = root.find("set");
    if (set != nullptr) {
        file.require_table(*set, root.find("parameters") == set ? "'parameters'" : "'set'", "{ name = value, ... }");
        for (const auto& [key, place, value] : set->entries) {
            std::string text;
            switch (value.kind) {
                case DataNode::Kind::String: text = value.text; break;
                case DataNode::Kind::Integer: text = std::to_string(value.integer); break;
                case DataNode::Kind::Boolean: text = value.truth ? "true" : "false"; break;
                default:
                    file.fail(value, in_quotes(key) + " has a value of a wrong kind",
                              "an integer, a boolean or a string");
            }
            found.settings.push_back({key, text, file.at(place)});
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
