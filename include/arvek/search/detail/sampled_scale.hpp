#pragma once
// Between a game and the values of detail/sampling.hpp.

#include "arvek/game/scale.hpp"
#include "arvek/search/detail/random_lines.hpp"
#include "arvek/search/detail/sampling.hpp"

namespace arvek::detail {

/// By how many units of the evaluation the odds double: the game's word, or the spread of its evaluation.
template <Game G>
double units_of(const G& game, const RandomLines& lines) {
    if constexpr (ScaledGame<G>)
        if (wants_used<Ability::Scale>(game)) return game.units_per_doubling();
    return 0.7 * lines.spread;
}

}  // namespace arvek::detail
