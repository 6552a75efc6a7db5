#pragma once
// Choosers: what opponents of a game can choose by, by name.
//
//     auto choosers = arvek::Choosers<MyGame>::built_in();
//     choosers.add({.name = "lightest", .about = "the lightest crate"},
//                  [](const MyGame& game, const arvek::ChooserSetup&) { return std::make_unique<Lightest>(game); });
//     auto opponent = arvek::make_opponent(game, arvek::read_opponent("lightest@4", choosers.infos()), {}, choosers);
//
// The built-in ones are entries like any other. Evaluators are entries as well: a chooser that looks ahead takes one by
// the option "evaluator".

#include <functional>
#include <memory>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/chooser.hpp"
#include "arvek/opponent/detail/converting.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek {

namespace detail {

/// Evaluators by name, each made for a game.
using NamedEvaluators =
    std::vector<std::pair<std::string, std::function<std::shared_ptr<const Evaluator<AnyGame>>(const AnyGame&)>>>;

/// The one of that name; null for the game's own. Throws InputError for a name that is none.
std::shared_ptr<const Evaluator<AnyGame>> evaluator_named(const AnyGame& game, const std::string& name,
                                                          const NamedEvaluators& evaluators);

/// The weights of quantities that the profile gives for an evaluation, as places among the game's quantities. Throws
/// InputError for a name that the game does not have and for a quantity of a move.
std::vector<std::pair<std::size_t, double>> evaluation_weights(const AnyGame& game, const Profile* profile);

}  // namespace detail

/// Choosers of a game whose type is gone.
class ChooserSet {
   public:
    /// Makes a chooser for a game.
    using Make = std::function<std::unique_ptr<Chooser<AnyGame>>(const AnyGame&, const ChooserSetup&)>;
    /// Makes an evaluator for a game.
    using MakeEvaluator = std::function<std::shared_ptr<const Evaluator<AnyGame>>(const AnyGame&)>;

    /// None at all.
    ChooserSet() = default;
    /// All that the library has.
    static ChooserSet built_in();

    /// Throws InputError for a name that is none, or is taken, and for an option without a name or a range.
    void add(ChooserInfo info, Make make);
    /// Makes what is there under that name otherwise: `changed(make)` gives what makes it from then on.
    void change(std::string_view name, const std::function<Make(Make)>& changed);
    /// For the option "evaluator" of those that look ahead.
    void add_evaluator(std::string name, MakeEvaluator make);

    std::span<const ChooserInfo> infos() const { return infos_; }  ///< of all that are there
    /// Throws InputError for a name that is not there, for what the game lacks, and for options that are wrong; `setup`
    /// has the options that are given.
    std::unique_ptr<Chooser<AnyGame>> make(const AnyGame& game, std::string_view name, ChooserSetup setup) const;

    /// The chooser that goes by that name in the game, which may be another of the set; nullptr where there is none.
    const ChooserInfo* find(const AnyGame& game, std::string_view name) const;
    /// The chooser that `info` is in the game: itself, or another of the set.
    const ChooserInfo& resolved(const AnyGame& game, const ChooserInfo& info) const;
    /// Why the game cannot have the chooser, in a sentence; empty where it can.
    static std::string why_not(const AnyGame& game, const ChooserInfo& info);

   private:
    std::vector<ChooserInfo> infos_;
    std::vector<Make> makes_;
    std::shared_ptr<detail::NamedEvaluators> evaluators_ = std::make_shared<detail::NamedEvaluators>();
};

namespace detail {

/// An evaluator of a game's own type, seen as one of AnyGame.
template <Game G>
class ErasedEvaluator final : public Evaluator<AnyGame> {
   public:
    explicit ErasedEvaluator(std::shared_ptr<const Evaluator<G>> evaluator) : evaluator_(std::move(evaluator)) {}

    Score evaluate(const AnyGame& game, const AnyPosition& position, Player player) const override {
        return evaluator_->evaluate(game.get<G>(), position.get<typename G::Position>(), player);
    }
    std::optional<double> units_per_doubling() const override { return evaluator_->units_per_doubling(); }
    const std::shared_ptr<const Evaluator<G>>& own() const { return evaluator_; }

   private:
    std::shared_ptr<const Evaluator<G>> evaluator_;
};

}  // namespace detail

/// What opponents of a game can choose by, by name.
template <Game G>
class Choosers {
   public:
    /// All that the library has for the game.
    static Choosers built_in() { return Choosers(ChooserSet::built_in()); }
    /// Those of a set; see compiled.hpp for one.
    explicit Choosers(ChooserSet set) : set_(std::move(set)) {}

    /// `make(game, setup)` gives a std::unique_ptr to a Chooser<G>. Throws InputError for a name that is none, or is
    /// taken.
    template <class Make>
    Choosers& add(ChooserInfo info, Make make) {
        set_.add(std::move(info), [make = std::move(make)](const AnyGame& game, const ChooserSetup& setup) {
            return detail::erased_chooser<G>(make(game.get<G>(), setup));
        });
        return *this;
    }

    /// `make(game)` gives a std::shared_ptr to an Evaluator<G>.
    template <class Make>
    Choosers& add_evaluator(std::string name, Make make) {
        set_.add_evaluator(std::move(name), [make = std::move(make)](const AnyGame& game) {
            return std::make_shared<detail::ErasedEvaluator<G>>(make(game.get<G>()));
        });
        return *this;
    }

    std::span<const ChooserInfo> infos() const { return set_.infos(); }  ///< of all that are there
    const ChooserSet& erased() const { return set_; }                    ///< the same for the game behind AnyGame

   private:
    ChooserSet set_;
};

}  // namespace arvek
