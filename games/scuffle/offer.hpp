#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Scuffle in a tool.
void offer_scuffle(arvek::tool::Tool& tool);

}  // namespace waterway
