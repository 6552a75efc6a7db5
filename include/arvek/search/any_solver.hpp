#pragma once
// Exact solving of a game whose type is gone, by the solver that was made for the type.

#include <functional>

#include "arvek/game/any_game.hpp"
#include "arvek/search/solver.hpp"

namespace arvek {

/// Solves a position of the game that it is given. Empty for a game that cannot be solved.
using AnySolver = std::function<Solution<AnyMove>(const AnyGame&, const AnyPosition&, const SolveOptions&)>;

/// The solver for games of type G. Throws, when it is called, as Solver does.
template <Game G>
AnySolver any_solver() {
    if constexpr (HashedGame<G> && !ChanceGame<G> && may_be_for_two<G>()) {
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

}  // namespace arvek
