#pragma once
// EquilibriumFound: strategies that nobody can profit by leaving, and how they are looked for (equilibrium.hpp).

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "arvek/game/player.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

/// How strategies are looked for.
struct EquilibriumOptions {
    double exploitability = 1e-4;          ///< enough; in points, 0 or more
    int iterations = 200'000;              ///< at the most, 1 or more; of drawn games, walks for each player
    std::size_t memory_mebibytes = 1'024;  ///< for the tree, or for the views, 1 or more
    bool sampled = false;                  ///< on drawn games; takes more iterations and less memory
    std::uint64_t seed = 1;                ///< of the drawn games
    std::optional<double> seconds{};       ///< for minimising; what is measured of its result comes on top
    Clock clock{};                         ///< for the seconds
    StopToken stop{};                      ///< asked now and then
};

/// Throws InputError for an option out of range.
void check_options(const EquilibriumOptions& options);

/// What to do behind one view.
template <class View, class Move>
struct MixedMoves {
    /// A move, and how often it is played.
    struct Share {
        Move move{};               ///< which
        double probability = 0.0;  ///< with which it is played
        /// The expected payoff of the move, against the other's strategy; 0 where that was not measured.
        double value = 0.0;
    };

    Player player = Player::First;  ///< who sees the view
    View view{};                    ///< what is seen
    std::vector<Share> moves;       ///< those that may be played
};

/// Strategies that nobody can profit by leaving.
template <class View, class Move>
struct EquilibriumFound {
    double value = 0.0;           ///< the first player's, when both play so
    bool measured = true;         ///< whether exploitability is known: not where the tree is too large to be laid out
    double exploitability = 0.0;  ///< half of what the best answers to both gain together
    /// The game's value lies no farther off `value`: what they gain together. Where that is not measured, the 95 % error
    /// of the mean over drawn games alone.
    double error = 0.0;
    std::vector<MixedMoves<View, Move>> strategy;  ///< in the order in which views come up
    int iterations = 0;                            ///< that it took
    std::uint64_t positions = 0;                   ///< of the tree; 0 where it was not laid out
    bool complete = false;                         ///< whether the exploitability is as small as was asked for
    double seconds = 0.0;                          ///< that it took
    std::string stopped_by;                        ///< "end", "iterations", "time", "stop" or, of drawn games, "memory"
};

}  // namespace arvek
