#include "interrupting.hpp"

#include <fcntl.h>
#include <poll.h>
#include <unistd.h>

#include <atomic>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdint>
#include <mutex>
#include <thread>

#include "arvek/game/random.hpp"

namespace arvek::detail {

namespace {

/// A bell that one thread rings and another waits for, asleep, so that it has its turn at once on a busy machine too.
/// Handlers of signals may use it.
class Bell {
   public:
    Bell() {
        if (::pipe2(ends_, O_CLOEXEC | O_NONBLOCK) != 0) ends_[0] = ends_[1] = -1;
    }
    ~Bell() {
        for (const int end : ends_)
            if (end >= 0) ::close(end);
    }
    Bell(const Bell&) = delete;
    Bell& operator=(const Bell&) = delete;

    bool works() const { return ends_[0] >= 0; }
    void ring() const {
        const char byte = 0;
        [[maybe_unused]] const auto written = ::write(ends_[1], &byte, 1);
    }
    /// Whether it rang in time.
    bool wait(int milliseconds) const {
        // It mostly rings at once, where there is a core for each.
        for (int look = 0; look < 100; ++look)
            if (has_rung()) return true;
        pollfd end{ends_[0], POLLIN, 0};
        return ::poll(&end, 1, milliseconds) > 0 && has_rung();
    }

   private:
    bool has_rung() const {
        char byte = 0;
        return ::read(ends_[0], &byte, 1) == 1;
    }

    int ends_[2] = {-1, -1};
};

/// What the two threads tell each other.
struct Bells {
    Bell is_stopped, may_go_on, goes_on;
    bool work() const { return is_stopped.works() && may_go_on.works() && goes_on.works(); }
};
std::atomic<const Bells*> bells;
std::atomic<bool> was_told_to_go_on;

void stop(int) {
    const int error = errno;
    const Bells& own = *bells.load();
    own.is_stopped.ring();
    was_told_to_go_on.store(own.may_go_on.wait(100));
    own.goes_on.ring();
    errno = error;
}

/// A signal that nobody else in the program has asked for, or 0.
int free_signal() {
    for (int signal = SIGRTMAX; signal >= SIGRTMIN; --signal) {
        struct sigaction now {};
        if (::sigaction(signal, nullptr, &now) == 0 && (now.sa_flags & SA_SIGINFO) == 0 && now.sa_handler == SIG_DFL)
            return signal;
    }
    return 0;
}

void let_pass(std::chrono::microseconds time) {
    const auto end = std::chrono::steady_clock::now() + time;
    while (std::chrono::steady_clock::now() < end) {
    }
}

}  // namespace

bool stop_in_the_middle(int times, const std::function<bool()>& over_and_over, const std::function<bool()>& meanwhile) {
    static std::mutex one_at_a_time;
    const std::scoped_lock lock(one_at_a_time);
    const Bells own;
    const int signal = free_signal();
    if (signal == 0 || !own.work()) return false;
    bells.store(&own);
    struct sigaction handled {};
    struct sigaction before {};
    handled.sa_handler = stop;
    handled.sa_flags = SA_RESTART;
    ::sigaction(signal, &handled, &before);

    std::atomic<bool> ends{false};
    std::atomic<std::uint64_t> rounds{0};
    const Bell runs;
    std::thread thread([&] {
        sigset_t unblocked;
        sigemptyset(&unblocked);
        sigaddset(&unblocked, signal);
        ::pthread_sigmask(SIG_UNBLOCK, &unblocked, nullptr);
        runs.ring();
        for (; !ends.load(); ++rounds)
            if (!over_and_over()) ends.store(true);
    });
    runs.wait(1'000);
    Random random(1);
    constexpr int most_in_vain = 5;
    int in_vain = 0;
    for (int i = 0; i < times && in_vain < most_in_vain && !ends.load(); ++i) {
        // At another instruction than the last time: where both share a core, it has not gone on yet.
        const std::uint64_t before_it_goes_on = rounds.load();
        for (int look = 0; look < 1'000 && rounds.load() == before_it_goes_on && !ends.load(); ++look)
            std::this_thread::yield();
        let_pass(std::chrono::microseconds(random.below(50)));
        if (ends.load()) break;
        if (::pthread_kill(thread.native_handle(), signal) != 0) break;
        if (!own.is_stopped.wait(1'000)) {
            ++in_vain;
            continue;
        }
        if (!meanwhile()) ends.store(true);
        own.may_go_on.ring();
        own.goes_on.wait(1'000);
        if (was_told_to_go_on.load()) {
            in_vain = 0;
        } else {
            own.may_go_on.wait(0);  // which came too late
            ++in_vain;
        }
    }
    // A signal that is still on its way to the thread ends with it.
    ends.store(true);
    own.may_go_on.ring();
    thread.join();
    ::sigaction(signal, &before, nullptr);
    return in_vain < most_in_vain;
}

}  // namespace arvek::detail
