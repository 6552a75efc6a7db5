#pragma once
// Limits: how far a search may go. Every search takes them and always returns a legal move.
//
//     search.decide(position, {.depth = 6});
//     search.decide(position, {.seconds = 0.5, .clock = arvek::steady_seconds});
//
// A depth alone is one search to that depth. With a limit of nodes or time, or with no depth at all, a search goes
// deeper ply by ply and decides by the deepest one it finished; the counters then cover all of them. With no limit at
// all it goes on until every line has ended.

#include <concepts>
#include <cstdint>
#include <optional>

namespace arvek {

/// The greatest depth a search accepts, in plies.
inline constexpr int max_depth = 1'000;

/// Tells the seconds since some fixed moment; never goes back. Copies ask the same one; the default is no clock.
/// arvek/arena/steady_clock.hpp has a function that makes one.
class Clock {
   public:
    using Now = double (*)(const void*);  ///< tells the seconds, of a clock that carries a state

    constexpr Clock() = default;
    /// A function without arguments, or a lambda that captures nothing.
    template <class Function>
    requires std::convertible_to<Function, double (*)()>
    constexpr Clock(Function now) : plain_(now) {}
    /// One that carries a state, which must outlive the searches that use it; with several threads, `now` must be safe
    /// to call from any.
    constexpr Clock(Now now, const void* state) : now_(now), state_(state) {}

    constexpr explicit operator bool() const { return plain_ != nullptr || now_ != nullptr; }  ///< whether there is one
    /// Requires a clock.
    double seconds() const { return plain_ != nullptr ? plain_() : now_(state_); }
    /// The same; 0 without a clock.
    double seconds_or_0() const { return *this ? seconds() : 0.0; }

   private:
    double (*plain_)() = nullptr;
    Now now_ = nullptr;
    const void* state_ = nullptr;
};

/// Asks someone outside whether to stop. Copies ask the same one; the default never stops.
class StopToken {
   public:
    using Asked = bool (*)(const void*);  ///< tells whether to stop

    constexpr StopToken() = default;
    /// Stops when `asked(state)` is true. `state` must outlive the searches that use the token; with a search in
    /// another thread, `asked` must be safe to call from there.
    constexpr StopToken(Asked asked, const void* state) : asked_(asked), state_(state) {}

    /// Wraps anything with `bool stop_requested() const`, such as std::stop_token, by reference.
    template <class Token>
    requires requires(const Token& token) { bool(token.stop_requested()); }
    static constexpr StopToken of(const Token& token) {
        return StopToken([](const void* state) { return bool(static_cast<const Token*>(state)->stop_requested()); },
                         &token);
    }

    constexpr bool stop_requested() const { return asked_ != nullptr && asked_(state_); }  ///< whether to stop now
    constexpr bool can_stop() const { return asked_ != nullptr; }                          ///< whether it ever may

   private:
    Asked asked_ = nullptr;
    const void* state_ = nullptr;
};

/// How far a search may go.
struct Limits {
    std::optional<int> depth{};               ///< plies, 0 to max_depth; 0 looks at no move's consequences
    std::optional<std::uint64_t> nodes{};     ///< positions visited, at least 1; never exceeded
    std::optional<std::uint64_t> playouts{};  ///< for a search by playouts alone, at least 1
    std::optional<double> seconds{};          ///< more than 0; needs a clock
    Clock clock{};                            ///< also measures the seconds that a decision reports
    StopToken stop{};                         ///< asked now and then
};

/// Throws InputError when a limit is out of its range, or a time limit has no clock.
void check_limits(const Limits& limits);

}  // namespace arvek
