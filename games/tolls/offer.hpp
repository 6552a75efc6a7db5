#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Tolls in a tool.
void offer_tolls(arvek::tool::Tool& tool);

}  // namespace waterway
