#include "arvek/search/worker_threads.hpp"

#include <memory>
#include <system_error>
#include <thread>
#include <vector>

namespace arvek {

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
