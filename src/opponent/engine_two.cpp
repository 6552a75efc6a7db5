#include "engine_chooser.hpp"

namespace arvek::detail {

std::vector<EngineSearch> engine_for_two() {
    return {{"minimax", engine_chooser<InTheOpen, minimax_chooser<InTheOpen>>},
            {"alphabeta", engine_chooser<InTheOpen, alpha_beta_chooser<InTheOpen>>},
            {"standard", engine_chooser<InTheOpen, standard_chooser<InTheOpen>>}};
}

}  // namespace arvek::detail
