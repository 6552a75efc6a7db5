#include "values.hpp"

#include <charconv>
#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::tool {

namespace {

constexpr double longest_seconds = 86'400;

template <class Number>
bool reads_all(std::string_view text, Number& number) {
    const char* end = text.data() + text.size();
    const auto result = std::from_chars(text.data(), end, number);
    return !text.empty() && result.ec == std::errc{} && result.ptr == end;
}

}  // namespace

std::int64_t integer_value(std::string_view option, std::string_view text, std::int64_t least, std::int64_t most) {
    std::int64_t number = 0;
    const std::string range =
        most == INT64_MAX ? std::to_string(least) + " or more" : std::to_string(least) + " to " + std::to_string(most);
    if (!reads_all(text, number)) {
        // A number that is only too large is out of range rather than no number.
        const bool digits =
            !text.empty() && text.find_first_not_of("0123456789", text[0] == '-' ? 1 : 0) == std::string_view::npos;
        throw InputError(option, in_quotes(text) + (digits ? " is out of range" : " is no integer"), range);
    }
    if (number < least || number > most) throw InputError(option, std::to_string(number) + " is out of range", range);
    return number;
}

double number_value(std::string_view option, std::string_view text, double least, double most) {
    double number = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (problem != std::errc() || end != text.data() + text.size() || !(number >= least && number <= most))
        throw InputError(std::string(option), in_quotes(std::string(text)) + " is out of range",
                         number_text(least) + " to " + number_text(most));
    return number;
}

double seconds_value(std::string_view option, std::string_view text, bool zero_allowed) {
    std::string_view digits = text;
    double unit = 1.0;
    if (digits.size() > 2 && digits.substr(digits.size() - 2) == "ms") {
        digits.remove_suffix(2);
        unit = 0.001;
    } else if (digits.size() > 1 && digits.back() == 's') {
        digits.remove_suffix(1);
    }
    double seconds = 0;
    const bool reads = reads_all(digits, seconds);
    seconds *= unit;
    if (!reads || !std::isfinite(seconds) || seconds > longest_seconds || seconds < 0 ||
        (seconds == 0 && !zero_allowed))
        throw InputError(
            option, in_quotes(text) + (reads ? " is out of range" : " is no time"),
            zero_allowed ? "seconds, 0 or more, such as 0.5 or 500ms" : "seconds, more than 0, such as 0.5 or 500ms");
    return seconds;
}

std::vector<std::string> comma_parts(std::string_view text) {
    std::vector<std::string> parts;
    for (;;) {
        const auto comma = text.find(',');
        parts.emplace_back(text.substr(0, comma));
        if (comma == std::string_view::npos) return parts;
        text.remove_prefix(comma + 1);
    }
}

std::string shell_text(const std::string& text) {
    std::string quoted = "'";
    for (const char each : text) quoted += each == '\'' ? std::string("'\\''") : std::string(1, each);
    return quoted + "'";
}

std::vector<std::string> words_of(std::string_view text) {
    std::vector<std::string> words;
    for (std::size_t at = 0; (at = text.find_first_not_of(' ', at)) != std::string_view::npos;) {
        const std::size_t end = std::min(text.find(' ', at), text.size());
        words.emplace_back(text.substr(at, end - at));
        at = end;
    }
    return words;
}

std::vector<int> number_list(std::string_view option, std::string_view text, int least, int most) {
    std::vector<int> numbers;
    const auto read = [&](std::string_view part) { return static_cast<int>(integer_value(option, part, least, most)); };
    for (const std::string& part : comma_parts(text)) {
        const auto dots = part.find("..");
        if (dots == std::string::npos) {
            numbers.push_back(read(part));
            continue;
        }
        const int first = read(part.substr(0, dots));
        const int last = read(part.substr(dots + 2));
        if (last < first) throw InputError(option, in_quotes(part) + " runs backwards", "the smaller number first");
        for (int number = first; number <= last; ++number) numbers.push_back(number);
    }
    return numbers;
}

std::string toml_text(const std::string& text) {
    std::string quoted = "\"";
    for (const char letter : text) {
        if (letter == '"' || letter == '\\') quoted += '\\';
        if (static_cast<unsigned char>(letter) >= 0x20 && letter != 0x7f) quoted += letter;
    }
    return quoted + "\"";
}

}  // namespace arvek::tool
