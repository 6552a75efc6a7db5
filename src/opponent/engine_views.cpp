#include "engine_chooser.hpp"

namespace arvek::detail {

std::unique_ptr<Chooser<AnyGame>> engine_monte_carlo_by_views(const AnyGame& game, const ChooserSetup& setup,
                                                              const NamedEvaluators& evaluators) {
    return engine_chooser<ByViews>(game, setup, evaluators, monte_carlo_chooser<ByViews>);
}
std::unique_ptr<Chooser<AnyGame>> engine_worlds(const AnyGame& game, const ChooserSetup& setup,
                                                const NamedEvaluators&) {
    return engine_chooser<ByViews>(game, setup, worlds_chooser<ByViews>);
}
std::unique_ptr<Chooser<AnyGame>> engine_mixed(const AnyGame& game, const ChooserSetup& setup,
                                               const NamedEvaluators&) {
    return engine_chooser<ByViews>(game, setup, mixed_chooser<ByViews>);
}

}  // namespace arvek::detail
