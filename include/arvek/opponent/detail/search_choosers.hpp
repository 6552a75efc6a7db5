#pragma once
// The searches as choosers: the only part of an opponent that is compiled for each game.

#include <functional>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/chooser.hpp"
#include "arvek/opponent/detail/converting.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/search/alpha_beta.hpp"
#include "arvek/search/equilibrium.hpp"
#include "arvek/search/expectation.hpp"
#include "arvek/search/learned_evaluator.hpp"
#include "arvek/search/many_players.hpp"
#include "arvek/search/minimax.hpp"
#include "arvek/search/monte_carlo.hpp"
#include "arvek/search/nested_playouts.hpp"
#include "arvek/search/position_features.hpp"
#include "arvek/search/reluctance.hpp"
#include "arvek/search/standard.hpp"
#include "arvek/search/worlds.hpp"

namespace arvek::detail {

template <class G>
using NamedEvaluators =
    std::vector<std::pair<std::string, std::function<std::shared_ptr<const Evaluator<G>>(const G&)>>>;

/// The weights of quantities that the profile gives for an evaluation, as places among the game's quantities. Throws
/// InputError for a name that the game does not have and for a quantity of a move.
std::vector<std::pair<std::size_t, double>> evaluation_weights(const AnyGame& game, const Profile* profile);
/// What the profile has learned; nothing where there is none.
std::shared_ptr<const LearnedNetwork> learned_of(const Profile* profile);
/// Throws InputError for a name that is none of the evaluators.
[[noreturn]] void throw_no_evaluator(const std::string& name, std::vector<std::string> known);

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

template <Game G>
std::shared_ptr<const Evaluator<G>> evaluator_for(const G& game, const AnyGame& any, const ChooserSetup& setup,
                                                  const NamedEvaluators<G>& evaluators) {
    if (const auto weights = evaluation_weights(any, setup.profile); !weights.empty()) {
        auto features = std::make_shared<PositionFeatures<G>>();
        if constexpr (MeasuredGame<G>)
            for (const auto& [place, weight] : weights) features->add(game.quantities()[place], weight);
        return features;
    }
    if constexpr (PatternedGame<G>)
        if (auto network = learned_of(setup.profile)) return std::make_shared<LearnedEvaluator<G>>(std::move(network));
    const std::string& name = setup.options.string("evaluator");
    if (name == "game") return nullptr;
    std::vector<std::string> known{"game"};
    for (const auto& [each, make] : evaluators) {
        if (each == name) return make(game);
        known.push_back(each);
    }
    throw_no_evaluator(name, std::move(known));
}

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

/// Whether a search is compiled for the game. Where it is not, its ChooserInfo says why the game cannot have it.
template <Game G>
constexpr bool can_have_two_in_the_open() {
    return may_be_for_two<G>() && may_be_without_chance<G>() && !ViewedGame<G>;
}

/// Adds an entry for each search: `add(info, make)`.
template <Game G, class Add>
void add_searches(Add add, const std::shared_ptr<NamedEvaluators<G>>& evaluators) {
    // `search(game, setup, evaluator)` gives the chooser.
    const auto with_evaluator = [evaluators](auto search) {
        return [evaluators, search](const AnyGame& any, const ChooserSetup& setup) {
            const G& game = any.get<G>();
            return erased_chooser<G>(search(game, setup, evaluator_for(game, any, setup, *evaluators)));
        };
    };
    using Made = std::unique_ptr<Chooser<G>>;
    using Weighed = std::shared_ptr<const Evaluator<G>>;
    for (const ChooserInfo& info : built_in_choosers()) {
        if (!info.is_compiled) continue;
        const std::string& name = info.name;
        if (name == "montecarlo") {
            add(info, with_evaluator([](const G& game, const ChooserSetup& setup, const Weighed& evaluator) -> Made {
                    const MonteCarloOptions options = monte_carlo_options(setup.options);
                    if constexpr (ViewedGame<G>)
                        return std::make_unique<MonteCarloChooser<G>>(MonteCarlo<G>(game, options, evaluator));
                    else
                        return std::make_unique<MonteCarloChooser<G>>(
                            MonteCarlo<G>(game, options, evaluator, prior_for<G>(setup)));
                }));
            continue;
        }
        if constexpr (ViewedGame<G> && !std::is_final_v<G>) {
            if (name == "worlds") {
                add(info, [](const AnyGame& any, const ChooserSetup& setup) {
                    return erased_chooser<G>(Made(std::make_unique<WorldsChooser<G>>(
                        Worlds<G>(any.get<G>(), {.worlds = static_cast<int>(setup.options.integer("worlds"))}))));
                });
                continue;
            }
        }
        if constexpr (ViewedGame<G> && may_be_for_two<G>()) {
            if (name == "mixed") {
                add(info, [](const AnyGame& any, const ChooserSetup& setup) {
                    return erased_chooser<G>(
                        Made(std::make_unique<MixedChooser<G>>(any.get<G>(), equilibrium_options(setup.options))));
                });
                continue;
            }
        }
        if constexpr (ListedChanceGame<G> && may_be_for_two<G>() && !ViewedGame<G>) {
            if (name == "expectation") {
                add(info,
                    with_evaluator([](const G& game, const ChooserSetup& setup, const Weighed& evaluator) -> Made {
                        ExpectationOptions options;
                        options.table_mebibytes = static_cast<std::size_t>(setup.options.integer("memory"));
                        return std::make_unique<SearchChooser<G, Expectation<G>>>(
                            game, Expectation<G>(game, options, evaluator), evaluator, false);
                    }));
                continue;
            }
        }
        if constexpr (CountedPlayersGame<G> && !ViewedGame<G>) {
            if (name == "maxn" || name == "paranoid") {
                add(info, with_evaluator([paranoid = name == "paranoid"](const G& game, const ChooserSetup& setup,
                                                                         const Weighed& evaluator) -> Made {
                        ManyPlayersOptions options;
                        options.paranoid = paranoid;
                        options.table_mebibytes = static_cast<std::size_t>(setup.options.integer("memory"));
                        return std::make_unique<SearchChooser<G, ManyPlayers<G>>>(
                            game, ManyPlayers<G>(game, options, evaluator), evaluator, false);
                    }));
                continue;
            }
        }
        if constexpr (CountedPlayersGame<G> && may_be_without_chance<G>() && !ViewedGame<G>) {
            if (name == "nested") {
                add(info, [](const AnyGame& any, const ChooserSetup& setup) {
                    const G& game = any.get<G>();
                    return erased_chooser<G>(Made(std::make_unique<SearchChooser<G, NestedPlayouts<G>>>(
                        game, NestedPlayouts<G>(game, nested_options(setup.options)), nullptr, false)));
                });
                continue;
            }
        }
        if constexpr (can_have_two_in_the_open<G>()) {
            if (name == "minimax" || name == "alphabeta" || name == "standard") {
                add(info,
                    with_evaluator([name](const G& game, const ChooserSetup& setup, const Weighed& evaluator) -> Made {
                        const auto by = [&]<class Search>(Search search) -> Made {
                            return std::make_unique<SearchChooser<G, Search>>(
                                game, std::move(search), evaluator, setup.options.boolean("avoid_repetition"));
                        };
                        if (name == "minimax") return by(Minimax<G>(game, evaluator));
                        if (name == "alphabeta") return by(AlphaBeta<G>(game, evaluator));
                        return by(Standard<G>(game, standard_options(setup.options), evaluator));
                    }));
                continue;
            }
        }
        add(info, nullptr);
    }
}

}  // namespace arvek::detail
