#include "json_reader.hpp"

#include <algorithm>

#include "arvek/game/input_error.hpp"

namespace arvek {

TextPlace place_in(std::string_view text, std::size_t byte) {
    const std::string_view before = text.substr(0, byte);
    const auto lines = std::count(before.begin(), before.end(), '\n');
    const std::size_t start = before.rfind('\n');
    const std::string_view line = start == std::string_view::npos ? before : before.substr(start + 1);
    // Letters, not bytes.
    const auto letters = std::count_if(line.begin(), line.end(), [](char c) { return (c & 0xc0) != 0x80; });
    return {static_cast<std::size_t>(lines) + 1, static_cast<std::size_t>(letters) + 1};
}

std::string excess_in_json(std::string_view text, const JsonLimits& limits, TextPlace& where) {
    if (text.size() > limits.bytes) return "it is longer than " + std::to_string(limits.bytes) + " bytes";
    int depth = 0;
    std::size_t values = 1;
    bool in_text = false;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const char c = text[at];
        if (in_text) {
            if (c == '\\')
                ++at;
            else if (c == '"')
                in_text = false;
            continue;
        }
        if (c == '"') in_text = true;
        if (c == ',') ++values;
        if (c == '[' || c == '{') {
            ++values;
            ++depth;
        }
        if (c == ']' || c == '}') --depth;
        if (depth <= limits.depth && values <= limits.values) continue;
        where = place_in(text, at);
        return depth > limits.depth ? "it is nested deeper than " + std::to_string(limits.depth)
                                    : "it has more than " + std::to_string(limits.values) + " values";
    }
    return {};
}

void throw_bad_json(std::string_view source, TextPlace where, bool one_line, const std::string& problem,
                    std::string_view expected) {
    std::string place(source);
    if (!one_line) place += (place.empty() ? "line " : ", line ") + std::to_string(where.line);
    place += (place.empty() ? "column " : ", column ") + std::to_string(where.column);
    throw InputError(place, "invalid JSON: " + problem, expected);
}

}  // namespace arvek
