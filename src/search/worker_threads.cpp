#include "arvek/search/worker_threads.hpp"

#include <memory>
#include <string>
#include <system_error>
#include <thread>
#include <vector>

#include "arvek/game/input_error.hpp"

namespace arvek {

void check_threads(int threads, bool has_table) {
    if (threads < 1 || threads > most_threads)
        throw InputError("threads", std::to_string(threads) + " is out of range",
                         "1 to " + std::to_string(most_threads));
    if (threads > 1 && !has_table)
        throw InputError("threads", "without a table there is nothing for them to share",
                         "1 thread, or the technique table and a game with a hash");
}

struct WorkerThreads::Threads {
    std::vector<std::thread> running;
    std::vector<std::exception_ptr> thrown;
};

void WorkerThreads::start(std::size_t count, void (*run)(const void*, std::size_t), const void* state) {
    if (count == 0) return;
    auto threads = std::make_unique<Threads>();
    threads->thrown.resize(count);
    threads->running.reserve(count);
    threads_ = threads.get();
    for (std::size_t i = 0; i < count; ++i) {
        try {
            threads->running.emplace_back([run, state, i, &thrown = threads->thrown[i]] {
                try {
                    run(state, i);
                } catch (...) {
                    thrown = std::current_exception();
                }
            });
        } catch (const std::system_error&) {
            break;
        }
    }
    (void)threads.release();
}

void WorkerThreads::join() {
    stop_.set();
    if (threads_ == nullptr) return;
    for (std::thread& thread : threads_->running)
        if (thread.joinable()) thread.join();
}

WorkerThreads::~WorkerThreads() {
    join();
    delete threads_;
}

void WorkerThreads::finish() {
    join();
    if (threads_ == nullptr) return;
    for (const std::exception_ptr& thrown : threads_->thrown)
        if (thrown) std::rethrow_exception(thrown);
}

}  // namespace arvek
