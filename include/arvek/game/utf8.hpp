#pragma once
// Letters of UTF-8, the encoding of every text.

#include <cstddef>
#include <string_view>

namespace arvek {

/// How many bytes the letter takes with which `text` begins, 1 to 4; 0 where that is no UTF-8.
std::size_t utf8_letter_size(std::string_view text);

}  // namespace arvek
