#include <arvek/tool/tool.hpp>

#include "game.hpp"

int main(int argc, char** argv) {
    arvek::tool::Tool tool("@NAME@");
    tool.add<@TYPE@>("@NAME@", "take one, two or three casks; whoever takes the last wins")
        .parameter("casks", &@TYPE@::Parameters::casks, 1, 60, "casks on the wharf");
    return tool.run(argc, argv);
}
