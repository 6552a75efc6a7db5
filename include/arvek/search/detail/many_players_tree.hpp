#pragma once
// The trees of search/many_players.hpp. Values are what each player gets, in points (detail/sampling.hpp).
//
// Sources: Luckhardt, Irani (1986), "An Algorithmic Solution of N-Person Games" (max^n); Korf (1991), "Multi-player
// Alpha-Beta Pruning" (what of pruning is sound: nothing is better than the most there is); Sturtevant, Korf (2000), "On
// Pruning Techniques for Multi-Player Games" (all others against one).

#include <algorithm>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/move_order.hpp"
#include "arvek/search/detail/root.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/detail/way_down.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// Throws InputError unless 1 <= mebibytes <= most_table_mebibytes.
void require_table_size(std::size_t mebibytes);

/// Values of positions that were searched before, by hash.
class ValueTable {
   public:
    struct Entry {
        std::uint64_t key = 0;
        SampledValues values{};
        std::int16_t depth = -1;
        bool exact = true;  ///< or, where it is one player's, at least (`lower`) or at most so much
        bool lower = false;
        bool reached_horizon = false;
        std::uint32_t best = 0;  ///< place of the best move
    };

    /// Throws InputError for a size out of range.
    explicit ValueTable(std::size_t mebibytes) {
        require_table_size(mebibytes);
        std::size_t entries = 1024;
        while (entries * 2 * sizeof(Entry) <= mebibytes * 1024 * 1024) entries *= 2;
        entries_.resize(entries);
    }
    Entry& at(std::uint64_t key) { return entries_[key & (entries_.size() - 1)]; }

   private:
    std::vector<Entry> entries_;
};

template <class Move>
struct ManyPlayersFrame : PlyFrame<Move> {
    MoveList<Event<Move>> events;
    MoveOrder order;
};

template <Game G>
struct ManyPlayersTree {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Frame = ManyPlayersFrame<Move>;

    const G& game;
    const Evaluator<G>* evaluator;
    ValueTable* table;
    std::vector<Frame>& frames;
    Budget& budget;
    const ValueAxis& axis;
    bool paranoid;  ///< all others against the one who decides
    WayDown<G> way;
    double per_point;
    SearchedTree<Move>* watched;
    std::uint64_t decision;  ///< so that values of another one are not found
    std::size_t players = static_cast<std::size_t>(players_of(game));
    std::size_t decider = 0;
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
        decider = index_of(player);
        // A little lower than asked, as values are finer than scores: what is as good must not look like a bound.
        double alpha = -no_bound;
        if (paranoid && window.alpha() > Score::lowest()) alpha = (window.alpha().number() - 1.0) / per_point;
        way.enter(position);
        const SampledValues values = after(position, player, move, frames[1], depth_asked - 1, alpha, no_bound);
        way.leave();
        const Score score = score_of(values[decider]);
        return {score, paranoid && values[decider] <= alpha ? ScoreKind::Upper : ScoreKind::Exact};
    }

    Score score_of(double value) const { return Score::estimate(rounded(value * per_point)); }

   private:
    static constexpr double no_bound = 1e100;

    SampledValues after(const Position& position, Player player, const Move& move, Frame& frame, int depth,
                        double alpha, double beta) {
        if (watched != nullptr && frame.ply <= watched->plies()) {
            if (watched->enter(player, move, frame.ply, budget.nodes())) {
                const SampledValues values = value_after(position, move, frame, depth, alpha, beta, true);
                watched->leave(score_of(values[index_of(player)]), ScoreKind::Exact, budget.nodes());
                return values;
            }
            SearchedTree<Move>* const watching = std::exchange(watched, nullptr);
            const SampledValues values = value_after(position, move, frame, depth, alpha, beta, false);
            watched = watching;
            return values;
        }
        return value_after(position, move, frame, depth, alpha, beta, false);
    }

    SampledValues value_after(const Position& position, const Move& move, Frame& frame, int depth, double alpha,
                              double beta, bool shown) {
        Step<G, Stepping::Copying> step(game, position, move);
        Position& next = step.position();
        if (!budget.spend_node()) return {};
        frame.line.clear();
        if (const auto outcome = game.outcome(next)) {
            ++budget.leaves;
            if (shown) watched->note(Fate::End);
            return axis.values_of(*outcome);
        }
        if (way.comes_back(next)) {
            ++budget.leaves;
            if (shown) watched->note(Fate::End);
            return {};  // a draw pays nobody anything
        }
        if (depth <= 0) {
            ++budget.leaves;
            cut_by_depth = true;
            if (shown) watched->note(Fate::Horizon);
            std::array<Score, max_players> scores{};
            for (std::size_t i = 0; i < players; ++i)
                scores[i] = evaluation_by(evaluator, game, next, static_cast<Player>(i));
            return axis.values_of(scores);
        }
        way.enter(next);
        const SampledValues values = remembered(next, frame, depth, alpha, beta);
        way.leave();
        return values;
    }

    std::uint64_t key_of(const Position& position) const {
        if constexpr (HashedGame<G>)
            return mix_bits(game.hash(position) + 0x9e3779b97f4a7c15u * (decider + 1 + max_players * decision));
        else
            return 0;
    }

    SampledValues remembered(const Position& position, Frame& frame, int depth, double alpha, double beta) {
        const std::uint64_t key = table != nullptr ? key_of(position) : 0;
        std::uint32_t best = UINT32_MAX;
        if (table != nullptr) {
            const ValueTable::Entry& known = table->at(key);
            if (known.key == key && known.depth >= 0) {
                best = known.best;
                const bool deep_enough = known.depth == depth || (known.depth < depth && !known.reached_horizon);
                const double value = known.values[decider];
                if (deep_enough && (known.exact || (known.lower ? value >= beta : value <= alpha))) {
                    ++budget.table_hits;
                    cut_by_depth = cut_by_depth || known.reached_horizon;
                    return known.values;
                }
            }
        }
        const bool cut_before = std::exchange(cut_by_depth, false);
        const bool rolls = chance_is_next(game, position);
        const SampledValues values =
            rolls ? chance(position, frame, depth) : choice(position, frame, depth, alpha, beta, best);
        const bool exact = rolls || !paranoid || (values[decider] > alpha && values[decider] < beta);
        if (table != nullptr && !budget.stopped()) {
            ValueTable::Entry& entry = table->at(key);
            entry = {key, values, static_cast<std::int16_t>(depth), exact, values[decider] >= beta, cut_by_depth, best};
        }
        cut_by_depth = cut_by_depth || cut_before;
        return values;
    }

    SampledValues chance(const Position& position, Frame& frame, int depth) {
        frame.events.clear();
        list_events(game, position, frame.events);
        if (frame.events.empty()) throw_no_move();
        Frame& next_frame = *(&frame + 1);
        SampledValues sum{};
        double likeliest = 0;
        for (std::size_t i = 0; i < frame.events.size(); ++i) {
            const Event<Move> event = frame.events[i];
            const SampledValues values =
                after(position, Player::First, event.move, next_frame, depth - 1, -no_bound, no_bound);
            if (budget.stopped()) return sum;
            for (std::size_t j = 0; j < players; ++j) sum[j] += event.probability * values[j];
            if (event.probability > likeliest) {
                likeliest = event.probability;
                frame.set_line(event.move, next_frame.line);
            }
        }
        return sum;
    }

    SampledValues choice(const Position& position, Frame& frame, int depth, double alpha, double beta,
                         std::uint32_t& best_place) {
        Frame& next_frame = *(&frame + 1);
        const Player player = game.player_to_move(position);
        const std::size_t mover = index_of(player);
        // Whoever is against the decider looks for the least that it gets.
        const bool against = paranoid && mover != decider;
        const std::size_t whose = paranoid ? decider : mover;
        frame.moves.clear();
        game.generate_moves(position, frame.moves);
        if (frame.moves.empty()) throw_no_move();
        // Of equally good moves max^n takes the first: what the table liked must not come to the front.
        order_by_hint(game, position, frame.moves, paranoid ? best_place : UINT32_MAX, frame.order);
        SampledValues best{};
        for (std::size_t i = 0; i < frame.moves.size(); ++i) {
            frame.order.bring_best_forward(i);
            const std::size_t place = frame.order.index_at(i);
            const Move move = frame.moves[place];
            const SampledValues values = after(position, player, move, next_frame, depth - 1, alpha, beta);
            if (budget.stopped()) return best;
            // What differs by the rounding of probabilities alone is equal.
            constexpr double rounding = 1e-12;
            const double apart = against ? best[whose] - values[whose] : values[whose] - best[whose];
            const bool better = i == 0 || apart > rounding * std::max(1.0, axis.usual_range().width());
            if (!better) continue;
            best = values;
            best_place = static_cast<std::uint32_t>(place);
            frame.set_line(move, next_frame.line);
            const bool last = i + 1 == frame.moves.size();
            if (paranoid) {
                if (against)
                    beta = std::min(beta, best[whose]);
                else
                    alpha = std::max(alpha, best[whose]);
                if (alpha >= beta && !last) {
                    ++budget.cutoffs;
                    break;
                }
            } else if (axis.is_best(best[whose]) && !last) {
                ++budget.cutoffs;
                break;
            }
        }
        return best;
    }
};

}  // namespace arvek::detail
