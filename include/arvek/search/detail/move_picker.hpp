#pragma once
// The moves of one position in the order in which the standard search looks at them: the table's, then by the hint and by
// what was learned of moves; quiet ones only once the forcing ones are through, where the game tells them apart.

#include <algorithm>
#include <array>
#include <optional>
#include <vector>

#include "arvek/game/ordering.hpp"
#include "arvek/game/text.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/hint_trust.hpp"
#include "arvek/search/detail/history.hpp"
#include "arvek/search/detail/killers.hpp"
#include "arvek/search/detail/move_order.hpp"
#include "arvek/search/detail/replies.hpp"
#include "arvek/search/techniques.hpp"
#include "arvek/search/transposition_table.hpp"

namespace arvek::detail {

template <class Move>
struct StandardFrame : PlyFrame<Move> {
    MoveOrder order;
    Killers<Move> killers;
    HintTrust::Leader leader = HintTrust::Hint;
};

/// What one thread of a search works with, and remembers during one decision.
template <class Move>
struct StandardMemory {
    History<Move> history;
    Replies<Move> replies;
    HintTrust trust;
    std::vector<StandardFrame<Move>> frames;

    void forget() {
        history.forget();
        replies.forget();
        trust.forget();
        for (auto& frame : frames) frame.killers.forget();
    }
};

/// Counts of history that are higher for as long as it lives.
class RaisedCounts {
   public:
    RaisedCounts() = default;
    RaisedCounts(const RaisedCounts&) = delete;
    RaisedCounts& operator=(const RaisedCounts&) = delete;
    ~RaisedCounts() {
        while (size_ > 0) {
            --size_;
            *counts_[size_] -= by_[size_];
        }
    }
    template <class Move>
    void raise(int* row, const std::optional<Move>& move, int by) {
        if (!move) return;
        counts_[size_] = &row[number_of(*move)];
        by_[size_] = by;
        *counts_[size_++] += by;
    }

   private:
    std::array<int*, 3> counts_{};
    std::array<int, 3> by_{};
    std::size_t size_ = 0;
};

/// Of one position, for as long as it is searched. A move keeps its index, whatever the order.
template <Game G>
class MovePicker {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Frame = StandardFrame<Move>;

    static constexpr bool remembers = numbers_moves<Move>;

    // What speaks for a move. What was learned only tells apart what the hint, where it is used, takes for equal.
    static constexpr std::int64_t table_value = MoveOrder::largest_value;
    static constexpr std::int64_t hint_value = std::int64_t{1} << 18;
    static constexpr int largest_hint = 1 << 23;
    static_assert(History<Move>::most + Killers<Move>::first_value + Killers<Move>::second_value +
                          Replies<Move>::value <
                      hint_value / 2 &&
                  largest_hint * hint_value < MoveOrder::largest_value / 2);

    /// `previous` is the move that led to the position, null after a null move; `table_move` the index of the move that
    /// comes first, TableEntry::no_move for none. Throws RulesError where there is no move.
    MovePicker(const G& game, const Techniques& use, StandardMemory<Move>& memory, const Position& position,
               Player player, const Move* previous, Frame& frame, std::uint16_t table_move, int depth)
        : game_(game),
          use_(use),
          memory_(memory),
          position_(position),
          previous_(previous),
          frame_(frame),
          player_(player),
          depth_(depth) {
        frame.moves.clear();
        if constexpr (StagedGame<G>) {
            if (use.stages) {
                game.generate_forcing_moves(position, frame.moves);
                const bool has_quiet_table_move = table_move != TableEntry::no_move && table_move >= frame.moves.size();
                quiet_wait_ = !frame.moves.empty() && !has_quiet_table_move;
                if (!quiet_wait_) game.generate_quiet_moves(position, frame.moves);
            } else {
                game.generate_moves(position, frame.moves);
            }
        } else {
            game.generate_moves(position, frame.moves);
        }
        if (frame.moves.empty()) throw_no_move();
        // The table's move needs no comparison with the others; only if it does not cut off are they looked at.
        table_first_ = table_move < frame.moves.size() && table_move != TableEntry::no_move;
        table_move_ = table_first_ ? table_move : SIZE_MAX;
        if (table_first_)
            frame.order.begin_with(table_value, table_move);
        else
            order_moves();
    }
    MovePicker(const MovePicker&) = delete;
    MovePicker& operator=(const MovePicker&) = delete;

    /// Whether there is a move at that place of the order; if so, it is there now. To be asked for each place in turn.
    [[gnu::always_inline]] bool bring(std::size_t place) {
        if (table_first_ && place == 1) {
            table_first_ = false;
            order_moves();
            frame_.order.bring_best_forward(0);
        }
        if (place < frame_.order.size()) {
            frame_.order.bring_best_forward(place);
            if constexpr (StagedGame<G>) {
                // Forcing moves that look bad wait together with the quiet ones.
                if (quiet_wait_ && frame_.order.value_at(place) < -hint_value / 2) return bring_quiet(place);
            }
            return true;
        }
        if constexpr (StagedGame<G>)
            if (quiet_wait_) return bring_quiet(place);
        return false;
    }

    /// The move that was brought to a place, until another place is asked for.
    const Move& move_at(std::size_t place) const { return frame_.moves[frame_.order.index_at(place)]; }

    /// How many moves the position has, generating what was not needed so far.
    std::size_t count_all() {
        if constexpr (StagedGame<G>)
            if (std::exchange(quiet_wait_, false)) game_.generate_quiet_moves(position_, frame_.moves);
        return frame_.moves.size();
    }

    /// The move that stands at `place` has cut off, those before it have not.
    void remember_cutoff(std::size_t place) {
        const Move& move = move_at(place);
        if (HintTrust::is_for(depth_) && weighs_hint() && frame_.order.value_at(place) < table_value)
            memory_.trust.note_cutoff(frame_.leader, depth_,
                                      place - (place > 0 && frame_.order.value_at(0) == table_value ? 1 : 0));
        if (use_.killers) frame_.killers.note(player_, move);
        if constexpr (remembers) {
            if (use_.replies && previous_ != nullptr) memory_.replies.note(player_, *previous_, move);
            if (!use_.history) return;
            memory_.history.note(player_, move, depth_ * depth_);
            for (std::size_t i = 0; i < place; ++i) memory_.history.note(player_, move_at(i), -depth_ * depth_);
        }
    }

   private:
    bool weighs_hint() const { return use_.hint && (use_.history || use_.killers || use_.replies); }

    /// Orders the moves generated so far.
    void order_moves() {
        bool hinted = use_.hint && HintTrust::is_for(depth_);
        if (hinted && weighs_hint()) {
            frame_.leader = memory_.trust.next_leader(depth_);
            hinted = frame_.leader == HintTrust::Hint;
        }
        hinted_ = hinted;
        value_moves(frame_.order.begin(frame_.moves.size()), 0);
        if (table_move_ != SIZE_MAX) frame_.order.begin_key(table_move_) = MoveOrder::key(table_value, table_move_);
    }

    /// The keys of the moves from that index on.
    void value_moves(MoveOrder::Key* keys, std::size_t from) {
        const std::size_t count = frame_.moves.size();
        const Move* const moves = frame_.moves.begin();
        // Killers and the reply count as more history while these moves are judged: one look-up a move.
        RaisedCounts raised;
        int* history = nullptr;
        if constexpr (remembers) {
            history = memory_.history.row_of(player_);
            if (use_.killers) {
                raised.raise(history, frame_.killers.of(player_)[0], Killers<Move>::first_value);
                raised.raise(history, frame_.killers.of(player_)[1], Killers<Move>::second_value);
            }
            if (use_.replies && previous_ != nullptr)
                raised.raise(history, memory_.replies.to(*previous_, player_), Replies<Move>::value);
        }
        const auto learned = [&](const Move& move) -> std::int64_t {
            if constexpr (remembers)
                return history[number_of(move)];
            else
                return use_.killers ? frame_.killers.value_of(player_, move) : 0;
        };
        if constexpr (HintingGame<G>) {
            if (hinted_) {
                for (std::size_t i = from; i < count; ++i) {
                    const int hint = std::clamp(game_.order_hint(position_, moves[i]), -largest_hint, largest_hint);
                    *keys++ = MoveOrder::key(learned(moves[i]) + hint * hint_value, i);
                }
                return;
            }
        }
        for (std::size_t i = from; i < count; ++i) *keys++ = MoveOrder::key(learned(moves[i]), i);
    }

    [[gnu::noinline]] bool bring_quiet(std::size_t place) {
        quiet_wait_ = false;
        const std::size_t forcing = frame_.moves.size();
        game_.generate_quiet_moves(position_, frame_.moves);
        value_moves(frame_.order.extend(place, frame_.moves.size()), forcing);
        if (place >= frame_.order.size()) return false;
        frame_.order.bring_best_forward(place);
        return true;
    }

    const G& game_;
    const Techniques& use_;
    StandardMemory<Move>& memory_;
    const Position& position_;
    const Move* previous_;
    Frame& frame_;
    std::size_t table_move_ = SIZE_MAX;
    Player player_;
    int depth_;
    bool table_first_ = false;
    bool quiet_wait_ = false;  ///< whether the quiet moves are not generated yet
    bool hinted_ = false;
};

}  // namespace arvek::detail
