#pragma once
// Between AnyGame and the game as the searches meet it.

#include <memory>
#include <type_traits>
#include <utility>

#include "arvek/opponent/detail/search_choosers.hpp"
#include "arvek/search/engine_game.hpp"
#include "arvek/search/position_features.hpp"
#include "engine.hpp"

namespace arvek::detail {

/// A search, asked about positions of AnyGame.
template <class E>
class EngineChooser final : public Chooser<AnyGame> {
   public:
    EngineChooser(E game, std::unique_ptr<Chooser<E>> search) : game_(std::move(game)), search_(std::move(search)) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        const AnyPosition position = game_.settled(now.position);
        if constexpr (ViewedGame<E>)
            return search_->choose({position, now.earlier, now.limits, now.request, now.view});
        else
            return search_->choose({position, now.earlier, now.limits, now.request, nullptr});
    }

   private:
    E game_;
    std::unique_ptr<Chooser<E>> search_;
};

/// An evaluator of AnyGame, asked by a search.
template <class E>
class EngineEvaluator final : public Evaluator<E> {
   public:
    explicit EngineEvaluator(std::shared_ptr<const Evaluator<AnyGame>> evaluator) : evaluator_(std::move(evaluator)) {}

    Score evaluate(const E& game, const AnyPosition& position, Player player) const override {
        return evaluator_->evaluate(game, position, player);
    }
    std::optional<double> units_per_doubling() const override { return evaluator_->units_per_doubling(); }

   private:
    std::shared_ptr<const Evaluator<AnyGame>> evaluator_;
};

/// What the setup names: the weights of a profile, what it has learned, or an evaluator by name.
template <class E>
Weighed<E> evaluator_for(const AnyGame& any, const ChooserSetup& setup, const NamedEvaluators& evaluators) {
    if (const auto weights = evaluation_weights(any, setup.profile); !weights.empty()) {
        auto features = std::make_shared<PositionFeatures<E>>();
        for (const auto& [place, weight] : weights) features->add(any.quantities()[place], weight);
        return features;
    }
    if (offers(any, Ability::Patterns))
        if (auto network = learned_of(setup.profile)) return std::make_shared<LearnedEvaluator<E>>(std::move(network));
    auto named = evaluator_named(any, setup.options.string("evaluator"), evaluators);
    return named == nullptr ? nullptr : std::make_shared<EngineEvaluator<E>>(std::move(named));
}

/// Makes a search of the game as an E, with an evaluator where it may be given one.
template <class E, auto Make>
std::unique_ptr<Chooser<AnyGame>> engine_chooser(const AnyGame& any, const ChooserSetup& setup,
                                                 const NamedEvaluators& evaluators) {
    const E game(any);
    if constexpr (std::is_invocable_v<decltype(Make), const E&, const ChooserSetup&>)
        return std::make_unique<EngineChooser<E>>(game, Make(game, setup));
    else
        return std::make_unique<EngineChooser<E>>(game, Make(game, setup, evaluator_for<E>(any, setup, evaluators)));
}

}  // namespace arvek::detail
