#pragma once
// The games of several tests, and all that is compiled for each, once: see games/compiled.hpp.

#include "compiled.hpp"
#include "support/dice.hpp"
#include "support/hop.hpp"
#include "support/random_tree.hpp"

WATERWAY_COMPILED(extern, testing_support::Dice)
WATERWAY_COMPILED(extern, testing_support::Hop)
WATERWAY_COMPILED(extern, testing_support::RandomTree)
