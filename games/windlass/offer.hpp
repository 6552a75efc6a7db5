#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Windlass in a tool.
void offer_windlass(arvek::tool::Tool& tool);

}  // namespace waterway
