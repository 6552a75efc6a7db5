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

struct TuningIdentity : GameIdentity {
    std::string profile;  ///< whose numbers they are
    std::vector<TunedNumber> numbers;
    TuningOptions options{};
    int games = 0;  ///< of a step
};

/// What one step came to.
struct StepResult {
    double points_a = 0.0;
    int comparisons = 0;
};

/// The games after the steps.
enum class TuningStage : std::uint8_t { Test, Confirmation };

class TuningRecord {
   public:
    /// Begins a file, or with `resume` reads the one that is there, as MatchRecord does.
    TuningRecord(const std::string& path, const TuningIdentity& identity, bool resume);
    ~TuningRecord();
    TuningRecord(const TuningRecord&) = delete;
    TuningRecord& operator=(const TuningRecord&) = delete;

    const std::vector<StepResult>& steps() const { return steps_; }
    const std::vector<std::pair<GameTask, GameRecord>>& games(TuningStage stage) const {
        return games_[static_cast<std::size_t>(stage)];
    }
    /// Appends a step, what played and where the numbers stand after it; it is in the file when this returns. Throws
    /// InputError when it cannot be written.
    void add(const TuningStep& step, const StepResult& result, const std::vector<double>& now);
    void add(TuningStage stage, const GameTask& task, const GameRecord& game);

   private:
    std::vector<StepResult> steps_;
    std::vector<std::pair<GameTask, GameRecord>> games_[2];
    std::unique_ptr<RecordFile> file_;
};

}  // namespace arvek
