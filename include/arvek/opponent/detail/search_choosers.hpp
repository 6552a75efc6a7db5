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
#include "arvek/search/expectation.hpp"
#include "arvek/search/minimax.hpp"
#include "arvek/search/position_features.hpp"
#include "arvek/search/reluctance.hpp"
#include "arvek/search/standard.hpp"

namespace arvek::detail {

template <class G>
using NamedEvaluators =
    std::vector<std::pair<std::string, std::function<std::shared_ptr<const Evaluator<G>>(const G&)>>>;

/// The weights of quantities that the profile gives for an evaluation, as places among the game's quantities. Throws
/// InputError for a name that the game does not have and for a quantity of a move.
std::vector<std::pair<std::size_t, double>> evaluation_weights(const AnyGame& game, const Profile* profile);
/// Throws InputError for a name that is none of the evaluators.
[[noreturn]] void throw_no_evaluator(const std::string& name, std::vector<std::string> known);

StandardOptions standard_options(const Options& options);

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
    const std::string& name = setup.options.string("evaluator");
    if (name == "game") return nullptr;
    std::vector<std::string> known{"game"};
    for (const auto& [each, make] : evaluators) {
        if (each == name) return make(game);
        known.push_back(each);
    }
    throw_no_evaluator(name, std::move(known));
}

/// Adds an entry for each search: `add(info, make)`.
template <Game G, class Add>
void add_searches(Add add, const std::shared_ptr<NamedEvaluators<G>>& evaluators) {
    for (const ChooserInfo& info : built_in_choosers()) {
        if (!info.looks_ahead) continue;
        if (!may_be_for_two<G>() || info.weighs_chance != ChanceGame<G>) {
            add(info, nullptr);  // its ChooserInfo says why the game cannot have it
        } else if constexpr (ChanceGame<G> && may_be_for_two<G>()) {
            add(info, [evaluators](const AnyGame& any, const ChooserSetup& setup) {
                const G& game = any.get<G>();
                const auto evaluator = evaluator_for(game, any, setup, *evaluators);
                ExpectationOptions options;
                options.table_mebibytes = static_cast<std::size_t>(setup.options.integer("memory"));
                return erased_chooser<G>(std::make_unique<SearchChooser<G, Expectation<G>>>(
                    game, Expectation<G>(game, options, evaluator), evaluator, false));
            });
        } else if constexpr (may_be_for_two<G>()) {
            add(info, [evaluators, name = info.name](const AnyGame& any, const ChooserSetup& setup) {
                const G& game = any.get<G>();
                const auto evaluator = evaluator_for(game, any, setup, *evaluators);
                const auto by = [&]<class Search>(Search search) {
                    return erased_chooser<G>(std::make_unique<SearchChooser<G, Search>>(
                        game, std::move(search), evaluator, setup.options.boolean("avoid_repetition")));
                };
                if (name == "minimax") return by(Minimax<G>(game, evaluator));
                if (name == "alphabeta") return by(AlphaBeta<G>(game, evaluator));
                return by(Standard<G>(game, standard_options(setup.options), evaluator));
            });
        }
    }
}

}  // namespace arvek::detail
