#pragma once
// Evaluator: what a search asks for the worth of a position. The game's own evaluate() is the default; an object fits
// in its place, such as features with weights from a file (position_features.hpp) or something that was learned.
//
//     auto material = std::make_shared<Material>();           // derived from arvek::Evaluator<MyGame>
//     arvek::Standard<MyGame> search(game, {}, material);

#include <memory>
#include <optional>

#include "arvek/game/evaluation.hpp"

namespace arvek {

/// What a search asks for the worth of a position.
template <class G>
class Evaluator {
   public:
    virtual ~Evaluator() = default;

    /// How good the position, which is not finished, is for the player, as an estimate in units of its own. For a game
    /// of two players the exact opposite for the other. Is asked by several threads at once.
    virtual Score evaluate(const G& game, const typename G::Position& position, Player player) const = 0;

    /// By how many of its units the odds to win double; nothing where it does not know: then as the game says
    /// (game/scale.hpp), or by how far its estimates spread.
    virtual std::optional<double> units_per_doubling() const { return std::nullopt; }
};

/// By the evaluator, or, where it is null, by the game itself.
template <Game G>
Score evaluation_by(const Evaluator<G>* evaluator, const G& game, const typename G::Position& position, Player player) {
    if (evaluator == nullptr) [[likely]]
        return evaluation_of(game, position, player);
    const Score score = evaluator->evaluate(game, position, player);
    return score.is_proven() ? Score::estimate(score.number()) : score;  // nothing is proven by an estimate
}

}  // namespace arvek
