#pragma once
// Regrets of a game whose tree is too large to be laid out, on games that are drawn from it: see search/equilibrium.hpp.
//
// Source: Lanctot, Waugh, Zinkevich, Bowling (2009), "Monte Carlo Sampling for Regret Minimization in Extensive Games"
// (external sampling: all moves of one player, one of everybody else's). The mean strategy weighs later walks more, as
// in Tammelin (2014).

#include <cstdint>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "arvek/game/view.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/key_index.hpp"

namespace arvek::detail {

/// A row of shares in proportion to what is above 0; all alike where nothing is.
void shares_above_zero(const std::vector<double>& numbers, std::vector<double>& shares);

/// The mean of what was drawn and the 95 % error of it.
struct DrawnMean {
    double sum = 0, squares = 0;
    int count = 0;

    void add(double value) {
        sum += value;
        squares += value * value;
        ++count;
    }
    double mean() const { return count > 0 ? sum / count : 0.0; }
    double error() const;
};

[[noreturn]] void throw_view_forgets();
[[noreturn]] void throw_moves_differ();
[[noreturn]] void throw_sum_not_zero();

/// The payoff of the first player, from which the second's follows.
template <Game G>
double payoff_of_first(const Outcome& outcome) {
    if (outcome.payoff(Player::First) != -outcome.payoff(Player::Second)) throw_sum_not_zero();
    return outcome.payoff(Player::First);
}

template <ViewedGame G>
class SampledRegrets {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using View = typename G::View;

    struct Set {
        Player player;
        View view;
        std::vector<Move> moves;
        std::vector<double> regrets, sums;
        bool open = false;  ///< the walk is below it
    };

    SampledRegrets(const G& game, std::size_t most_bytes, Budget& budget)
        : game_(game), most_bytes_(most_bytes), budget_(budget) {}

    const std::vector<Set>& sets() const { return sets_; }
    bool is_full() const { return bytes_ > most_bytes_; }
    bool is_over() const { return is_full() || budget_.stopped(); }

    /// Two walks from the position, one for each player's regrets. `weight`: of the walk in the mean strategy. False where
    /// the budget or the memory ended them.
    bool walk(const Position& start, Random& random, double weight) {
        for (const Player updated : {Player::First, Player::Second}) (void)walk(start, updated, random, weight);
        return !is_over();
    }

    /// The first player's payoff of one game by the mean strategy.
    double play(Position position, Random& random) {
        for (;;) {
            if (const auto outcome = game_.outcome(position)) return payoff_of_first<G>(*outcome);
            if (chance_is_next(game_, position)) {
                game_.play(position, drawn_event(game_, position, random));
                continue;
            }
            const Player player = game_.player_to_move(position);
            const std::uint32_t known = find(game_.view(position, player), player);
            if (known == KeyIndex::none) {  // never met: any move, and nothing to remember
                const MoveList<Move> legal = legal_moves(game_, position);
                game_.play(position, legal[static_cast<std::size_t>(random.below(legal.size()))]);
                continue;
            }
            std::vector<double> shares;
            shares_above_zero(sets_[known].sums, shares);
            game_.play(position, sets_[known].moves[drawn(shares, random)]);
        }
    }

    /// The place of what the player sees; `none` where it was never met.
    std::uint32_t find(const View& view, Player player) const {
        return known_.find(view_key(view) + index_of(player),
                           [&](std::uint32_t set) { return sets_[set].view == view && sets_[set].player == player; });
    }

   private:
    double walk(Position position, Player updated, Random& random, double weight) {
        if (is_over() || !budget_.spend_node()) return 0;
        while (!game_.outcome(position) && chance_is_next(game_, position))
            game_.play(position, drawn_event(game_, position, random));
        if (const auto outcome = game_.outcome(position)) {
            const double first = payoff_of_first<G>(*outcome);
            return updated == Player::First ? first : -first;
        }
        const Player player = game_.player_to_move(position);
        const std::uint32_t set = set_of(position, player);
        const std::size_t count = sets_[set].moves.size();
        if (sets_[set].open) throw_view_forgets();
        sets_[set].open = true;
        std::vector<double> shares;
        shares_above_zero(sets_[set].regrets, shares);
        double value = 0;
        if (player != updated) {
            for (std::size_t i = 0; i < count; ++i) sets_[set].sums[i] += weight * shares[i];
            Position next = position;
            game_.play(next, sets_[set].moves[drawn(shares, random)]);
            value = walk(std::move(next), updated, random, weight);
        } else {
            std::vector<double> of_move(count);
            for (std::size_t i = 0; i < count && !is_over(); ++i) {
                Position next = position;
                game_.play(next, sets_[set].moves[i]);
                of_move[i] = walk(std::move(next), updated, random, weight);
                value += shares[i] * of_move[i];
            }
            for (std::size_t i = 0; i < count && !is_over(); ++i) sets_[set].regrets[i] += of_move[i] - value;
        }
        sets_[set].open = false;
        return value;
    }

    static std::size_t drawn(const std::vector<double>& shares, Random& random) {
        double sum = 0;
        for (const double share : shares) sum += share;
        return weighted_draw(shares, random.unit() * sum);
    }

    std::uint32_t set_of(const Position& position, Player player) {
        View view = game_.view(position, player);
        legal_.clear();
        game_.generate_moves(position, legal_);
        if (legal_.empty()) throw_no_move();
        if (const std::uint32_t known = find(view, player); known != KeyIndex::none) {
            if (legal_.size() != sets_[known].moves.size()) throw_moves_differ();
            for (const Move& move : sets_[known].moves)
                if (!legal_.contains(move)) throw_moves_differ();
            return known;
        }
        const auto set = static_cast<std::uint32_t>(sets_.size());
        known_.add(view_key(view) + index_of(player), set);
        bytes_ += sizeof(Set) + 2 * sizeof(std::uint64_t) * 2 + legal_.size() * (sizeof(Move) + 2 * sizeof(double));
        sets_.push_back({player, std::move(view), {legal_.begin(), legal_.end()}, {}, {}});
        sets_.back().regrets.assign(legal_.size(), 0.0);
        sets_.back().sums.assign(legal_.size(), 0.0);
        return set;
    }

    const G& game_;
    std::size_t most_bytes_, bytes_ = 0;
    Budget& budget_;
    std::vector<Set> sets_;
    KeyIndex known_;
    MoveList<Move> legal_;
};

}  // namespace arvek::detail
