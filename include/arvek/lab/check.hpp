#pragma once
// Checking the rules of a game: tries to break them, and shows the shortest way it found.
//
//     TEST(MyGame, HasSoundRules) {
//         const auto report = arvek::check_rules(MyGame{});
//         EXPECT_TRUE(report.sound()) << report.text();
//     }
//
// It looks at every short sequence of moves from the start, then plays games that reach what uniform play hardly ever
// does, and at each position, and after each of its moves, holds the game to what game/game.hpp and the headers of its
// abilities promise; then it asks everything again, elsewhere. It takes ten seconds unless told otherwise. Faults that
// only show deep in play can escape it; more time finds more. It plays the game only through its functions: what it
// reports can be replayed move by move, and no move of it can be left out. All laws: docs/checking.md.

#include <string>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/lab/check_report.hpp"
#include "arvek/opponent/game_kit.hpp"

namespace arvek {

/// Tries to break the rules of a game. Throws InputError only for an option out of its range; what the game throws is a
/// fault.
CheckReport check_kit(const GameKit& kit, const CheckOptions& options);

/// Holds the position at the end of one line of play to the laws, and what comes after each of its moves: to see whether a
/// fault that was reported is mended. `moves` are texts, events included, from the initial position. Throws InputError
/// for an option out of its range, and for a move that is not legal.
CheckReport check_kit_line(const GameKit& kit, const std::vector<std::string>& moves, const CheckOptions& options = {});

/// The same for a game of a type of its own.
template <class G>
CheckReport check_rules(const G& game, const CheckOptions& options = {}) {
    if constexpr (game_is_complete<G>())
        return check_kit(game_kit(game), options);
    else
        return {};
}

/// check_kit_line() for a game of a type of its own.
template <class G>
CheckReport check_line(const G& game, const std::vector<std::string>& moves, const CheckOptions& options = {}) {
    if constexpr (game_is_complete<G>())
        return check_kit_line(game_kit(game), moves, options);
    else
        return {};
}

}  // namespace arvek
