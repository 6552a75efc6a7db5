#pragma once
// Between a game and the values of detail/sampling.hpp.

#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/scale.hpp"
#include "arvek/search/detail/budget.hpp"
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

/// What a game usually pays and what its evaluation is worth, found out when it is asked for the first time.
template <Game G>
class UsualPayoffs {
   public:
    /// A small part of the limits' time may go into it; what that cut short is done again the next time.
    ValueAxis axis(const G& game, const Evaluator<G>* evaluator, const Limits& limits, bool margins) {
        if (!is_known_) {
            Limits own;
            own.clock = limits.clock;
            own.stop = limits.stop;
            if (limits.seconds) own.seconds = *limits.seconds * 0.1;
            Budget budget(own);
            lines_ = random_lines(game, 1, evaluator, needs_spread(game, evaluator), &budget);
            is_known_ = !budget.stopped();
        }
        return {players_of(game), most_payoff_of(game), lines_, units_of(game, lines_, evaluator), margins};
    }

   private:
    static bool needs_spread(const G& game, const Evaluator<G>* evaluator) {
        if (evaluator != nullptr) return !evaluator->units_per_doubling();
        if constexpr (ScaledGame<G>) return !wants_used<Ability::Scale>(game);
        return true;
    }

    bool is_known_ = false;
    RandomLines lines_;
};

}  // namespace arvek::detail
