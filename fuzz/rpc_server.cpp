// JSON-RPC, as anybody may speak it.

#include <sstream>
#include <string>

#include <arvek/game/input_error.hpp>
#include <arvek/link/rpc_server.hpp>

#include "chess/chess.hpp"

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    static const arvek::OpenGame game{
        "chess", {}, arvek::game_kit(waterway::Chess()), arvek::any_counter<waterway::Chess>()};
    arvek::link::RpcServerOptions options;
    options.open = [](const std::string& name, const std::vector<std::string>&) {
        if (name != "chess") throw arvek::InputError("game", "there is no such game", "chess");
        return game;
    };
    options.read_opponent = [](const std::string& text, const arvek::Session&) { return arvek::read_opponent(text); };
    options.games_json = "{}";
    options.most_sessions = 4;
    // A session to begin with, so that what comes has something to talk of.
    std::istringstream in("{\"jsonrpc\":\"2.0\",\"id\":0,\"method\":\"open\",\"params\":{\"game\":\"chess\"}}\n" +
                          std::string(reinterpret_cast<const char*>(data), size));
    std::ostringstream out;
    arvek::link::serve_rpc(in, out, options);
    return 0;
}
