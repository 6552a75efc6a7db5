#include "arvek/session/game_entry.hpp"

#include <algorithm>
#include <charconv>

#include "arvek/game/input_error.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek {

namespace {

void require_name(const std::string& name, const char* what) {
    if (name.empty() || name.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789_") != std::string::npos)
        throw InputError(what, in_quotes(name) + " is no name", "lower-case letters, digits and underscores");
}

void check_value(const ParameterInfo& info, const std::string& value) {
    const std::string option = "--set " + info.name;
    if (info.kind == ParameterKind::String) {
        if (!info.choices.empty() && std::find(info.choices.begin(), info.choices.end(), value) == info.choices.end())
            throw InputError(option, in_quotes(value) + " is not known", info.range_text());
        return;
    }
    if (info.kind == ParameterKind::Boolean) {
        if (value != "true" && value != "false")
            throw InputError(option, in_quotes(value) + " is no boolean", "true or false");
        return;
    }
    int number = 0;
    const char* end = value.data() + value.size();
    const auto read = std::from_chars(value.data(), end, number);
    const bool digits =
        !value.empty() &&
        value.find_first_not_of("0123456789", value[0] == '-' && value.size() > 1 ? 1 : 0) == std::string::npos;
    if (!digits) throw InputError(option, in_quotes(value) + " is no integer", info.range_text());
    if (read.ec != std::errc{}) throw InputError(option, in_quotes(value) + " is out of range", info.range_text());
    if (number < info.least || number > info.most)
        throw InputError(option, std::to_string(number) + " is out of range", info.range_text());
}

}  // namespace

std::string ParameterInfo::range_text() const {
    if (kind == ParameterKind::String) return choices.empty() ? "any string" : any_of_text(choices);
    return kind == ParameterKind::Boolean ? "true or false" : std::to_string(least) + " to " + std::to_string(most);
}

GameEntry::GameEntry(std::string name, std::string summary) : name_(std::move(name)), summary_(std::move(summary)) {
    require_name(name_, "game");
}

void GameEntry::add_parameter(ParameterInfo info) {
    require_name(info.name, "parameter");
    for (const ParameterInfo& known : parameters_)
        if (known.name == info.name) throw InputError("parameter", "there are two named " + in_quotes(info.name));
    parameters_.push_back(std::move(info));
}

std::vector<Setting> GameEntry::read_settings(const std::vector<std::string>& settings) const {
    std::vector<Setting> values;
    std::vector<std::string> names;
    for (const ParameterInfo& info : parameters_) {
        values.push_back({info.name, info.default_value, info.kind});
        names.push_back(info.name);
    }
    std::vector<bool> given(values.size(), false);
    for (const std::string& text : settings) {
        const auto equals = text.find('=');
        if (equals == std::string::npos || equals == 0)
            throw InputError("--set", in_quotes(text) + " is not a parameter with its value", "name=value");
        const std::string name = text.substr(0, equals), value = text.substr(equals + 1);
        std::size_t place = 0;
        while (place < names.size() && names[place] != name) ++place;
        if (place == names.size()) {
            if (names.empty())
                throw InputError("--set", in_quotes(name) + " is not known: " + name_ + " has no parameters",
                                 "no --set");
            const std::string nearest = nearest_of(name, names);
            throw InputError("--set", name_ + " has no parameter " + in_quotes(name),
                             (nearest.empty() ? "" : nearest + ", perhaps; it has ") + any_of_text(names));
        }
        if (given[place]) throw InputError("--set " + name, "it is given twice", "one value");
        check_value(parameters_[place], value);
        // One way to write a number, so that the same game is known as the same.
        values[place].value =
            parameters_[place].kind == ParameterKind::Integer ? std::to_string(std::stoi(value)) : value;
        given[place] = true;
    }
    return values;
}

}  // namespace arvek
