// The tool with the games of the Lowmere Waterway.

#include <arvek/tool/tool.hpp>

#include "convoy/offer.hpp"
#include "lanterns/offer.hpp"
#include "nightwatch/offer.hpp"
#include "scuffle/offer.hpp"
#include "sluice/offer.hpp"
#include "windlass/offer.hpp"

int main(int argc, char** argv) {
    arvek::tool::Tool tool("arvek");
    waterway::offer_lanterns(tool);
    waterway::offer_sluice(tool);
    waterway::offer_windlass(tool);
    waterway::offer_nightwatch(tool);
    waterway::offer_convoy(tool);
    waterway::offer_scuffle(tool);
    return tool.run(argc, argv);
}
