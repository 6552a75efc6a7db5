#include "wager/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_wager(arvek::tool::Tool& tool) {
    tool.add<Wager>("wager", "one card each, and a bluff")
        .parameter("cards", &Wager::Parameters::cards, 3, 13, "cards in the deck, ranked 1 up");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Wager)
