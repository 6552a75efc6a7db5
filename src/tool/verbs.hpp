#pragma once
// The verbs of the tool. Each returns the exit status and throws InputError for wrong use.

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "arguments.hpp"
#include "arvek/session/json.hpp"
#include "arvek/session/session.hpp"
#include "arvek/tool/tool.hpp"
#include "writing.hpp"

namespace arvek::tool {

/// The game of a command line at its position. Throws InputError for an unknown game, parameter or position.
Session open_session(const Tool& tool, const Arguments& arguments);
/// The game of a command line, with programs among what its opponents can choose by.
OpenGame open_game(const Tool& tool, const std::string& name, const std::vector<std::string>& settings);
/// Throws InputError when the game is over at the position.
void require_going_on(const Session& session);
/// The [parameters] of a profile for the game as it is, after an empty line; nothing where it has none.
std::string toml_parameters(const Session& session);

/// The opponent of --opponent, --level, the options and the limits. Throws InputError for what does not go together.
OpponentSpec opponent_of(const Arguments& arguments, const Session& session, const std::string& otherwise);

/// The text of a file that a profile names: what it is based on, or a model, which may be large.
std::string read_named_file(const std::string& path);

/// The path and the level of a profile; nothing where the text names none.
struct ProfilePath {
    std::string path;
    std::optional<int> level;
};
std::optional<ProfilePath> profile_path(const std::string& text);
std::vector<std::string> names_of(const std::vector<std::unique_ptr<GameEntry>>& games);
/// The profile in a file, with all that it is based on. Throws InputError with its place for what is wrong with it.
Profile profile_in(const std::string& path, ProfileReading reading = {});
/// A name, or the path of a profile for the game, each perhaps with a level.
OpponentSpec opponent_named(const std::string& text, const Session& session);
/// What the opponent chooses by. Throws InputError where the game has no such chooser.
const ChooserInfo& chooser_of(const OpponentSpec& spec, const Session& session);

/// The games of a file in a notation of the game's own, by its ending; nothing where it has none of that ending.
std::optional<std::vector<GameRecord>> games_in_notation(const Tool& tool, const Session& session,
                                                         const std::string& path);

/// Who decides where nobody is named: the standard search, or else rules.
std::string usual_opponent(const Session& session);

/// The most games that a command plays.
inline constexpr int most_games = 1'000'000;

/// --seed, or `otherwise`.
std::uint64_t seed_of(const Arguments& arguments, std::uint64_t otherwise);

int run_games(const Tool& tool, const Arguments& arguments, const Console& console);
int run_play(const Tool& tool, const Arguments& arguments, const Console& console);
int run_decide(const Tool& tool, const Arguments& arguments, const Console& console);
int run_count(const Tool& tool, const Arguments& arguments, const Console& console);
int run_solve(const Tool& tool, const Arguments& arguments, const Console& console);
int run_words(const Tool& tool, const Arguments& arguments, const Console& console);
int run_story(const Tool& tool, const Arguments& arguments, const Console& console);
int run_sweep(const Tool& tool, const Arguments& arguments, const Console& console);
int run_odds(const Tool& tool, const Arguments& arguments, const Console& console);
int run_check(const Tool& tool, const Arguments& arguments, const Console& console);
int run_match(const Tool& tool, const Arguments& arguments, const Console& console);
int run_league(const Tool& tool, const Arguments& arguments, const Console& console);
int run_tune(const Tool& tool, const Arguments& arguments, const Console& console);
int run_habits(const Tool& tool, const Arguments& arguments, const Console& console);
int run_learn(const Tool& tool, const Arguments& arguments, const Console& console);
int run_level_fit(const Tool& tool, const Arguments& arguments, const Console& console);
int run_book(const Tool& tool, const Arguments& arguments, const Console& console);
int run_weigh(const Tool& tool, const Arguments& arguments, const Console& console);
int run_levels(const Tool& tool, const Arguments& arguments, const Console& console);
int run_opponents(const Tool& tool, const Arguments& arguments, const Console& console);
int run_uci(const Tool& tool, const Arguments& arguments, const Console& console);
int run_serve(const Tool& tool, const Arguments& arguments, const Console& console);
int run_workbench(const Tool& tool, const Arguments& arguments, const Console& console);
int run_new(const Tool& tool, const Arguments& arguments, const Console& console);
int run_demo(const Tool& tool, const Arguments& arguments, const Console& console);

}  // namespace arvek::tool
