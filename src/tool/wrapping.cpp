#include "wrapping.hpp"

#include <sys/ioctl.h>
#include <unistd.h>

#include <algorithm>

namespace arvek::tool {

namespace {

/// Bytes of the escape sequence that begins there, 0 where none does.
std::size_t escape_at(std::string_view text, std::size_t at) {
    if (text[at] != '\033' || at + 1 >= text.size() || text[at + 1] != '[') return 0;
    std::size_t end = at + 2;
    while (end < text.size() && (text[end] < '@' || text[end] > '~')) ++end;
    return std::min(text.size(), end + 1) - at;
}

std::size_t columns_of(std::string_view text) {
    std::size_t columns = 0;
    for (std::size_t at = 0; at < text.size();) {
        if (const std::size_t escape = escape_at(text, at); escape > 0) {
            at += escape;
            continue;
        }
        columns += (static_cast<unsigned char>(text[at]) & 0xc0) != 0x80 ? 1 : 0;
        ++at;
    }
    return columns;
}

/// Where the rest of a line goes on: below its last column, where it has columns and there is room, or else a little in.
std::size_t further_indent(std::string_view line, std::size_t indent, std::size_t width) {
    const std::size_t end = line.find_last_not_of(' ');
    const std::size_t gap = end == std::string_view::npos ? end : line.substr(0, end).rfind("  ");
    const std::size_t last = gap == std::string_view::npos || gap < indent ? 0 : columns_of(line.substr(0, gap + 2));
    return last > 0 && last <= width * 2 / 3 ? last : std::min(indent + 2, width / 2);
}

}  // namespace

std::string wrapped(std::string_view line, std::size_t width) {
    if (width == 0 || columns_of(line) <= width) return std::string(line);
    const std::size_t indent = std::min(line.find_first_not_of(' '), line.size());
    const std::string further(further_indent(line, indent, width), ' ');
    std::string text(line.substr(0, indent));
    std::size_t column = indent;
    bool is_first = true;
    for (std::size_t at = indent; at < line.size();) {
        const std::size_t word_at = std::min(line.find_first_not_of(' ', at), line.size());
        const std::size_t end = std::min(line.find(' ', word_at), line.size());
        const std::string_view gap = line.substr(at, word_at - at), word = line.substr(word_at, end - word_at);
        const std::size_t columns = columns_of(word);
        if (!is_first && column + gap.size() + columns > width) {
            text += '\n' + further;
            column = further.size();
        } else {
            text += gap;
            column += gap.size();
        }
        text += word;
        column += columns;
        is_first = false;
        at = end;
    }
    return text;
}

std::size_t lines_of(std::string_view text, std::size_t width) {
    std::size_t lines = 0;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        const std::string line = wrapped(text.substr(at, end - at), width);
        lines += 1 + static_cast<std::size_t>(std::count(line.begin(), line.end(), '\n'));
        at = end + 1;
    }
    return lines;
}

WrappingBuffer::int_type WrappingBuffer::overflow(int_type letter) {
    if (traits_type::eq_int_type(letter, traits_type::eof())) return traits_type::not_eof(letter);
    if (traits_type::to_char_type(letter) != '\n') {
        line_ += traits_type::to_char_type(letter);
        return letter;
    }
    out_ << (begun_ ? line_ : wrapped(line_, width_)) << '\n';
    line_.clear();
    begun_ = false;
    return out_ ? letter : traits_type::eof();
}

std::streamsize WrappingBuffer::xsputn(const char* text, std::streamsize size) {
    for (std::streamsize i = 0; i < size; ++i)
        if (traits_type::eq_int_type(overflow(traits_type::to_int_type(text[i])), traits_type::eof())) return i;
    return size;
}

int WrappingBuffer::sync() {
    if (!line_.empty()) {
        out_ << line_;
        begun_ = true;
        line_.clear();
    }
    out_.flush();
    return out_ ? 0 : -1;
}

std::size_t terminal_width(int stream) {
    constexpr std::size_t usual = 80, narrowest = 40;
    if (isatty(stream) == 0) return 0;
    winsize size{};
    if (::ioctl(stream, TIOCGWINSZ, &size) != 0 || size.ws_col == 0) return usual;
    return std::max<std::size_t>(narrowest, size.ws_col);
}

std::size_t terminal_height() {
    winsize size{};
    return isatty(STDOUT_FILENO) != 0 && ::ioctl(STDOUT_FILENO, TIOCGWINSZ, &size) == 0 ? size.ws_row : 0;
}

}  // namespace arvek::tool
