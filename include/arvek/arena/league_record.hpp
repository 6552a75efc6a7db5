#pragma once
// The record of a league: as that of a match (record.hpp), with who met whom in each line.

#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/league.hpp"
#include "arvek/arena/record.hpp"

namespace arvek {

/// What must be alike for games to be of one league.
struct LeagueIdentity : GameIdentity {
    std::vector<std::string> names;              ///< of who takes part
    LeagueShape shape = LeagueShape::EveryPair;  ///< who meets whom
};

/// The file of a league's games, written as they end.
class LeagueRecord {
   public:
    /// Begins a file, or with `resume` reads the one that is there, as MatchRecord does.
    LeagueRecord(const std::string& path, const LeagueIdentity& identity, bool resume);
    ~LeagueRecord();
    LeagueRecord(const LeagueRecord&) = delete;
    LeagueRecord& operator=(const LeagueRecord&) = delete;

    /// Those of the file, in its order.
    const std::vector<std::pair<GameTask, GameRecord>>& games() const { return games_; }
    /// Appends a game; it is in the file when this returns. Throws InputError when it cannot be written.
    void add(const GameTask& task, const GameRecord& game);

   private:
    std::vector<std::pair<GameTask, GameRecord>> games_;
    std::unique_ptr<RecordFile> file_;
};

}  // namespace arvek
