#pragma once
// The tree of the expectation search: see search/expectation.hpp.
//
// Inside, a value is a Score: proven only where it holds for every event and nothing is better or worse; otherwise an
// expected payoff in units of 1 / `per_point`. All values lie between the least and the largest payoff, so what is not
// yet searched of a chance node is bounded, and with it the whole node. Sources: Ballard (1983), "The *-Minimax Search
// Procedure for Trees Containing Chance Nodes", both kinds; Hauk, Buro, Schaeffer (2004), "Rediscovering *-Minimax
// Search" (the windows).

#include <algorithm>
#include <cstdint>
#include <optional>
#include <utility>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/scale.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/move_order.hpp"
#include "arvek/search/detail/root.hpp"
#include "arvek/search/detail/rounding.hpp"
#include "arvek/search/detail/way_down.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/request.hpp"
#include "arvek/search/transposition_table.hpp"

namespace arvek::detail {

/// Expected payoffs as scores. With margins off an end counts 1, 0 or -1, and no estimate is more than that.
class PayoffAxis {
   public:
    PayoffAxis(const Scale& scale, Payoff most_payoff, bool margins)
        : scale_(scale),
          shrunk_(margins ? 1.0 : 1.0 / scale.most()),
          most_payoff_(margins ? most_payoff : 1),
          most_(std::max(scale.most() * shrunk_, static_cast<double>(most_payoff_))),
          per_point_(scores_per_point(most_)),
          bound_(per_point_ * most_) {}

    double per_point() const { return per_point_; }
    /// No value is larger, or smaller on the other side.
    double bound() const { return bound_; }

    /// The end of a game. Proven where nothing is better, or nothing worse.
    Score end(Payoff payoff, int ply) const {
        payoff = std::clamp(payoff, -most_payoff_, most_payoff_);
        if (payoff >= most_payoff_ || payoff <= -most_payoff_) return Score::proven(payoff, ply);
        return estimate(per_point_ * payoff);
    }
    Score evaluation(Score estimated) const {
        return estimate(per_point_ * shrunk_ * scale_.payoff_of(estimated.number()));
    }
    /// Never as much as a payoff that is proven.
    Score estimate(double value) const { return Score::estimate(rounded(std::clamp(value, 1 - bound_, bound_ - 1))); }
    /// A value on the axis.
    double at(Score score) const {
        if (score.is_proven()) return per_point_ * score.payoff();
        return score.number();
    }

   private:
    Scale scale_;
    double shrunk_;
    Payoff most_payoff_;
    double most_, per_point_, bound_;
};

template <class Move>
struct ExpectationFrame : PlyFrame<Move> {
    MoveList<Event<Move>> events;
    MoveOrder order;
    std::vector<double> bounds;  ///< of each event's value, from one move of it
};

template <Game G>
struct ExpectationTree {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Frame = ExpectationFrame<Move>;

    const G& game;
    const Evaluator<G>* evaluator;
    TranspositionTable* table;
    std::vector<Frame>& frames;
    Budget& budget;
    const PayoffAxis& axis;
    bool prunes_chance;
    SearchedTree<Move>* watched;
    WayDown<G> way;
    bool cut_by_depth = false;
    int depth_asked = 0;

    void prepare(int depth) {
        provide_frames(frames, depth + 1);
        cut_by_depth = false;
        depth_asked = depth;
    }
    bool reached_horizon() const { return cut_by_depth; }
    const MoveList<Move>& line() const { return frames[1].line; }

    FirstMoveScore search_move(const Position& position, Player player, const Move& move, const RootWindow& window) {
        way.enter(position);
        const Score score = after(position, player, move, frames[1], depth_asked - 1, window.alpha(), window.ceiling);
        way.leave();
        return window.judged(score);
    }

    /// The value, for `player`, of what follows a move or an event; exact between alpha and beta, else a bound. `frame`
    /// belongs to the position after it.
    Score after(const Position& position, Player player, const Move& move, Frame& frame, int depth, Score alpha,
                Score beta) {
        if (watched == nullptr || frame.ply > watched->plies())
            return value_after(position, player, move, frame, depth, alpha, beta, false);
        if (!watched->enter(player, move, frame.ply, budget.nodes()))
            return unwatched([&] { return value_after(position, player, move, frame, depth, alpha, beta, false); });
        const Score score = value_after(position, player, move, frame, depth, alpha, beta, true);
        watched->leave(score, kind_within(score, alpha, beta), budget.nodes());
        return score;
    }

    /// Of a position where chance is next, for `player`. Takes the events one by one; stops as soon as the rest cannot
    /// bring the value back between alpha and beta, whatever they are.
    Score chance(const Position& position, Player player, Frame& frame, int depth, Score alpha, Score beta) {
        frame.events.clear();
        list_events(game, position, frame.events);
        if (frame.events.empty()) throw_no_move();
        const double least = -axis.bound(), most = axis.bound();
        // A proven bound is beyond all that rests on luck.
        const bool from_low = prunes_chance && !alpha.is_proven() && alpha > Score::lowest();
        const bool to_high = prunes_chance && !beta.is_proven() && beta < Score::highest();
        const double low = from_low ? alpha.number() : -1e300, high = to_high ? beta.number() : 1e300;
        Frame& next_frame = *(&frame + 1);
        frame.bounds.assign(frame.events.size(), most);
        double rest_least = 0, rest_most = 0;  // of the events that are not searched yet
        for (const auto& event : frame.events) {
            rest_least += event.probability * least;
            rest_most += event.probability * most;
        }
        // One move of each event first: where the player chooses it is a lower bound, where the rival does an upper.
        std::vector<double>& bounds = frame.bounds;
        bool from_below = false;
        if (depth > 1 && (from_low || to_high)) {
            const Player chooser = mover_after(position, frame.events[0].move);
            from_below = chooser == player && to_high;
            if (from_below || (chooser != player && from_low)) {
                for (std::size_t i = 0; i < frame.events.size(); ++i) {
                    const auto& event = frame.events[i];
                    const double p = event.probability;
                    const Score to = from_below ? above((high - rest_least) / p + least) : Score::highest();
                    const Score from = from_below ? Score::lowest() : below((low - rest_most) / p + most);
                    const std::optional<Score> found =
                        after_one_move(position, player, chooser, event.move, next_frame, depth - 1, from, to);
                    if (budget.stopped()) return {};
                    bounds[i] = found ? axis.at(*found) : from_below ? least : most;
                    if (from_below) {
                        rest_least += event.probability * (bounds[i] - least);
                        if (rest_least >= high) return cutoff(rest_least, frame);
                    } else {
                        rest_most += event.probability * (bounds[i] - most);
                        if (rest_most <= low) return cutoff(rest_most, frame);
                    }
                }
            }
        }
        double sum = 0;
        Score latest_proven = Score::highest();
        bool all_proven = true;
        double likeliest = 0;
        for (std::size_t i = 0; i < frame.events.size(); ++i) {
            const Event<Move> event = frame.events[i];
            const double bound_least = from_below ? bounds[i] : least, bound_most = from_below ? most : bounds[i];
            rest_least -= event.probability * bound_least;
            rest_most -= event.probability * bound_most;
            const Score from = below((low - sum - rest_most) / event.probability);
            const Score to = above((high - sum - rest_least) / event.probability);
            const Score value = after(position, player, event.move, next_frame, depth - 1, from, to);
            if (budget.stopped()) return {};
            if (event.probability > likeliest) {
                likeliest = event.probability;
                frame.set_line(event.move, next_frame.line);
            }
            sum += event.probability * axis.at(value);
            all_proven =
                all_proven && value.is_proven() && (i == 0 || value.is_proven_win() == latest_proven.is_proven_win());
            if (all_proven && (i == 0 || value.plies() > latest_proven.plies())) latest_proven = value;
            if (i + 1 == frame.events.size()) break;
            if (sum + rest_most <= low) return cutoff(sum + rest_most, frame);
            if (sum + rest_least >= high) return cutoff(sum + rest_least, frame);
        }
        // Proven only where every event says so; then at the latest of the plies.
        return all_proven ? latest_proven : axis.estimate(sum);
    }

   private:
    /// What is searched meanwhile is no part of the tree that is watched.
    template <class Search>
    Score unwatched(Search search) {
        SearchedTree<Move>* const watching = std::exchange(watched, nullptr);
        const Score score = search();
        watched = watching;
        return score;
    }

    // One more on either side, so that rounding never takes a bound for an exact value.
    Score below(double value) const {
        return value - 1 > -axis.bound() ? Score::estimate(rounded(std::min(value - 1.5, 2e9))) : Score::lowest();
    }
    Score above(double value) const {
        return value + 1 < axis.bound() ? Score::estimate(rounded(std::max(value + 1.5, -2e9))) : Score::highest();
    }

    Score cutoff(double value, Frame& frame) {
        ++budget.cutoffs;
        frame.line.clear();
        return axis.estimate(value);
    }

    /// Who is to move after the event; where play is over or chance is next again, nobody in particular.
    Player mover_after(const Position& position, const Move& event) const {
        Position next = position;
        game.play(next, event);
        return game.outcome(next) || chance_is_next(game, next) ? Player::First : game.player_to_move(next);
    }

    /// A bound of the value of an event, for `player`, by the move of `chooser` that is looked at first; nothing where
    /// there is none.
    std::optional<Score> after_one_move(const Position& position, Player player, Player chooser, const Move& event,
                                        Frame& frame, int depth, Score alpha, Score beta) {
        Position next = position;
        game.play(next, event);
        if (const auto outcome = game.outcome(next)) return end_of(*outcome, player, frame.ply);
        if (way.comes_back(next)) return Score{};
        if (chance_is_next(game, next) || game.player_to_move(next) != chooser || depth < 1) return std::nullopt;
        if (!budget.spend_node()) return std::nullopt;
        frame.moves.clear();
        game.generate_moves(next, frame.moves);
        if (frame.moves.empty()) throw_no_move();
        TableEntry known;
        const bool found = look_up(next, known);
        order_by_hint(game, next, frame.moves, place_of(found ? known.move : TableEntry::no_move), frame.order);
        frame.order.bring_best_forward(0);
        const Move move = frame.moves[frame.order.index_at(0)];
        way.enter(next);
        const Score score =
            unwatched([&] { return value_after(next, player, move, *(&frame + 1), depth - 1, alpha, beta, false); });
        way.leave();
        return score;
    }

    Score value_after(const Position& position, Player player, const Move& move, Frame& frame, int depth, Score alpha,
                      Score beta, bool shown) {
        Position next = position;
        game.play(next, move);
        if (!budget.spend_node()) return {};
        frame.line.clear();
        if (const auto outcome = game.outcome(next)) {
            ++budget.leaves;
            if (shown) watched->note(Fate::End);
            return end_of(*outcome, player, frame.ply);
        }
        if (way.comes_back(next)) {
            ++budget.leaves;
            if (shown) watched->note(Fate::End);
            return Score{};
        }
        if (depth <= 0) {
            ++budget.leaves;
            cut_by_depth = true;
            if (shown) watched->note(Fate::Horizon);
            return axis.evaluation(evaluation_by(evaluator, game, next, player));
        }
        way.enter(next);
        const Score score = next_value(next, player, frame, depth, alpha, beta);
        way.leave();
        return score;
    }
    Score next_value(const Position& next, Player player, Frame& frame, int depth, Score alpha, Score beta) {
        if (chance_is_next(game, next)) return remembered(next, player, frame, depth, alpha, beta);
        const Player mover = game.player_to_move(next);
        return mover == player ? remembered(next, mover, frame, depth, alpha, beta)
                               : -remembered(next, mover, frame, depth, -beta, -alpha);
    }
    Score end_of(const Outcome& outcome, Player player, int ply) const {
        require_zero_sum(outcome);
        return axis.end(outcome.payoff(player), ply);
    }

    std::uint64_t key_of(const Position& position, Player player) const {
        if constexpr (HashedGame<G>)
            return mix_bits(game.hash(position) + 0x9e3779b97f4a7c15u * (index_of(player) + 1));
        else
            return 0;
    }
    bool look_up(const Position& position, TableEntry& known) const {
        if (table == nullptr) return false;
        return table->look_up(key_of(position, game.player_to_move(position)), known);
    }

    /// The value of a position for `player`, from the table where that has it.
    Score remembered(const Position& position, Player player, Frame& frame, int depth, Score alpha, Score beta) {
        const bool rolls = chance_is_next(game, position);
        const std::uint64_t key = table != nullptr ? key_of(position, player) : 0;
        TableEntry known;
        std::uint16_t best_place = TableEntry::no_move;
        if (table != nullptr && table->look_up(key, known)) {
            best_place = known.move;
            if (known.depth == depth ||
                (known.depth < depth && known.score.is_proven() && known.bound == Bound::Exact)) {
                const Score score = known.score.seen_from_earlier(frame.ply);
                if (known.bound == Bound::Exact || (known.bound == Bound::Lower && score >= beta) ||
                    (known.bound == Bound::Upper && score <= alpha)) {
                    ++budget.table_hits;
                    cut_by_depth = cut_by_depth || !score.is_proven();
                    return score;
                }
            }
        }
        const Score score = rolls ? chance(position, player, frame, depth, alpha, beta)
                                  : choice(position, player, frame, depth, alpha, beta, best_place);
        if (table != nullptr && !budget.stopped()) {
            const Bound bound = score >= beta ? Bound::Lower : score <= alpha ? Bound::Upper : Bound::Exact;
            table->store(key, {score.seen_from_earlier(-frame.ply), std::min(depth, TableEntry::complete_depth - 1),
                               bound, best_place});
        }
        return score;
    }

    /// No place where the table has none.
    static std::size_t place_of(std::uint16_t table_move) {
        return table_move == TableEntry::no_move ? SIZE_MAX : table_move;
    }

    /// Of a position where `player` is to move.
    Score choice(const Position& position, Player player, Frame& frame, int depth, Score alpha, Score beta,
                 std::uint16_t& best_place) {
        Frame& next_frame = *(&frame + 1);
        frame.moves.clear();
        game.generate_moves(position, frame.moves);
        if (frame.moves.empty()) throw_no_move();
        order_by_hint(game, position, frame.moves, place_of(best_place), frame.order);
        Score best = Score::lowest();
        for (std::size_t i = 0; i < frame.moves.size(); ++i) {
            frame.order.bring_best_forward(i);
            const std::size_t place = frame.order.index_at(i);
            const Move move = frame.moves[place];
            const Score score = after(position, player, move, next_frame, depth - 1, std::max(alpha, best), beta);
            if (budget.stopped()) return best;
            if (score <= best) continue;
            best = score;
            best_place = static_cast<std::uint16_t>(std::min<std::size_t>(place, TableEntry::no_move));
            frame.set_line(move, next_frame.line);
            if (best >= beta) {
                ++budget.cutoffs;
                break;
            }
        }
        return best;
    }
};

}  // namespace arvek::detail
