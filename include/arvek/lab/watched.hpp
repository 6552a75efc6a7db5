#pragma once
// Checking rules in a process of its own, so that a crash or a call without end is reported as well, with the moves
// that lead there.
//
//     TEST(MyGame, HasSoundRules) {
//         const auto report = arvek::check_rules_watched(MyGame{});
//         EXPECT_TRUE(report.sound()) << report.text();
//     }
//
// In a program that is built with sanitizers, what they say ends the process that is watched and is reported likewise.
// The process is a copy of the one that asks (fork), so other threads of the program are not there in it.

#include "arvek/lab/check.hpp"

namespace arvek {

/// How a process of its own is watched.
struct WatchOptions {
    double seconds_a_call = 5.0;  ///< how long one call of a function of the game may take; more than 0
};

/// As check_kit(), with laws "crash" and "endless call" besides: then `moves` lead to the call. Throws InputError for an
/// option out of its range, and std::system_error where there can be no other process.
CheckReport check_kit_watched(const GameKit& kit, const CheckOptions& options, const WatchOptions& watch = {});

/// The same for a game of a type of its own.
template <class G>
CheckReport check_rules_watched(const G& game, const CheckOptions& options = {}, const WatchOptions& watch = {}) {
    if constexpr (game_is_complete<G>())
        return check_kit_watched(game_kit(game), options, watch);
    else
        return {};
}

}  // namespace arvek
