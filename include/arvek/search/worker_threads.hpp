#pragma once
// WorkerThreads: the further threads of one piece of work, such as a search or a match. They run for as long as the
// object lives, or less if their work ends.

#include <cstddef>
#include <exception>

#include "arvek/search/limits.hpp"

namespace arvek {

/// The most that anything can be asked to use.
inline constexpr int most_threads = 256;

/// Throws InputError unless 1 <= threads <= most_threads, and for several threads without a table to share.
void check_threads(int threads, bool has_table);

/// Set once, seen by every thread.
class StopFlag {
   public:
    /// Asks whoever looks to stop.
    void set() { __atomic_store_n(&set_, true, __ATOMIC_RELEASE); }
    bool stop_requested() const { return __atomic_load_n(&set_, __ATOMIC_ACQUIRE); }  ///< whether it was set

   private:
    bool set_ = false;
};

/// Threads that work together.
class WorkerThreads {
   public:
    /// Starts `count` threads; the i-th runs `work(i)`, which must come to an end soon after `stop` is set. `work` and
    /// `stop` must outlive the object. Where the system gives fewer threads, fewer help.
    template <class Work>
    WorkerThreads(std::size_t count, const Work& work, StopFlag& stop) : stop_(stop) {
        start(
            count, [](const void* state, std::size_t i) { (*static_cast<const Work*>(state))(i); }, &work);
    }
    /// Sets `stop` and waits for the threads.
    ~WorkerThreads();
    WorkerThreads(const WorkerThreads&) = delete;
    WorkerThreads& operator=(const WorkerThreads&) = delete;

    /// The same, and throws what one of the threads threw.
    void finish();

   private:
    struct Threads;

    void start(std::size_t count, void (*run)(const void*, std::size_t), const void* state);
    void join();

    StopFlag& stop_;
    Threads* threads_ = nullptr;
};

}  // namespace arvek
