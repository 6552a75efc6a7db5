#pragma once
// Texts from games, files and command lines, made fit for terminals and JSON.

#include <string>
#include <string_view>

namespace arvek {

/// Valid UTF-8 without control characters: each of those, and each byte that is no part of a letter, becomes '?'.
std::string plain_line(std::string_view text);
/// The same, but new lines stay.
std::string plain_lines(std::string_view text);
/// A message on one line: control characters become spaces, and what is longer than `longest` bytes is cut.
std::string message_line(std::string_view text, std::size_t longest = 1'000);
/// In quotes, cut after some letters.
std::string in_quotes(std::string_view text);
/// ASCII letters in lower case.
std::string lower_case(std::string_view text);
/// How many columns a text takes in a terminal, a column for each letter.
std::size_t width_of(std::string_view text);

}  // namespace arvek
