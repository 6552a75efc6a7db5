#include "arvek/opponent/spec.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <charconv>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

std::string quoted(std::string_view text) { return "'" + std::string(text) + "'"; }

std::string level_range() { return std::to_string(lowest_level) + " to " + std::to_string(highest_level); }

struct LevelRow {
    int depth;            ///< 0: no limit of depth
    std::uint64_t nodes;  ///< so that every opponent answers soon in every game
    double overlooks;
};

constexpr std::array<LevelRow, highest_level> level_rows{{
    {1, 500'000, 0.90},
    {1, 500'000, 0.80},
    {1, 500'000, 0.70},
    {1, 500'000, 0.50},
    {2, 500'000, 0.35},
    {2, 500'000, 0.15},
    {3, 500'000, 0.08},
    {4, 500'000, 0.03},
    {6, 500'000, 0.00},
    {0, 1'000'000, 0.00},
}};
constexpr int sees_wins_from_level = 3;

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

LevelSettings level_settings(int level) {
    assert(level >= lowest_level && level <= highest_level);
    const LevelRow& row = level_rows[static_cast<std::size_t>(level - lowest_level)];
    LevelSettings settings;
    if (row.depth > 0) settings.limits.depth = row.depth;
    settings.limits.nodes = row.nodes;
    settings.overlooks = row.overlooks;
    settings.always_sees_wins = level >= sees_wins_from_level;
    return settings;
}

}  // namespace arvek
