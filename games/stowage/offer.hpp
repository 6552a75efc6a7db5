#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Stowage in a tool.
void offer_stowage(arvek::tool::Tool& tool);

}  // namespace waterway
