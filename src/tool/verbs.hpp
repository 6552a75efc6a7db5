#pragma once
// The verbs of the tool. Each returns the exit status and throws InputError for wrong use.

#include "arguments.hpp"
#include "arvek/tool/tool.hpp"
#include "writing.hpp"

namespace arvek::tool {

/// The game of a command line, opened, at its position.
struct OpenedGame {
    const GameEntry* entry = nullptr;
    std::unique_ptr<GameHandle> handle;
    std::unique_ptr<Table> table;

    Subject subject() const { return {entry->name(), handle->settings(), table->position()}; }
    std::vector<std::string> player_names() const {
        return {handle->player_name(Player::First), handle->player_name(Player::Second)};
    }
};

/// Throws InputError for an unknown game, parameter or position.
OpenedGame open_game(const Tool& tool, const Arguments& arguments);
/// Throws InputError when the game is over at the position.
void require_going_on(const OpenedGame& game);

/// The opponent of --opponent, --level and the limits. Throws InputError for what does not go together.
OpponentSpec opponent_of(const Arguments& arguments, const std::string& standard);

/// A name, or the path of a profile for the game, each perhaps with a level.
OpponentSpec opponent_named(const std::string& text, const std::string& game);
/// Whether it looks ahead.
bool searches(const OpponentSpec& spec);

/// Who decides where nobody is named: the standard search, or the rules in a game of chance.
std::string standard_opponent(const OpenedGame& game);

/// The most games that a command plays.
inline constexpr int most_games = 1'000'000;

/// --seed, or `standard`.
std::uint64_t seed_of(const Arguments& arguments, std::uint64_t standard);

int run_games(const Tool& tool, const Arguments& arguments, const Console& console);
int run_play(const Tool& tool, const Arguments& arguments, const Console& console);
int run_decide(const Tool& tool, const Arguments& arguments, const Console& console);
int run_count(const Tool& tool, const Arguments& arguments, const Console& console);
int run_solve(const Tool& tool, const Arguments& arguments, const Console& console);
int run_check(const Tool& tool, const Arguments& arguments, const Console& console);
int run_match(const Tool& tool, const Arguments& arguments, const Console& console);
int run_levels(const Tool& tool, const Arguments& arguments, const Console& console);
int run_opponents(const Tool& tool, const Arguments& arguments, const Console& console);
int run_demo(const Tool& tool, const Arguments& arguments, const Console& console);

}  // namespace arvek::tool
