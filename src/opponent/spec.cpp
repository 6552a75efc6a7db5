#include "arvek/opponent/spec.hpp"

#include <algorithm>
#include <charconv>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

std::string quoted(std::string_view text) { return "'" + std::string(text) + "'"; }

std::string level_range() { return std::to_string(lowest_level) + " to " + std::to_string(highest_level); }

}  // namespace

const std::vector<std::string>& opponent_names() {
    static const std::vector<std::string> names{"random", "ruled", "minimax", "alphabeta", "standard"};
    return names;
}

bool opponent_searches(std::string_view name) { return name == "minimax" || name == "alphabeta" || name == "standard"; }
bool opponent_has_levels(std::string_view name) { return name != "random"; }

OpponentSpec read_opponent(std::string_view text) {
    const auto at = text.find('@');
    OpponentSpec spec;
    spec.name = std::string(text.substr(0, at));
    const auto& names = opponent_names();
    if (std::find(names.begin(), names.end(), spec.name) == names.end()) {
        const std::string nearest = nearest_of(spec.name, names);
        throw InputError("opponent", "there is no opponent " + quoted(spec.name),
                         (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(names));
    }
    if (at != std::string_view::npos) {
        const std::string_view digits = text.substr(at + 1);
        const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), spec.level);
        if (error != std::errc{} || end != digits.data() + digits.size())
            throw InputError("opponent", at + 2, quoted(digits) + " is no level", level_range());
        check_level(spec.name, spec.level);
    }
    return spec;
}

std::string opponent_text(const OpponentSpec& spec) {
    return spec.level == highest_level ? spec.name : spec.name + "@" + std::to_string(spec.level);
}

void check_level(std::string_view opponent, int level) {
    if (!opponent_has_levels(opponent))
        throw InputError("level", "the opponent " + quoted(opponent) + " has no levels",
                         "no level, or another opponent");
    if (level < lowest_level || level > highest_level)
        throw InputError("level", std::to_string(level) + " is out of range", level_range());
}

}  // namespace arvek
