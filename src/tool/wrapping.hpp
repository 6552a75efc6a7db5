#pragma once
// Long lines on a terminal, broken between words.

#include <ostream>
#include <streambuf>
#include <string>
#include <string_view>

namespace arvek::tool {

/// The line in pieces of at most `width` columns, each but the first set in: below the line's last column, where it has
/// columns and there is room, or else two more than the line itself. Colours take
/// no room, and a word that is longer than a line stays whole.
std::string wrapped(std::string_view line, std::size_t width);

/// The lines that a text takes at that width, of which 0 is any.
std::size_t lines_of(std::string_view text, std::size_t width);

/// Passes on what is written, a line at a time, with long ones broken; what has no end of line yet goes out when it is
/// flushed.
class WrappingBuffer : public std::streambuf {
   public:
    WrappingBuffer(std::ostream& out, std::size_t width) : out_(out), width_(width) {}
    ~WrappingBuffer() override { sync(); }

   protected:
    int_type overflow(int_type letter) override;
    std::streamsize xsputn(const char* text, std::streamsize size) override;
    int sync() override;

   private:
    std::ostream& out_;
    std::size_t width_;
    std::string line_{};
    bool begun_ = false;  ///< whether a part of the line has gone out
};

/// The columns of the terminal at standard output, or at another stream, at least 40; 0 where it is none.
std::size_t terminal_width(int stream = 1);
/// The lines of that at standard output; 0 where it is none, or does not say.
std::size_t terminal_height();

}  // namespace arvek::tool
