#include "arvek/opponent/spec.hpp"

#include <algorithm>
#include <charconv>

#include "arvek/game/input_error.hpp"
#include "arvek/opponent/profile.hpp"

namespace arvek {

namespace {

std::string quoted(std::string_view text) { return "'" + std::string(text) + "'"; }

std::string level_range() { return std::to_string(lowest_level) + " to " + std::to_string(highest_level); }

}  // namespace

const std::string& OpponentSpec::chooser_name() const { return profile ? profile->chooser.name : name; }

const ChooserInfo* find_chooser(std::span<const ChooserInfo> choosers, std::string_view name) {
    if (name == "pessimist") name = "paranoid";  // as it was called
    const auto at = std::find_if(choosers.begin(), choosers.end(), [&](const auto& info) { return info.name == name; });
    return at == choosers.end() ? nullptr : &*at;
}

int level_of(const OpponentSpec& spec) {
    return spec.level.value_or(spec.profile ? spec.profile->level : highest_level);
}

OpponentSpec read_opponent(std::string_view text, std::span<const ChooserInfo> known) {
    const auto at = text.find('@');
    OpponentSpec spec;
    spec.name = std::string(text.substr(0, at));
    const ChooserInfo* chooser = find_chooser(known, spec.name);
    if (chooser == nullptr) {
        std::vector<std::string> names;
        for (const ChooserInfo& info : known) names.push_back(info.name);
        const std::string nearest = nearest_of(spec.name, names);
        throw InputError("opponent", "there is no opponent " + quoted(text.substr(0, std::min<std::size_t>(at, 60))),
                         (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(names));
    }
    spec.name = chooser->name;
    if (at == std::string_view::npos) return spec;
    const std::string_view digits = text.substr(at + 1);
    int level = 0;
    const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), level);
    if (error != std::errc{} || end != digits.data() + digits.size())
        throw InputError("opponent", at + 2, quoted(digits.substr(0, 60)) + " is no level", level_range());
    if (!chooser->has_levels)
        throw InputError("level", "the opponent " + quoted(spec.name) + " has no levels",
                         "no level, or another opponent");
    check_level(level);
    spec.level = level;
    return spec;
}

std::string opponent_text(const OpponentSpec& spec) {
    const int level = level_of(spec);
    return level == highest_level ? spec.name : spec.name + "@" + std::to_string(level);
}

void check_level(int level) {
    if (level < lowest_level || level > highest_level)
        throw InputError("level", std::to_string(level) + " is out of range", level_range());
}

}  // namespace arvek
