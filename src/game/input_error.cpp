#include "arvek/game/input_error.hpp"

#include <algorithm>
#include <numeric>

#include "arvek/game/outcome.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/utf8.hpp"

namespace arvek {

namespace {

/// Whether it is a control character beyond ASCII, a mark of direction, or an end of line of Unicode's own: what could make a
/// text look like another.
bool turns_the_line(unsigned letter) {
    return (letter >= 0x80 && letter < 0xa0) || letter == 0x61c || letter == 0x200e || letter == 0x200f ||
           (letter >= 0x2028 && letter <= 0x202e) || (letter >= 0x2066 && letter <= 0x2069);
}

}  // namespace

std::string visible_text(std::string_view text) {
    constexpr char digits[] = "0123456789abcdef";
    std::string visible;
    visible.reserve(text.size());
    while (!text.empty()) {
        const std::size_t size = utf8_letter_size(text);
        const auto at = [&](std::size_t i) { return static_cast<unsigned>(static_cast<unsigned char>(text[i])); };
        if (size == 0 || (size == 1 && (at(0) < 0x20 || at(0) == 0x7f))) {
            visible.append("\\x").append(1, digits[at(0) >> 4]).append(1, digits[at(0) & 15]);
            text.remove_prefix(1);
            continue;
        }
        unsigned letter = 0;
        if (size == 2) letter = (at(0) & 0x1f) << 6 | (at(1) & 0x3f);
        if (size == 3) letter = (at(0) & 0x0f) << 12 | (at(1) & 0x3f) << 6 | (at(2) & 0x3f);
        if (turns_the_line(letter)) {
            visible.append("\\u");
            for (int shift = 12; shift >= 0; shift -= 4) visible += digits[letter >> shift & 15];
        } else {
            visible.append(text.substr(0, size));
        }
        text.remove_prefix(size);
    }
    return visible;
}

namespace {

std::string message(std::string_view where, std::string_view problem, std::string_view expected) {
    std::string text;
    if (!where.empty()) text.append(where).append(": ");
    text.append(problem);
    if (!expected.empty()) text.append(" (expected ").append(expected).append(")");
    return visible_text(text);
}

std::size_t edit_distance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t i = 1; i <= a.size(); ++i) {
        std::size_t diagonal = row[0];
        row[0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const std::size_t changed = diagonal + (a[i - 1] == b[j - 1] ? 0 : 1);
            diagonal = row[j];
            row[j] = std::min({row[j] + 1, row[j - 1] + 1, changed});
        }
    }
    return row.back();
}

}  // namespace

InputError::InputError(std::string_view where, std::string_view problem, std::string_view expected)
    : std::invalid_argument(message(where, problem, expected)) {}

InputError::InputError(std::string_view where, std::size_t column, std::string_view problem, std::string_view expected)
    : InputError(std::string(where) + ", column " + std::to_string(column), problem, expected) {}

void throw_no_move() {
    throw RulesError("generate_moves gave no move in a position that outcome() says is not finished");
}

void detail::throw_payoff_out_of_range(Payoff payoff) {
    throw RulesError("outcome() pays " + std::to_string(payoff) + ", which is out of range (at most " +
                     std::to_string(largest_payoff) + " either way, a win at least 1)");
}

void detail::throw_not_zero_sum(Payoff first, Payoff second) {
    throw RulesError(
        "outcome() pays the two players " + std::to_string(first) + " and " + std::to_string(second) +
        ", which do not sum to zero; searches for two take it that one gains what the other loses: let the "
        "payoffs sum to zero, or take maxn (ManyPlayers), where each player wants the most for itself");
}

void detail::throw_no_such_seat(int seat, int players) {
    throw RulesError("player_to_move() names player " + std::to_string(seat) + ", and the game has " +
                     std::to_string(players) + ": a game of more than two says  int players() const;");
}

void detail::throw_wrong_number_of_players(int players) {
    throw RulesError("players() says " + std::to_string(players) + ", and a game has 1 to " +
                     std::to_string(max_players));
}

void detail::throw_not_for_two(std::string_view what, int players) {
    throw InputError(what, "it is for games of two players, and this one has " + std::to_string(players),
                     "a game of two, or a chooser that weighs several players, such as random or ruled");
}

std::string nearest_of(std::string_view given, const std::vector<std::string>& known) {
    constexpr std::size_t longest_compared = 100;
    if (given.size() > longest_compared) return {};
    std::string best;
    std::size_t best_distance = std::max<std::size_t>((given.size() + 1) / 3, 1) + 1;
    for (const std::string& name : known) {
        const std::size_t distance = edit_distance(given, name);
        if (distance < best_distance) {
            best = name;
            best_distance = distance;
        }
    }
    return best;
}

std::string any_of_text(const std::vector<std::string>& texts) {
    std::string all;
    for (std::size_t i = 0; i < texts.size(); ++i) {
        if (i > 0) all += i + 1 == texts.size() ? " or " : ", ";
        all += texts[i];
    }
    return all;
}

}  // namespace arvek
