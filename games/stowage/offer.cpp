#include "stowage/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_stowage(arvek::tool::Tool& tool) {
    tool.add<Stowage>("stowage", "stow crates in a barge, for one")
        .parameter("rows", &Stowage::Parameters::rows, 3, 10, "cells up")
        .parameter("columns", &Stowage::Parameters::columns, 3, 10, "cells across")
        .parameter("lot", &Stowage::Parameters::lot, 1, 4, "crates that lie on the quay at once")
        .parameter("trim", &Stowage::Parameters::trim, 4, 50, "how many cells one half may have more than the other")
        .parameter("lots", &Stowage::Parameters::lots, 1, 200, "lots in all");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Stowage)
