#pragma once
// Profile: an opponent as data, read from a file: what it chooses by, its levels, opening book, temperament and pace.
//
//     const Profile profile = arvek::read_profile(text, "keeper.toml");
//     auto opponent = arvek::make_opponent(game, arvek::opponent_of_profile(profile, 4));
//
// A profile knows names only. They are looked up in a game when an opponent is made of it; what the game does not have
// is an InputError with file, line and column. The keys are explained in demo/opponents/.

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/game/data_file.hpp"
#include "arvek/opponent/level.hpp"
#include "arvek/opponent/pace.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/rules/condition_kinds.hpp"
#include "arvek/rules/temperament.hpp"

namespace arvek {

/// A name in a file, and where it stands.
struct PlacedName {
    std::string name{};
    DataPlace place{};
};

/// A condition by names.
struct ConditionText {
    enum class Kind : std::uint8_t { Test, All, Any, None };

    Kind kind = Kind::All;
    PlacedName quantity{};
    Comparison comparison = Comparison::Is;
    double number = 0.0;
    std::optional<PlacedName> other{};  ///< a quantity instead of the number
    std::vector<ConditionText> parts{};
};

/// A rule by names.
struct RuleText {
    PlacedName name{};
    std::optional<PlacedName> use{};  ///< one of the ready rules instead of all else
    std::optional<PlacedName> actor{}, action{}, kind{};
    ConditionText when{};
    TargetChoice choose = TargetChoice::Any;
    PlacedName by{};
    double chance = 1.0;
    bool once = false;
    int every = 1;
    int from_level = 1;
};

struct FallbackText {
    std::optional<PlacedName> action{};  ///< none: any move
    double weight = 1.0;
};

struct WeightText {
    PlacedName name{};
    double weight = 1.0;
    int from_level = 1;
};

/// A position and what is played there, drawn by weight.
struct BookEntry {
    DataPlace place{};
    std::optional<std::string> position{};  ///< its text, or
    std::vector<std::string> moves{};       ///< the moves that lead to it from the initial position
    std::vector<WeightText> replies{};
};

/// What a file says about a level; what it does not say stays as it is.
struct LevelText {
    std::optional<int> depth{};
    std::optional<std::uint64_t> nodes{};
    std::optional<std::uint64_t> playouts{};
    std::optional<double> seconds{}, overlooks{}, noise{}, most_lost{};
    std::optional<bool> sees_wins{}, sees_losses{};
};

/// How a level follows the player.
struct FollowText {
    int least = lowest_level;
    int most = highest_level;
    int after = 1;
};

/// An option of the chooser, by name.
struct PlacedOption {
    PlacedName name{};
    OptionValue value{};
    DataPlace place{};  ///< of the value
};

struct Profile {
    std::string source{};  ///< the name of the file
    std::string name{};
    std::string about{};
    PlacedName game{};
    PlacedName chooser{};       ///< by name: what it chooses by
    int level = highest_level;  ///< where none is asked for
    DataPlace level_place{};
    /// Limits, where it looks ahead; at the highest level they are all there is, and no level looks farther.
    std::optional<int> depth{};
    std::optional<std::uint64_t> nodes{};
    std::optional<std::uint64_t> playouts{};
    std::optional<double> seconds{};
    DataPlace limits_place{};
    bool margins = true;
    std::vector<PlacedOption> options{};   ///< of the chooser
    std::vector<WeightText> evaluation{};  ///< weights of quantities of positions; empty: the game's own evaluation
    std::vector<RuleText> rules{};
    std::vector<FallbackText> fallback{};
    std::vector<WeightText> suggestions{};  ///< empty: all that the game has
    Temperament temperament{};
    std::vector<PlacedName> reasons{};  ///< every reason that the temperament and the preferences name
    std::vector<WeightText> features{};
    double ends_weight = 0.0;  ///< of the feature "ends the game"
    std::array<LevelText, highest_level> levels{};
    std::optional<FollowText> follow{};
    std::vector<BookEntry> book{};
    int book_from_level = 1;
    Pace pace{};
};

/// Throws InputError with file, line and column for everything that is wrong whatever the game.
Profile read_profile(std::string_view text, std::string_view source);

/// The spec of an opponent of that profile; no level: the profile's own.
OpponentSpec opponent_of_profile(Profile profile, std::optional<int> level = std::nullopt);

/// What people call the opponent: the name that its profile gives it and its level, or else opponent_text().
std::string opponent_title(const OpponentSpec& spec);

/// The settings of a level as the profile has them; `table`: of its chooser.
LevelSettings level_settings(const Profile& profile, int level, LevelTable table);

/// "win now", "stop the rival", "the game's preference".
const std::vector<std::string>& ready_rule_names();

/// Throws InputError at the place of a name in a profile.
[[noreturn]] void fail_in_profile(const Profile& profile, const DataPlace& place, const std::string& problem,
                                  const std::string& expected);
/// The same for a name that is none of those known.
[[noreturn]] void fail_unknown_in_profile(const Profile& profile, const PlacedName& name, const char* what,
                                          const std::vector<std::string>& known);

}  // namespace arvek
