#include "support/compiled_games.hpp"

WATERWAY_COMPILED(, testing_support::Dice)
WATERWAY_COMPILED(, testing_support::Hop)
WATERWAY_COMPILED(, testing_support::RandomTree)

template class arvek::MonteCarlo<waterway::Chess>;
template class arvek::Solver<waterway::Lanterns>;
template class arvek::MonteCarlo<waterway::Lanterns>;
template class arvek::Solver<waterway::Sluice>;
template class arvek::MonteCarlo<waterway::Sluice>;
template class arvek::Solver<waterway::Windlass>;
template class arvek::MonteCarlo<waterway::Windlass>;
template class arvek::MonteCarlo<waterway::Downstream>;
template class arvek::Expectation<waterway::Downstream>;
template class arvek::ManyPlayers<waterway::Downstream>;
template class arvek::LuckSolver<waterway::Downstream>;
template class arvek::ManyPlayers<waterway::ManyLanterns>;
template class arvek::MonteCarlo<waterway::ManyLanterns>;
template class arvek::Equilibrium<waterway::Tolls>;
template class arvek::Equilibrium<waterway::Wager>;
template class arvek::MonteCarlo<waterway::Stowage>;
