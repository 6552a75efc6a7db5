// Verbs that speak with other programs.

#include <optional>

#include "arvek/link/rpc_server.hpp"
#include "arvek/link/rules_program.hpp"
#include "arvek/link/uci_server.hpp"
#include "verbs.hpp"

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

int run_serve(const Tool& tool, const Arguments& arguments, const Console& console) {
    link::RpcServerOptions options;
    options.name = tool.program();
    std::optional<OpenGame> of_rules;
    if (!arguments.rules.empty()) of_rules = link::open_rules_program(arguments.rules);
    options.open = [&](const std::string& game, const std::vector<std::string>& settings) {
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
    link::serve_rpc(console.in, console.out, options);
    return 0;
}

}  // namespace arvek::tool
