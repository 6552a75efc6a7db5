#include "arvek/search/any_solver.hpp"
#include "arvek/search/engine_game.hpp"
#include "arvek/search/equilibrium.hpp"
#include "arvek/search/luck_solver.hpp"
#include "arvek/search/solver.hpp"

namespace arvek {

AnySolver solver_for(const AnyGame& game) {
    if (!has_hash(game) || has_chance(game) || has_views(game)) return {};
    return [](const AnyGame& any, const AnyPosition& position, const SolveOptions& options) {
        const InTheOpen own(any);
        return Solver<InTheOpen>(own, options).solve(own.settled(position));
    };
}

AnyLuckSolver luck_solver_for(const AnyGame& game) {
    if (!has_hash(game) || !lists_events(game) || has_views(game)) return {};
    return [](const AnyGame& any, const AnyPosition& position, const LuckSolveOptions& options) {
        const InTheOpen own(any);
        return LuckSolver<InTheOpen>(own).solve(own.settled(position), options);
    };
}

AnyEquilibrium equilibrium_for(const AnyGame& game) {
    if (!has_views(game)) return {};
    return [](const AnyGame& any, const AnyPosition& position, const EquilibriumOptions& options) {
        const ByViews own(any);
        return Equilibrium<ByViews>(own).solve(own.settled(position), options);
    };
}

}  // namespace arvek
