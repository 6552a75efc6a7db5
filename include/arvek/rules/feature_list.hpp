#pragma once
// FeatureList: one ply, all moves, features with weights. An opponent for any game, without an evaluation.
//
//     arvek::FeatureList<MyGame> features;
//     features.add("crates left", 2.0,
//                  [](const MyGame& game, const auto& before, const auto& move, const auto& after) {
//                      return game.crates_left(after);
//                  });
//     features.add_ends(100.0);
//     auto decision = features.decide(game, position, seed);
//
// A move is worth the sum of its features, each times its weight.

#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/quantities.hpp"
#include "arvek/rules/detail/worth_ranking.hpp"
#include "arvek/rules/temperament.hpp"

namespace arvek {

/// Chooses by features of moves, each times its weight.
template <Game G>
class FeatureList {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    /// What a feature is worth for a move.
    using Value = std::function<double(const G&, const Position& before, const Move&, const Position& after)>;

    /// `value(game, before, move, after)` gives any number.
    FeatureList& add(std::string name, double weight, Value value) {
        features_.push_back({std::move(name), weight, std::move(value)});
        return *this;
    }

    /// A quantity of the game. Throws InputError for one of the position, which is the same for every move.
    FeatureList& add(const Quantity<G>& quantity, double weight) {
        if (quantity.of == QuantityOf::Position)
            throw InputError("features",
                             std::string("'") + quantity.name + "' is of the position, the same for every move",
                             "a quantity of an actor, an action or a target");
        return add(quantity.name, weight,
                   [quantity](const G& game, const Position& before, const Move& move, const Position&) {
                       return quantity.value(game, before, move);
                   });
    }

    /// What the mover gets where the move ends the game: the payoff, less than 0 for a loss.
    FeatureList& add_ends(double weight) {
        return add("ends the game", weight,
                   [](const G& game, const Position& before, const Move&, const Position& after) {
                       const auto outcome = game.outcome(after);
                       return outcome ? static_cast<double>(outcome->payoff(game.player_to_move(before))) : 0.0;
                   });
    }

    /// A legal move, and all of them ranked with every feature that is not 0. Throws InputError for a finished position
    /// and where chance is next.
    Decision<Move> decide(const G& game, const Position& position, std::uint64_t seed) const {
        detail::WorthRanking<G> ranking(game, position);
        for (RankedMove<Move>& entry : ranking.all()) {
            Position after = position;
            game.play(after, entry.move);
            for (const Feature& feature : features_) {
                const double value = feature.value(game, position, entry.move, after);
                if (value == 0) continue;
                ranking.add(entry, feature.name, feature.weight * value,
                            detail::feature_text(feature.name, feature.weight, value));
            }
        }
        return ranking.decision(seed, "no feature");
    }

   private:
    struct Feature {
        std::string name;
        double weight;
        Value value;
    };

    std::vector<Feature> features_;
};

}  // namespace arvek
