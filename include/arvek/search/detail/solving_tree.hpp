#pragma once
// The tree that the solver searches to the end: is a position worth so much, or not?
//
// Every answer is a bound that holds for good, so the table keeps the least and the most that a position is worth, and
// how much work it was to find out, by which entries give way to each other.

#include <bit>
#include <vector>

#include "arvek/game/equivalence.hpp"
#include "arvek/game/ordering.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/sufficient_moves.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/history.hpp"
#include "arvek/search/detail/slot_table.hpp"

namespace arvek::detail {

/// What is known of a position, for the player to move, packed into one word.
struct SolvedEntry {
    Payoff least = -largest_payoff;
    Payoff most = largest_payoff;
    std::uint16_t move = no_move;  ///< where the best move stands among the generated ones
    int work = 0;                  ///< logarithm of the positions visited to find out

    static constexpr std::uint16_t no_move = 4'095;  ///< none, or one that stands further back

    // Payoffs 18 bits each, move 12, work 6, and a bit that is always set.
    std::uint64_t packed() const {
        return static_cast<std::uint64_t>(least + largest_payoff) |
               static_cast<std::uint64_t>(most + largest_payoff) << 18 | static_cast<std::uint64_t>(move) << 36 |
               static_cast<std::uint64_t>(work) << 48 | std::uint64_t{1} << 63;
    }
    static SolvedEntry unpacked(std::uint64_t data) {
        return {static_cast<Payoff>(data & 0x3ffff) - largest_payoff,
                static_cast<Payoff>(data >> 18 & 0x3ffff) - largest_payoff,
                static_cast<std::uint16_t>(data >> 36 & 0xfff), work_of(data)};
    }
    static int work_of(std::uint64_t data) { return static_cast<int>(data >> 48 & 63); }
};

template <class Move>
struct SolvingFrame {
    MoveList<Move> moves;
    std::vector<OrderedMove> order;
};

template <HashedGame G>
struct SolvingTree {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Frame = SolvingFrame<Move>;

    const G& game;
    SlotTable table;
    Budget& budget;
    std::vector<Frame> frames;

    History<Move> history;
    std::uint64_t placed = 0;
    const bool bounds_payoffs, suffices, hints;

    SolvingTree(const G& game_solved, std::size_t table_mebibytes, Budget& budget_used)
        : game(game_solved),
          table(table_mebibytes, first_mebibytes),
          budget(budget_used),
          frames(max_depth + 1),
          bounds_payoffs(BoundedGame<G> && wants_used<Ability::PayoffBounds>(game_solved)),
          suffices(SufficingGame<G> && wants_used<Ability::SufficientMoves>(game_solved)),
          hints(HintingGame<G> && wants_used<Ability::OrderHint>(game_solved)) {}

    /// What making `move` is worth to `player`: at least the result if that is `wanted` or more, else at most. `frame`
    /// belongs to the position that the move leads to.
    Payoff after(Position& position, Player player, const Move& move, Payoff wanted, Frame* frame) {
        Step<G, Stepping::Automatic> step(game, position, move);
        Position& next = step.position();
        if (!budget.spend_node()) return 0;
        const std::uint64_t hash = table_hash(game, next);
        table.prefetch(hash);
        if (const auto outcome = game.outcome(next)) {
            ++budget.leaves;
            return outcome->payoff(player);
        }
        if (bounds_payoffs) {
            const PayoffBounds bounds = bounds_of(next, player);
            if (bounds.least >= wanted || bounds.most < wanted) {
                ++budget.leaves;
                return bounds.least >= wanted ? bounds.least : bounds.most;
            }
        }
        const Player mover = game.player_to_move(next);
        return mover == player ? visit(next, mover, hash, wanted, frame) : -visit(next, mover, hash, 1 - wanted, frame);
    }

   private:
    Payoff visit(Position& position, Player player, std::uint64_t hash, Payoff wanted, Frame* frame) {
        SolvedEntry entry;
        if (const std::uint64_t data = table.find(hash); data != 0) {
            entry = SolvedEntry::unpacked(data);
            if (entry.least >= wanted || entry.most < wanted) {
                ++budget.table_hits;
                return entry.least >= wanted ? entry.least : entry.most;
            }
        }
        if (frame == &frames.back()) throw_too_long();
        const std::uint64_t nodes_before = budget.nodes();
        MoveList<Move>& moves = frame->moves;
        moves.clear();
        if (suffices) {
            if constexpr (SufficingGame<G>) game.generate_sufficient_moves(position, moves);
        } else {
            game.generate_moves(position, moves);
        }
        if (moves.empty()) throw_no_move();

        const std::size_t count = moves.size();
        const bool has_table_move = entry.move != SolvedEntry::no_move && entry.move < count;
        Payoff best = -largest_payoff;
        std::size_t best_index = nothing_tried;
        // The table's move needs no comparison with the others; only if it fails are they looked at.
        if (count == 1 || has_table_move) {
            best_index = has_table_move ? entry.move : 0;
            best = after(position, player, moves[best_index], wanted, frame + 1);
            if (budget.stopped()) return best;
        }
        if (best < wanted && count > 1) {
            order_moves(position, player, *frame, best_index);
            std::vector<OrderedMove>& order = frame->order;
            for (std::size_t i = 0; i < order.size(); ++i) {
                bring_best_forward(order, i);
                const Payoff payoff = after(position, player, moves[order[i].index], wanted, frame + 1);
                if (budget.stopped()) return best;
                if (payoff <= best && best_index != nothing_tried) continue;
                best = payoff;
                best_index = order[i].index;
                if (best >= wanted) {
                    ++budget.cutoffs;
                    remember_cutoff(player, *frame, i, has_table_move);
                    break;
                }
            }
        }
        if (best >= wanted)
            entry.least = best;
        else
            entry.most = best;
        entry.move = static_cast<std::uint16_t>(
            std::min<std::size_t>(best_index, SolvedEntry::no_move));  // too far back: not kept
        entry.work = static_cast<int>(std::bit_width(budget.nodes() - nodes_before));
        table.place(hash, entry.packed(), SolvedEntry::work_of);
        if (++placed > table.capacity() / 2 && table.can_grow()) [[unlikely]]
            table.grow();
        return best;
    }

    void order_moves(const Position& position, Player player, Frame& frame, std::size_t left_out) {
        frame.order.clear();
        for (std::size_t i = 0; i < frame.moves.size(); ++i) {
            if (i == left_out) continue;
            const Move& move = frame.moves[i];
            std::int64_t value = 0;
            // Measured: history on top of a hint costs a search to the end up to three times the positions.
            if (hints) {
                if constexpr (HintingGame<G>) value = game.order_hint(position, move);
            } else if constexpr (numbers_moves<Move>) {
                value = history.value_of(player, move);
            }
            frame.order.push_back({value, static_cast<std::uint32_t>(i)});
        }
    }

    void remember_cutoff(Player player, const Frame& frame, std::size_t tried, bool table_move_failed) {
        if constexpr (numbers_moves<Move>) {
            if (hints) return;
            const auto& order = frame.order;
            if (tried == 0 && !table_move_failed) return;  // well ordered as it is
            history.note(player, frame.moves[order[tried].index], history_step);
            for (std::size_t i = 0; i < tried; ++i) history.note(player, frame.moves[order[i].index], -history_step);
        }
    }

    [[noreturn]] static void throw_too_long() {
        throw InputError("position", "a line goes on for more than " + std::to_string(max_depth) + " plies",
                         "a game that ends sooner, or one with a repetition rule");
    }

    PayoffBounds bounds_of(const Position& position, Player player) const {
        if constexpr (BoundedGame<G>) return game.payoff_bounds(position, player);
        return {};
    }

    static constexpr std::size_t nothing_tried = SIZE_MAX;
    static constexpr std::size_t first_mebibytes = 16;
    static constexpr int history_step = 64;
};

}  // namespace arvek::detail
