#pragma once
// Lines of an input that may be anything: long ones are cut, and are said to be.

#include <istream>
#include <string>

namespace arvek::link {

struct InputLine {
    std::string text;  ///< without its end; the first part of one that is too long
    bool too_long = false;
};

/// False at the end of the input. A last line without an end is one, too.
inline bool read_input_line(std::istream& in, InputLine& line, std::size_t longest) {
    line = {};
    std::streambuf& buffer = *in.rdbuf();
    bool any = false;
    for (;;) {
        const auto letter = buffer.sbumpc();
        if (letter == std::char_traits<char>::eof()) {
            in.setstate(std::ios::eofbit);
            break;
        }
        any = true;
        if (letter == '\n') break;
        if (line.text.size() < longest)
            line.text += static_cast<char>(letter);
        else
            line.too_long = true;
    }
    if (!line.text.empty() && line.text.back() == '\r') line.text.pop_back();
    return any;
}

}  // namespace arvek::link
