#pragma once
// Opponent: one computer player of a game, whatever it chooses by.
//
//     auto opponent = arvek::make_opponent(game, arvek::read_opponent("standard@4"));
//     game.play(position, opponent->decide(position, seed).move);
//
// The same position, seed and earlier positions give the same decision (a time limit aside). One object serves one
// thread at a time.

#include <algorithm>
#include <memory>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/opponent/base.hpp"
#include "arvek/opponent/detail/bind_profile.hpp"
#include "arvek/opponent/detail/levelled.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/rules/rule_list.hpp"
#include "arvek/search/alpha_beta.hpp"
#include "arvek/search/minimax.hpp"
#include "arvek/search/standard.hpp"

namespace arvek {

/// What an opponent may use besides the game.
struct OpponentMeans {
    Clock clock = nullptr;  ///< for limits of time and the seconds that a decision reports
    StopToken stop{};
};

namespace detail {

/// Draws any legal move.
template <Game G>
class RandomOpponent final : public Opponent<G> {
   public:
    explicit RandomOpponent(const G& game) : game_(game) {}

    Decision<typename G::Move> decide(const typename G::Position& position, std::uint64_t seed,
                                      std::span<const typename G::Position> earlier) override {
        Decision<typename G::Move> decision =
            RuleList<G>().decide(game_, position, derived_seed(derived_seed(seed, 2), earlier.size()));
        decision.rules.clear();
        decision.stats.stopped_by = StoppedBy::Draw;
        return decision;
    }

   private:
    G game_;
};

/// The search that `spec` names, at a level. Throws InputError in a game of chance.
template <Game G>
std::unique_ptr<Opponent<G>> search_opponent(const G& game, const OpponentSpec& spec, const LevelSettings& level) {
    if constexpr (!ChanceGame<G>) {
        const auto by = [&]<class Search>(Search search) {
            return levelled<G>(game, ChooserKind::Search, level,
                               std::make_unique<SearchChooser<G, Search>>(std::move(search)));
        };
        if (spec.name == "minimax") return by(Minimax<G>(game));
        if (spec.name == "alphabeta") return by(AlphaBeta<G>(game));
        return by(Standard<G>(game, {.techniques = spec.techniques,
                                     .table_mebibytes = spec.table_mebibytes,
                                     .keep_table = spec.keep_table,
                                     .threads = spec.threads}));
    } else {
        throw InputError("opponent", "'" + spec.name + "' does not weigh chance, and this is a game of chance",
                         "an opponent that chooses by rules, such as ruled");
    }
}

template <Game G>
std::unique_ptr<Opponent<G>> opponent_of(const G& game, const Profile& profile, const LevelSettings& level,
                                         int level_number) {
    const ProfileBinder<G> binder(game, profile);
    switch (profile.kind) {
        case ChooserKind::Search:
            if (ChanceGame<G>)
                fail_in_profile(profile, profile.game.place,
                                "searches do not weigh chance, and this is a game of chance",
                                "choose = \"rules\" or \"suggestions\"");
            return search_opponent(game, profile.search, level);
        case ChooserKind::Rules:
            return levelled<G>(game, profile.kind, level,
                               std::make_unique<RulesChooser<G>>(game, binder.rules(level_number)));
        case ChooserKind::Suggestions:
            return levelled<G>(
                game, profile.kind, level,
                std::make_unique<WorthChooser<G, SuggestionList<G>>>(game, binder.suggestions(level_number)));
        case ChooserKind::Features:
            return levelled<G>(game, profile.kind, level,
                               std::make_unique<WorthChooser<G, FeatureList<G>>>(game, binder.features()));
        case ChooserKind::Random: break;
    }
    return std::make_unique<RandomOpponent<G>>(game);
}

}  // namespace detail

/// The opponent that `spec` describes. Throws InputError for an unknown name, a level or a limit out of range, limits
/// for an opponent that does not search, and names in a profile that the game does not have.
template <class G>
std::unique_ptr<Opponent<G>> make_opponent(const G& game, const OpponentSpec& spec, const OpponentMeans& means = {}) {
    if constexpr (detail::game_is_complete<G>()) {
        const Profile* profile = spec.profile.get();
        if (profile == nullptr) (void)read_opponent(spec.name);
        const bool searches = profile != nullptr ? profile->kind == ChooserKind::Search : opponent_searches(spec.name);
        if (spec.has_own_limits() && !searches)
            throw InputError("opponent",
                             "'" + spec.name + "' does not look ahead, so depth, nodes and time mean nothing to it",
                             "minimax, alphabeta or standard");
        if (profile == nullptr && !opponent_has_levels(spec.name)) {
            if (spec.level != highest_level) check_level(spec.name, spec.level);
            return std::make_unique<detail::RandomOpponent<G>>(game);
        }
        check_level(spec.name, spec.level);
        LevelSettings level = profile != nullptr
                                  ? level_settings(*profile, spec.level)
                                  : level_settings(spec.level, searches ? ChooserKind::Search : ChooserKind::Rules);
        if (spec.has_own_limits()) {
            level.limits = {};
            level.limits.depth = spec.depth;
            level.limits.nodes = spec.nodes;
            level.limits.seconds = spec.seconds;
        }
        level.limits.clock = means.clock;
        level.limits.stop = means.stop;
        level.margins = level.margins && spec.margins;
        check_limits(level.limits);
        if (profile != nullptr) {
            auto opponent = detail::opponent_of(game, *profile, level, spec.level);
            auto book = detail::ProfileBinder<G>(game, *profile).book();
            if (book.empty() || spec.level < profile->book_from_level) return opponent;
            return std::make_unique<detail::BookOpponent<G>>(std::move(book), std::move(opponent));
        }
        if (searches) return detail::search_opponent(game, spec, level);
        return detail::levelled<G>(game, ChooserKind::Rules, level,
                                   std::make_unique<detail::RulesChooser<G>>(game, standard_rules<G>()));
    } else {
        return nullptr;
    }
}

}  // namespace arvek
