// The searches of games whose rules are another program. They are compiled apart from the game's functions, which are no
// part of a search's loop.

#include <utility>

#include "arvek/link/rules_program.hpp"
#include "arvek/opponent/game_kit.hpp"

namespace arvek::link {

OpenGame open_rules_program(std::vector<std::string> command) {
    const RulesProgram game({.command = std::move(command)});
    return {game.name(), {}, game_kit(game)};
}

}  // namespace arvek::link
