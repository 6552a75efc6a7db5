#include "arvek/session/plain_text.hpp"

#include "arvek/game/input_error.hpp"
#include "arvek/game/utf8.hpp"

namespace arvek {

namespace {

std::string cleaned(std::string_view text, bool keeps_lines, char instead) {
    std::string plain;
    plain.reserve(text.size());
    while (!text.empty()) {
        const std::size_t size = utf8_letter_size(text);
        const auto byte = static_cast<unsigned char>(text.front());
        const bool line_end = keeps_lines && text.front() == '\n';
        // Control characters of ASCII.
        // Control characters beyond it and marks of direction are written out by visible_text().
        const bool control = (byte < 0x20 && !line_end) || byte == 0x7f ||
                             (size > 1 && visible_text(text.substr(0, size)).front() == '\\');
        if (size == 0)
            plain += '?';
        else if (control)
            plain += instead;
        else
            plain += text.substr(0, size);
        text.remove_prefix(size == 0 ? 1 : size);
    }
    return plain;
}

}  // namespace

std::string plain_line(std::string_view text) { return cleaned(text, false, '?'); }
std::string plain_lines(std::string_view text) { return cleaned(text, true, '?'); }

std::string message_line(std::string_view text, std::size_t longest) {
    if (text.size() <= longest) return cleaned(text, false, ' ');
    constexpr std::size_t end_shown = 200;
    std::string_view first = text.substr(0, longest - end_shown), last = text.substr(text.size() - end_shown);
    while (!first.empty() && (static_cast<unsigned char>(first.back()) & 0xc0) == 0x80) first.remove_suffix(1);
    if (!first.empty() && static_cast<unsigned char>(first.back()) >= 0xc0) first.remove_suffix(1);
    while (!last.empty() && (static_cast<unsigned char>(last.front()) & 0xc0) == 0x80) last.remove_prefix(1);
    return cleaned(first, false, ' ') + " ... " + cleaned(last, false, ' ');
}

std::string in_quotes(std::string_view text) {
    constexpr std::size_t longest_shown = 60;
    if (text.size() <= longest_shown) return "'" + std::string(text) + "'";
    std::string_view shown = text.substr(0, longest_shown);
    while (!shown.empty() && (static_cast<unsigned char>(shown.back()) & 0xc0) == 0x80) shown.remove_suffix(1);
    if (!shown.empty() && static_cast<unsigned char>(shown.back()) >= 0xc0) shown.remove_suffix(1);
    return "'" + std::string(shown) + "...'";
}

std::string lower_case(std::string_view text) {
    std::string lower(text);
    for (char& letter : lower)
        if (letter >= 'A' && letter <= 'Z') letter = static_cast<char>(letter - 'A' + 'a');
    return lower;
}

std::size_t width_of(std::string_view text) {
    std::size_t width = 0;
    for (const char byte : text) width += (static_cast<unsigned char>(byte) & 0xc0) != 0x80 ? 1 : 0;
    return width;
}

}  // namespace arvek
