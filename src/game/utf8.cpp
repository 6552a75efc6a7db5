#include "arvek/game/utf8.hpp"

namespace arvek {

std::size_t utf8_letter_size(std::string_view text) {
    const auto byte = [&](std::size_t i) { return i < text.size() ? static_cast<unsigned char>(text[i]) : 0u; };
    const unsigned first = byte(0);
    if (first < 0x80) return 1;
    const std::size_t size = first >= 0xf0 ? 4 : first >= 0xe0 ? 3 : 2;
    unsigned letter = first & (0x7fu >> size);
    for (std::size_t i = 1; i < size; ++i) {
        if ((byte(i) & 0xc0) != 0x80) return 0;
        letter = letter << 6 | (byte(i) & 0x3f);
    }
    constexpr unsigned least[] = {0, 0, 0x80, 0x800, 0x10000};
    const bool surrogate = letter >= 0xd800 && letter < 0xe000;
    return first < 0xc2 || letter < least[size] || letter > 0x10ffff || surrogate ? 0 : size;
}

}  // namespace arvek
