#pragma once
// Understanding the texts of options. Each function throws InputError naming the option, what was given and the range.

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace arvek::tool {

std::int64_t integer_value(std::string_view option, std::string_view text, std::int64_t least, std::int64_t most);

/// A number from `least` to `most`.
double number_value(std::string_view option, std::string_view text, double least, double most);

/// Seconds, as "0.5", "0.5s" or "500ms"; more than 0, or 0 too where `zero_allowed`; at most a day.
double seconds_value(std::string_view option, std::string_view text, bool zero_allowed);

/// "4", "0..9" or "2,4,6", each from `least` to `most`, in the order given.
std::vector<int> number_list(std::string_view option, std::string_view text, int least, int most);

/// The parts of a text between commas.
std::vector<std::string> comma_parts(std::string_view text);
/// As a string of TOML, in quotes, without what is no letter.
std::string toml_text(const std::string& text);
/// In single quotes of a shell.
std::string shell_text(const std::string& text);
/// The words of a text, which spaces part.
std::vector<std::string> words_of(std::string_view text);

}  // namespace arvek::tool
