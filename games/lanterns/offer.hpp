#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Lanterns in a tool.
void offer_lanterns(arvek::tool::Tool& tool);

}  // namespace waterway
