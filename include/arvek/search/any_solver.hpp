#pragma once
// Exact solving of a game whose type is gone.

#include <functional>

#include "arvek/game/any_game.hpp"
#include "arvek/search/mixed_strategy.hpp"
#include "arvek/search/solution.hpp"

namespace arvek {

/// Solves a position of the game that it is given. Empty for a game that cannot be solved.
using AnySolver = std::function<Solution<AnyMove>(const AnyGame&, const AnyPosition&, const SolveOptions&)>;
/// Throws, when it is called, as Solver does. Empty for a game without hash(), with chance or with views.
AnySolver solver_for(const AnyGame& game);

/// Values a position of a game with luck, as LuckSolver does.
using AnyLuckSolver = std::function<LuckSolution<AnyMove>(const AnyGame&, const AnyPosition&, const LuckSolveOptions&)>;
/// Empty for a game that has no luck, or hides something.
AnyLuckSolver luck_solver_for(const AnyGame& game);

/// The equilibrium of a game with views from a position on, as Equilibrium finds it.
using AnyEquilibrium =
    std::function<EquilibriumFound<AnyView, AnyMove>(const AnyGame&, const AnyPosition&, const EquilibriumOptions&)>;
/// Empty for other games.
AnyEquilibrium equilibrium_for(const AnyGame& game);

}  // namespace arvek
