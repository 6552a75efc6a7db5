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
    std::string name{};  ///< as it is written
    DataPlace place{};   ///< where it stands
};

/// Which actions, by names.
struct ActFilterText {
    /// Who, what, of which kind and at whom; of each list one must fit, where it has any.
    std::vector<PlacedName> actors{}, actions{}, kinds{}, targets{};
    std::vector<PlacedName> no_actors{}, no_actions{}, no_kinds{}, no_targets{};  ///< the same, of which none may fit

    /// Whether it lets everything through.
    bool asks_nothing() const {
        return actors.empty() && actions.empty() && kinds.empty() && targets.empty() && no_actors.empty() &&
               no_actions.empty() && no_kinds.empty() && no_targets.empty();
    }
};

/// A number by names.
struct MeasureText {
    /// What the number is.
    enum class Kind : std::uint8_t {
        Number,
        Named,     ///< a quantity, a state or the turn
        Quantity,  ///< a quantity or the turn
        State,
        Count,      ///< how often something was done
        TurnsSince  ///< how many turns ago
    };

    Kind kind = Kind::Number;                 ///< what it is
    PlacedName name{};                        ///< or of the action or the kind that was done
    double number = 0.0;                      ///< of a number
    bool is_boolean = false;                  ///< a number that the file gives as true or false
    DataPlace place{};                        ///< where it stands
    ActFilterText done{};                     ///< what is counted, or was done
    DoneBy by = DoneBy::Own;                  ///< who did it
    Arithmetic operation = Arithmetic::Plus;  ///< of one among `with`: what is done with it
    std::vector<MeasureText> with{};          ///< to this number, in order
};

/// A condition by names.
struct ConditionText {
    /// What the condition is.
    enum class Kind : std::uint8_t {
        Test,
        All,
        Any,
        None,
        Named  ///< one of the profile's own conditions, which is its only part
    };

    Kind kind = Kind::All;                   ///< what it is
    DataPlace place{};                       ///< where it stands
    MeasureText left{};                      ///< of a test: the number on its left
    Comparison comparison = Comparison::Is;  ///< of a test
    MeasureText right{};                     ///< of a test: the number on its right
    PlacedName name{};                       ///< of a named one
    std::vector<ConditionText> parts{};      ///< of a group

    bool always_holds() const { return kind == Kind::All && parts.empty(); }  ///< whether it asks nothing
};

/// A number of the opponent's own that lasts from turn to turn.
struct StateText {
    PlacedName name{};        ///< of the state
    double first = 0.0;       ///< at the start of a game; 0 or 1 of a boolean
    bool is_boolean = false;  ///< whether the file gives it as true or false
};

/// What a rule does to a state.
struct StateChangeText {
    PlacedName state{};                               ///< which
    StateChange::Kind kind = StateChange::Kind::Set;  ///< what is done to it
    double number = 0.0;                              ///< what it is set to, or what is added
    bool is_boolean = false;                          ///< whether the file gives it as true or false
    bool to_turn = false;                             ///< the number of the turn instead of `number`
    DataPlace place{};                                ///< of the value
};

/// What a rule chooses by among the moves that meet its conditions.
struct ChoiceText {
    TargetChoice choose = TargetChoice::Lowest;  ///< the lowest or the highest
    PlacedName by{};                             ///< the quantity that is compared
};

/// A rule by names.
struct RuleText {
    PlacedName name{};                       ///< of the rule
    DataPlace place{};                       ///< where it begins
    std::optional<PlacedName> use{};         ///< one of the ready rules; the rest says when
    ActFilterText acts{};                    ///< what it is for
    ConditionText when{};                    ///< when it applies
    std::vector<ChoiceText> choose{};        ///< the second where the first is level, and so on
    double chance = 1.0;                     ///< how surely it fires, 0 to 1
    bool once = false;                       ///< at most once a game
    int every = 1;                           ///< at most once in so many decisions
    int from_level = 1;                      ///< below that level it is asleep
    std::vector<StateChangeText> changes{};  ///< what it does to states
    std::optional<PlacedName> group{};       ///< the group that it belongs to
    double weight = 1.0;                     ///< where its group draws, more than 0
    double above = 0.0;                      ///< of suggestions: what the most urgent must be worth more than
};

/// Rules that share conditions, and perhaps draw among themselves.
struct GroupText {
    PlacedName name{};     ///< of the group
    ConditionText when{};  ///< what holds for all its rules
    bool draw = false;     ///< whether one of those that apply is drawn by weight
    int from_level = 1;    ///< below that level it is asleep
};

/// A change of states at the start of a decision.
struct ChangeText {
    PlacedName name{};                       ///< of the change
    ConditionText when{};                    ///< when it is due
    std::vector<StateChangeText> changes{};  ///< what it does to states
};

/// What is done where no rule applies.
struct FallbackText {
    ActFilterText acts{};  ///< what it is
    ConditionText when{};  ///< when it may be
    double weight = 1.0;   ///< how likely it is among the others, more than 0
    DataPlace place{};     ///< where it stands
};

/// When a suggestion is listened to.
struct SuggestionText {
    PlacedName name{};     ///< its reason
    ActFilterText acts{};  ///< what it may propose
    ConditionText when{};  ///< when it is listened to
    double weight = 1.0;   ///< how much, 0 or more
    int from_level = 1;    ///< below that level it is not
};

/// A name and its weight.
struct WeightText {
    PlacedName name{};    ///< of what is weighed
    double weight = 1.0;  ///< how much
    int from_level = 1;   ///< below that level it does not count
};

/// A position and what is played there, drawn by weight.
struct BookEntry {
    DataPlace place{};                      ///< where it stands
    std::optional<std::string> position{};  ///< its text, or
    std::vector<std::string> moves{};       ///< the moves that lead to it from the initial position
    std::vector<WeightText> replies{};      ///< moves, drawn by weight
};

/// What a file says about a level; what it does not say stays as it is.
struct LevelText : LevelChange {
    std::optional<std::uint64_t> playouts{};  ///< at the most
    std::optional<double> seconds{};          ///< at the most
    std::optional<double> rating{};           ///< as it was measured; says nothing about how it plays
    DataPlace place{};                        ///< where it stands
};

/// How a level follows the player.
struct FollowText {
    int least = lowest_level;  ///< the lowest that it comes to
    int most = highest_level;  ///< the highest that it comes to
    int after = 1;             ///< games from one change to the next, at the least
    DataPlace place{};         ///< where it stands
};

/// An option of the chooser, by name.
struct PlacedOption {
    PlacedName name{};    ///< of the option
    OptionValue value{};  ///< what it is set to
    DataPlace place{};    ///< of the value
};

/// Another program that chooses: what is run, and how one talks with it. Nothing of it is ever given to a shell.
struct ProgramText {
    std::vector<std::string> command{};  ///< the program, looked for in PATH where it has no slash, and its arguments
    std::string folder{};                ///< that it works in; empty: the caller's
    std::vector<std::pair<std::string, std::string>> environment{};  ///< variables besides the caller's, or instead
    std::string protocol = "uci";                                    ///< how one talks with it
    std::vector<PlacedOption> options{};  ///< of the program, by the names that it gives them
    double start_seconds = 10.0;          ///< that it may take until it is ready
    double answer_seconds = 60.0;  ///< that a move may take where no limit of time is set; beyond one, 2 s at the most
    bool restart = false;          ///< whether it is started once more, and asked again, when it fails
    DataPlace place{};             ///< where it stands
};

/// An opponent as data.
struct Profile {
    std::string source{};                ///< the name of the file
    std::vector<std::string> sources{};  ///< of it and of the files that it is based on, by DataPlace::file
    std::string name{};                  ///< what people call it
    std::string about{};                 ///< what it is like, in a sentence
    PlacedName game{};                   ///< that it is for; empty: any
    std::vector<std::pair<PlacedName, std::string>> parameters{};  ///< of the game, as texts
    PlacedName chooser{};                                          ///< by name: what it chooses by
    int level = highest_level;                                     ///< where none is asked for
    DataPlace level_place{};                                       ///< where the level stands
    /// Limits, where it looks ahead; at the highest level they are all there is, and no level looks farther.
    std::optional<int> depth{};
    std::optional<std::uint64_t> nodes{};     ///< positions
    std::optional<std::uint64_t> playouts{};  ///< random games
    std::optional<double> seconds{};          ///< of thinking
    DataPlace limits_place{};                 ///< where the limits stand
    bool margins = true;                      ///< whether it counts by how much a game is won
    std::vector<PlacedOption> options{};      ///< of the chooser
    std::vector<WeightText> evaluation{};     ///< weights of quantities of positions; empty: the game's own evaluation
    std::shared_ptr<const LearnedNetwork> model{};  ///< what was learned from play, in place of an evaluation
    DataPlace model_place{};                        ///< where the model is named
    std::vector<RuleText> rules{};                  ///< asked in this order
    std::vector<FallbackText> fallback{};           ///< what is done where no rule applies
    std::vector<StateText> states{};                ///< numbers that last from turn to turn
    std::vector<ChangeText> changes{};              ///< of states, at the start of a decision
    std::vector<GroupText> groups{};                ///< of rules
    std::vector<std::pair<PlacedName, ConditionText>> conditions{};  ///< by name
    std::vector<SuggestionText> suggestions{};                       ///< empty: all that the game has
    Temperament temperament{};                                       ///< how it weighs reasons
    std::vector<DataPlace> axis_places{};                            ///< of each of its axes
    std::vector<PlacedName> reasons{};      ///< every reason that the temperament and the preferences name
    std::vector<PlacedName> individuals{};  ///< every actor that the temperament names
    /// 0 to 1
    std::optional<double> care_for_wins{}, care_for_losses{};  ///< at every level, instead of what levels do
    std::vector<WeightText> features{};                        ///< weights of quantities of moves
    double ends_weight = 0.0;                                  ///< of the feature "ends the game"
    std::array<LevelText, highest_level> levels{};             ///< what the file says about each level
    std::optional<FollowText> follow{};                        ///< whether the level follows the player, and how
    std::optional<ProgramText> program{};                      ///< another program that chooses
    std::vector<BookEntry> book{};                             ///< its opening book
    int book_from_level = 1;                                   ///< below that level it has none
    Pace pace{};                                               ///< how fast it answers
};

/// The text of a file that another is based on or names, by its path. Throws InputError where it cannot be read.
using ReadBase = std::function<std::string(const std::string& path)>;

/// How a profile is read.
struct ProfileReading {
    ReadBase
        read_base{};  ///< reads what the profile is based on, and a model; the path is one beside the profile itself
    /// Is given everything that is wrong, instead of the first being thrown; what is no TOML, and a profile without a
    /// name, a game or a chooser, is thrown all the same.
    std::vector<std::string>* problems = nullptr;
    /// Numbers instead of those of the file, by key: "temperament.hunger.value", "rule.mend a mate.chance".
    std::vector<std::pair<std::string, double>> numbers{};
};

/// Throws InputError with file, line and column for everything that is wrong whatever the game.
Profile read_profile(std::string_view text, std::string_view source, const ProfileReading& reading = {});

/// A number of a profile's file.
struct ProfileNumber {
    double value = 0.0;       ///< as the file has it
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
