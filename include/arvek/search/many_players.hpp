#pragma once
// ManyPlayers: looking ahead in games of one, three or four, with or without dice.
//
//     arvek::ManyPlayers<MyGame> search(game);                              // each player wants the most for itself
//     arvek::ManyPlayers<MyGame> wary(game, {.paranoid = true});           // all others are against the one who decides
//     auto decision = search.decide(position, {.depth = 6});
//
// Both are models of what the others do, and with three or more neither is proven by anything: scores are expected
// payoffs, and none is called proven. With max^n the first of equally good moves is taken to be played. The paranoid
// prunes as alpha-beta does; max^n only where nothing can be better (most_payoff()). Chance is weighed by its
// probabilities. For one player it is the plain search for the most. Sources: detail/many_players_tree.hpp. One object
// serves one thread at a time.

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/many_players_tree.hpp"
#include "arvek/search/detail/sampled_scale.hpp"

namespace arvek {

/// How a search looks ahead among several players.
struct ManyPlayersOptions {
    /// Whether the others are taken to play against the one who decides, rather than each for itself.
    bool paranoid = false;
    std::size_t table_mebibytes = 16;  ///< 1 to most_table_mebibytes; for a game with a hash
    bool table = true;                 ///< whether it remembers positions
};

/// Looks ahead in games of one, three or four.
template <Game G>
class ManyPlayers {
    static_assert(game_is_complete<G>());
    static_assert(detail::holds(!ViewedGame<G> || AnswersAtRunTime<G>),
                  "Arvek: this search sees the whole position, and players of this game do not, as its view() says; "
                  "take MonteCarlo instead (search/monte_carlo.hpp)");

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for an option out of range.
    explicit ManyPlayers(const G& game, const ManyPlayersOptions& options = {},
                         std::shared_ptr<const Evaluator<G>> evaluator = nullptr)
        : game_(game), options_(options), evaluator_(std::move(evaluator)) {
        if (has_chance(game_) && !lists_events(game_))
            throw InputError("many players", "events are drawn and not listed, so they cannot be weighed",
                             ability_info(Ability::Chance).functions);
        // Where positions repeat, what one is worth depends on the way to it.
        if (has_hash(game_) && options.table && draw_at_occurrence_of(game_) == 0)
            table_.emplace(options.table_mebibytes);
    }

    /// The best move within the limits; scores are expected payoffs, scores_per_point to a point. Throws InputError for
    /// limits out of range, a finished position and one where chance is next.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {});

   private:
    G game_;
    ManyPlayersOptions options_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    detail::UsualPayoffs<G> usual_;
    std::optional<detail::ValueTable> table_;
    std::uint64_t decisions_ = 0;
    std::vector<typename detail::ManyPlayersTree<G>::Frame> frames_;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
auto ManyPlayers<G>::decide(const Position& position, const Limits& limits, const SearchRequest<Move>& request,
                            std::span<const Position> earlier) -> Decision<Move> {
    check_limits(limits);
    detail::Budget budget(limits);
    const detail::ValueAxis axis = usual_.axis(game_, evaluator_.get(), limits, request.margins);
    const double per_point = detail::scores_per_point_on(axis);
    ++decisions_;  // what is in the table of earlier ones is not found any more
    detail::ManyPlayersTree<G> tree{
        game_,     evaluator_.get(),  table_ ? &*table_ : nullptr,        frames_,   budget,
        axis,      options_.paranoid, detail::WayDown<G>(game_, earlier), per_point, request.tree,
        decisions_};
    detail::RootQuestion question;
    question.learns_order = question.deepens = true;
    auto decision = detail::decide_by_tree(game_, tree, budget, position, limits, request, question, evaluator_.get());
    for (auto& entry : decision.ranked)
        if (entry.kind == ScoreKind::Estimate) entry.score = Score{};
    decision.scores_per_point = per_point;
    return decision;
}

template <class G>
ManyPlayers(const G&) -> ManyPlayers<G>;
template <class G>
ManyPlayers(const G&, const ManyPlayersOptions&) -> ManyPlayers<G>;

}  // namespace arvek
