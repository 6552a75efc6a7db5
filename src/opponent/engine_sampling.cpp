#include "engine_chooser.hpp"

namespace arvek::detail {

namespace {

std::unique_ptr<Chooser<AnyGame>> monte_carlo(const AnyGame& game, const ChooserSetup& setup,
                                              const NamedEvaluators& evaluators) {
    return has_views(game) ? monte_carlo_by_views(game, setup, evaluators)
                           : engine_chooser<InTheOpen, monte_carlo_chooser<InTheOpen>>(game, setup, evaluators);
}

}  // namespace

std::vector<EngineSearch> engine_by_sampling() {
    return {{"montecarlo", monte_carlo}, {"nested", engine_chooser<InTheOpen, nested_chooser<InTheOpen>>}};
}

}  // namespace arvek::detail
