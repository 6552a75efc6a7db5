#include "engine_chooser.hpp"

namespace arvek::detail {

std::vector<EngineSearch> engine_for_many() {
    return {{"expectation", engine_chooser<InTheOpen, expectation_chooser<InTheOpen>>},
            {"maxn", engine_chooser<InTheOpen, many_players_chooser<InTheOpen, false>>},
            {"paranoid", engine_chooser<InTheOpen, many_players_chooser<InTheOpen, true>>}};
}

}  // namespace arvek::detail
