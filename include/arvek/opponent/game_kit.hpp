#pragma once
// GameKit: a game whose type is gone, with its choosers and its solvers. What sessions, checks and the tool work with.

#include "arvek/game/any_game.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/opponent/registry.hpp"
#include "arvek/search/any_solver.hpp"

namespace arvek {

/// A game whose type is gone.
struct GameKit {
    AnyGame game;                  ///< itself
    ChooserSet choosers;           ///< what opponents of it can choose by
    AnySolver solver;              ///< empty where the game cannot be solved
    AnyLuckSolver luck_solver{};   ///< the same, of games of chance
    AnyEquilibrium equilibrium{};  ///< the same, of games with views
};

/// With choosers of the caller's.
GameKit game_kit(const AnyGame& game, const ChooserSet& choosers);
/// With the built-in choosers.
GameKit game_kit(const AnyGame& game);

/// The same for a game of a type of its own.
template <Game G>
requires(!std::is_same_v<G, AnyGame>) GameKit game_kit(const G& game, const Choosers<G>& choosers) {
    return game_kit(AnyGame(game), choosers.erased());
}
/// The same for a game of a type of its own.
template <Game G>
requires(!std::is_same_v<G, AnyGame>) GameKit game_kit(const G& game) { return game_kit(AnyGame(game)); }

}  // namespace arvek
