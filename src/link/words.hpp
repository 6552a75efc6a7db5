#pragma once
// Words and numbers of a line of the open chess protocol, for both who ask and who answer.

#include <charconv>
#include <optional>
#include <sstream>
#include <string>
#include <vector>

namespace arvek::link {

/// What stands between spaces.
inline std::vector<std::string> words_of_line(const std::string& line) {
    std::istringstream in(line);
    std::vector<std::string> words;
    for (std::string word; in >> word;) words.push_back(word);
    return words;
}

/// The number that a word is; nothing where it is none, or does not fit.
template <class Number>
std::optional<Number> number_in(const std::string& word) {
    Number number{};
    const auto read = std::from_chars(word.data(), word.data() + word.size(), number);
    if (read.ec != std::errc{} || read.ptr != word.data() + word.size()) return std::nullopt;
    return number;
}

}  // namespace arvek::link
