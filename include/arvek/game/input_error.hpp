#pragma once
// InputError: what is thrown when a text, a parameter or an option is wrong.
//
// The message says where, what is wrong and what would be right, on one line:
//
//     position, column 7: 'x' is no lantern (expected T, A or .)

#include <cstddef>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

namespace arvek {

/// What is thrown when something given is wrong: the message says what, where, and what would be right.
class InputError : public std::invalid_argument {
   public:
    /// `where` names the input ("position", "--depth"), `expected` what would be right; both may be empty.
    InputError(std::string_view where, std::string_view problem, std::string_view expected = {});

    /// The same with a column, counted in characters from 1.
    InputError(std::string_view where, std::size_t column, std::string_view problem, std::string_view expected);
};

/// The same text with every control character, mark of direction and byte that is no letter written out, as \x1b or
/// \u202e, so that a terminal shows what there is. The message of an InputError is such a text.
std::string visible_text(std::string_view text);

/// What is thrown when a game breaks its own contract during play, such as a position that is not finished but has no
/// move. The message names the game function at fault.
class RulesError : public std::logic_error {
   public:
    using std::logic_error::logic_error;
};

/// Throws the RulesError for a position that is not finished but has no move; out of line, so that it costs a hot loop
/// one untaken branch.
[[noreturn]] void throw_no_move();

/// The one of `known` that `given` was most likely meant to be, or an empty text when none is near.
/// Nearness is the edit distance (Levenshtein 1966), at most a third of the length of `given`, rounded up from two
/// thirds on, and at least 1.
std::string nearest_of(std::string_view given, const std::vector<std::string>& known);

/// The texts with ", " between and " or " before the last.
std::string any_of_text(const std::vector<std::string>& texts);

}  // namespace arvek
