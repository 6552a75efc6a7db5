#pragma once
// LearnedEvaluator and LearnedPrior: what was learned from play as the worth of positions, and as how likely moves are to
// be good.
//
//   const auto value = std::make_shared<arvek::LearnedEvaluator<MyGame>>(network);
//   const auto prior = std::make_shared<arvek::LearnedPrior<MyGame>>(network);
//   arvek::MonteCarlo<MyGame> search(game, {}, value, prior);

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <optional>
#include <utility>

#include "arvek/game/chance.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/learned_model.hpp"
#include "arvek/search/move_prior.hpp"

namespace arvek {

/// By so many units of a learned evaluation the odds to win double.
inline constexpr double learned_units_per_doubling = 100.0;

namespace detail {

template <PatternedGame G>
void read_both(const G& game, const typename G::Position& position, const LearnedNetwork& network) {
    const std::span<std::uint16_t> room = network.room();
    game.read_patterns(position, Player::First, room.first(network.patterns()));
    if (network.reads_both()) game.read_patterns(position, Player::Second, room.last(network.patterns()));
}

}  // namespace detail

/// What was learned as the worth of positions.
template <PatternedGame G>
class LearnedEvaluator final : public Evaluator<G> {
   public:
    /// For a game whose patterns are those of the network's model.
    explicit LearnedEvaluator(std::shared_ptr<const LearnedNetwork> network) : network_(std::move(network)) {}

    std::optional<double> units_per_doubling() const override { return learned_units_per_doubling; }

    Score evaluate(const G& game, const typename G::Position& position, Player player) const override {
        detail::read_both(game, position, *network_);
        double value = 0;
        if (chance_is_next(game, position)) {
            // Nobody is to move, so that it is asked about both alike.
            value = (double{network_->value(player)} - double{network_->value(rival_of(player))}) / 2.0;
        } else {
            const Player to_move = game.player_to_move(position);
            value = network_->value(to_move);
            if (player != to_move) value = -value;
        }
        return Score::estimate(std::llround(value * (learned_units_per_doubling / std::numbers::ln2)));
    }

   private:
    std::shared_ptr<const LearnedNetwork> network_;
};

/// What was learned as how likely moves are to be good.
template <PatternedGame G>
class LearnedPrior final : public MovePrior<G> {
   public:
    /// For a game whose patterns are those of the network's model, which has a prior.
    explicit LearnedPrior(std::shared_ptr<const LearnedNetwork> network) : network_(std::move(network)) {}

    void weigh(const G& game, const typename G::Position& position, std::span<const typename G::Move> moves,
               std::span<float> weights) const override {
        const Player mover = game.player_to_move(position);
        float most = -1e30f;
        for (std::size_t i = 0; i < moves.size(); ++i) {
            typename G::Position after = position;
            game.play(after, moves[i]);
            detail::read_both(game, after, *network_);
            weights[i] = network_->prior(mover);
            most = std::max(most, weights[i]);
        }
        for (std::size_t i = 0; i < moves.size(); ++i) weights[i] = std::exp(weights[i] - most);
    }

   private:
    std::shared_ptr<const LearnedNetwork> network_;
};

}  // namespace arvek
