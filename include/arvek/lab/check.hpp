#pragma once
// Checking the rules of a game: tries to break them, and shows the shortest way it found.
//
//     TEST(MyGame, HasSoundRules) {
//         const auto report = arvek::check_rules(MyGame{});
//         EXPECT_TRUE(report.sound()) << report.text();
//     }
//
// It looks at every short sequence of moves from the start, then plays random games, and at each position holds the
// game to what game/game.hpp and the headers of its abilities promise. Faults that only show deep in play can escape
// it; more games find more. It plays the game only through its functions: what it reports can be replayed move by move.

#include "arvek/game/missing.hpp"
#include "arvek/lab/check_report.hpp"
#include "arvek/opponent/game_kit.hpp"

namespace arvek {

/// Tries to break the rules of a game. Throws InputError only for an option out of its range; what the game throws is a
/// fault.
CheckReport check_kit(const GameKit& kit, const CheckOptions& options);

/// The same for a game of a type of its own.
template <class G>
CheckReport check_rules(const G& game, const CheckOptions& options = {}) {
    if constexpr (game_is_complete<G>())
        return check_kit(game_kit(game), options);
    else
        return {};
}

}  // namespace arvek
