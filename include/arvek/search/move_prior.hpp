#pragma once
// MovePrior: how likely each move is to be good, before anything is searched; for Monte Carlo search.
//
//     struct ByCaptures final : arvek::MovePrior<MyGame> {
//         void weigh(const MyGame& game, const MyGame::Position& position, std::span<const MyGame::Move> moves,
//                    std::span<float> weights) const override;
//     };

#include <span>

#include "arvek/game/game.hpp"

namespace arvek {

/// How likely each move is to be good, before anything is searched.
template <class G>
class MovePrior {
   public:
    virtual ~MovePrior() = default;

    /// Sets a weight for each move, 0 or more, in any unit; only their shares of the sum count. Is asked by several
    /// threads at once.
    virtual void weigh(const G& game, const typename G::Position& position, std::span<const typename G::Move> moves,
                       std::span<float> weights) const = 0;
};

}  // namespace arvek
