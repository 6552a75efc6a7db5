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
template <Game G>
GameKit game_kit(const G& game, const Choosers<G>& choosers) {
    const AnyGame any(game);
    return {any, choosers.erased(), solver_for(any), luck_solver_for(any), equilibrium_for(any)};
}

/// With the built-in choosers.
template <Game G>
GameKit game_kit(const G& game) {
    return game_kit(game, Choosers<G>::built_in());
}

}  // namespace arvek
