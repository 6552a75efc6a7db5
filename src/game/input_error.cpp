#include "arvek/game/input_error.hpp"

#include <algorithm>
#include <numeric>

#include "arvek/game/outcome.hpp"
#include "arvek/game/players.hpp"

namespace arvek {

namespace {

std::string message(std::string_view where, std::string_view problem, std::string_view expected) {
    std::string text;
    if (!where.empty()) text.append(where).append(": ");
    text.append(problem);
    if (!expected.empty()) text.append(" (expected ").append(expected).append(")");
    return text;
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
    throw RulesError("outcome() pays the two players " + std::to_string(first) + " and " + std::to_string(second) +
                     ", which do not sum to zero; searches for two take it that one gains what the other loses: let the "
                     "payoffs sum to zero, or take maxn (ManyPlayers), where each player wants the most for itself");
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
