#pragma once
// All games of the Lowmere Waterway, and chess, in the order in which they are listed.

#include <arvek/tool/tool.hpp>

#include "chess/offer.hpp"
#include "convoy/offer.hpp"
#include "downstream/offer.hpp"
#include "lanterns/offer.hpp"
#include "nightwatch/offer.hpp"
#include "scuffle/offer.hpp"
#include "sluice/offer.hpp"
#include "stowage/offer.hpp"
#include "tolls/offer.hpp"
#include "wager/offer.hpp"
#include "windlass/offer.hpp"

namespace waterway {

/// Offers every game of the Lowmere Waterway, and chess, in a tool.
inline void offer_every_game(arvek::tool::Tool& tool) {
    offer_lanterns(tool);
    offer_sluice(tool);
    offer_windlass(tool);
    offer_nightwatch(tool);
    offer_convoy(tool);
    offer_scuffle(tool);
    offer_downstream(tool);
    offer_tolls(tool);
    offer_wager(tool);
    offer_stowage(tool);
    offer_chess(tool);
}

}  // namespace waterway
