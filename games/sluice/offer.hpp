#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Sluice in a tool.
void offer_sluice(arvek::tool::Tool& tool);

}  // namespace waterway
