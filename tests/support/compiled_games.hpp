#pragma once
// The games of several tests, their tables (games/compiled.hpp) and the searches of their own types that several tests
// ask, compiled once.

#include <arvek/search/equilibrium.hpp>
#include <arvek/search/expectation.hpp>
#include <arvek/search/luck_solver.hpp>
#include <arvek/search/many_players.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <arvek/search/solver.hpp>

#include "compiled.hpp"
#include "support/dice.hpp"
#include "support/hop.hpp"
#include "support/random_tree.hpp"

WATERWAY_COMPILED(extern, testing_support::Dice)
WATERWAY_COMPILED(extern, testing_support::Hop)
WATERWAY_COMPILED(extern, testing_support::RandomTree)

extern template class arvek::MonteCarlo<waterway::Chess>;
extern template class arvek::Solver<waterway::Lanterns>;
extern template class arvek::MonteCarlo<waterway::Lanterns>;
extern template class arvek::Solver<waterway::Sluice>;
extern template class arvek::MonteCarlo<waterway::Sluice>;
extern template class arvek::Solver<waterway::Windlass>;
extern template class arvek::MonteCarlo<waterway::Windlass>;
extern template class arvek::MonteCarlo<waterway::Downstream>;
extern template class arvek::Expectation<waterway::Downstream>;
extern template class arvek::ManyPlayers<waterway::Downstream>;
extern template class arvek::LuckSolver<waterway::Downstream>;
extern template class arvek::ManyPlayers<waterway::ManyLanterns>;
extern template class arvek::MonteCarlo<waterway::ManyLanterns>;
extern template class arvek::Equilibrium<waterway::Tolls>;
extern template class arvek::Equilibrium<waterway::Wager>;
extern template class arvek::MonteCarlo<waterway::Stowage>;
