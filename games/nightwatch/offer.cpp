#include "nightwatch/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "nightwatch/nightwatch.hpp"

namespace waterway {

void offer_nightwatch(arvek::tool::Tool& tool) {
    tool.add<Nightwatch>("nightwatch", "one of many pieces moves each turn; take the rival's Warden off the map")
        .parameter("map", &Nightwatch::Parameters::map, "the path of a map file; none is the Coal Yard");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules: see compiled.hpp.
template std::unique_ptr<arvek::Opponent<waterway::Nightwatch>> arvek::make_opponent(const waterway::Nightwatch&,
                                                                                     const arvek::OpponentSpec&,
                                                                                     const arvek::OpponentMeans&);
template arvek::CheckReport arvek::check_rules(const waterway::Nightwatch&, const arvek::CheckOptions&);
