#pragma once
// Parts that the texts of several reports share.

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/arena/match.hpp"
#include "arvek/session/report.hpp"
#include "writing.hpp"

namespace arvek::tool {

std::string joined(const std::vector<std::string>& texts, std::string_view between);
std::string heading(const Subject& subject, const Paint& paint);
std::string percent(double share);
/// How games were drawn: "3 by rule, 40 by repetition, 2 cut off".
std::string draws_text(const MatchResult& result);
/// What a player of a league scored against another, 0 to 1; nothing where they have not met.
std::optional<double> score_between(const LeagueResult& result, std::size_t player, std::size_t rival);
/// The line, at most so many moves of it.
std::string line_text(const std::vector<std::string>& line);

}  // namespace arvek::tool
