#include "arvek/opponent/game_kit.hpp"

namespace arvek {

GameKit game_kit(const AnyGame& game, const ChooserSet& choosers) {
    return {game, choosers, solver_for(game), luck_solver_for(game), equilibrium_for(game)};
}
GameKit game_kit(const AnyGame& game) { return game_kit(game, ChooserSet::built_in()); }

}  // namespace arvek
