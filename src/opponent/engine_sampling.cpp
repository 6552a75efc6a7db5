#include "engine_chooser.hpp"

namespace arvek::detail {

std::unique_ptr<Chooser<AnyGame>> engine_monte_carlo(const AnyGame& game, const ChooserSetup& setup,
                                                     const NamedEvaluators& evaluators) {
    if (has_views(game)) return engine_monte_carlo_by_views(game, setup, evaluators);
    return engine_chooser<InTheOpen>(game, setup, evaluators, monte_carlo_chooser<InTheOpen>);
}
std::unique_ptr<Chooser<AnyGame>> engine_nested(const AnyGame& game, const ChooserSetup& setup,
                                                const NamedEvaluators&) {
    return engine_chooser<InTheOpen>(game, setup, nested_chooser<InTheOpen>);
}

}  // namespace arvek::detail
