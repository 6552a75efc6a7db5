#include "arvek/tool/tool.hpp"

#include <unistd.h>

#include <cstdlib>
#include <cstring>
#include <iostream>

#include "arguments.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

bool wants_colour() {
    const char* no_colour = std::getenv("NO_COLOR");
    const char* terminal = std::getenv("TERM");
    return isatty(STDOUT_FILENO) != 0 && (no_colour == nullptr || *no_colour == '\0') && terminal != nullptr &&
           std::strcmp(terminal, "dumb") != 0;
}

int run_verb(const Tool& tool, const Arguments& arguments, const Console& console) {
    if (arguments.verb == "games") return run_games(tool, arguments, console);
    if (arguments.verb == "play") return run_play(tool, arguments, console);
    if (arguments.verb == "decide") return run_decide(tool, arguments, console);
    if (arguments.verb == "count") return run_count(tool, arguments, console);
    if (arguments.verb == "solve") return run_solve(tool, arguments, console);
    if (arguments.verb == "check") return run_check(tool, arguments, console);
    if (arguments.verb == "match") return run_match(tool, arguments, console);
    if (arguments.verb == "opponents") return run_opponents(tool, arguments, console);
    if (arguments.verb == "levels") return run_levels(tool, arguments, console);
    return run_demo(tool, arguments, console);
}

}  // namespace

Tool::Tool(std::string program) : program_(std::move(program)) {}
Tool::~Tool() = default;

void Tool::add_entry(std::unique_ptr<GameEntry> entry) {
    const std::string& name = entry->name();
    if (name.empty() || name.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789_") != std::string::npos)
        throw InputError("add", "'" + name + "' is no name for a game", "lower-case letters, digits and underscores");
    for (const auto& game : games_)
        if (game->name() == name)
            throw InputError("add", "there are two games named '" + name + "'", "a name of its own for each");
    games_.push_back(std::move(entry));
}

int Tool::run(int argc, const char* const* argv) const {
    const bool typed = isatty(STDIN_FILENO) != 0 && isatty(STDOUT_FILENO) != 0;
    const Console console{std::cin, std::cout, std::cerr, wants_colour(), typed, true, isatty(STDERR_FILENO) != 0};
    const int status = run(std::vector<std::string>(argv + (argc > 0 ? 1 : 0), argv + argc), console);
    std::cout.flush();
    if (!std::cout) {
        std::cerr << program_ << ": the output could not be written\n";
        return 2;
    }
    return status;
}

int Tool::run(const std::vector<std::string>& arguments, const Console& console) const {
    try {
        const ParsedCommandLine parsed = parse_command_line(program_, arguments);
        if (parsed.help) {
            console.out << *parsed.help;
            return 0;
        }
        return run_verb(*this, parsed.arguments, console);
    } catch (const InputError& error) {
        console.err << printable(program_ + ": " + error.what()) << "\n";
        return 2;
    } catch (const RulesError& error) {
        console.err << printable(program_ + ": the rules of the game do not hold: " + error.what()) << "\n";
        return 1;
    } catch (const std::bad_alloc&) {
        console.err << program_ << ": there is not enough memory for this\n";
        return 1;
    }
}

}  // namespace arvek::tool
