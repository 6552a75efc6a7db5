#pragma once
// The tree of the standard search and of the solver: see search/standard.hpp.

#include <array>
#include <cstring>
#include <optional>
#include <span>
#include <type_traits>

#include "arvek/game/hashing.hpp"
#include "arvek/game/ordering.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/search/detail/root.hpp"
#include "arvek/search/techniques.hpp"
#include "arvek/search/transposition_table.hpp"

namespace arvek::detail {

/// What cut off, and how often, in this decision.
template <class Move>
struct CutoffMemory {
    /// Moves without padding, up to eight bytes, can be told apart by number; others do without history.
    static constexpr bool numbers_moves =
        (std::is_integral_v<Move> || std::is_enum_v<Move> ||
         std::has_unique_object_representations_v<Move>)&&std::is_trivially_copyable_v<Move> &&
        sizeof(Move) <= 8;

    static constexpr std::size_t move_numbers = 4'096;
    static constexpr int most_history = 1 << 14;

    std::array<std::array<int, move_numbers>, max_players> history{};
    std::array<std::array<std::optional<Move>, move_numbers>, max_players> replies{};

    void forget() {
        for (auto& row : history) row.fill(0);
        for (auto& row : replies) row.fill(std::nullopt);
    }
    /// The nearer to the bound, the less a further success or failure counts.
    void note(Player player, const Move& move, int change) {
        int& entry = history[index_of(player)][number_of(move)];
        change = std::clamp(change, -most_history, most_history);
        entry += change - entry * std::abs(change) / most_history;
    }
    static std::size_t number_of(const Move& move) {
        std::uint64_t bytes = 0;
        std::memcpy(&bytes, &move, sizeof(Move));
        // Small moves keep numbers of their own; larger ones are scattered.
        return static_cast<std::size_t>(bytes < move_numbers ? bytes : mix_bits(bytes) % move_numbers);
    }
};

struct OrderedMove {
    std::int64_t value;
    std::uint16_t index;
};

template <class Move>
struct StandardFrame : PlyFrame<Move> {
    std::vector<OrderedMove> order;
    /// By player, since the same ply may be either's where a player moves again.
    std::array<std::array<std::optional<Move>, 2>, max_players> killers;
};

template <Game G, Stepping S>
struct StandardTree {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Memory = CutoffMemory<Move>;
    using Frame = StandardFrame<Move>;

    static constexpr bool hints = HintingGame<G>;
    static constexpr bool repeats = RepeatingGame<G>;
    static constexpr bool numbers_moves = Memory::numbers_moves;
    static constexpr int quiescence_plies = 24;

    const G& game;
    const Techniques& use;
    TranspositionTable* table;
    Memory& memory;
    std::vector<Frame>& frames;
    Budget& budget;
    std::vector<Position> path{};  ///< where positions repeat: the game so far and the line being searched
    int root_ply = 0;              ///< where the root stands in it
    int deepest_rest = no_rest;    ///< the earliest place of the path that a draw by repetition below rests on
    bool horizon = false;
    int depth_asked = 0;
    int ply_weight = 1;  ///< 0: only what the end pays counts, not how soon it comes

    // What speaks for a move, against the counts of history.
    static constexpr std::int64_t hint_value = std::int64_t{1} << 24;
    static constexpr std::array<std::int64_t, 2> killer_value{std::int64_t{1} << 15, std::int64_t{1} << 14};
    static constexpr std::int64_t reply_value = std::int64_t{1} << 14;
    static constexpr int no_rest = 1'000'000'000;
    static constexpr bool learns_order = true;

    StandardTree(const G& game_searched, const Techniques& techniques, TranspositionTable* table_used,
                 Memory& memory_used, std::vector<Frame>& frames_used, Budget& budget_used)
        : game(game_searched),
          use(techniques),
          table(table_used),
          memory(memory_used),
          frames(frames_used),
          budget(budget_used) {
        for (Frame& frame : frames) frame.killers = {};
    }

    bool aspires() const { return use.aspiration; }
    bool reached_horizon() const { return horizon; }
    const MoveList<Move>& line() const { return frames[1].line; }

    void prepare(int depth) {
        provide_frames(frames, depth + (use.quiescence ? quiescence_plies : 0) + 1);
        horizon = false;
        depth_asked = depth;
    }

    FirstMoveScore search_move(Position& position, Player player, const Move& move, const RootWindow& window) {
        const Score alpha = window.alpha();
        Score score;
        bool open = true;
        if (use.pvs && window.ranking != Ranking::All && window.best > Score::lowest() && alpha > Score::lowest()) {
            score = after(position, player, move, frames[1], depth_asked - 1, alpha, alpha.just_above());
            open = score > alpha;
        }
        if (open && !budget.stopped())
            score = after(position, player, move, frames[1], depth_asked - 1, alpha, window.ceiling);
        return window.judged(score);
    }

    /// The score, for `player`, of making `move`, with `depth` plies left after it. `frame` belongs to the position
    /// that the move leads to.
    Score after(Position& position, Player player, const Move& move, Frame& frame, int depth, Score alpha, Score beta) {
        Step<G, S> step(game, position, move);
        Position& next = step.position();
        if (!budget.spend_node()) return Score{};
        frame.line.clear();
        if (const auto outcome = game.outcome(next)) {
            ++budget.counters.leaves;
            return Score::proven(outcome->payoff(player), frame.ply * ply_weight);
        }
        if constexpr (BoundedGame<G>) {
            if (ply_weight == 0) {
                // What can still be won or lost may already be outside of what matters.
                const PayoffBounds bounds = game.payoff_bounds(next, player);
                const Score least = Score::proven(bounds.least, 0), most = Score::proven(bounds.most, 0);
                if (least >= beta || most <= alpha || least == most) {
                    ++budget.counters.leaves;
                    return least >= beta ? least : most;
                }
            }
        }
        if constexpr (repeats) {
            for (int place = root_ply + frame.ply - 1; place >= 0; --place)
                if (path[static_cast<std::size_t>(place)] == next) {
                    ++budget.counters.leaves;
                    deepest_rest = std::min(deepest_rest, place);
                    return Score{};
                }
        }
        const Player mover = game.player_to_move(next);
        const bool same = mover == player;
        if (depth <= 0) {
            horizon = true;
            if constexpr (ForcingGame<G>)
                if (use.quiescence)
                    return same ? quiet(next, mover, frame, quiescence_plies, alpha, beta)
                                : -quiet(next, mover, frame, quiescence_plies, -beta, -alpha);
            ++budget.counters.leaves;
            return evaluation_of(game, next, player);
        }
        if constexpr (repeats) path.push_back(next);
        const Score score = same ? visit(next, mover, &move, frame, depth, alpha, beta)
                                 : -visit(next, mover, &move, frame, depth, -beta, -alpha);
        if constexpr (repeats) path.pop_back();
        return score;
    }

    /// The score of a position for `player`, whose turn it is, with `depth` plies left, at least 1.
    Score visit(Position& position, Player player, const Move* previous, Frame& frame, int depth, Score alpha,
                Score beta) {
        const Score alpha_before = alpha;
        std::uint64_t hash = 0;
        std::uint16_t table_move = TableEntry::no_move;
        if constexpr (HashedGame<G>) {
            if (table != nullptr) {
                hash = game.hash(position);
                TableEntry entry;
                if (table->look_up(hash, entry)) {
                    table_move = entry.move;
                    const Score score = entry.score.seen_from_earlier(frame.ply * ply_weight);
                    const bool deep_enough = entry.depth >= depth;
                    if (deep_enough && (entry.bound == Bound::Exact || (entry.bound == Bound::Lower && score >= beta) ||
                                        (entry.bound == Bound::Upper && score <= alpha))) {
                        ++budget.counters.table_hits;
                        if (entry.depth < TableEntry::complete_depth) horizon = true;
                        return score;
                    }
                }
            }
        }
        // What is found below about the horizon and about repetition decides what the value may be used for.
        const bool horizon_outside = std::exchange(horizon, false);
        const int rest_outside = std::exchange(deepest_rest, no_rest);

        frame.moves.clear();
        game.generate_moves(position, frame.moves);
        if (frame.moves.empty()) throw_no_move();
        order_moves(position, player, previous, frame, table_move);

        Frame& next_frame = *(&frame + 1);  // prepare() made enough of them
        Score best = Score::lowest();
        std::uint16_t best_index = TableEntry::no_move;
        const std::size_t count = frame.order.size();
        for (std::size_t i = 0; i < count; ++i) {
            bring_best_forward(frame.order, i);
            const std::uint16_t index = frame.order[i].index;
            const Move& move = frame.moves[index];
            Score score;
            bool open = true;
            if (i > 0 && use.pvs && beta > alpha.just_above()) {
                score = scout(position, player, move, next_frame, depth, i, alpha);
                open = score > alpha && score < beta;
            } else if (i > 0 && use.reductions && reducible(depth, i)) {
                score = scout(position, player, move, next_frame, depth, i, alpha);
                open = score > alpha;
            }
            if (open && !budget.stopped()) score = after(position, player, move, next_frame, depth - 1, alpha, beta);
            if (budget.stopped()) return best;
            if (score <= best) continue;
            best = score;
            best_index = index;
            if (score <= alpha) continue;
            alpha = score;
            frame.set_line(move, next_frame.line);
            if (alpha >= beta) {
                ++budget.counters.cutoffs;
                remember_cutoff(player, previous, move, frame, depth);
                if constexpr (numbers_moves)
                    if (use.history)
                        for (std::size_t tried = 0; tried < i; ++tried)
                            memory.note(player, frame.moves[frame.order[tried].index], -depth * depth);
                break;
            }
        }

        // A value that rests on a draw by repetition with a position before this one holds on this way here alone.
        const int own_place = root_ply + frame.ply;
        const bool path_dependent = repeats && deepest_rest < own_place;
        if constexpr (HashedGame<G>) {
            if (table != nullptr && !path_dependent) {
                const Bound bound = best >= beta ? Bound::Lower : best > alpha_before ? Bound::Exact : Bound::Upper;
                table->store(hash, {best.seen_from_earlier(-frame.ply * ply_weight),
                                    horizon ? std::min(depth, max_depth) : TableEntry::complete_depth, bound,
                                    std::min(best_index, TableEntry::no_move)});
            }
        }
        horizon = horizon || horizon_outside;
        deepest_rest = std::min(rest_outside, path_dependent ? deepest_rest : no_rest);
        return best;
    }

    static bool reducible(int depth, std::size_t number) { return depth >= 3 && number >= 4; }

    /// A test whether the move is better than alpha, perhaps at less depth at first.
    Score scout(Position& position, Player player, const Move& move, Frame& next_frame, int depth, std::size_t number,
                Score alpha) {
        if (use.reductions && reducible(depth, number)) {
            const Score reduced = after(position, player, move, next_frame, depth - 2, alpha, alpha.just_above());
            if (reduced <= alpha || budget.stopped()) {
                horizon = true;
                return reduced;
            }
        }
        return after(position, player, move, next_frame, depth - 1, alpha, alpha.just_above());
    }

    /// Beyond the horizon: the evaluation, or a forcing move that is better.
    Score quiet(Position& position, Player player, Frame& frame, int plies, Score alpha,
                Score beta) requires ForcingGame<G> {
        Score best = evaluation_of(game, position, player);
        frame.moves.clear();
        if (best < beta && plies > 0) game.generate_forcing_moves(position, frame.moves);
        if (frame.moves.empty()) {
            ++budget.counters.leaves;
            return best;
        }
        alpha = std::max(alpha, best);
        Frame& next_frame = *(&frame + 1);
        for (const Move& move : frame.moves) {
            Step<G, S> step(game, position, move);
            Position& next = step.position();
            if (!budget.spend_node()) return best;
            next_frame.line.clear();
            Score score;
            if (const auto outcome = game.outcome(next)) {
                ++budget.counters.leaves;
                score = Score::proven(outcome->payoff(player), next_frame.ply * ply_weight);
            } else if (const Player mover = game.player_to_move(next); mover == player) {
                score = quiet(next, mover, next_frame, plies - 1, alpha, beta);
            } else {
                score = -quiet(next, mover, next_frame, plies - 1, -beta, -alpha);
            }
            if (budget.stopped()) return best;
            if (score <= best) continue;
            best = score;
            if (score <= alpha) continue;
            alpha = score;
            frame.set_line(move, next_frame.line);
            if (alpha >= beta) {
                ++budget.counters.cutoffs;
                break;
            }
        }
        return best;
    }

    void order_moves(const Position& position, Player player, const Move* previous, Frame& frame,
                     std::uint16_t table_move) {
        frame.order.resize(frame.moves.size());
        const auto* reply = reply_to(player, previous);
        const auto& killers = frame.killers[index_of(player)];
        for (std::size_t i = 0; i < frame.moves.size(); ++i) {
            const Move& move = frame.moves[i];
            std::int64_t value = 0;
            if (i == table_move) {
                value = std::int64_t{1} << 60;
            } else {
                if constexpr (hints)
                    if (use.hint) value += std::int64_t{game.order_hint(position, move)} * hint_value;
                if (use.killers) {
                    if (killers[0] == move)
                        value += killer_value[0];
                    else if (killers[1] == move)
                        value += killer_value[1];
                }
                if constexpr (numbers_moves) {
                    if (use.history) value += memory.history[index_of(player)][Memory::number_of(move)];
                    if (reply != nullptr && *reply == move) value += reply_value;
                }
            }
            frame.order[i] = {value, static_cast<std::uint16_t>(std::min<std::size_t>(i, UINT16_MAX))};
        }
    }

    /// Selection instead of sorting: most positions are cut off after a move or two. Equals keep the game's order.
    static void bring_best_forward(std::vector<OrderedMove>& order, std::size_t from) {
        std::size_t best = from;
        for (std::size_t i = from + 1; i < order.size(); ++i)
            if (order[i].value > order[best].value) best = i;
        if (best == from) return;
        const OrderedMove moved = order[best];
        for (std::size_t i = best; i > from; --i) order[i] = order[i - 1];
        order[from] = moved;
    }

    const Move* reply_to(Player player, const Move* previous) const {
        if constexpr (numbers_moves) {
            if (use.replies && previous != nullptr) {
                const auto& reply = memory.replies[index_of(player)][Memory::number_of(*previous)];
                return reply ? &*reply : nullptr;
            }
        }
        return nullptr;
    }

    void remember_cutoff(Player player, const Move* previous, const Move& move, Frame& frame, int depth) {
        auto& killers = frame.killers[index_of(player)];
        if (use.killers && killers[0] != move) {
            killers[1] = killers[0];
            killers[0] = move;
        }
        if constexpr (numbers_moves) {
            if (use.history) memory.note(player, move, depth * depth);
            if (use.replies && previous != nullptr)
                memory.replies[index_of(player)][Memory::number_of(*previous)] = move;
        }
    }
};

}  // namespace arvek::detail
