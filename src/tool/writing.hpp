#pragma once
// Writing reports for people.

#include <string>
#include <string_view>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/score_text.hpp"
#include "arvek/session/report.hpp"
#include "arvek/session/vocabulary.hpp"
#include "arvek/tool/tool.hpp"

namespace arvek::tool {

/// Colours where the console may carry them; plain text otherwise. Nothing is said by colour alone.
class Paint {
   public:
    explicit Paint(bool colour) : colour_(colour) {}

    std::string strong(std::string_view text) const;
    std::string faint(std::string_view text) const;
    /// The text in the colour of the player.
    std::string of_player(std::string_view text, Player player) const;
    /// A drawing with the letters that stand for players in their colours.
    std::string board(const std::string& drawing, const std::vector<std::string>& player_names) const;

   private:
    std::string wrapped(const char* code, std::string_view text) const;

    bool colour_;
};

/// Seconds as "0.012 s" or "35 us".
std::string duration_text(double seconds);
/// "columns 5, rows 5, drop false".
std::string settings_text(const std::vector<Setting>& settings);

/// Columns of text with two spaces between, numbers to the right.
class TextTable {
   public:
    explicit TextTable(std::vector<std::string> heads, std::string to_the_right = {});
    void add(std::vector<std::string> row) { rows_.push_back(std::move(row)); }
    std::size_t rows() const { return rows_.size() - 1; }
    std::string text(std::string_view indent = "  ") const;

   private:
    std::vector<std::vector<std::string>> rows_;
    std::string to_the_right_;  ///< an 'r' for each column that is set to the right, any other letter for the left
};

std::string games_as_text(const std::vector<std::unique_ptr<GameEntry>>& games);

/// `shown` ranked moves; 0 for all.
std::string decision_as_text(const Subject& subject, const DecisionReport& report, std::size_t shown,
                             const Paint& paint, const std::vector<std::string>& player_names);
/// The mean, the score or the worth of a ranked move; empty where it has none.
std::string value_text(const DecisionReport& report, const MoveReport& entry);
/// How good the best move is, in a player's words: "a win in 3", "about 70 % to win", "ahead (+12)".
std::string standing_text(const DecisionReport& report, const AnyGame& game);
/// Opponents side by side at one position. Requires at least one.
std::string side_by_side_as_text(const Subject& subject, const std::vector<DecisionReport>& reports, const Paint& paint,
                                 const std::vector<std::string>& player_names);
/// Why a decision was taken, without the position.
/// What came of a rule that was asked, in a word or two.
const char* answer_of(RuleKind kind, bool fired);
std::string explanation_text(const DecisionReport& report, std::size_t shown, const Paint& paint);

std::string comparison_as_text(const Subject& subject, const std::vector<ComparisonRow>& rows, const Paint& paint,
                               const std::vector<std::string>& player_names);

/// "a win by 2", "a draw", "a loss", "a loss or a draw", "between -3 and 5".
std::string worth_text(Payoff least, Payoff most);
std::string outlook_as_text(const Subject& subject, const OutlookReport& report, const Paint& paint,
                            const std::vector<std::string>& player_names);
std::string solution_as_text(const Subject& subject, const SolutionReport& report, const Paint& paint,
                             const std::vector<std::string>& player_names);

std::string check_as_text(const Subject& subject, const CheckReport& report, const Paint& paint);
std::string facts_as_text(const Subject& subject, const FactsReport& report, const Paint& paint);

std::string league_as_text(const Subject& subject, const LeagueReport& report, const Paint& paint);
std::string habits_as_text(const Subject& subject, const HabitsReport& report, const Paint& paint);
std::string learning_as_text(const Subject& subject, const LearningReport& report, const Paint& paint);
std::string level_fit_as_text(const Subject& subject, const LevelFitReport& report, const Paint& paint);
std::string book_as_text(const Subject& subject, const BookReport& report, const Paint& paint);
std::string weights_as_text(const Subject& subject, const WeightReport& report, const Paint& paint);
std::string tuning_as_text(const Subject& subject, const TuningReport& report, const Paint& paint);
std::string count_as_text(const Subject& subject, const CountReport& report);

std::string odds_as_text(const Subject& subject, const OddsReport& report, const Paint& paint);

std::string match_as_text(const Subject& subject, const MatchReport& report, const Paint& paint,
                          const std::vector<std::string>& player_names);

std::string profiles_as_text(const std::vector<CheckedProfile>& profiles, const Paint& paint);
std::string vocabulary_as_text(const Subject& subject, const VocabularyReport& report, const Paint& paint);
std::string sweep_as_text(const Subject& subject, const SweepReport& report, const Paint& paint);
/// At most so many letters of it.
std::string cut_text(const std::string& text, std::size_t letters);

std::string ladder_as_text(const Subject& subject, const LadderReport& report, const Paint& paint);

}  // namespace arvek::tool
