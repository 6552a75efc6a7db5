#pragma once
// The searches of the library as choosers of any game, each compiled once.

#include <memory>

#include "arvek/opponent/registry.hpp"

namespace arvek::detail {

/// What makes one of them.
using MakeSearch = std::unique_ptr<Chooser<AnyGame>> (*)(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);

std::unique_ptr<Chooser<AnyGame>> engine_minimax(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_alpha_beta(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_standard(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_expectation(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_max_n(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_paranoid(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_monte_carlo(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_monte_carlo_by_views(const AnyGame&, const ChooserSetup&,
                                                              const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_nested(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_worlds(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
std::unique_ptr<Chooser<AnyGame>> engine_mixed(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);

}  // namespace arvek::detail
