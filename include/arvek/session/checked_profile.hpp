#pragma once
// A profile looked at whole: everything that is wrong with it, from its text to what it does in its game.

#include <functional>
#include <string>
#include <vector>

#include "arvek/lab/profile_check.hpp"
#include "arvek/opponent/game_kit.hpp"
#include "arvek/session/report.hpp"

namespace arvek {

/// The profile of `source` with its findings by place, as texts that can be shown. `read` reads it and adds what is wrong
/// whatever the game to `problems`; `kit_of` gives the game that it is for, told whether parts could not be read. An
/// InputError of either is a finding, and what was found until then stays.
CheckedProfile checked_profile(const std::string& source, ProfileCheckOptions options,
                               const std::function<Profile(std::vector<std::string>& problems)>& read,
                               const std::function<GameKit(const Profile& profile, bool is_partial)>& kit_of);

}  // namespace arvek
