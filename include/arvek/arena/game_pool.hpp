#pragma once
// GamePool: many games played at once, by the threads of this process or by something larger, with a result that does not
// depend on who played what, or when.
//
// A GameSchedule says what is to be played and takes the results; it looks at them in an order of its own, so that the
// same games come to the same end whatever finished first. A pool asks it for tasks as its workers become free.

#include <cstddef>
#include <functional>
#include <optional>
#include <string>

#include "arvek/arena/record.hpp"

namespace arvek {

/// A game that is to be played: which of which pairing.
struct GameTask {
    std::size_t pairing = 0;  ///< of whom, by the schedule's own count
    int number = 0;           ///< of the game among those of the pairing, from 0
    friend bool operator==(const GameTask&, const GameTask&) = default;
};

/// What is to be played, game by game, and who is told what came of it.
class GameSchedule {
   public:
    virtual ~GameSchedule() = default;
    /// The next game to play; nothing when there is none left. Asked by one worker at a time, like add().
    virtual std::optional<GameTask> next() = 0;
    /// A game that has ended. Those of a schedule that is over are taken and left out.
    virtual void add(const GameTask& task, const GameRecord& game) = 0;
};

/// Plays a game; nothing where it was stopped. `worker`: from 0, each in a thread of its own.
using PlayTask = std::function<std::optional<GameRecord>(std::size_t worker, const GameTask& task)>;

/// Plays what a schedule has, many games at once.
class GamePool {
   public:
    virtual ~GamePool() = default;
    /// How many workers of this process play at once, at least 1.
    virtual std::size_t workers() const = 0;
    /// The same of all processes that work together.
    virtual std::size_t all_workers() const { return workers(); }
    /// How many threads of each process play. Throws InputError for a number out of range.
    virtual void use_threads(int threads) = 0;
    /// Whether this process is the one that prints and writes; of several that work together, only one is.
    virtual bool speaks() const { return true; }
    /// Plays until the schedule has no more games, or one was stopped. What `play` throws is thrown here, after the other
    /// workers have finished their games.
    /// Of several processes each calls it, with schedules that have the same tasks; the results are in that of the one that
    /// speaks.
    virtual void play(GameSchedule& schedule, const PlayTask& play) = 0;
    /// The text of the process that speaks, in each of them: what comes next must be the same in all.
    virtual std::string shared(const std::string& text) { return text; }
};

/// The threads of this process.
class ThreadPool final : public GamePool {
   public:
    /// 1 to 256 threads. Throws InputError for another number.
    explicit ThreadPool(int threads) { ThreadPool::use_threads(threads); }
    void use_threads(int threads) override;
    std::size_t workers() const override { return threads_; }
    void play(GameSchedule& schedule, const PlayTask& play) override;

   private:
    std::size_t threads_ = 1;
};

}  // namespace arvek
