#pragma once
// By how many units of its evaluation the odds to win double in a game that does not say so itself.

#include "arvek/game/any_game.hpp"

namespace arvek {

/// The game's own word (game/scale.hpp), or else from the spread of its evaluation over some random games; at least 1.
double units_per_doubling_of(const AnyGame& game);

}  // namespace arvek
