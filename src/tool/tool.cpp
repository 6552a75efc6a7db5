#include "arvek/tool/tool.hpp"

#include <fcntl.h>
#include <unistd.h>

#include <csignal>
#include <cstdlib>
#include <cstring>
#include <iostream>
#include <string_view>

#include "arguments.hpp"
#include "arvek/arena/game_pool.hpp"
#include "arvek/link/child.hpp"
#include "arvek/session/plain_text.hpp"
#include "values.hpp"
#include "verbs.hpp"
#include "wrapping.hpp"

namespace arvek::tool {

namespace {

/// Whether standard output is a terminal that knows escape sequences.
bool is_terminal() {
    const char* terminal = std::getenv("TERM");
    return isatty(STDOUT_FILENO) != 0 && terminal != nullptr && std::strcmp(terminal, "dumb") != 0;
}

bool wants_colour() {
    const char* no_colour = std::getenv("NO_COLOR");
    return is_terminal() && (no_colour == nullptr || *no_colour == '\0');
}

int run_verb(const Tool& tool, const Arguments& arguments, const Console& console) {
    if (console.pool != nullptr && console.pool->all_workers() > console.pool->workers())
        if (const std::string& verb = arguments.verb;
            verb != "league" && verb != "learn" && verb != "tune" && verb != "levels")
            throw InputError(verb, "several processes are at work, and it is for one",
                             "league, tune, levels or learn, or one process");
    if (arguments.verb == "games") return run_games(tool, arguments, console);
    if (arguments.verb == "play") return run_play(tool, arguments, console);
    if (arguments.verb == "decide") return run_decide(tool, arguments, console);
    if (arguments.verb == "count") return run_count(tool, arguments, console);
    if (arguments.verb == "solve") return run_solve(tool, arguments, console);
    if (arguments.verb == "odds") return run_odds(tool, arguments, console);
    if (arguments.verb == "check") return run_check(tool, arguments, console);
    if (arguments.verb == "match") return run_match(tool, arguments, console);
    if (arguments.verb == "opponents") return run_opponents(tool, arguments, console);
    if (arguments.verb == "words") return run_words(tool, arguments, console);
    if (arguments.verb == "story") return run_story(tool, arguments, console);
    if (arguments.verb == "sweep") return run_sweep(tool, arguments, console);
    if (arguments.verb == "uci") return run_uci(tool, arguments, console);
    if (arguments.verb == "serve") return run_serve(tool, arguments, console);
    if (arguments.verb == "new") return run_new(tool, arguments, console);
    if (arguments.verb == "workbench") return run_workbench(tool, arguments, console);
    if (arguments.verb == "league") return run_league(tool, arguments, console);
    if (arguments.verb == "habits") return run_habits(tool, arguments, console);
    if (arguments.verb == "learn") return run_learn(tool, arguments, console);
    if (arguments.verb == "book") return run_book(tool, arguments, console);
    if (arguments.verb == "weigh") return run_weigh(tool, arguments, console);
    if (arguments.verb == "tune") return run_tune(tool, arguments, console);
    if (arguments.verb == "levels" && arguments.fit) return run_level_fit(tool, arguments, console);
    if (arguments.verb == "levels") return run_levels(tool, arguments, console);
    return run_demo(tool, arguments, console);
}

}  // namespace

Tool::Tool(std::string program) : program_(std::move(program)) {}
Tool::~Tool() = default;

void Tool::add_entry(std::unique_ptr<GameEntry> entry) {
    for (const auto& game : games_)
        if (game->name() == entry->name())
            throw InputError("game", "there are two named '" + entry->name() + "'", "a name of its own for each");
    games_.push_back(std::move(entry));
}

/// A standard stream that was closed would be the next file that is opened, and take what is meant for the stream.
static void fill_closed_streams() {
    for (const int stream : {STDIN_FILENO, STDOUT_FILENO, STDERR_FILENO})
        if (::fcntl(stream, F_GETFD) < 0) (void)!::open("/dev/null", O_RDONLY);
}

/// Whether what is written is for people alone, so that its lines may be broken.
static bool is_for_people(const std::vector<std::string>& arguments) {
    for (const char* verb : {"uci", "serve", "completion", "manual"})
        if (!arguments.empty() && arguments.front() == verb) return false;
    for (std::size_t i = 0; i < arguments.size(); ++i)
        if (arguments[i] == "--format=json" ||
            (arguments[i] == "--format" && i + 1 < arguments.size() && arguments[i + 1] == "json"))
            return false;
    return true;
}

int Tool::run(int argc, const char* const* argv) const {
    fill_closed_streams();
    std::signal(SIGXFSZ, SIG_IGN);  // a file that may not grow is an error where it is written, with its name
    const bool typed = isatty(STDIN_FILENO) != 0 && isatty(STDOUT_FILENO) != 0;
    const std::vector<std::string> arguments(argv + (argc > 0 ? 1 : 0), argv + argc);
    // Where people read in a terminal, long lines are broken between words.
    const std::size_t width = is_for_people(arguments) ? terminal_width() : 0;
    const std::size_t width_of_complaints = terminal_width(STDERR_FILENO);
    WrappingBuffer broken(std::cout, width), broken_complaints(std::cerr, width_of_complaints);
    std::ostream wrapping(&broken), wrapping_complaints(&broken_complaints);
    std::ostream& out = width > 0 ? wrapping : std::cout;
    std::ostream& err = width_of_complaints > 0 ? wrapping_complaints : std::cerr;
    const Console console{.in = std::cin,
                          .out = out,
                          .err = err,
                          .colour = wants_colour(),
                          .line_editing = typed,
                          .reads_standard_input = true,
                          .shows_progress = isatty(STDERR_FILENO) != 0,
                          .draws_over = typed && is_terminal()};
    const int status = run(arguments, console);
    out.flush();
    err.flush();
    if (!std::cout) {
        if (status == 0) std::cerr << program_ << ": the output could not be written\n";
        return status == 0 ? 2 : status;
    }
    return status;
}

/// What the search was called by which all others play against one.
static constexpr std::string_view former_paranoid = "pessimist";

int Tool::run(const std::vector<std::string>& arguments, const Console& console) const {
    const auto say = [&](const std::string& message) {
        console.err << message_line(program_ + ": " + message) << "\n";
    };
    try {
        const ParsedCommandLine parsed = parse_command_line(program_, arguments);
        for (const std::string& argument : arguments)
            if (argument.starts_with(former_paranoid))
                say("'" + std::string(former_paranoid) + "' is called 'paranoid' now, as the literature calls it");
        if (parsed.help) {
            console.out << *parsed.help;
            return 0;
        }
        constexpr std::string_view that_think =
            " play decide match check levels league tune learn solve sweep habits book workbench ";
        if (is_slow_ && that_think.find(" " + parsed.arguments.verb + " ") != std::string_view::npos)
            say("a game was built without optimisation, so its rules take about ten times as long; "
                "-DCMAKE_BUILD_TYPE=Release is quick");
        return run_verb(*this, parsed.arguments, console);
    } catch (const InputError& error) {
        say(error.what());
        return 2;
    } catch (const link::ProgramError& error) {
        say(error.what());
        return 1;
    } catch (const RulesError& error) {
        say(std::string("the rules of the game do not hold: ") + error.what());
        return 1;
    } catch (const std::bad_alloc&) {
        say("there is not enough memory for this");
        return 1;
    } catch (const std::exception& error) {
        say(std::string("the game, or something it uses, threw: ") + error.what());
        return 1;
    } catch (...) {
        say("the game threw what is no std::exception");
        return 1;
    }
}

}  // namespace arvek::tool
