#pragma once
// The tree that the solver searches to the end: is a position worth so much, or not?
//
// Every answer is a bound that holds for good, so the table keeps the least and the most that a position is worth, and
// how much work it was to find out, by which entries give way to each other.

#include <algorithm>
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
#include "arvek/search/detail/work_in_hand.hpp"

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
    MoveOrder order;
    float work = 0;  ///< about as much, as in SolvedEntry, as positions of this ply took
};

/// Of the table of one thread, which grows as it is needed.
inline constexpr std::size_t first_mebibytes_of_solving = 1;

template <HashedGame G>
struct SolvingTree {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Frame = SolvingFrame<Move>;

    const G& game;
    SlotTable& table;
    Budget& budget;
    WorkInHand* shared;  ///< of several threads; null for one
    std::vector<Frame> frames;

    History<Move> history;
    std::uint64_t placed = 0;
    const bool bounds_payoffs, suffices, hints;

    SolvingTree(const G& game_solved, SlotTable& table_used, bool follows_hint, Budget& budget_used,
                WorkInHand* work_shared)
        : game(game_solved),
          table(table_used),
          budget(budget_used),
          shared(work_shared),
          frames(max_depth + 1),
          bounds_payoffs(BoundedGame<G> && wants_used<Ability::PayoffBounds>(game_solved)),
          suffices(SufficingGame<G> && wants_used<Ability::SufficientMoves>(game_solved)),
          hints(follows_hint && HintingGame<G> && wants_used<Ability::OrderHint>(game_solved)) {}

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
            require_zero_sum(*outcome);
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
            MoveOrder& order = frame->order;
            for (std::size_t i = 0; i < order.size(); ++i) {
                order.bring_best_forward(i);
                const bool shares = shared != nullptr && i > 0 && frame->work >= least_work_shared;
                if (shares) defer_what_is_in_hand(*shared, order, i, hash);
                const std::uint64_t name = shares ? WorkInHand::name_of(hash, order.index_at(i)) : 0;
                if (shares) shared->take(name);
                const Payoff payoff = after(position, player, moves[order.index_at(i)], wanted, frame + 1);
                if (shares) shared->put_down(name);
                if (budget.stopped()) return best;
                if (payoff <= best && best_index != nothing_tried) continue;
                best = payoff;
                best_index = order.index_at(i);
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
        frame->work += (static_cast<float>(entry.work) - frame->work) / 16;
        if (entry.work < least_work_kept) return best;
        table.place(hash, entry.packed(), SolvedEntry::work_of);
        if (++placed > table.capacity() / 2 && shared == nullptr && table.can_grow()) [[unlikely]]
            table.grow();
        return best;
    }

    /// By the game's hint, where one is followed; moves that it takes for the best alike, and all without a hint, by how
    /// few replies they leave the rival: what leaves little choice is settled soon, one way or the other. What was learned
    /// tells apart the rest.
    void order_moves(Position& position, Player player, Frame& frame, std::size_t left_out) {
        MoveOrder& order = frame.order;
        MoveOrder::Key* const keys = order.begin(frame.moves.size() - (left_out < frame.moves.size() ? 1 : 0));
        std::int64_t most = -MoveOrder::largest_value;
        std::size_t size = 0, alike = 0;
        for (std::size_t i = 0; i < frame.moves.size(); ++i) {
            if (i == left_out) continue;
            std::int64_t hint = 0;
            // Measured: history on top of a hint costs a search to the end up to three times the positions.
            if constexpr (HintingGame<G>)
                if (hints) hint = std::clamp(game.order_hint(position, frame.moves[i]), -largest_hint, largest_hint);
            alike = hint > most ? 1 : alike + (hint == most ? 1 : 0);
            most = std::max(most, hint);
            keys[size++] = MoveOrder::key(hint * hint_value, i);
        }
        if (alike < 2) return;
        for (std::size_t place = 0; place < size; ++place) {
            std::int64_t value = order.value_at(place);
            if (value < most * hint_value) continue;
            const std::size_t index = order.index_at(place);
            value += choice_left(position, player, frame, frame.moves[index]) * choice_value;
            if constexpr (numbers_moves<Move>)
                if (!hints) value += history.value_of(player, frame.moves[index]);
            keys[place] = MoveOrder::key(value, index);
        }
    }

    /// How many moves the player has next, or, below zero, its rival.
    std::int64_t choice_left(Position& position, Player player, Frame& frame, const Move& move) const {
        Step<G, Stepping::Automatic> step(game, position, move);
        Position& next = step.position();
        if (game.outcome(next)) return 0;
        MoveList<Move>& moves = (&frame + 1)->moves;
        moves.clear();
        game.generate_moves(next, moves);
        const auto count = static_cast<std::int64_t>(std::min<std::size_t>(moves.size(), most_choice));
        return game.player_to_move(next) == player ? count : -count;
    }

    void remember_cutoff(Player player, const Frame& frame, std::size_t tried, bool table_move_failed) {
        if constexpr (numbers_moves<Move>) {
            if (hints) return;
            const auto& order = frame.order;
            if (tried == 0 && !table_move_failed) return;  // well ordered as it is
            history.note(player, frame.moves[order.index_at(tried)], history_step);
            for (std::size_t i = 0; i < tried; ++i) history.note(player, frame.moves[order.index_at(i)], -history_step);
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
    static constexpr float least_work_shared = 9.0f;  ///< less is not worth the talk between threads
    static constexpr int least_work_kept =
        2;  ///< to look at so few positions once more is quicker than to look them up
    static constexpr std::size_t most_choice = 255;
    static constexpr std::int64_t choice_value = 2 * History<Move>::most, hint_value = (most_choice + 1) * choice_value;
    static constexpr int largest_hint = 1 << 18;
    static constexpr int history_step = 64;
};

}  // namespace arvek::detail
