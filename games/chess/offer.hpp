#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers chess in a tool.
void offer_chess(arvek::tool::Tool& tool);

}  // namespace waterway
