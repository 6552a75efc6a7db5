#include "engine_chooser.hpp"

namespace arvek::detail {

std::unique_ptr<Chooser<AnyGame>> engine_expectation(const AnyGame& game, const ChooserSetup& setup,
                                                     const NamedEvaluators& evaluators) {
    return engine_chooser<InTheOpen>(game, setup, evaluators, expectation_chooser<InTheOpen>);
}
std::unique_ptr<Chooser<AnyGame>> engine_max_n(const AnyGame& game, const ChooserSetup& setup,
                                               const NamedEvaluators& evaluators) {
    return engine_chooser<InTheOpen>(game, setup, evaluators, [](const auto&... given) {
        return many_players_chooser<InTheOpen>(given..., false);
    });
}
std::unique_ptr<Chooser<AnyGame>> engine_paranoid(const AnyGame& game, const ChooserSetup& setup,
                                                  const NamedEvaluators& evaluators) {
    return engine_chooser<InTheOpen>(game, setup, evaluators, [](const auto&... given) {
        return many_players_chooser<InTheOpen>(given..., true);
    });
}

}  // namespace arvek::detail
