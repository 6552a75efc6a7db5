#pragma once
// The record of a match: a file with one line of JSON a game, written as they end. An interrupted match goes on from
// it.

#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/game_result.hpp"

namespace arvek {

class RecordFile;

/// One game of a match, as text.
struct GameRecord {
    std::string first;                 ///< the name of the opponent that moved first
    std::string second;                ///< the other
    std::vector<std::string> seats{};  ///< the names by seat
    std::vector<std::string> moves;    ///< and the events of chance, the opening included
    std::string end_drawing;           ///< the last position, as people see it; may be empty
    std::string result;                ///< how it ended, as people say it: "Teal wins"
    GameResult counted;                ///< what is counted of it
    /// Of a game to learn from, one for each ply: the chance to win of the player to move, as it saw it; less than 0 where
    /// nobody decided, in the opening and where chance acted. None of other games.
    std::vector<double> chances{};
    std::vector<std::size_t> strayed{};  ///< the plies at which something else was played than what was found best
};

/// What must be alike for games to belong together: all that they came from besides who plays.
struct GameIdentity {
    std::string game;                                           ///< by name
    int players = 2;                                            ///< seats
    std::vector<std::pair<std::string, std::string>> settings;  ///< parameters of the game
    std::string position;                                       ///< where games begin, as text
    std::uint64_t seed = 0;                                     ///< of all luck
    int opening_plies = 0;                                      ///< random moves before the opponents begin
    std::vector<std::vector<std::string>> openings{};           ///< that pairs of games begin with, as texts of moves
    std::string limits{};                                       ///< that all are held to
    std::map<std::string, std::uint64_t> digests{};  ///< of every file that was read, by what it was read for
};

/// What must be alike for games to be of one match.
struct MatchIdentity : GameIdentity {
    std::string a;  ///< the one opponent
    std::string b;  ///< the other
};

/// The games of a record, of whatever it is.
struct RecordedGames {
    std::string game;                                           ///< by name
    int players = 2;                                            ///< seats
    std::vector<std::pair<std::string, std::string>> settings;  ///< parameters of the game
    std::string position;                                       ///< where they began
    std::vector<GameRecord> games;                              ///< without the names of the opponents
};

/// Reads the record of a match, a league, a tuning or learning, and changes nothing. Throws InputError, with the line, for a file that is
/// none; a last line that was not finished is left out.
RecordedGames read_games(const std::string& path);

/// The file of a match's games, written as they end.
class MatchRecord {
   public:
    /// Begins a file, or with `resume` reads the one that is there; where there is none, that begins one as well.
    /// Throws InputError for a file that is there without `resume`, that is none of a match or one of another match,
    /// for numbers in it that cannot be (with the line), and where it cannot be written. A last line that was not
    /// finished is taken off; nothing else of the file is changed.
    MatchRecord(const std::string& path, const MatchIdentity& identity, bool resume);
    ~MatchRecord();
    MatchRecord(const MatchRecord&) = delete;
    MatchRecord& operator=(const MatchRecord&) = delete;

    const std::vector<GameRecord>& games() const { return games_; }  ///< those of the file, in its order
    /// Appends a game; it is in the file when this returns. Throws InputError when it cannot be written; what was
    /// written of it is taken off again.
    void add(const GameRecord& game);

   private:
    std::vector<GameRecord> games_;
    std::unique_ptr<RecordFile> file_;
};

}  // namespace arvek
