#pragma once
// Ability: scale. For games of chance, where estimates and luck are weighed together.
//
//     double units_per_doubling() const;
//
// By how many units of its evaluation the odds to win double. An estimate of `units` for a player then is a chance of
// winning of 1 / (1 + 2^(-units / units_per_doubling)), and an expected payoff of most_payoff times twice that less 1.
// More than 0. Where a game does not say, a search takes the spread of the evaluation over some random lines; a game whose
// payoffs are not all 1 should say most_payoff() as well (payoff_bounds.hpp).

#include <concepts>
#include <cstdint>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/outcome.hpp"

namespace arvek {

template <class G>
concept ScaledGame = Game<G> && requires(const G& game) {
    { game.units_per_doubling() } -> std::same_as<double>;
};

/// How many units of a score make a point of an expected payoff, where no payoff is larger than `largest` points: a power
/// of two, so that every payoff fits and whole ones are exact.
double scores_per_point(double largest);

/// What an evaluation is worth as an expected payoff.
class Scale {
   public:
    /// As above. Throws InputError unless units_per_doubling > 0 and most > 0.
    static Scale odds(double units_per_doubling, Payoff most);
    /// The evaluation already is an expected payoff, of so many units a point; what is beyond `most` points is cut. A sure
    /// win is taken before any estimate, so `most` should not be above the largest payoff. Throws InputError unless both
    /// are above 0.
    static Scale linear(double units_per_point, double most);

    /// The largest expected payoff, in points.
    double most() const { return most_; }
    /// The expected payoff of an estimate, in points.
    double payoff_of(std::int64_t units) const;

   private:
    Scale(bool odds, double units, double most) : odds_(odds), units_(units), most_(most) {}

    bool odds_;
    double units_;
    double most_;
};

}  // namespace arvek
