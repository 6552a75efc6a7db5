#pragma once
// OpponentSpec: an opponent as data, such as what "standard@3" stands for.

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/opponent/level.hpp"
#include "arvek/search/techniques.hpp"

namespace arvek {

struct Profile;

struct OpponentSpec {
    std::string name = "standard";  ///< one of opponent_names()
    int level = highest_level;
    /// Limits of the caller's own. Any of them replaces all that the level says about how far to look; what the level
    /// overlooks stays.
    std::optional<int> depth{};
    std::optional<std::uint64_t> nodes{};
    std::optional<double> seconds{};
    Techniques techniques{};                   ///< of the standard search
    int threads = 1;                           ///< of the standard search
    std::size_t table_mebibytes = 16;          ///< of the standard search; 1 to most_table_mebibytes
    bool keep_table = false;                   ///< whether a decision may use what earlier ones left in the table
    bool margins = true;                       ///< false: to win counts, not by how much
    std::shared_ptr<const Profile> profile{};  ///< where the opponent is one of a file; `name` is then only said

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

}  // namespace arvek
