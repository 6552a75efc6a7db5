#include "nightwatch/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_nightwatch(arvek::tool::Tool& tool) {
    tool.add<Nightwatch>("nightwatch", "one of many pieces moves each turn; take the rival's Warden off the map")
        .parameter("map", &Nightwatch::Parameters::map, "the path of a map file; none is the Coal Yard");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Nightwatch)
