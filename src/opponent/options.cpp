#include "arvek/opponent/options.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

std::string number_as_text(double number) {
    char text[32];
    return {text, std::to_chars(text, text + sizeof text, number).ptr};
}

const char* type_name(const OptionValue& value) {
    static constexpr const char* names[] = {"a boolean", "an integer", "a number", "a string"};
    return names[value.index()];
}

template <class T>
const T& value_of(const std::map<std::string, OptionValue>& values, const std::string& name) {
    const auto at = values.find(name);
    if (at == values.end()) throw InputError("option", "there is no option '" + name + "'");
    if (const T* value = std::get_if<T>(&at->second)) return *value;
    throw InputError("option", "'" + name + "' is " + type_name(at->second), type_name(OptionValue(T{})));
}

}  // namespace

std::string OptionInfo::range_text() const {
    if (std::holds_alternative<bool>(default_value)) return "true or false";
    if (std::holds_alternative<std::string>(default_value))
        return choices.empty() ? "any string" : any_of_text(choices);
    return number_as_text(least) + " to " + number_as_text(most);
}

std::string option_text(const OptionValue& value) {
    if (const auto* truth = std::get_if<bool>(&value)) return *truth ? "true" : "false";
    if (const auto* integer = std::get_if<std::int64_t>(&value)) return std::to_string(*integer);
    if (const auto* number = std::get_if<double>(&value)) return number_as_text(*number);
    return std::get<std::string>(value);
}

bool Options::boolean(const std::string& name) const { return value_of<bool>(values_, name); }
std::int64_t Options::integer(const std::string& name) const { return value_of<std::int64_t>(values_, name); }
double Options::number(const std::string& name) const { return value_of<double>(values_, name); }
const std::string& Options::string(const std::string& name) const { return value_of<std::string>(values_, name); }

std::string what_is_wrong(const OptionInfo& info, const OptionValue& value) {
    const bool integer_for_number =
        std::holds_alternative<double>(info.default_value) && std::holds_alternative<std::int64_t>(value);
    if (value.index() != info.default_value.index() && !integer_for_number)
        return "'" + info.name + "' is " + type_name(value) + ", not " + type_name(info.default_value);
    double number = 0;
    if (const auto* integer = std::get_if<std::int64_t>(&value))
        number = static_cast<double>(*integer);
    else if (const auto* real = std::get_if<double>(&value))
        number = *real;
    else if (const auto* text = std::get_if<std::string>(&value)) {
        const bool known =
            info.choices.empty() || std::find(info.choices.begin(), info.choices.end(), *text) != info.choices.end();
        return known ? "" : "'" + info.name + "' cannot be '" + text->substr(0, 60) + "'";
    } else
        return "";
    if (number >= info.least && number <= info.most) return "";
    return "'" + info.name + "' = " + option_text(value) + " is out of range";
}

OptionValue read_option(const OptionInfo& info, std::string_view text, std::string_view where) {
    const char* end = text.data() + text.size();
    OptionValue value = std::string(text);
    if (std::holds_alternative<bool>(info.default_value)) {
        if (text == "true" || text == "false") value = text == "true";
    } else if (std::holds_alternative<std::int64_t>(info.default_value)) {
        std::int64_t integer = 0;
        const auto read = std::from_chars(text.data(), end, integer);
        if (read.ec == std::errc{} && read.ptr == end && !text.empty()) value = integer;
    } else if (std::holds_alternative<double>(info.default_value)) {
        double number = 0;
        const auto read = std::from_chars(text.data(), end, number);
        if (read.ec == std::errc{} && read.ptr == end && !text.empty() && std::isfinite(number)) value = number;
    }
    if (value.index() != info.default_value.index())
        throw InputError(where, "'" + std::string(text.substr(0, 60)) + "' is not " + type_name(info.default_value),
                         info.range_text());
    if (!what_is_wrong(info, value).empty())
        throw InputError(where,
                         std::holds_alternative<std::string>(value)
                             ? "there is no '" + std::string(text.substr(0, 60)) + "'"
                             : option_text(value) + " is out of range",
                         info.range_text());
    return value;
}

Options complete_options(const std::vector<OptionInfo>& known, const Options& given, std::string_view owner) {
    Options complete;
    std::vector<std::string> names;
    for (const OptionInfo& info : known) {
        names.push_back(info.name);
        complete.put(info.name, info.default_value);
    }
    for (const auto& each : given.all()) {
        const std::string& name = each.first;
        const OptionValue& value = each.second;
        const auto info =
            std::find_if(known.begin(), known.end(), [&](const auto& option) { return option.name == name; });
        if (info == known.end()) {
            if (names.empty())
                throw InputError("option", "'" + std::string(owner) + "' has no options, so no '" + name + "'");
            const std::string nearest = nearest_of(name, names);
            throw InputError("option", "'" + std::string(owner) + "' has no option '" + name + "'",
                             (nearest.empty() ? "" : nearest + ", perhaps; it has ") + any_of_text(names));
        }
        if (const std::string problem = what_is_wrong(*info, value); !problem.empty())
            throw InputError("option", problem, info->range_text());
        const bool widened =
            std::holds_alternative<double>(info->default_value) && std::holds_alternative<std::int64_t>(value);
        complete.put(name, widened ? OptionValue(static_cast<double>(std::get<std::int64_t>(value))) : value);
    }
    return complete;
}

}  // namespace arvek
