#pragma once
// Score: how good a position is for one player.
//
// A score is either an estimate (an evaluation, in the game's own units) or proven (the game ends so, in so many
// plies). The two live in ranges that do not meet, so an estimate can never look like a proven win; and among proven
// scores the larger payoff comes first, then the sooner win and the later loss.
//
//     Score evaluate(const Position& p, Player player) const { return Score::estimate(material(p, player)); }

#include <cassert>
#include <compare>
#include <cstdint>

#include "arvek/game/outcome.hpp"

namespace arvek {

/// The most plies ahead that a proven score can tell apart.
inline constexpr int max_score_plies = 9'999;

/// How good a position is for one player.
class Score {
   public:
    /// An even score: estimated as level, or a draw.
    constexpr Score() = default;

    /// An estimate in the game's own units. Larger values than `largest_estimate` are cut to it.
    static constexpr Score estimate(std::int64_t units) {
        if (units > largest_estimate) units = largest_estimate;
        if (units < -largest_estimate) units = -largest_estimate;
        return Score(static_cast<std::int32_t>(units));
    }

    /// The score of a game that ends in `plies` plies with `payoff` for the player in question.
    /// Requires |payoff| <= largest_payoff and 0 <= plies <= max_score_plies.
    static constexpr Score proven(Payoff payoff, int plies) {
        assert(payoff >= -largest_payoff && payoff <= largest_payoff && plies >= 0 && plies <= max_score_plies);
        if (payoff == 0) return Score(0);
        const std::int32_t sooner = proven_base - plies;
        return Score(payoff * payoff_step + (payoff > 0 ? sooner : -sooner));
    }

    /// Worse and better than every score of a position.
    static constexpr Score lowest() { return Score(-2'100'000'000); }
    /// Better than any other.
    static constexpr Score highest() { return Score(2'100'000'000); }

    /// The farthest that an estimate can be from 0.
    static constexpr std::int32_t largest_estimate = 999'999'999;

    /// The number itself. Estimates are in the game's units; a proven win is 1 000 000 000 + 10 000 * payoff - plies,
    /// a proven loss the same below zero. Numbers of one game compare as the scores do.
    constexpr std::int32_t number() const { return number_; }

    /// Whether it says that the player wins for certain.
    constexpr bool is_proven_win() const { return number_ > largest_estimate && number_ < highest().number_; }
    /// Whether it says that the player loses for certain.
    constexpr bool is_proven_loss() const { return number_ < -largest_estimate && number_ > lowest().number_; }
    /// True for proven wins and losses. A draw is 0, whether proven or estimated.
    constexpr bool is_proven() const { return is_proven_win() || is_proven_loss(); }

    /// Plies until the proven end, counted from the position that was searched. Requires is_proven().
    constexpr int plies() const {
        const std::int32_t over = size() - proven_base;
        return (payoff_step - over % payoff_step) % payoff_step;
    }

    /// The payoff at the proven end. Requires is_proven().
    constexpr Payoff payoff() const {
        const std::int32_t payoff = (size() - proven_base + plies()) / payoff_step;
        return number_ > 0 ? payoff : -payoff;
    }

    /// The score with that number().
    static constexpr Score from_number(std::int32_t number) { return Score(number); }

    /// The same score seen from `plies` plies earlier (larger counts), or later (negative): a proven end is then so
    /// much further away, or nearer.
    constexpr Score seen_from_earlier(int plies) const {
        if (is_proven_win()) return Score(number_ - plies);
        if (is_proven_loss()) return Score(number_ + plies);
        return *this;
    }

    /// The next higher score.
    constexpr Score just_above() const { return number_ >= highest().number_ ? *this : Score(number_ + 1); }

    /// The next lower score: a search window that opens there still tells equal moves from worse ones.
    constexpr Score just_below() const { return number_ <= lowest().number_ ? *this : Score(number_ - 1); }

    /// The same for the rival.
    constexpr Score operator-() const { return Score(-number_); }

    friend constexpr auto operator<=>(const Score&, const Score&) = default;

   private:
    explicit constexpr Score(std::int32_t number) : number_(number) {}

    constexpr std::int32_t size() const {
        assert(is_proven());
        return number_ > 0 ? number_ : -number_;
    }

    static constexpr std::int32_t payoff_step = max_score_plies + 1;
    static constexpr std::int32_t proven_base = 1'000'000'000;

    std::int32_t number_ = 0;
};

}  // namespace arvek
