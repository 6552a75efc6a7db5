#pragma once
// Logs of whole games: why everything in them was done, a line of JSON for each decision.

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "arvek/opponent/make_opponent.hpp"
#include "arvek/session/report.hpp"
#include "writing.hpp"

namespace arvek::tool {

/// The first line of a log; each of these ends with a new line.
std::string log_head(const Subject& subject, const std::vector<std::string>& player_names);
std::string log_line(int game, const LoggedDecision& decision, const std::vector<std::string>& player_names);
/// The last line of a game.
std::string log_end(const GameRecord& record);

/// One decision, as it stands in a log.
struct LogEntry {
    std::size_t ply = 0;
    std::string player, opponent, position, drawing, move, chosen_by, why, state;
    int level = 10;
    int rank = 1;
    std::size_t ranked = 0;  ///< how many moves there were
    std::vector<std::string> overlooked;
    std::vector<std::vector<std::string>> rules;  ///< rule, answer, why
    std::vector<std::vector<std::string>> moves;  ///< move, value, line, reasons
};

struct LoggedGame {
    int number = 0;
    std::string result;  ///< empty where the log ends before
    std::vector<std::string> moves;
    std::vector<LogEntry> entries;
};

struct GameLogFile {
    std::string game;
    std::vector<Setting> settings;
    std::string position;
    std::vector<std::string> players;
    std::vector<LoggedGame> games;
};

/// What opening books played, kept in a file from game to game; an empty one where the file is not there yet. Throws
/// InputError for a file that is none of that.
std::shared_ptr<OpeningMemory> read_openings(const std::string& path);
void write_openings(const std::string& path, const OpeningMemory& memory);

/// Throws InputError, with the line, for a file that is no log.
GameLogFile read_log(const std::string& path);

std::string log_as_text(const GameLogFile& log, const LoggedGame& game, const Paint& paint);
std::string entry_as_json(const GameLogFile& log, const LoggedGame& game, const LogEntry& entry);
std::string entry_as_text(const GameLogFile& log, const LoggedGame& game, const LogEntry& entry, const Paint& paint);
/// `turning_points`: the decisions that lost the most, the worst first; with them none.
std::string log_as_json(const GameLogFile& log, const LoggedGame& game,
                        const std::vector<JudgedMove>& turning_points = {});
std::string turning_points_as_text(const GameLogFile& log, const LoggedGame& game,
                                   const std::vector<JudgedMove>& turning_points, std::uint64_t nodes);

}  // namespace arvek::tool
