#pragma once
// Opponent: one computer player of a game, whatever it chooses by.
//
//     auto opponent = arvek::make_opponent(game, arvek::read_opponent("standard@4"));
//     game.play(position, opponent->decide(position, seed).move);
//
// An opponent keeps nothing between decisions: the same position and seed give the same decision (a time limit aside).
// One object serves one thread at a time.

#include <algorithm>
#include <memory>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/opponent/spec.hpp"
#include "arvek/rules/rule_list.hpp"
#include "arvek/search/alpha_beta.hpp"
#include "arvek/search/minimax.hpp"
#include "arvek/search/standard.hpp"

namespace arvek {

template <class G>
class Opponent {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    virtual ~Opponent() = default;

    /// A legal move and why. `earlier`: the positions of the game before this one, oldest first, which matter where
    /// positions repeat. Throws InputError for a finished position.
    virtual Decision<Move> decide(const Position& position, std::uint64_t seed,
                                  std::span<const Position> earlier = {}) = 0;

    /// Has the searches of the decisions that follow fill `tree`, until it is called with nullptr. An opponent that
    /// does not look ahead leaves it as it is.
    void watch(SearchedTree<Move>* tree) { watched_ = tree; }

   protected:
    SearchedTree<Move>* watched_ = nullptr;
};

/// What an opponent may use besides the game.
struct OpponentMeans {
    Clock clock = nullptr;  ///< for limits of time and the seconds that a decision reports
    StopToken stop{};
};

namespace detail {

/// The moves that a level lets its opponent see: at least one, and wins as the level says.
template <Game G>
std::vector<typename G::Move> seen_moves(const G& game, const typename G::Position& position,
                                         const LevelSettings& level, Random& random,
                                         std::vector<typename G::Move>& overlooked) {
    std::vector<typename G::Move> seen;
    const Player player = game.player_to_move(position);
    const auto legal = legal_moves(game, position);
    for (const auto& move : legal) {
        bool sees = !random.chance(level.overlooks);
        if (!sees && level.always_sees_wins) {
            auto after = position;
            game.play(after, move);
            const auto outcome = game.outcome(after);
            sees = outcome && outcome->payoff(player) > 0;
        }
        (sees ? seen : overlooked).push_back(move);
    }
    if (seen.empty() && !overlooked.empty()) {
        const auto kept = overlooked.begin() + static_cast<std::ptrdiff_t>(random.below(overlooked.size()));
        seen.push_back(*kept);
        overlooked.erase(kept);
    }
    return seen;
}

/// Draws any legal move.
template <Game G>
class RandomOpponent final : public Opponent<G> {
   public:
    explicit RandomOpponent(const G& game) : game_(game) {}

    Decision<typename G::Move> decide(const typename G::Position& position, std::uint64_t seed,
                                      std::span<const typename G::Position>) override {
        Decision<typename G::Move> decision = RuleList<G>().decide(game_, position, seed);
        decision.rules.clear();
        decision.stats.stopped_by = StoppedBy::Draw;
        return decision;
    }

   private:
    G game_;
};

/// Looks at the moves that its level sees and has `choose(position, limits, request, earlier)` choose among them.
template <Game G, class Choose>
class LevelledOpponent final : public Opponent<G> {
   public:
    LevelledOpponent(const G& game, LevelSettings level, Choose choose)
        : game_(game), level_(level), choose_(std::move(choose)) {}

    Decision<typename G::Move> decide(const typename G::Position& position, std::uint64_t seed,
                                      std::span<const typename G::Position> earlier) override {
        if (!game_.outcome(position) && chance_is_next(game_, position))
            throw InputError("position", "chance is next, so there is nothing to decide",
                             "a position where a player is to move");
        std::vector<typename G::Move> overlooked;
        Random random(derived_seed(seed, 1));
        const auto seen = seen_moves(game_, position, level_, random, overlooked);
        SearchRequest<typename G::Move> request;
        request.seed = derived_seed(seed, 2);
        request.only = seen;
        request.margins = level_.margins;
        request.tree = this->watched_;
        auto decision = choose_(position, level_.limits, request, earlier);
        decision.overlooked = std::move(overlooked);
        return decision;
    }

   private:
    G game_;
    LevelSettings level_;
    Choose choose_;
};

template <Game G, class Choose>
std::unique_ptr<Opponent<G>> levelled(const G& game, const LevelSettings& level, Choose choose) {
    return std::make_unique<LevelledOpponent<G, Choose>>(game, level, std::move(choose));
}

template <Game G, class Search>
std::unique_ptr<Opponent<G>> searching(const G& game, const LevelSettings& level) {
    return levelled(
        game, level,
        [search = Search(game)](
            const auto& position, const Limits& limits, const SearchRequest<typename G::Move>& request,
            std::span<const typename G::Position>) mutable { return search.decide(position, limits, request); });
}

}  // namespace detail

/// The opponent that `spec` describes. Throws InputError for an unknown name, a level or a limit out of range, and
/// limits for an opponent that does not search.
template <class G>
std::unique_ptr<Opponent<G>> make_opponent(const G& game, const OpponentSpec& spec, const OpponentMeans& means = {}) {
    if constexpr (detail::game_is_complete<G>()) {
        (void)read_opponent(spec.name);
        if (spec.has_own_limits() && !opponent_searches(spec.name))
            throw InputError("opponent",
                             "'" + spec.name + "' does not look ahead, so depth, nodes and time mean nothing to it",
                             "minimax, alphabeta or standard");
        if (ChanceGame<G> && opponent_searches(spec.name))
            throw InputError("opponent", "'" + spec.name + "' does not weigh chance, and this is a game of chance",
                             "an opponent that chooses by rules, such as ruled");
        if (!opponent_has_levels(spec.name)) {
            if (spec.level != highest_level) check_level(spec.name, spec.level);
            return std::make_unique<detail::RandomOpponent<G>>(game);
        }
        check_level(spec.name, spec.level);
        LevelSettings level = level_settings(spec.level);
        if (spec.has_own_limits()) {
            level.limits = {};
            level.limits.depth = spec.depth;
            level.limits.nodes = spec.nodes;
            level.limits.seconds = spec.seconds;
        }
        level.limits.clock = means.clock;
        level.limits.stop = means.stop;
        level.margins = spec.margins;
        check_limits(level.limits);
        if constexpr (!ChanceGame<G>) {
            if (spec.name == "minimax") return detail::searching<G, Minimax<G>>(game, level);
            if (spec.name == "alphabeta") return detail::searching<G, AlphaBeta<G>>(game, level);
            if (spec.name == "standard")
                return detail::levelled(
                    game, level,
                    [search = Standard<G>(game, {.techniques = spec.techniques, .threads = spec.threads})](
                        const auto& position, const Limits& limits, SearchRequest<typename G::Move> request,
                        std::span<const typename G::Position> earlier) mutable {
                        request.ranking = Ranking::Best;
                        return search.decide(position, limits, request, earlier);
                    });
        }
        return detail::levelled(
            game, level,
            [game, rules = standard_rules<G>()](const auto& position, const Limits&,
                                                const SearchRequest<typename G::Move>& request,
                                                std::span<const typename G::Position>) {
                return rules.decide(game, position, request.seed, {request.only.begin(), request.only.end()});
            });
    } else {
        return nullptr;
    }
}

}  // namespace arvek
