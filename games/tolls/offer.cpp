#include "tolls/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_tolls(arvek::tool::Tool& tool) {
    tool.add<Tolls>("tolls", "take tricks with hidden hands")
        .parameter("players", &Tolls::Parameters::players, 2, 4, "sides: Teal, Amber, Plum, Slate")
        .parameter("suits", &Tolls::Parameters::suits, 1, 4, "suits: r w s g")
        .parameter("ranks", &Tolls::Parameters::ranks, 2, 13, "cards of each suit")
        .parameter("hand", &Tolls::Parameters::hand, 1, 13, "cards of each side")
        .parameter("trump", &Tolls::Parameters::trump, {"none", "r", "w", "s", "g"},
                   "the suit that beats the others, or none");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Tolls)
