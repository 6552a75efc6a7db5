#pragma once
// Expectation: looking ahead through chance, for games of two players. Decisions by the best, events by their mean.
//
//     arvek::Expectation<MyGame> search(game);
//     auto decision = search.decide(position, {.depth = 5});
//     double payoff = decision.ranked[0].score.number() / decision.scores_per_point;  // what is to be expected
//     auto outlook = search.outlook(position, {.depth = 5});  // where the dice are next
//
// A ply is a move or an event. Every value is an expected payoff (game/scale.hpp says how an estimate becomes one),
// which lies between the least and the largest payoff; so a chance node is cut as soon as the events that are left
// cannot matter. What rests on luck is never called proven: proven is only what holds for every event, and a sure win
// sooner is better. Values are those of plain expectation to the depth, whatever is cut. Sources: Michie (1966),
// "Game-Playing and Game-Learning Automata" (expectation); Ballard (1983), both ways to cut. One object serves one
// thread at a time.

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/search/detail/expectation_tree.hpp"
#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/random_lines.hpp"

namespace arvek {

/// How a search looks through chance.
struct ExpectationOptions {
    std::size_t table_mebibytes = 16;  ///< 1 to most_table_mebibytes; for a game with a hash
    bool table = true;                 ///< whether it remembers positions
    bool cut_chance = true;            ///< whether chance nodes are cut; changes no value
    std::optional<Scale> scale{};      ///< empty: the game's own, or else one by the spread of its evaluation
};

/// One event where chance is next, and what comes after it.
template <class Move>
struct EventValue {
    Move event{};              ///< what may happen
    double probability = 0.0;  ///< with which it happens
    double value = 0.0;        ///< the expected payoff
    std::vector<Move> line;    ///< what is expected, beginning with the event
};

/// What is to be expected where chance is next.
template <class Move>
struct Outlook {
    double value = 0.0;                    ///< the expected payoff of the whole
    std::vector<EventValue<Move>> events;  ///< in the order of the game
    DecisionStats stats;                   ///< what it took
};

/// Looks ahead through chance, in games for two.
template <Game G>
class Expectation {
    static_assert(game_is_for_two<G>());
    static_assert(detail::holds(!ViewedGame<G> || AnswersAtRunTime<G>),
                  "Arvek: this search sees the whole position, and players of this game do not, as its view() says; "
                  "take MonteCarlo instead (search/monte_carlo.hpp)");

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for an option out of range and for a game that is not one of two players.
    explicit Expectation(const G& game, const ExpectationOptions& options = {},
                         std::shared_ptr<const Evaluator<G>> evaluator = nullptr)
        : game_(game),
          evaluator_(std::move(evaluator)),
          cut_chance_(options.cut_chance),
          scale_(options.scale),
          is_scale_known_(options.scale.has_value()) {
        require_game_for_two(game_, "expectation");
        if (has_chance(game_) && !lists_events(game_))
            throw InputError("expectation", "events are drawn and not listed, so they cannot be weighed",
                             ability_info(Ability::Chance).functions);
        // Where positions repeat, what one is worth depends on the way to it.
        if (has_hash(game_) && options.table && draw_at_occurrence_of(game_) == 0)
            table_.emplace(options.table_mebibytes);
    }

    /// The best move within the limits; scores are expected payoffs, scores_per_point to a point. Throws InputError for
    /// limits out of range, a finished position and one where chance is next. A position that comes back, on the way or
    /// from `earlier`, is a draw where the game has that rule.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {});

    /// Where chance is next: every event, each to the depth of the limits, and the mean, for `viewer`. Deepens as
    /// decide() does, and gives the last depth that was finished. Throws InputError for limits out of range and where
    /// chance is not next.
    Outlook<Move> outlook(const Position& position, const Limits& limits = {}, Player viewer = Player::First);

   private:
    using Tree = detail::ExpectationTree<G>;

    /// The caller's, or the game's own, or one by the spread of its evaluation: found out when it is asked for the first
    /// time. A small part of the limits' time may go into it; what that cut short is done again the next time.
    void find_scale(const Limits& limits) {
        if (is_scale_known_) return;
        is_scale_known_ = true;
        const bool capped = most_payoff_of(game_) < largest_payoff;
        std::optional<double> units;
        if (evaluator_ != nullptr) units = evaluator_->units_per_doubling();
        if constexpr (ScaledGame<G>)
            if (!units && wants_used<Ability::Scale>(game_)) units = game_.units_per_doubling();
        if (units && capped) {
            scale_ = Scale::odds(*units, most_payoff_of(game_));
            return;
        }
        Limits own;
        own.clock = limits.clock;
        own.stop = limits.stop;
        if (limits.seconds) own.seconds = *limits.seconds * 0.1;
        detail::Budget budget(own);
        constexpr std::uint64_t seed = 1;
        const detail::RandomLines lines = detail::random_lines(game_, seed, evaluator_.get(), !units, &budget);
        scale_ = Scale::odds(units.value_or(lines.spread), capped ? most_payoff_of(game_) : lines.largest);
        is_scale_known_ = !budget.stopped();
    }

    Tree begin(detail::Budget& budget, SearchedTree<Move>* watched, std::span<const Position> earlier) {
        if (table_) table_->begin_decision(Kept::Nothing);
        return {game_,       evaluator_.get(), table_ ? &*table_ : nullptr,       frames_, budget, axis_,
                cut_chance_, watched,          detail::WayDown<G>(game_, earlier)};
    }

    G game_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    bool cut_chance_;
    std::optional<Scale> scale_;
    bool is_scale_known_;
    detail::PayoffAxis axis_{Scale::odds(1, 1), 1, true};  ///< of the decision
    std::optional<TranspositionTable> table_;
    std::vector<typename Tree::Frame> frames_;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
auto Expectation<G>::outlook(const Position& position, const Limits& limits, Player viewer) -> Outlook<Move> {
    check_limits(limits);
    if (game_.outcome(position) || !chance_is_next(game_, position))
        throw InputError("position", "chance is not next", "a position where the dice are to fall");
    detail::Budget budget(limits);
    find_scale(limits);
    axis_ = {*scale_, most_payoff_of(game_), true};
    Tree tree = begin(budget, nullptr, {});
    tree.way.enter(position);
    Outlook<Move> best;
    best.stats.stopped_by = StoppedBy::Depth;
    const int deepest = limits.depth.value_or(max_depth);
    for (int depth = 1; depth <= deepest; ++depth) {
        tree.prepare(depth);
        Outlook<Move> found;
        MoveList<Event<Move>> events;
        list_events(game_, position, events);
        for (const auto& event : events) {
            const Score score =
                tree.after(position, viewer, event.move, tree.frames[1], depth - 1, Score::lowest(), Score::highest());
            if (budget.stopped()) break;
            auto& entry = found.events.emplace_back();
            entry.event = event.move;
            entry.probability = event.probability;
            entry.value = axis_.at(score) / axis_.per_point();
            entry.line.push_back(event.move);
            entry.line.insert(entry.line.end(), tree.line().begin(), tree.line().end());
            found.value += entry.probability * entry.value;
        }
        if (budget.stopped()) {
            best.stats.stopped_by = budget.reason();
            break;
        }
        found.stats.depth = depth;
        found.stats.stopped_by = StoppedBy::Depth;
        best = std::move(found);
        if (!tree.reached_horizon()) {
            best.stats.stopped_by = StoppedBy::End;
            break;
        }
    }
    static_cast<Counters&>(best.stats) = budget.counters();
    best.stats.seconds = budget.seconds();
    return best;
}

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
auto Expectation<G>::decide(const Position& position, const Limits& limits, const SearchRequest<Move>& request,
                            std::span<const Position> earlier) -> Decision<Move> {
    check_limits(limits);
    detail::Budget budget(limits);
    find_scale(limits);
    axis_ = {*scale_, most_payoff_of(game_), request.margins};
    Tree tree = begin(budget, request.tree, earlier);
    detail::RootQuestion question;
    question.learns_order = question.deepens = true;
    auto decision = detail::decide_by_tree(game_, tree, budget, position, limits, request, question, evaluator_.get());
    for (auto& entry : decision.ranked)
        if (entry.kind == ScoreKind::Estimate) entry.score = axis_.evaluation(entry.score);
    decision.scores_per_point = axis_.per_point();
    return decision;
}

template <class G>
Expectation(const G&) -> Expectation<G>;
template <class G>
Expectation(const G&, const ExpectationOptions&) -> Expectation<G>;

}  // namespace arvek
