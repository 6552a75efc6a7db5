#pragma once
// PositionFeatures: an evaluator that adds up features of a position, each times its weight. A profile's [evaluation]
// is one, over the quantities that a game offers of its positions.
//
//     auto features = std::make_shared<arvek::PositionFeatures<MyGame>>();
//     features->add("crates", 100.0, [](const MyGame& game, const MyGame::Position& position, arvek::Player player) {
//         return game.crates_of(position, player);
//     });
//     arvek::AlphaBeta<MyGame> search(game, features);

#include <cmath>
#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/input_error.hpp"
#include "arvek/game/quantities.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek {

/// Adds up features of a position, each times its weight.
template <Game G>
class PositionFeatures final : public Evaluator<G> {
   public:
    using Position = typename G::Position;
    using Value = std::function<double(const G&, const Position&, Player)>;  ///< what a feature is worth to a player

    /// What one feature adds.
    struct Part {
        std::string name;     ///< of the feature
        double weight = 0.0;  ///< what it is multiplied with
        double value = 0.0;   ///< what it is worth there
    };

    /// `value(game, position, player)` gives any number, for that player. What the rival has of it is taken off, so
    /// that the evaluation is the exact opposite for the two.
    PositionFeatures& add(std::string name, double weight, Value value) {
        features_.push_back({std::move(name), weight,
                             [value = std::move(value)](const G& game, const Position& position, Player player) {
                                 return value(game, position, player) - value(game, position, rival_of(player));
                             }});
        return *this;
    }

    /// A quantity of positions, which a game, of the type G or seen as an Of, gives as the player to move sees it. Throws
    /// InputError for one of a move.
    template <class Of>
    PositionFeatures& add(const Quantity<Of>& quantity, double weight) {
        if (quantity.of != QuantityOf::Position)
            throw InputError("evaluation", std::string("'") + quantity.name + "' is of a move, and a position has none",
                             "a quantity of the position");
        features_.push_back({quantity.name, weight, [quantity](const G& game, const Position& position, Player player) {
                                 const double value = quantity.value(game, position, typename G::Move{});
                                 return game.player_to_move(position) == player ? value : -value;
                             }});
        return *this;
    }

    /// The sum, rounded.
    Score evaluate(const G& game, const Position& position, Player player) const override {
        double sum = 0;
        for (const Feature& feature : features_) sum += feature.weight * feature.value(game, position, player);
        constexpr double most = Score::largest_estimate;
        return Score::estimate(std::llround(sum < -most ? -most : sum > most ? most : sum));
    }

    /// What each feature adds, in the order in which they were added.
    std::vector<Part> parts(const G& game, const Position& position, Player player) const {
        std::vector<Part> parts;
        for (const Feature& feature : features_)
            parts.push_back({feature.name, feature.weight, feature.value(game, position, player)});
        return parts;
    }

    bool empty() const { return features_.empty(); }  ///< whether there is no feature

   private:
    struct Feature {
        std::string name;
        double weight;
        Value value;
    };

    std::vector<Feature> features_;
};

}  // namespace arvek
