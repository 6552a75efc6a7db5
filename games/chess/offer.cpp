#include "chess/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_chess(arvek::tool::Tool& tool) {
    tool.add<Chess>("chess", "the standard game")
        .parameter("weights", &Chess::Parameters::weights, "a file of weights for the evaluation");
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Chess)
template class arvek::MonteCarlo<waterway::Chess>;
