#include "scuffle/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_scuffle(arvek::tool::Tool& tool) {
    tool.add<Scuffle>("scuffle", "two crews with gear, turns by time, and dice; put the rival's crew out")
        .parameter("teal", &Scuffle::Parameters::teal, "the path of a crew file; none is the Eel Street Hands")
        .parameter("amber", &Scuffle::Parameters::amber, "the path of a crew file; none is the Malthouse Five");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Scuffle)
