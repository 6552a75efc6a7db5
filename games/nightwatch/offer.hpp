#pragma once

namespace arvek::tool {
class Tool;
}

namespace waterway {

/// Offers Nightwatch in a tool.
void offer_nightwatch(arvek::tool::Tool& tool);

}  // namespace waterway
