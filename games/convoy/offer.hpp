#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Convoy in a tool.
void offer_convoy(arvek::tool::Tool& tool);

}  // namespace waterway
