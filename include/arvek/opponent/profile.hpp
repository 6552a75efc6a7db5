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
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/data_file.hpp"
#include "arvek/opponent/level.hpp"
#include "arvek/opponent/pace.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/rules/condition_kinds.hpp"
#include "arvek/rules/memory.hpp"
#include "arvek/rules/temperament.hpp"
#include "arvek/search/learned_model.hpp"

namespace arvek {

/// A name in a file, and where it stands.
struct PlacedName {
    std::string name{};
    DataPlace place{};
};

/// Which actions, by names.
struct ActFilterText {
    std::vector<PlacedName> actors{}, actions{}, kinds{}, targets{};
    std::vector<PlacedName> no_actors{}, no_actions{}, no_kinds{}, no_targets{};

    bool asks_nothing() const {
        return actors.empty() && actions.empty() && kinds.empty() && targets.empty() && no_actors.empty() &&
               no_actions.empty() && no_kinds.empty() && no_targets.empty();
    }
};

/// A number by names.
struct MeasureText {
    enum class Kind : std::uint8_t {
        Number,
        Named,     ///< a quantity, a state or the turn
        Quantity,  ///< a quantity or the turn
        State,
        Count,      ///< how often something was done
        TurnsSince  ///< how many turns ago
    };

    Kind kind = Kind::Number;
    PlacedName name{};  ///< or of the action or the kind that was done
    double number = 0.0;
    bool is_boolean = false;  ///< a number that the file gives as true or false
    DataPlace place{};
    ActFilterText done{};
    DoneBy by = DoneBy::Own;
    Arithmetic operation = Arithmetic::Plus;  ///< of one among `with`: what is done with it
    std::vector<MeasureText> with{};          ///< to this number, in order
};

/// A condition by names.
struct ConditionText {
    enum class Kind : std::uint8_t {
        Test,
        All,
        Any,
        None,
        Named  ///< one of the profile's own conditions, which is its only part
    };

    Kind kind = Kind::All;
    DataPlace place{};
    MeasureText left{};
    Comparison comparison = Comparison::Is;
    MeasureText right{};
    PlacedName name{};
    std::vector<ConditionText> parts{};

    bool always_holds() const { return kind == Kind::All && parts.empty(); }
};

/// A number of the opponent's own that lasts from turn to turn.
struct StateText {
    PlacedName name{};
    double first = 0.0;
    bool is_boolean = false;
};

/// What a rule does to a state.
struct StateChangeText {
    PlacedName state{};
    StateChange::Kind kind = StateChange::Kind::Set;
    double number = 0.0;
    bool is_boolean = false;
    bool to_turn = false;
    DataPlace place{};  ///< of the value
};

struct ChoiceText {
    TargetChoice choose = TargetChoice::Lowest;
    PlacedName by{};
};

/// A rule by names.
struct RuleText {
    PlacedName name{};
    DataPlace place{};
    std::optional<PlacedName> use{};  ///< one of the ready rules; the rest says when
    ActFilterText acts{};
    ConditionText when{};
    std::vector<ChoiceText> choose{};
    double chance = 1.0;
    bool once = false;
    int every = 1;
    int from_level = 1;
    std::vector<StateChangeText> changes{};
    std::optional<PlacedName> group{};
    double weight = 1.0;
    double above = 0.0;  ///< of suggestions: what the most urgent must be worth more than
};

/// Rules that share conditions, and perhaps draw among themselves.
struct GroupText {
    PlacedName name{};
    ConditionText when{};
    bool draw = false;
    int from_level = 1;
};

/// A change of states at the start of a decision.
struct ChangeText {
    PlacedName name{};
    ConditionText when{};
    std::vector<StateChangeText> changes{};
};

struct FallbackText {
    ActFilterText acts{};
    ConditionText when{};
    double weight = 1.0;
    DataPlace place{};
};

/// When a suggestion is listened to.
struct SuggestionText {
    PlacedName name{};
    ActFilterText acts{};
    ConditionText when{};
    double weight = 1.0;
    int from_level = 1;
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
struct LevelText : LevelChange {
    std::optional<std::uint64_t> playouts{};
    std::optional<double> seconds{};
    std::optional<double> rating{};  ///< as it was measured; says nothing about how it plays
    DataPlace place{};
};

/// How a level follows the player.
struct FollowText {
    int least = lowest_level;
    int most = highest_level;
    int after = 1;
    DataPlace place{};
};

/// An option of the chooser, by name.
struct PlacedOption {
    PlacedName name{};
    OptionValue value{};
    DataPlace place{};  ///< of the value
};

/// Another program that chooses: what is run, and how one talks with it. Nothing of it is ever given to a shell.
struct ProgramText {
    std::vector<std::string> command{};  ///< the program, looked for in PATH where it has no slash, and its arguments
    std::string folder{};                ///< that it works in; empty: the caller's
    std::vector<std::pair<std::string, std::string>> environment{};  ///< variables besides the caller's, or instead
    std::string protocol = "uci";
    std::vector<PlacedOption> options{};  ///< of the program, by the names that it gives them
    double start_seconds = 10.0;          ///< that it may take until it is ready
    double answer_seconds = 60.0;  ///< that a move may take where no limit of time is set; beyond one, 2 s at the most
    bool restart = false;          ///< whether it is started once more, and asked again, when it fails
    DataPlace place{};
};

struct Profile {
    std::string source{};                ///< the name of the file
    std::vector<std::string> sources{};  ///< of it and of the files that it is based on, by DataPlace::file
    std::string name{};
    std::string about{};
    PlacedName game{};
    std::vector<std::pair<PlacedName, std::string>> parameters{};  ///< of the game, as texts
    PlacedName chooser{};                                          ///< by name: what it chooses by
    int level = highest_level;                                     ///< where none is asked for
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
    std::shared_ptr<const LearnedNetwork> model{};  ///< what was learned from play, in place of an evaluation
    DataPlace model_place{};
    std::vector<RuleText> rules{};
    std::vector<FallbackText> fallback{};
    std::vector<StateText> states{};
    std::vector<ChangeText> changes{};
    std::vector<GroupText> groups{};
    std::vector<std::pair<PlacedName, ConditionText>> conditions{};  ///< by name
    std::vector<SuggestionText> suggestions{};                       ///< empty: all that the game has
    Temperament temperament{};
    std::vector<DataPlace> axis_places{};   ///< of each of its axes
    std::vector<PlacedName> reasons{};      ///< every reason that the temperament and the preferences name
    std::vector<PlacedName> individuals{};  ///< every actor that the temperament names
    std::optional<double> care_for_wins{}, care_for_losses{};  ///< at every level, instead of what levels do
    std::vector<WeightText> features{};
    double ends_weight = 0.0;  ///< of the feature "ends the game"
    std::array<LevelText, highest_level> levels{};
    std::optional<FollowText> follow{};
    std::optional<ProgramText> program{};
    std::vector<BookEntry> book{};
    int book_from_level = 1;
    Pace pace{};
};

/// The text of a file that another is based on or names, by its path. Throws InputError where it cannot be read.
using ReadBase = std::function<std::string(const std::string& path)>;

struct ProfileReading {
    ReadBase
        read_base{};  ///< reads what the profile is based on, and a model; the path is one beside the profile itself
    /// Is given everything that is wrong, instead of the first being thrown; what is no TOML, and a profile without a
    /// name, a game or a chooser, is thrown all the same.
    std::vector<std::string>* problems = nullptr;
    /// Numbers instead of those of the file, by key: "temperament.daring.value", "rule.mend a mate.chance".
    std::vector<std::pair<std::string, double>> numbers{};
};

/// Throws InputError with file, line and column for everything that is wrong whatever the game.
Profile read_profile(std::string_view text, std::string_view source, const ProfileReading& reading = {});

/// A number of a profile's file.
struct ProfileNumber {
    double value = 0.0;
    bool is_integer = false;  ///< whether it is written as one
    DataPlace place{};        ///< with `file` above 0 in a file that the profile is based on
};

/// The number of a key as in ProfileReading::numbers; nothing where the profile leaves it out. Throws InputError for a
/// file that cannot be read, and a key that is not there or is no number.
std::optional<ProfileNumber> number_of_profile(std::string_view text, std::string_view source,
                                               const ReadBase& read_base, const std::string& key);

/// The text of a profile with other numbers in their places, and everything else as it was. Throws InputError as
/// number_of_profile(), and for a number that the profile itself leaves out.
std::string text_with_numbers(std::string_view text, std::string_view source, const ReadBase& read_base,
                              const std::vector<std::pair<std::string, double>>& numbers);

/// The spec of an opponent of that profile; no level: the profile's own.
OpponentSpec opponent_of_profile(Profile profile, std::optional<int> level = std::nullopt);

/// What people call the opponent: the name that its profile gives it and its level, or else opponent_text().
std::string opponent_title(const OpponentSpec& spec);

/// The settings of a level as the profile has them, which goes before `of_game`; `table`: of its chooser.
LevelSettings level_settings(const Profile& profile, int level, LevelTable table, const LevelChange& of_game = {});

/// "win now", "stop the rival", "make a double threat", "deny a double threat", "suggestions", "the game's preference".
const std::vector<std::string>& ready_rule_names();

/// Throws InputError at the place of a name in a profile.
[[noreturn]] void fail_in_profile(const Profile& profile, const DataPlace& place, const std::string& problem,
                                  const std::string& expected);
/// The same for a name that is none of those known.
[[noreturn]] void fail_unknown_in_profile(const Profile& profile, const PlacedName& name, const char* what,
                                          const std::vector<std::string>& known);

}  // namespace arvek
