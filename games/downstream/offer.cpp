#include "downstream/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_downstream(arvek::tool::Tool& tool) {
    tool.add<Downstream>("downstream", "race boats down a stream by dice, and send rivals back to the bank")
        .parameter("players", &Downstream::Parameters::players, 2, 4, "sides: Teal, Amber, Plum, Slate")
        .parameter("boats", &Downstream::Parameters::boats, 1, 4, "boats of each side")
        .parameter("length", &Downstream::Parameters::length, 4, 30, "cells of the stream")
        .parameter("die", &Downstream::Parameters::die, 2, 6, "faces of the die")
        .parameter("mooring", &Downstream::Parameters::mooring, 0, 10, "cells divisible by it are safe; 0: none");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Downstream)
