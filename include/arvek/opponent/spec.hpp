#pragma once
// OpponentSpec: an opponent as data, such as what "standard@3" stands for.

#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/opponent/chooser.hpp"
#include "arvek/opponent/level.hpp"
#include "arvek/opponent/options.hpp"

namespace arvek {

/// An opponent as data.
struct OpponentSpec {
    std::string name = "standard";  ///< of a chooser
    std::optional<int> level{};     ///< none: the profile's own, or the highest
    /// Limits of the caller's own. A depth or a number of nodes or playouts replaces all that the level says about how far to look.
    /// A time alone holds besides what the level or the profile says, except at the highest level without a profile,
    /// which then has no other limit. What the level overlooks stays.
    std::optional<int> depth{};
    std::optional<std::uint64_t> nodes{};      ///< positions
    std::optional<std::uint64_t> playouts{};   ///< random games
    std::optional<double> seconds{};           ///< of thinking
    Options options{};                         ///< of the chooser, by name; they go before those of the profile
    std::string state{};                       ///< what its rules remember from before: "phase=2 turn=31"
    bool margins = true;                       ///< false: to win counts, not by how much
    std::shared_ptr<const Profile> profile{};  ///< where the opponent is one of a file; `name` is then only said

    /// The name of its chooser: that of the profile where there is one.
    const std::string& chooser_name() const;
    /// Whether it is limited otherwise than by its level.
    bool has_own_limits() const { return depth || nodes || playouts || seconds; }
    friend bool operator==(const OpponentSpec&, const OpponentSpec&) = default;
};

/// The choosers that every game has, as far as it offers what they need: "random", "ruled", "suggestions", "features",
/// "minimax", "alphabeta", "expectation", "maxn", "paranoid", "montecarlo", "standard".
std::span<const ChooserInfo> built_in_choosers();

/// The one of that name; nullptr where there is none.
const ChooserInfo* find_chooser(std::span<const ChooserInfo> choosers, std::string_view name);

/// The level that the spec means: its own, that of its profile, or the highest.
int level_of(const OpponentSpec& spec);

/// Reads "name" or "name@level". Throws InputError for a name that is none of `known`, for a level out of range, and
/// for one that is not had.
OpponentSpec read_opponent(std::string_view text, std::span<const ChooserInfo> known = built_in_choosers());
/// The way back: "name", or "name@level" below full strength.
std::string opponent_text(const OpponentSpec& spec);

/// Throws InputError for a level that is not one of 1 to 10.
void check_level(int level);

}  // namespace arvek
