#pragma once
// Helpers: the further threads of one search. They run for as long as the object lives, or less if their work ends.

#include <cstddef>
#include <exception>

#include "arvek/search/limits.hpp"

namespace arvek::detail {

/// Set once, seen by every thread.
class Flag {
   public:
    void set() { __atomic_store_n(&set_, true, __ATOMIC_RELEASE); }
    bool stop_requested() const { return __atomic_load_n(&set_, __ATOMIC_ACQUIRE); }

   private:
    bool set_ = false;
};

class Helpers {
   public:
    /// Starts `count` threads; the i-th runs `work(i)`, which must come to an end soon after `stop` is set. `work` and
    /// `stop` must outlive the object. Where the system gives fewer threads, fewer help.
    template <class Work>
    Helpers(std::size_t count, const Work& work, Flag& stop) : stop_(stop) {
        start(
            count, [](const void* state, std::size_t i) { (*static_cast<const Work*>(state))(i); }, &work);
    }
    /// Sets `stop` and waits for the threads.
    ~Helpers();
    Helpers(const Helpers&) = delete;
    Helpers& operator=(const Helpers&) = delete;

    /// The same, and throws what one of the threads threw.
    void finish();

   private:
    struct Threads;

    void start(std::size_t count, void (*run)(const void*, std::size_t), const void* state);
    void join();

    Flag& stop_;
    Threads* threads_ = nullptr;
};

}  // namespace arvek::detail
