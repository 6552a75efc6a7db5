#pragma once
// Reports as JSON, one document each. Field names stay; more may come.

#include <memory>
#include <string>
#include <vector>

#include "arvek/game/board.hpp"
#include "arvek/lab/check_report.hpp"
#include "arvek/lab/facts.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/game_entry.hpp"
#include "arvek/session/report.hpp"
#include "arvek/session/tree_report.hpp"
#include "arvek/session/vocabulary.hpp"

namespace arvek {

/// As Session::board() gives it.
std::string board_as_json(const Board& board);
/// @{
/// The report as one JSON document.
std::string games_as_json(const std::vector<std::unique_ptr<GameEntry>>& games);
std::string decision_as_json(const Subject& subject, const DecisionReport& report);
std::string tree_as_json(const Subject& subject, const TreeReport& report);
/// Requires at least one row.
std::string comparison_as_json(const Subject& subject, const std::vector<ComparisonRow>& rows);
std::string outlook_as_json(const Subject& subject, const OutlookReport& report);
std::string solution_as_json(const Subject& subject, const SolutionReport& report);
std::string check_as_json(const Subject& subject, const CheckReport& report);
std::string facts_as_json(const Subject& subject, const FactsReport& report);
/// Counts that 64 bits do not hold are strings of digits.
std::string league_as_json(const Subject& subject, const LeagueReport& report);
std::string habits_as_json(const Subject& subject, const HabitsReport& report);
std::string learning_as_json(const Subject& subject, const LearningReport& report);
std::string level_fit_as_json(const Subject& subject, const LevelFitReport& report);
std::string book_as_json(const Subject& subject, const BookReport& report);
std::string weights_as_json(const Subject& subject, const WeightReport& report);
std::string tuning_as_json(const Subject& subject, const TuningReport& report);
std::string count_as_json(const Subject& subject, const CountReport& report);
std::string odds_as_json(const Subject& subject, const OddsReport& report);
std::string match_as_json(const Subject& subject, const MatchReport& report);
std::string play_as_json(const Subject& subject, const PlayReport& report);
std::string profiles_as_json(const std::vector<CheckedProfile>& profiles);
std::string vocabulary_as_json(const Subject& subject, const VocabularyReport& report);
std::string sweep_as_json(const Subject& subject, const SweepReport& report);
std::string ladder_as_json(const Subject& subject, const LadderReport& report);
/// @}

}  // namespace arvek
