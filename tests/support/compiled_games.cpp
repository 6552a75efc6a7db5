#include "support/compiled_games.hpp"

WATERWAY_COMPILED(, testing_support::Dice)
WATERWAY_COMPILED(, testing_support::Hop)
WATERWAY_COMPILED(, testing_support::RandomTree)
