#include <arvek/tool/tool.hpp>

#include "heaviest.hpp"

int main(int argc, char** argv) {
    arvek::tool::Tool tool("quayside");
    tool.add<Quayside>("quayside", "load crates from either end of the quay; the heavier load wins")
        .parameter("crates", &Quayside::Parameters::crates, 1, 12, "crates on the quay")
        .chooser(heaviest_info(), make_heaviest);
    return tool.run(argc, argv);
}
