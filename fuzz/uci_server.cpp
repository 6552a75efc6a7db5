// The open chess protocol, as anybody may speak it. Searches are kept short: what stands after "go" is cut.

#include <sstream>
#include <string>

#include <arvek/link/uci_server.hpp>

#include "chess/chess.hpp"

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    static const arvek::OpenGame game{
        "chess", {}, arvek::game_kit(waterway::Chess()), arvek::any_counter<waterway::Chess>()};
    std::string text;
    std::istringstream lines(std::string(reinterpret_cast<const char*>(data), size));
    for (std::string line; std::getline(lines, line);) {
        if (line.find("Hash") != std::string::npos || line.find("hash") != std::string::npos) continue;  // memory
        text += line + "\n";
        if (line.find("go") != std::string::npos) text += "stop\n";
    }
    std::istringstream in(text);
    std::ostringstream out;
    arvek::link::UciServerOptions options;
    options.opponent = arvek::read_opponent("standard@2");
    arvek::link::serve_uci(game, in, out, options);
    return 0;
}
