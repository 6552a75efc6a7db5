// The tool with the games of the Lowmere Waterway.

#include <arvek/tool/tool.hpp>

#include "lanterns/offer.hpp"

int main(int argc, char** argv) {
    arvek::tool::Tool tool("arvek");
    waterway::offer_lanterns(tool);
    return tool.run(argc, argv);
}
