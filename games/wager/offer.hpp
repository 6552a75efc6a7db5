#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Wager in a tool.
void offer_wager(arvek::tool::Tool& tool);

}  // namespace waterway
