#pragma once
// The searches of the library as choosers of any game, each compiled once.

#include <memory>
#include <string_view>
#include <vector>

#include "arvek/opponent/registry.hpp"

namespace arvek::detail {

/// A search by its name, and what makes it.
struct EngineSearch {
    std::string_view name;
    std::unique_ptr<Chooser<AnyGame>> (*make)(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);
};

/// @{
/// Some of them; a source each, as each takes as long to compile as a room.
std::vector<EngineSearch> engine_for_two();
std::vector<EngineSearch> engine_for_many();
std::vector<EngineSearch> engine_by_sampling();
std::vector<EngineSearch> engine_by_views();
/// @}
/// Monte Carlo where hands are hidden.
std::unique_ptr<Chooser<AnyGame>> monte_carlo_by_views(const AnyGame&, const ChooserSetup&, const NamedEvaluators&);

}  // namespace arvek::detail
