#include <array>

#include "arvek/rules/conditional_rule.hpp"
#include "arvek/rules/rule_list.hpp"

namespace arvek {

const char* words_of(Comparison comparison) {
    constexpr std::array<const char*, 5> words{"is", "below", "at most", "above", "at least"};
    return words[static_cast<std::size_t>(comparison)];
}

namespace detail {

std::size_t place_of_name(const char* what, const std::string& name, const std::vector<std::string>& names) {
    for (std::size_t i = 0; i < names.size(); ++i)
        if (names[i] == name) return i;
    const std::string nearest = nearest_of(name, names);
    throw InputError(what, "there is no " + std::string(what) + " '" + name + "'",
                     (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(names));
}

void check_rule_numbers(const std::string& name, double chance, int every, int from_level, double weight) {
    const auto wrong = [&](const std::string& number, const char* range) {
        throw InputError("rule '" + name + "'", number + " is out of range", range);
    };
    if (!(chance >= 0 && chance <= 1)) wrong("a chance of " + number_text(chance), "0 to 1");
    if (every < 1) wrong("every " + std::to_string(every), "1 or more");
    if (from_level < 1 || from_level > 10) wrong("level " + std::to_string(from_level), "1 to 10");
    if (!(weight > 0 && weight <= 1e6)) wrong("a weight of " + number_text(weight), "more than 0, at most 1000000");
}

std::string why_not_due(bool once, int every, const std::string& name, const std::vector<std::string>& fired) {
    if (!once && every <= 1) return "";
    for (std::size_t ago = 1; ago <= fired.size(); ++ago) {
        if (fired[fired.size() - ago] != name) continue;
        if (once)
            return "only once a game, and that was " + std::to_string(ago) + (ago == 1 ? " turn ago" : " turns ago");
        if (ago < static_cast<std::size_t>(every))
            return "only every " + std::to_string(every) + " turns, and that was " + std::to_string(ago) +
                   (ago == 1 ? " turn ago" : " turns ago");
        return "";
    }
    return "";
}

}  // namespace detail

}  // namespace arvek
