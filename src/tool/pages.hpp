#pragma once
// Reports as pages of their own: --report FILE.html.

#include <string>

#include "arvek/lab/check_report.hpp"
#include "arvek/session/report.hpp"

namespace arvek::tool {

std::string match_as_page(const Subject& subject, const MatchReport& report, const std::string& in_words);
std::string ladder_as_page(const Subject& subject, const LadderReport& report, const std::string& in_words);
std::string league_as_page(const Subject& subject, const LeagueReport& report, const std::string& in_words);
std::string tuning_as_page(const Subject& subject, const TuningReport& report, const std::string& in_words);
std::string check_as_page(const Subject& subject, const CheckReport& report, const std::string& in_words);

/// Throws InputError for a name that does not end in .html.
void require_page_name(const std::string& path);

}  // namespace arvek::tool
