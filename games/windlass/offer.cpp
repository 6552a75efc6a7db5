#include "windlass/offer.hpp"

#include <arvek/opponent/compiled.hpp>
#include <arvek/tool/tool.hpp>

#include "compiled.hpp"

namespace waterway {

void offer_windlass(arvek::tool::Tool& tool) {
    tool.add<Windlass>("windlass", "place pegs on a rim and a hub, then slide them; three in a line win")
        .parameter("posts", &Windlass::Parameters::posts, 4, 12, "posts on the rim")
        .parameter("pegs", &Windlass::Parameters::pegs, 2, 5, "pegs of each side; a post must stay free")
        .choosers(arvek::compiled<Windlass>());  // its positions are a word, and its nodes quick
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Windlass)
