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
#include "arvek/opponent/detail/search_choosers.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek {

/// Choosers of a game whose type is gone.
class ChooserSet {
   public:
    /// Makes a chooser for a game.
    using Make = std::function<std::unique_ptr<Chooser<AnyGame>>(const AnyGame&, const ChooserSetup&)>;

    /// Those that need nothing but AnyGame: random, ruled, suggestions, features.
    static ChooserSet without_searches();

    /// Throws InputError for a name that is none, or is taken, and for an option without a name or a range.
    void add(ChooserInfo info, Make make);

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
};

namespace detail {

/// What looks ahead from suggestions, by the "standard" of the set.
void add_advised(ChooserSet& set);

}  // namespace detail

/// What opponents of a game can choose by, by name.
template <Game G>
class Choosers {
   public:
    /// All that the library has for the game.
    static Choosers built_in();

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
        evaluators_->emplace_back(std::move(name), std::move(make));
        return *this;
    }

    std::span<const ChooserInfo> infos() const { return set_.infos(); }  ///< of all that are there
    const ChooserSet& erased() const { return set_; }                    ///< the same for the game behind AnyGame

   private:
    Choosers() : evaluators_(std::make_shared<detail::NamedEvaluators<G>>()) {}

    ChooserSet set_;
    std::shared_ptr<detail::NamedEvaluators<G>> evaluators_;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
Choosers<G> Choosers<G>::built_in() {
    Choosers choosers;
    choosers.set_ = ChooserSet::without_searches();
    detail::add_searches<G>(
        [&](ChooserInfo info, ChooserSet::Make make) { choosers.set_.add(std::move(info), std::move(make)); },
        choosers.evaluators_);
    detail::add_advised(choosers.set_);
    return choosers;
}

}  // namespace arvek
