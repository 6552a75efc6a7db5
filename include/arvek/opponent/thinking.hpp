#pragma once
// Thinking while the game runs: a decision that is taken beside the game, in another thread or a little in each frame.
//
//   arvek::Thinking<MyGame> thinking(opponent, seen, seed, earlier, {.clock = arvek::steady_seconds});
//   while (!thinking.ready()) draw_a_frame(thinking.so_far());       // std::nullopt until a depth is finished
//   const arvek::Decision<MyGame::Move> decision = thinking.take();  // throws what the decision threw
//
// and where one thread is all there is:
//
//   arvek::FrameThinking<MyGame> thinking(opponent, seen, seed);
//   while (!thinking.work(0.016)) draw_a_frame();                    // goes on for 16 ms, and no longer
//
// cancel() ends either soon, with the best so far. With a pace an answer is held back until it would look human, but not
// beyond `latest`. To think on the other's time, begin with the position after the reply that is expected, the second move
// of the line of the last decision: if it is played, the answer is on its way, and else cancel() and begin anew.
//
// The opponent must live as long, and is asked nothing else meanwhile. A limit of time counts the time that passes, in
// FrameThinking also between the frames: there a level, or a number of nodes, is the better limit, and one thread.

#include <atomic>
#include <cstdint>
#include <exception>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/opponent/opponent.hpp"
#include "arvek/opponent/pace.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

/// When an answer may be shown.
struct ThinkingOptions {
    Clock clock{};                   ///< for the pace; without one nothing is held back
    Pace pace{0.0, 0.0};             ///< how long an answer takes at the least
    std::optional<double> latest{};  ///< seconds after which nothing is held back any more
};

namespace detail {

/// A function that can be left in the middle and gone on with, all in one thread, as it has a stack of its own.
class Resumable {
   public:
    /// Throws std::bad_alloc where there is no memory for the stack.
    explicit Resumable(std::function<void()> work);
    /// Requires that the work has not begun, or has ended.
    ~Resumable();
    Resumable(const Resumable&) = delete;
    Resumable& operator=(const Resumable&) = delete;

    /// Runs it until it pauses or ends. Requires that it has not ended. It must not throw.
    void go_on();
    /// From within the work: leaves it.
    void pause();
    bool has_ended() const;

   private:
    struct State;
    std::unique_ptr<State> state_;
};

/// From when on an answer is to be shown.
class HeldBack {
   public:
    HeldBack(const ThinkingOptions& options, std::uint64_t seed) : clock_(options.clock) {
        if (!clock_) return;
        Random random(seed);
        double seconds = seconds_to_wait(options.pace, 0.0, random);
        if (options.latest && *options.latest < seconds) seconds = *options.latest;
        until_ = clock_.seconds() + seconds;
    }
    bool is_over() const { return !clock_ || clock_.seconds() >= until_; }

   private:
    Clock clock_;
    double until_ = 0.0;
};

}  // namespace detail

/// In a thread of its own.
template <class G>
class Thinking {
   public:
    using Move = typename G::Move;

    /// Begins. `seen`, `seed` and `earlier` are as for Opponent::decide().
    Thinking(Opponent<G>& opponent, Seen<G> seen, std::uint64_t seed, std::vector<Seen<G>> earlier = {},
             const ThinkingOptions& options = {})
        : held_back_(options, seed),
          tell_([this](const Decision<Move>& so_far) {
              const std::lock_guard lock(mutex_);
              so_far_ = so_far;
          }),
          thread_([this, &opponent, seen = std::move(seen), seed, earlier = std::move(earlier)] {
              opponent.tell(&progress_);
              try {
                  const auto asked = [](const void* stop) {
                      return static_cast<const std::atomic<bool>*>(stop)->load();
                  };
                  decision_ = opponent.decide(seen, seed, earlier, StopToken(asked, &stop_));
              } catch (...) {
                  error_ = std::current_exception();
              }
              opponent.tell(nullptr);
              done_ = true;
          }) {}
    /// Ends it, if it goes on.
    ~Thinking() {
        cancel();
        if (thread_.joinable()) thread_.join();
    }
    Thinking(const Thinking&) = delete;
    Thinking& operator=(const Thinking&) = delete;

    /// Whether take() would not wait, and the pace lets it answer.
    bool ready() const { return done_ && held_back_.is_over(); }
    /// How it stands; nothing until a search has finished its first depth.
    std::optional<Decision<Move>> so_far() const {
        const std::lock_guard lock(mutex_);
        return so_far_;
    }
    /// It ends soon, with the best so far.
    void cancel() { stop_ = true; }
    /// The decision; waits for its end, but not for the pace. Throws what the decision threw. To be called once.
    Decision<Move> take() {
        if (thread_.joinable()) thread_.join();
        if (error_) std::rethrow_exception(std::exchange(error_, nullptr));
        return std::move(decision_);
    }

   private:
    detail::HeldBack held_back_;
    mutable std::mutex mutex_;
    std::optional<Decision<Move>> so_far_;
    std::function<void(const Decision<Move>&)> tell_;
    Progress<Move> progress_{tell_};
    Decision<Move> decision_;
    std::exception_ptr error_;
    std::atomic<bool> stop_{false}, done_{false};
    std::thread thread_;  // the last, as it uses the others
};

/// A little at a time, in the caller's thread.
template <class G>
class FrameThinking {
   public:
    using Move = typename G::Move;

    /// Nothing is done yet. Requires a clock.
    FrameThinking(Opponent<G>& opponent, Seen<G> seen, std::uint64_t seed, std::vector<Seen<G>> earlier,
                  const ThinkingOptions& options)
        : clock_(options.clock),
          held_back_(options, seed),
          tell_([this](const Decision<Move>& so_far) { so_far_ = so_far; }),
          work_([this, &opponent, seen = std::move(seen), seed, earlier = std::move(earlier)] {
              opponent.tell(&progress_);
              try {
                  decision_ = opponent.decide(seen, seed, earlier, StopToken(&asked, this));
              } catch (...) {
                  error_ = std::current_exception();
              }
              opponent.tell(nullptr);
          }) {}
    /// Ends it, if it goes on.
    ~FrameThinking() {
        if (!begun_) return;
        cancel();
        while (!work_.has_ended()) work_.go_on();
    }
    FrameThinking(const FrameThinking&) = delete;
    FrameThinking& operator=(const FrameThinking&) = delete;

    /// Thinks for so many seconds more, or until it is done; whether an answer is ready, which the pace may hold back.
    bool work(double seconds) {
        if (!work_.has_ended()) {
            begun_ = true;
            until_ = clock_.seconds() + seconds;
            work_.go_on();
        }
        return ready();
    }
    /// Whether the decision is taken and may be shown.
    bool ready() const { return work_.has_ended() && held_back_.is_over(); }
    /// How it stands; nothing until a search has finished its first depth.
    const std::optional<Decision<Move>>& so_far() const { return so_far_; }
    /// The next work() ends it, with the best so far.
    void cancel() { stop_ = true; }
    /// The decision; goes on to its end first. Throws what the decision threw. To be called once.
    Decision<Move> take() {
        until_.reset();
        begun_ = true;
        while (!work_.has_ended()) work_.go_on();
        if (error_) std::rethrow_exception(std::exchange(error_, nullptr));
        return std::move(decision_);
    }

   private:
    /// A search asks every half millisecond whether to stop: here is where it is left for the next frame.
    static bool asked(const void* state) {
        auto* own = const_cast<FrameThinking*>(static_cast<const FrameThinking*>(state));
        if (own->until_ && !own->stop_ && own->clock_.seconds() >= *own->until_ - margin) own->work_.pause();
        return own->stop_;
    }
    static constexpr double margin = 0.0005;

    Clock clock_;
    detail::HeldBack held_back_;
    std::optional<double> until_;
    std::optional<Decision<Move>> so_far_;
    std::function<void(const Decision<Move>&)> tell_;
    Progress<Move> progress_{tell_};
    Decision<Move> decision_;
    std::exception_ptr error_;
    bool stop_ = false, begun_ = false;
    detail::Resumable work_;
};

}  // namespace arvek
