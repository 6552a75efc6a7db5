#pragma once
// The record of learning: the games that were learned from and those by which the strength was measured, as lines of JSON.
// What was learned follows from them, so that an interrupted run comes to the same as one that was not.

#include <map>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/game_pool.hpp"
#include "arvek/lab/learning.hpp"

namespace arvek {

/// What must be alike for games to be of one run of learning.
struct LearningIdentity : GameIdentity {
    LearningOptions options{};      ///< how it is learned
    std::string player;             ///< who plays, besides what is learned: "standard, 300 nodes"
    std::string against;            ///< by whom the strength is measured
    int round = 0;                  ///< games before it is learned from them
    int opening_plies_at_most = 0;  ///< random moves before play, at the most
    double stray = 0.0;             ///< how often another move is played than the one found best
};

/// The file of a run of learning, written as its games end.
class LearningRecord {
   public:
    /// Begins a file, or with `resume` reads the one that is there, as MatchRecord does.
    LearningRecord(const std::string& path, const LearningIdentity& identity, bool resume);
    ~LearningRecord();
    LearningRecord(const LearningRecord&) = delete;
    LearningRecord& operator=(const LearningRecord&) = delete;

    /// Those that were learned from, by number.
    const std::map<int, GameRecord>& games() const { return games_; }
    /// Those of a measurement after so many games.
    std::vector<std::pair<GameTask, GameRecord>> test_games(int after) const;
    /// Appends a game; it is in the file when this returns. Throws InputError when it cannot be written.
    void add(const GameRecord& game);
    /// Appends a game of a measurement, after so many games learned from.
    void add(int after, const GameTask& task, const GameRecord& game);

   private:
    std::map<int, GameRecord> games_;
    std::map<int, std::vector<std::pair<GameTask, GameRecord>>> tests_;
    std::unique_ptr<RecordFile> file_;
};

}  // namespace arvek
