#include "lanterns/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_lanterns(arvek::tool::Tool& tool) {
    tool.add<Lanterns>("lanterns", "hang lanterns on a frame of hooks; first to a line wins")
        .parameter("columns", &Lanterns::Parameters::columns, 1, 12, "hooks across; at most 64 in all")
        .parameter("rows", &Lanterns::Parameters::rows, 1, 12, "hooks up")
        .parameter("line", &Lanterns::Parameters::line, 2, 8, "how many in a line win")
        .parameter("drop", &Lanterns::Parameters::drop, "lanterns slide down to the lowest free hook")
        .parameter("players", &Lanterns::Parameters::players, 2, 4, "sides: Teal, Amber, Plum, Slate")
        .instead<ManyLanterns>([](const Lanterns::Parameters& parameters) { return parameters.players > 2; });
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Lanterns)
WATERWAY_COMPILED(, waterway::ManyLanterns)
