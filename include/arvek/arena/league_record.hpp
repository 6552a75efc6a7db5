#pragma once
// The record of a league: as that of a match (record.hpp), with who met whom in each line.

#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/league.hpp"
#include "arvek/arena/record.hpp"

namespace arvek {

struct LeagueIdentity : GameIdentity {
    std::vector<std::string> names;  ///< of who takes part
    LeagueShape shape = LeagueShape::EveryPair;
};

class LeagueRecord {
   public:
    /// Begins a file, or with `resume` reads the one that is there, as MatchRecord does.
    LeagueRecord(const std::string& path, const LeagueIdentity& identity, bool resume);
    ~LeagueRecord();
    LeagueRecord(const LeagueRecord&) = delete;
    LeagueRecord& operator=(const LeagueRecord&) = delete;

    const std::vector<std::pair<GameTask, GameRecord>>& games() const { return games_; }
    /// Appends a game; it is in the file when this returns. Throws InputError when it cannot be written.
    void add(const GameTask& task, const GameRecord& game);

   private:
    std::vector<std::pair<GameTask, GameRecord>> games_;
    std::unique_ptr<RecordFile> file_;
};

}  // namespace arvek
