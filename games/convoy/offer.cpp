#include "convoy/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_convoy(arvek::tool::Tool& tool) {
    tool.add<Convoy>("convoy", "send boats down lanes from a purse that fills, and bring the rival's wall down")
        .parameter("lanes", &Convoy::Parameters::lanes, 1, 8, "lanes between the two wharves")
        .parameter("length", &Convoy::Parameters::length, 6, 20, "cells of each lane");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Convoy)
