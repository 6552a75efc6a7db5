#pragma once
// Writing reports for people and for programs.

#include <string>
#include <string_view>
#include <vector>

#include "arvek/arena/ratings.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/score_text.hpp"
#include "arvek/tool/game_handle.hpp"
#include "arvek/tool/tool.hpp"

namespace arvek::tool {

/// Which game a report is about.
struct Subject {
    std::string game;
    std::vector<Setting> settings;
    std::string position;
};

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

/// One line of a comparison: a search with its limits and what came of it.
struct ComparisonRow {
    DecisionReport report;
    int depth_asked = -1;  ///< -1: none
};

std::string games_as_text(const std::vector<std::unique_ptr<GameEntry>>& games);
std::string games_as_json(const std::vector<std::unique_ptr<GameEntry>>& games);

/// `shown` ranked moves; 0 for all.
std::string decision_as_text(const Subject& subject, const DecisionReport& report, std::size_t shown,
                             const Paint& paint, const std::vector<std::string>& player_names);
std::string decision_as_json(const Subject& subject, const DecisionReport& report);
/// Why a decision was taken, without the position.
std::string explanation_text(const DecisionReport& report, std::size_t shown, const Paint& paint);

std::string comparison_as_text(const Subject& subject, const std::vector<ComparisonRow>& rows, const Paint& paint,
                               const std::vector<std::string>& player_names);
std::string tree_as_json(const Subject& subject, const TreePicture& picture);
std::string comparison_as_json(const Subject& subject, const std::vector<ComparisonRow>& rows);

/// "a win by 2", "a draw", "a loss", "a loss or a draw", "between -3 and 5".
std::string worth_text(Payoff least, Payoff most);
std::string solution_as_text(const Subject& subject, const SolutionReport& report, const Paint& paint,
                             const std::vector<std::string>& player_names);
std::string solution_as_json(const Subject& subject, const SolutionReport& report);

std::string check_as_text(const Subject& subject, const CheckReport& report, const Paint& paint);
std::string check_as_json(const Subject& subject, const CheckReport& report);

struct CountReport {
    std::vector<SequenceCount> counts;
    std::vector<std::pair<std::string, std::uint64_t>>
        by_first_move;  ///< sequences of the greatest length; empty if not asked
};
std::string count_as_text(const Subject& subject, const CountReport& report);
std::string count_as_json(const Subject& subject, const CountReport& report);

struct MatchReport {
    std::string a;
    std::string b;
    std::string a_title;  ///< as people call them
    std::string b_title;
    std::uint64_t seed = 0;
    MatchResult result;
    std::vector<GameRecord> records;
    int games_asked = 0;
    bool until_sure = false;
    int taken_over = 0;  ///< games that were played before
};
std::string match_as_text(const Subject& subject, const MatchReport& report, const Paint& paint,
                          const std::vector<std::string>& player_names);
std::string match_as_json(const Subject& subject, const MatchReport& report);

/// Profiles that were found to be right.
std::string profiles_as_text(const std::vector<Profile>& profiles);
std::string profiles_as_json(const std::vector<Profile>& profiles);

/// One level of a measured ladder.
struct LevelRow {
    int level = 1;
    Rating rating;
    std::optional<MatchResult> against_next_below, against_two_below;
    MatchResult against_random;
};
struct LadderReport {
    std::string opponent;
    std::string title;  ///< as people call it
    int games = 0;
    std::uint64_t seed = 0;
    std::vector<LevelRow> rows;  ///< from the lowest level
};
std::string ladder_as_text(const Subject& subject, const LadderReport& report, const Paint& paint);
std::string ladder_as_json(const Subject& subject, const LadderReport& report);

/// A game that a person played.
struct PlayReport {
    std::string side;
    std::string opponent;
    std::uint64_t seed = 0;
    std::vector<std::string> moves;
    std::string end_position;
    std::optional<Ending> ending;
};
std::string play_as_json(const Subject& subject, const PlayReport& report);

}  // namespace arvek::tool
