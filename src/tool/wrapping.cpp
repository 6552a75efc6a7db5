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

}  // namespace

std::string wrapped(std::string_view line, std::size_t width) {
    if (width == 0 || columns_of(line) <= width) return std::string(line);
    const std::size_t indent = std::min(line.find_first_not_of(' '), line.size());
    const std::string further(std::min(indent + 2, width / 2), ' ');
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

std::size_t terminal_width() {
    constexpr std::size_t usual = 80, narrowest = 40;
    if (isatty(STDOUT_FILENO) == 0) return 0;
    winsize size{};
    if (::ioctl(STDOUT_FILENO, TIOCGWINSZ, &size) != 0 || size.ws_col == 0) return usual;
    return std::max<std::size_t>(narrowest, size.ws_col);
}

}  // namespace arvek::tool
