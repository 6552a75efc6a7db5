#include "engine_chooser.hpp"

namespace arvek::detail {

std::unique_ptr<Chooser<AnyGame>> engine_minimax(const AnyGame& game, const ChooserSetup& setup,
                                                 const NamedEvaluators& evaluators) {
    return engine_chooser<InTheOpen>(game, setup, evaluators, minimax_chooser<InTheOpen>);
}
std::unique_ptr<Chooser<AnyGame>> engine_alpha_beta(const AnyGame& game, const ChooserSetup& setup,
                                                    const NamedEvaluators& evaluators) {
    return engine_chooser<InTheOpen>(game, setup, evaluators, alpha_beta_chooser<InTheOpen>);
}
std::unique_ptr<Chooser<AnyGame>> engine_standard(const AnyGame& game, const ChooserSetup& setup,
                                                  const NamedEvaluators& evaluators) {
    return engine_chooser<InTheOpen>(game, setup, evaluators, standard_chooser<InTheOpen>);
}

}  // namespace arvek::detail
