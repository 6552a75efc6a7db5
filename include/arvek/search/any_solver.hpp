#pragma once
// Exact solving of a game whose type is gone, by the solver that was made for the type.

#include <functional>

#include "arvek/game/any_game.hpp"
#include "arvek/search/equilibrium.hpp"
#include "arvek/search/luck_solver.hpp"
#include "arvek/search/solver.hpp"

namespace arvek {

/// Solves a position of the game that it is given. Empty for a game that cannot be solved.
using AnySolver = std::function<Solution<AnyMove>(const AnyGame&, const AnyPosition&, const SolveOptions&)>;

/// The solver for games of type G. Throws, when it is called, as Solver does.
template <Game G>
AnySolver any_solver() {
    if constexpr (HashedGame<G> && may_be_without_chance<G>() && !ViewedGame<G> && may_be_for_two<G>()) {
        return [](const AnyGame& any, const AnyPosition& position, const SolveOptions& options) {
            const auto typed = Solver<G>(any.get<G>(), options).solve(position.get<typename G::Position>());
            Solution<AnyMove> solution;
            static_cast<SolutionFigures&>(solution) = typed;
            solution.moves.reserve(typed.moves.size());
            for (const auto& solved : typed.moves)
                solution.moves.push_back({AnyMove(solved.move), solved.value, solved.kind, solved.plies});
            return solution;
        };
    } else {
        return {};
    }
}

/// Values a position of a game with luck, as LuckSolver does. Empty for a game that has none, or hides something.
using AnyLuckSolver = std::function<LuckSolution<AnyMove>(const AnyGame&, const AnyPosition&, const LuckSolveOptions&)>;

/// The one of a game's type.
template <Game G>
AnyLuckSolver any_luck_solver() {
    if constexpr (HashedGame<G> && ListedChanceGame<G> && !ViewedGame<G>) {
        return [](const AnyGame& any, const AnyPosition& position, const LuckSolveOptions& options) {
            auto typed = LuckSolver<G>(any.get<G>()).solve(position.get<typename G::Position>(), options);
            LuckSolution<AnyMove> solution;
            solution.value = typed.value;
            solution.error = typed.error;
            for (const auto& each : typed.moves)
                solution.moves.push_back({AnyMove(each.move), each.probability, each.value});
            solution.complete = typed.complete;
            solution.positions = typed.positions;
            solution.sweeps = typed.sweeps;
            solution.seconds = typed.seconds;
            solution.stopped_by = std::move(typed.stopped_by);
            return solution;
        };
    } else {
        return {};
    }
}

/// The equilibrium of a game with views from a position on, as Equilibrium finds it. Empty for other games.
using AnyEquilibrium =
    std::function<EquilibriumFound<AnyView, AnyMove>(const AnyGame&, const AnyPosition&, const EquilibriumOptions&)>;

/// The one of a game's type.
template <Game G>
AnyEquilibrium any_equilibrium() {
    if constexpr (ViewedGame<G> && may_be_for_two<G>()) {
        return [](const AnyGame& any, const AnyPosition& position, const EquilibriumOptions& options) {
            auto typed = Equilibrium<G>(any.get<G>()).solve(position.get<typename G::Position>(), options);
            EquilibriumFound<AnyView, AnyMove> found;
            found.value = typed.value;
            found.measured = typed.measured;
            found.exploitability = typed.exploitability;
            found.error = typed.error;
            found.iterations = typed.iterations;
            found.positions = typed.positions;
            found.complete = typed.complete;
            found.seconds = typed.seconds;
            found.stopped_by = std::move(typed.stopped_by);
            for (const auto& row : typed.strategy) {
                auto& any_row = found.strategy.emplace_back();
                any_row.player = row.player;
                any_row.view = AnyView(row.view);
                for (const auto& each : row.moves)
                    any_row.moves.push_back({AnyMove(each.move), each.probability, each.value});
            }
            return found;
        };
    } else {
        return {};
    }
}

}  // namespace arvek
