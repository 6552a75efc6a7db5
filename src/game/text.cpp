#include "arvek/game/text.hpp"

#include <algorithm>
#include <array>
#include <charconv>

namespace arvek {

std::string number_text(double number) {
    char text[32];
    return {text, std::to_chars(text, text + sizeof text, number).ptr};
}

}  // namespace arvek

namespace arvek::detail {

std::string plain_player_name(Player player) {
    static constexpr std::array<const char*, max_players> names{"First", "Second", "Third", "Fourth"};
    return names[index_of(player)];
}

void throw_not_a_move(std::string_view text, const std::vector<std::string>& legal) {
    constexpr std::size_t most_shown = 12;
    std::string expected;
    if (const std::string nearest = nearest_of(text, legal); !nearest.empty() && legal.size() > most_shown)
        expected = nearest + ", perhaps; ";
    expected +=
        any_of_text({legal.begin(), legal.begin() + static_cast<std::ptrdiff_t>(std::min(legal.size(), most_shown))});
    if (legal.size() > most_shown) expected += " and " + std::to_string(legal.size() - most_shown) + " more";
    throw InputError("move", "'" + std::string(text) + "' is not a legal move here", expected);
}

}  // namespace arvek::detail
