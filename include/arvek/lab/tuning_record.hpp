#pragma once
// The record of a tuning: its history as lines of JSON, that an interrupted tuning goes on from. What the steps came to,
// and then the games by which the candidate was tested.

#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/game_pool.hpp"
#include "arvek/lab/tuning.hpp"

namespace arvek {

/// What must be alike for a tuning to go on.
struct TuningIdentity : GameIdentity {
    std::string profile;               ///< whose numbers they are
    std::vector<TunedNumber> numbers;  ///< those that are tuned
    TuningOptions options{};           ///< how they are tuned
    int games = 0;                     ///< of a step
};

/// What one step came to.
struct StepResult {
    double points_a = 0.0;  ///< a draw counting half
    int comparisons = 0;    ///< what the points are counted over
};

/// The games after the steps.
enum class TuningStage : std::uint8_t {
    Test,         ///< the candidate against the start
    Confirmation  ///< the same in fresh games, where it was accepted
};

/// The file of a tuning, written step by step.
class TuningRecord {
   public:
    /// Begins a file, or with `resume` reads the one that is there, as MatchRecord does.
    TuningRecord(const std::string& path, const TuningIdentity& identity, bool resume);
    ~TuningRecord();
    TuningRecord(const TuningRecord&) = delete;
    TuningRecord& operator=(const TuningRecord&) = delete;

    const std::vector<StepResult>& steps() const { return steps_; }  ///< those of the file, in its order
    /// Those after the steps.
    const std::vector<std::pair<GameTask, GameRecord>>& games(TuningStage stage) const {
        return games_[static_cast<std::size_t>(stage)];
    }
    /// Appends a step, what played and where the numbers stand after it; it is in the file when this returns. Throws
    /// InputError when it cannot be written.
    void add(const TuningStep& step, const StepResult& result, const std::vector<double>& now);
    /// Appends a game after the steps; it is in the file when this returns.
    void add(TuningStage stage, const GameTask& task, const GameRecord& game);

   private:
    std::vector<StepResult> steps_;
    std::vector<std::pair<GameTask, GameRecord>> games_[2];
    std::unique_ptr<RecordFile> file_;
};

}  // namespace arvek
