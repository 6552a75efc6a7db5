#pragma once
// Between a game and the values of detail/sampling.hpp.

#include "arvek/game/scale.hpp"
#include "arvek/search/detail/random_lines.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek::detail {

/// By how many units of the evaluation the odds double: the evaluator's word or the game's, or the spread of what it says.
template <Game G>
double units_of(const G& game, const RandomLines& lines, const Evaluator<G>* evaluator = nullptr) {
    if (evaluator != nullptr)
        if (const auto units = evaluator->units_per_doubling()) return *units;
    if constexpr (ScaledGame<G>)
        if (wants_used<Ability::Scale>(game)) return game.units_per_doubling();
    return 0.7 * lines.spread;
}

}  // namespace arvek::detail
