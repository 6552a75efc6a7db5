// Verbs that speak with other programs.

#include <algorithm>
#include <chrono>
#include <optional>
#include <ostream>
#include <thread>

#include "arvek/link/rpc_server.hpp"
#include "arvek/link/rules_program.hpp"
#include "arvek/link/uci_server.hpp"
#include "arvek/search/transposition_table.hpp"
#include "line_reader.hpp"
#include "values.hpp"
#include "verbs.hpp"
#include "web_server.hpp"

namespace arvek::tool {

int run_uci(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    link::UciServerOptions options;
    options.name = tool.program();
    options.read_opponent = [&](const std::string& text) { return opponent_named(text, session); };
    options.opponent = opponent_named(arguments.opponent.value_or(usual_opponent(session)), session);
    session.check_opponent(options.opponent);
    link::serve_uci(session.game(), console.in, console.out, options);
    return 0;
}

namespace {

/// As part of an address.
std::string in_address(const std::string& text) {
    constexpr char digits[] = "0123456789ABCDEF";
    std::string written;
    for (const char each : text) {
        const auto code = static_cast<unsigned char>(each);
        if ((each >= 'a' && each <= 'z') || (each >= 'A' && each <= 'Z') || (each >= '0' && each <= '9') ||
            std::string_view("-_.~").find(each) != std::string_view::npos)
            written += each;
        else
            written += {'%', digits[code >> 4], digits[code & 15]};
    }
    return written;
}

/// What sessions are offered over JSON-RPC: every game of the tool and that of another program, if one is named.
link::RpcServerOptions rpc_options(const Tool& tool, const Arguments& arguments) {
    link::RpcServerOptions options;
    options.name = tool.program();
    std::optional<OpenGame> of_rules;
    if (!arguments.rules.empty()) of_rules = link::open_rules_program(arguments.rules);
    options.open = [&tool, of_rules](const std::string& game, const std::vector<std::string>& settings) {
        if (!of_rules || of_rules->name != game) return open_game(tool, game, settings);
        if (!settings.empty())
            throw InputError("set", "the rules are a program's, which is told what it needs by its arguments",
                             "nothing");
        return *of_rules;
    };
    options.read_opponent = [](const std::string& text, const Session& session) {
        return opponent_named(text, session);
    };
    options.games_json = games_as_json(tool.games());
    if (arguments.memory)
        options.memory_mebibytes =
            static_cast<std::size_t>(integer_value("--memory", *arguments.memory, 1, most_table_mebibytes));
    return options;
}

}  // namespace

int run_serve(const Tool& tool, const Arguments& arguments, const Console& console) {
    link::serve_rpc(console.in, console.out, rpc_options(tool, arguments));
    return 0;
}

namespace {

/// A parameter that is a text may name a file, so it may be given on the command line alone.
void allow_no_files(const Tool& tool, const std::string& game, const std::vector<std::string>& settings,
                    const Arguments& arguments) {
    for (const auto& entry : tool.games()) {
        if (entry->name() != game) continue;
        for (const ParameterInfo& info : entry->parameters())
            for (const std::string& setting : settings) {
                const bool may_be_a_file = info.kind == ParameterKind::String && info.choices.empty() &&
                                           setting.substr(0, setting.find('=')) == info.name;
                const bool was_given = game == arguments.game &&
                                       std::find(arguments.settings.begin(), arguments.settings.end(), setting) !=
                                           arguments.settings.end();
                if (may_be_a_file && !was_given && setting != info.name + "=" + info.default_value)
                    throw InputError("set", info.name + " may name a file, so a page cannot set it",
                                     "--set " + info.name + "=... on the command line");
            }
    }
}

}  // namespace

int run_workbench(const Tool& tool, const Arguments& arguments, const Console& console) {
    if (!arguments.rules.empty())
        throw InputError("--rules", "the workbench offers the games of this program alone", "a verb such as play");
    const Session session = open_session(tool, arguments);  // wrong use is said here rather than in the page
    const std::string opponent = arguments.opponent.value_or("");
    if (!opponent.empty()) session.check_opponent(opponent_named(opponent, session));
    WebServerOptions options;
    options.rpc = rpc_options(tool, arguments);
    options.rpc.longest_message = std::size_t{1} << 20;
    options.rpc.most_sessions = 400;
    if (!arguments.memory) options.rpc.memory_mebibytes = 1'024;
    options.rpc.closes_left_sessions = true;
    const auto open = options.rpc.open;
    options.rpc.open = [&tool, &arguments, open](const std::string& game, const std::vector<std::string>& settings) {
        allow_no_files(tool, game, settings, arguments);
        return open(game, settings);
    };
    options.rpc.read_opponent = [opponent](const std::string& text, const Session& at) {
        if (text != opponent && profile_path(text))
            throw InputError("opponent", "a page cannot name files",
                             "a name such as standard@5, or the profile's text");
        return opponent_named(text, at);
    };
    options.files = workbench_files();
    if (arguments.port) options.port = static_cast<int>(integer_value("--port", *arguments.port, 1, 65'535));
    const InterruptGuard guard(true);
    const WebServer server(std::move(options));
    std::string start = "#game=" + in_address(arguments.game);
    for (const std::string& setting : arguments.settings) start += "&set=" + in_address(setting);
    if (arguments.position) start += "&position=" + in_address(session.position_text());
    if (!opponent.empty()) start += "&opponent=" + in_address(opponent);
    console.out << "The workbench is at\n\n  " << server.address() << start
                << "\n\nThe address is for this machine alone, and holds a key: do not pass it on. Ctrl-C ends it.\n"
                << std::flush;
    while (!InterruptGuard::interrupted()) std::this_thread::sleep_for(std::chrono::milliseconds(100));
    return 0;
}

}  // namespace arvek::tool
