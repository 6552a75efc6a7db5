#include <arvek/tool/tool.hpp>

#include "lock_keys.hpp"

int main(int argc, char** argv) {
    arvek::tool::Tool tool("broken_game");
    tool.add<LockKeys>("lock_keys", "hang keys on a ring, not next to your own; three bugs are in it");
    return tool.run(argc, argv);
}
