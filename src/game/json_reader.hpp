#pragma once
// The one reader of JSON that comes from outside: files, other programs, browsers. Depth, size and the number of values are
// limited before anything is built, so that no text can take the stack or the memory; complaints give line and column.
//
//     const Json json = read_json<Json>(text, "games.jsonl, line 3");
//
// Throws InputError.

#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

namespace arvek {

/// How much a text may hold.
struct JsonLimits {
    std::size_t bytes = std::size_t{16} << 20;
    int depth = 64;                  ///< of lists and objects in each other
    std::size_t values = 4'000'000;  ///< all in all
};

/// Where something is in a text, both from 1.
struct TextPlace {
    std::size_t line = 1, column = 1;
};
TextPlace place_in(std::string_view text, std::size_t byte);

/// What is too much in the text, and where; an empty text where nothing is. Looks at the text alone, with no stack.
std::string excess_in_json(std::string_view text, const JsonLimits& limits, TextPlace& where);

/// Throws InputError: "`source`, line 2, column 7: invalid JSON: ..."; the line is left out where there is but one.
[[noreturn]] void throw_bad_json(std::string_view source, TextPlace where, bool one_line, const std::string& problem,
                                 std::string_view expected);

/// The value that the text is. `expected`: what would be right, for the complaint.
template <class Json>
Json read_json(std::string_view text, std::string_view source, std::string_view expected = {},
               const JsonLimits& limits = {}) {
    const bool one_line = text.find('\n') == std::string_view::npos;
    TextPlace where;
    if (const std::string excess = excess_in_json(text, limits, where); !excess.empty())
        throw_bad_json(source, where, one_line, excess, expected);
    try {
        return Json::parse(text);
    } catch (const nlohmann::json::parse_error& error) {
        throw_bad_json(source, place_in(text, error.byte > 0 ? error.byte - 1 : 0), one_line,
                       error.byte > text.size() ? "it ends too soon" : "what stands here does not fit", expected);
    } catch (const nlohmann::json::exception&) {
        throw_bad_json(source, {}, one_line, "a number in it is too large", expected);
    }
}

}  // namespace arvek
