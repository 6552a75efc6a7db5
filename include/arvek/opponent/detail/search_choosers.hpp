#pragma once
// The searches as choosers, for games of any type: the library's own has them of EngineGame, compiled.hpp some of a game's
// own.

#include <algorithm>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/opponent/chooser.hpp"
#include "arvek/search/alpha_beta.hpp"
#include "arvek/search/equilibrium.hpp"
#include "arvek/search/expectation.hpp"
#include "arvek/search/learned_evaluator.hpp"
#include "arvek/search/many_players.hpp"
#include "arvek/search/minimax.hpp"
#include "arvek/search/monte_carlo.hpp"
#include "arvek/search/nested_playouts.hpp"
#include "arvek/search/reluctance.hpp"
#include "arvek/search/standard.hpp"
#include "arvek/search/worlds.hpp"

namespace arvek::detail {

/// What the profile has learned; nothing where there is none.
std::shared_ptr<const LearnedNetwork> learned_of(const Profile* profile);

StandardOptions standard_options(const Options& options);
MonteCarloOptions monte_carlo_options(const Options& options);
EquilibriumOptions equilibrium_options(const Options& options);
NestedPlayoutsOptions nested_options(const Options& options);

/// A move of a mixed strategy: its place in the row, and its score.
struct MixedPlace {
    std::uint32_t place = 0;
    Score score;
};
/// One that is drawn by the shares, then the others, the likelier first; scores in `per_point` a point.
std::vector<MixedPlace> mixed_order(const std::vector<double>& shares, const std::vector<double>& values,
                                    std::uint64_t seed, double& per_point);

/// A search.
template <Game G, class Search>
class SearchChooser final : public Chooser<G> {
   public:
    /// `avoids_repetition`: a draw by it counts as a little less than even.
    SearchChooser(const G& game, Search search, std::shared_ptr<const Evaluator<G>> evaluator, bool avoids_repetition)
        : game_(game),
          search_(std::move(search)),
          evaluator_(std::move(evaluator)),
          avoids_repetition_(avoids_repetition) {}

    Decision<typename G::Move> choose(const Choice<G>& now) override {
        SearchRequest<typename G::Move> request = now.request;
        if (chooses_by_seed && request.ranking == Ranking::Equals) request.ranking = Ranking::Best;
        if constexpr (RepeatingGame<G>)
            if (avoids_repetition_) request.repetition = reluctance_to_repeat(game_, now.position, evaluator_.get());
        return search_.decide(now.position, now.limits, request, now.earlier);
    }

   private:
    /// The standard search looks at the first moves in an order drawn from the seed, so it need not tell equals apart.
    static constexpr bool chooses_by_seed = requires { typename Search::ChoosesBySeed; };

    G game_;
    Search search_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    bool avoids_repetition_;
};

/// How likely moves are to be good, where that was learned; nothing otherwise.
template <Game G>
std::shared_ptr<const MovePrior<G>> prior_for(const ChooserSetup& setup) {
    if constexpr (PatternedGame<G>)
        if (auto network = learned_of(setup.profile); network && network->model().prior)
            return std::make_shared<LearnedPrior<G>>(std::move(network));
    return nullptr;
}

/// Monte Carlo, by what is seen.
template <Game G>
class MonteCarloChooser final : public Chooser<G> {
   public:
    explicit MonteCarloChooser(MonteCarlo<G> search) : search_(std::move(search)) {}

    Decision<typename G::Move> choose(const Choice<G>& now) override {
        if constexpr (ViewedGame<G>) {
            if (now.view != nullptr) return search_.decide(*now.view, now.limits, now.request);
            throw InputError("montecarlo", "it was not given what is seen", "Choice::view");
        } else {
            return search_.decide(now.position, now.limits, now.request, now.earlier);
        }
    }

   private:
    MonteCarlo<G> search_;
};

/// Many worlds, each with open hands.
template <ViewedGame G>
class WorldsChooser final : public Chooser<G> {
   public:
    explicit WorldsChooser(Worlds<G> search) : search_(std::move(search)) {}

    Decision<typename G::Move> choose(const Choice<G>& now) override {
        if (now.view == nullptr) throw InputError("worlds", "it was not given what is seen", "Choice::view");
        return search_.decide(*now.view, now.limits, now.request);
    }

   private:
    Worlds<G> search_;
};

/// By the strategy of the game's equilibrium, worked out when the chooser is made.
template <ViewedGame G>
class MixedChooser final : public Chooser<G> {
   public:
    MixedChooser(const G& game, const EquilibriumOptions& options)
        : game_(game), found_(Equilibrium<G>(game).solve(options)) {
        for (std::size_t i = 0; i < found_.strategy.size(); ++i)
            places_.add(view_key(found_.strategy[i].view), static_cast<std::uint32_t>(i));
    }

    Decision<typename G::Move> choose(const Choice<G>& now) override {
        if (now.view == nullptr) throw InputError("mixed", "it was not given what is seen", "Choice::view");
        const Player player = game_.player_to_move(now.position);
        const std::uint32_t place = places_.find(view_key(*now.view), [&](std::uint32_t at) {
            return found_.strategy[at].view == *now.view && found_.strategy[at].player == player;
        });
        if (place != KeyIndex::none) return drawn(found_.strategy[place], now.request);
        throw InputError("mixed", "what is seen cannot come up in a game from its beginning",
                         "a game from its initial position");
    }

   private:
    using Row = MixedMoves<typename G::View, typename G::Move>;

    Decision<typename G::Move> drawn(const Row& row, const SearchRequest<typename G::Move>& request) const {
        std::vector<double> shares, values;
        for (const auto& each : row.moves) {
            const bool may = request.only.empty() ||
                             std::find(request.only.begin(), request.only.end(), each.move) != request.only.end();
            shares.push_back(may ? each.probability : 0.0);
            values.push_back(each.value);
        }
        Decision<typename G::Move> decision;
        for (const MixedPlace& place : mixed_order(shares, values, request.seed, decision.scores_per_point)) {
            auto& entry = decision.ranked.emplace_back();
            entry.move = row.moves[place.place].move;
            entry.line = {entry.move};
            entry.probability = row.moves[place.place].probability;
            entry.score = place.score;
        }
        decision.move = decision.ranked.front().move;
        decision.has_probabilities = true;
        decision.has_scores = found_.measured;
        decision.searched_by = "mixed";
        decision.stats.stopped_by = StoppedBy::Draw;
        return decision;
    }

    G game_;
    EquilibriumFound<typename G::View, typename G::Move> found_;
    KeyIndex places_;
};

// ---- each search, made ----

template <class G>
using MadeChooser = std::unique_ptr<Chooser<G>>;
template <class G>
using Weighed = std::shared_ptr<const Evaluator<G>>;

template <Game G, class Search>
MadeChooser<G> two_player_chooser(const G& game, Search search, const ChooserSetup& setup,
                                  const Weighed<G>& evaluator) {
    return std::make_unique<SearchChooser<G, Search>>(game, std::move(search), evaluator,
                                                      setup.options.boolean("avoid_repetition"));
}
template <Game G>
MadeChooser<G> minimax_chooser(const G& game, const ChooserSetup& setup, const Weighed<G>& evaluator) {
    return two_player_chooser(game, Minimax<G>(game, evaluator), setup, evaluator);
}
template <Game G>
MadeChooser<G> alpha_beta_chooser(const G& game, const ChooserSetup& setup, const Weighed<G>& evaluator) {
    return two_player_chooser(game, AlphaBeta<G>(game, evaluator), setup, evaluator);
}
template <Game G>
MadeChooser<G> standard_chooser(const G& game, const ChooserSetup& setup, const Weighed<G>& evaluator) {
    return two_player_chooser(game, Standard<G>(game, standard_options(setup.options), evaluator), setup, evaluator);
}
template <Game G>
MadeChooser<G> monte_carlo_chooser(const G& game, const ChooserSetup& setup, const Weighed<G>& evaluator) {
    const MonteCarloOptions options = monte_carlo_options(setup.options);
    if constexpr (ViewedGame<G>)
        return std::make_unique<MonteCarloChooser<G>>(MonteCarlo<G>(game, options, evaluator));
    else
        return std::make_unique<MonteCarloChooser<G>>(MonteCarlo<G>(game, options, evaluator, prior_for<G>(setup)));
}
template <Game G>
MadeChooser<G> expectation_chooser(const G& game, const ChooserSetup& setup, const Weighed<G>& evaluator) {
    ExpectationOptions options;
    options.table_mebibytes = static_cast<std::size_t>(setup.options.integer("memory"));
    return std::make_unique<SearchChooser<G, Expectation<G>>>(game, Expectation<G>(game, options, evaluator), evaluator,
                                                              false);
}
template <Game G, bool Paranoid>
MadeChooser<G> many_players_chooser(const G& game, const ChooserSetup& setup, const Weighed<G>& evaluator) {
    ManyPlayersOptions options;
    options.paranoid = Paranoid;
    options.table_mebibytes = static_cast<std::size_t>(setup.options.integer("memory"));
    return std::make_unique<SearchChooser<G, ManyPlayers<G>>>(game, ManyPlayers<G>(game, options, evaluator), evaluator,
                                                              false);
}
template <Game G>
MadeChooser<G> nested_chooser(const G& game, const ChooserSetup& setup) {
    return std::make_unique<SearchChooser<G, NestedPlayouts<G>>>(
        game, NestedPlayouts<G>(game, nested_options(setup.options)), nullptr, false);
}
template <ViewedGame G>
MadeChooser<G> worlds_chooser(const G& game, const ChooserSetup& setup) {
    return std::make_unique<WorldsChooser<G>>(
        Worlds<G>(game, {.worlds = static_cast<int>(setup.options.integer("worlds"))}));
}
template <ViewedGame G>
MadeChooser<G> mixed_chooser(const G& game, const ChooserSetup& setup) {
    return std::make_unique<MixedChooser<G>>(game, equilibrium_options(setup.options));
}

}  // namespace arvek::detail
