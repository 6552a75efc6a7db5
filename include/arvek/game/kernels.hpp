#pragma once
// What several functions of a game do in one call: the innermost loops of searches, so that a call by pointer is made a
// node at most. detail/table_of.hpp has them of a game's own type.

#include <cstdint>

#include "arvek/game/outcome.hpp"
#include "arvek/game/score.hpp"

namespace arvek {

/// What the end of a game is worth, as the request asks.
class EndScores {
   public:
    /// Without margins an end counts 1, 0 or -1.
    explicit EndScores(bool margins) : most_(margins ? largest_payoff : 1) {}

    /// For the player, so many plies on. Throws RulesError where one of the two does not gain what the other loses.
    Score score(const Outcome& outcome, Player player, int ply) const {
        require_zero_sum(outcome);
        const Payoff payoff = outcome.payoff(player);
        return Score::proven(payoff > most_ ? most_ : payoff < -most_ ? -most_ : payoff, ply);
    }

   private:
    Payoff most_;
};

/// What all moves of a position come to.
struct CountedPly {
    std::uint64_t moves = 0;  ///< how many there are
    std::uint64_t ends = 0;   ///< those that end the game
};

/// The last ply before the horizon, for alpha-beta: every move until one refutes the position, and what comes after each.
struct HorizonPly {
    // What is asked.
    Player player;      ///< whose turn it is
    EndScores ends;     ///< what an end is worth
    int ply;            ///< of what comes after
    Score alpha;        ///< the window
    Score beta;         ///< its other end
    std::int64_t most;  ///< how many moves may be tried
    /// Where positions that come back count: the marks of the line, the root's at 0, and of the game before it.
    const std::uint64_t* marks = nullptr;
    int earlier = 0;                    ///< how many stand before the root
    bool alternating = true;            ///< whether the player to move changed with every move since the root
    Player last_mover = Player::First;  ///< whose turn it was in the position itself
    Score repetition{};                 ///< for the player
    // What is answered.
    Score best = Score::lowest();  ///< of all moves tried
    std::uint64_t move = 0;        ///< the best, where it is within the window
    std::int64_t nodes = 0;        ///< moves tried
    bool improved = false;         ///< whether there is such a move
    bool cut = false;              ///< whether it refutes the position
    bool horizon = false;          ///< whether the game goes on after one
};

}  // namespace arvek
