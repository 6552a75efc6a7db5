#pragma once
// Outcome: what a finished game pays each player.
//
//     return arvek::Outcome::win(arvek::Player::First);      // +1 and -1
//     return arvek::Outcome::win(arvek::Player::Second, 7);  // won by a margin of 7
//     return arvek::Outcome::draw();

#include <array>
#include <cstdint>

#include "arvek/game/player.hpp"

namespace arvek {

/// What one player gets at the end, in the game's own points; at most `largest_payoff` either way.
using Payoff = std::int32_t;

/// The largest payoff that a search can tell apart from a larger one.
inline constexpr Payoff largest_payoff = 100'000;

namespace detail {

/// Throws the RulesError for a payoff that is out of range; out of line, so that it costs one untaken branch.
[[noreturn]] void throw_payoff_out_of_range(Payoff payoff);
/// Throws the RulesError for an end at which two players are not paid what the other loses; out of line as well.
[[noreturn]] void throw_not_zero_sum(Payoff first, Payoff second);

}  // namespace detail

/// What a finished game pays each player.
class Outcome {
   public:
    /// Nobody gains: every payoff is 0.
    static constexpr Outcome draw() { return Outcome{}; }

    /// A two-player game won by `winner`: +`margin` for the winner, -`margin` for the rival.
    /// Throws RulesError unless 1 <= margin <= largest_payoff.
    static constexpr Outcome win(Player winner, Payoff margin = 1) {
        if (margin < 1 || margin > largest_payoff) [[unlikely]]
            detail::throw_payoff_out_of_range(margin);
        Outcome outcome;  // written and read by places known beforehand, a compiler keeps it out of memory
        const bool first = winner == Player::First;
        outcome.payoffs_[0] = first ? margin : -margin;
        outcome.payoffs_[1] = first ? -margin : margin;
        return outcome;
    }

    /// A two-player game that ended `margin` points in favour of the first player; 0 is a draw, less than 0 a
    /// win of the second player. Throws RulesError for more than largest_payoff either way.
    static constexpr Outcome margin_of_first(Payoff margin) {
        if (margin > largest_payoff || margin < -largest_payoff) [[unlikely]]
            detail::throw_payoff_out_of_range(margin);
        return margin == 0 ? draw() : margin > 0 ? win(Player::First, margin) : win(Player::Second, -margin);
    }

    /// Any payoffs, by player; a two-player game that is to be searched must have them sum to zero. Throws RulesError
    /// for more than largest_payoff either way.
    static constexpr Outcome of_payoffs(const std::array<Payoff, max_players>& payoffs) {
        for (const Payoff payoff : payoffs)
            if (payoff > largest_payoff || payoff < -largest_payoff) [[unlikely]]
                detail::throw_payoff_out_of_range(payoff);
        Outcome outcome;
        outcome.payoffs_ = payoffs;
        return outcome;
    }

    /// Of one player.
    constexpr Payoff payoff(Player player) const {
        switch (player) {
            case Player::First: return payoffs_[0];
            case Player::Second: return payoffs_[1];
            case Player::Third: return payoffs_[2];
            case Player::Fourth: break;
        }
        return payoffs_[3];
    }

    friend constexpr bool operator==(const Outcome&, const Outcome&) = default;

   private:
    constexpr Outcome() = default;

    std::array<Payoff, max_players> payoffs_{};
};

/// Throws RulesError unless one of two players gains what the other loses: what the searches for two rest on.
inline void require_zero_sum(const Outcome& outcome) {
    if (outcome.payoff(Player::First) + outcome.payoff(Player::Second) != 0) [[unlikely]]
        detail::throw_not_zero_sum(outcome.payoff(Player::First), outcome.payoff(Player::Second));
}

}  // namespace arvek
