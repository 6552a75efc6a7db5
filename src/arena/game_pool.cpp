#include "arvek/arena/game_pool.hpp"

#include <mutex>
#include <string>

#include "arvek/game/input_error.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

void ThreadPool::use_threads(int threads) {
    if (threads < 1 || threads > most_threads)
        throw InputError("threads", std::to_string(threads) + " is out of range",
                         "1 to " + std::to_string(most_threads));
    threads_ = static_cast<std::size_t>(threads);
}

void ThreadPool::play(GameSchedule& schedule, const PlayTask& play) {
    std::mutex mutex;
    bool over = false;
    const auto work = [&](std::size_t worker) {
        try {
            for (;;) {
                std::optional<GameTask> task;
                {
                    const std::lock_guard lock(mutex);
                    if (!over) task = schedule.next();
                }
                if (!task) return;
                const std::optional<GameRecord> game = play(worker, *task);
                const std::lock_guard lock(mutex);
                if (!game) {
                    over = true;
                    return;
                }
                schedule.add(*task, *game);
            }
        } catch (...) {
            const std::lock_guard lock(mutex);
            over = true;
            throw;
        }
    };
    StopFlag unused;
    const auto help = [&](std::size_t i) { work(i + 1); };
    WorkerThreads helpers(threads_ - 1, help, unused);
    work(0);
    helpers.finish();
}

}  // namespace arvek
