#include "sluice/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_sluice(arvek::tool::Tool& tool) {
    tool.add<Sluice>("sluice", "pour water from basin to basin; more buckets in store win")
        .parameter("basins", &Sluice::Parameters::basins, 1, 12, "basins of each side")
        .parameter("buckets", &Sluice::Parameters::buckets, 1, 12, "buckets in each basin at the start")
        .parameter("empty_capture", &Sluice::Parameters::empty_capture,
                   "the last bucket is stored even with no water opposite")
        .parameter("relay", &Sluice::Parameters::relay, "a last bucket in an own basin with water pours on from there");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Sluice)
