#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Downstream in a tool.
void offer_downstream(arvek::tool::Tool& tool);

}  // namespace waterway
