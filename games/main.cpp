// The tool with the games of the Lowmere Waterway, and chess.

#include <arvek/tool/tool.hpp>

#include "every_offer.hpp"

int main(int argc, char** argv) {
    arvek::tool::Tool tool("arvek");
    waterway::offer_every_game(tool);
    return tool.run(argc, argv);
}
