#include "engine_chooser.hpp"

namespace arvek::detail {

std::unique_ptr<Chooser<AnyGame>> monte_carlo_by_views(const AnyGame& game, const ChooserSetup& setup,
                                                       const NamedEvaluators& evaluators) {
    return engine_chooser<ByViews, monte_carlo_chooser<ByViews>>(game, setup, evaluators);
}

std::vector<EngineSearch> engine_by_views() {
    return {{"worlds", engine_chooser<ByViews, worlds_chooser<ByViews>>},
            {"mixed", engine_chooser<ByViews, mixed_chooser<ByViews>>}};
}

}  // namespace arvek::detail
