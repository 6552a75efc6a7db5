#pragma once
// compiled<MyGame>(): the searches whose nodes are quickest, compiled once more for one game, for those who want the last
// tenth of speed. One line in one source; it takes some twenty seconds to compile, and no decision changes.
//
//     auto opponent = arvek::make_opponent(game, arvek::read_opponent("standard"), {}, arvek::compiled<MyGame>());
//
// Where a tool offers the game: .choosers(arvek::compiled<MyGame>()). They are alpha-beta, the standard search and Monte Carlo, where the game can have them. With an evaluator other than
// the game's own, opponents choose by the library's.

#include <string_view>
#include <utility>

#include "arvek/opponent/detail/search_choosers.hpp"
#include "arvek/opponent/registry.hpp"

namespace arvek {

namespace detail {

/// Whether a search is to evaluate as the game does.
bool evaluates_as_the_game_does(const ChooserSetup& setup);

template <Game G>
using MakeOwn = MadeChooser<G> (*)(const G&, const ChooserSetup&, const Weighed<G>&);

/// In place of the search of that name.
template <Game G>
void compile_in(ChooserSet& set, std::string_view name, MakeOwn<G> make) {
    set.change(name, [make](ChooserSet::Make of_library) -> ChooserSet::Make {
        return [make, of_library = std::move(of_library)](const AnyGame& any, const ChooserSetup& setup) {
            return evaluates_as_the_game_does(setup) ? erased_chooser<G>(make(any.get<G>(), setup, nullptr))
                                                     : of_library(any, setup);
        };
    });
}

}  // namespace detail

/// All choosers of the library, some of them compiled for the game.
template <Game G>
Choosers<G> compiled() {
    ChooserSet set = ChooserSet::built_in();
    if constexpr (may_be_for_two<G>() && may_be_without_chance<G>() && !ViewedGame<G>) {
        detail::compile_in<G>(set, "alphabeta", detail::alpha_beta_chooser<G>);
        detail::compile_in<G>(set, "standard", detail::standard_chooser<G>);
    }
    if constexpr (!ViewedGame<G>) detail::compile_in<G>(set, "montecarlo", detail::monte_carlo_chooser<G>);
    return Choosers<G>(std::move(set));
}

}  // namespace arvek
