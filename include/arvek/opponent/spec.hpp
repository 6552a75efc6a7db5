#pragma once
// OpponentSpec: an opponent as data, such as what "standard@3" stands for.

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/search/limits.hpp"
#include "arvek/search/techniques.hpp"

namespace arvek {

/// The levels of difficulty: 1 is the easiest, 10 an opponent's full strength.
inline constexpr int lowest_level = 1;
inline constexpr int highest_level = 10;

struct OpponentSpec {
    std::string name = "standard";  ///< one of opponent_names()
    int level = highest_level;
    /// Limits of the caller's own. Any of them replaces all that the level says about how far to look; what the level
    /// overlooks stays.
    std::optional<int> depth{};
    std::optional<std::uint64_t> nodes{};
    std::optional<double> seconds{};
    Techniques techniques{};  ///< of the standard search
    int threads = 1;          ///< of the standard search
    bool margins = true;      ///< false: to win counts, not by how much

    bool has_own_limits() const { return depth || nodes || seconds; }
};

/// "random", "ruled", "minimax", "alphabeta", "standard".
const std::vector<std::string>& opponent_names();

/// Whether the opponent looks ahead, so that limits mean something to it.
bool opponent_searches(std::string_view name);
/// Whether the opponent has levels.
bool opponent_has_levels(std::string_view name);

/// Reads "name" or "name@level". Throws InputError for an unknown name or a level out of range.
OpponentSpec read_opponent(std::string_view text);
/// The way back: "name", or "name@level" below full strength.
std::string opponent_text(const OpponentSpec& spec);

/// Throws InputError for a level from 1 to 10 that is not, or is not had.
void check_level(std::string_view opponent, int level);

/// What a level does to an opponent.
struct LevelSettings {
    Limits limits{};               ///< how far it looks; at every level at most so many nodes, so that it answers soon
    double overlooks = 0.0;        ///< the chance that it does not see a move at all, for each move by itself
    bool always_sees_wins = true;  ///< whether a move that wins at once is safe from that
    bool margins = true;           ///< whether it counts by how much a game is won
};

/// The settings of levels 1 to 10. Requires a level in that range.
LevelSettings level_settings(int level);

}  // namespace arvek
