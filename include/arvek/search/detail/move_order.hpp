#pragma once
// The order in which a search looks at the moves of a position, and the numbers by which it remembers moves.

#include <algorithm>
#include <bit>
#include <cstdint>
#include <cstring>
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/game/ordering.hpp"
#include "arvek/game/preference.hpp"
#include "arvek/game/random.hpp"

namespace arvek::detail {

/// From this place on the rest is sorted at once: a position that got here is hardly cut off any more, and choosing among
/// thousands of moves one by one would take longer than searching them.
inline constexpr std::size_t sorted_from = 24;

/// The moves of a position by what speaks for them, named by their places among the generated ones. Selection instead of
/// sorting: most positions are cut off after a move or two. Equals keep the game's order.
///
/// Value and place stand in one word, the value above, so that one comparison without a branch tells which move is next.
class MoveOrder {
   public:
    /// Values beyond it count as much.
    static constexpr std::int64_t largest_value = (std::int64_t{1} << 43) - 1;
    static constexpr std::size_t most_moves = std::size_t{1} << 20;

    using Key = std::int64_t;

    /// Requires |value| <= largest_value and index < most_moves.
    static Key key(std::int64_t value, std::size_t index) {
        return value * static_cast<Key>(most_moves) + static_cast<Key>(most_moves - 1 - index);
    }

    /// Makes it one of so many moves, and returns where their keys are to be written. Throws InputError for more than
    /// `most_moves`.
    Key* begin(std::size_t moves) {
        if (keys_.size() < moves) [[unlikely]]
            make_room(moves);
        size_ = moves;
        sort_at_ = sorted_from;
        return keys_.data();
    }
    /// The key of the move with that index, between begin() and the first bring_best_forward().
    Key& begin_key(std::size_t index) { return keys_[index]; }
    /// Makes it so many moves, more than before, and returns where the keys of the new ones are to be written. What
    /// stands before `place` stays there.
    Key* extend(std::size_t place, std::size_t moves) {
        if (keys_.size() < moves) [[unlikely]]
            make_room(moves);
        sort_at_ = std::max(sorted_from, place);
        return keys_.data() + std::exchange(size_, moves);
    }
    /// One move alone.
    void begin_with(std::int64_t value, std::size_t index) { *begin(1) = key(value, index); }

    std::size_t size() const { return size_; }
    std::size_t index_at(std::size_t place) const {
        return most_moves - 1 - (static_cast<std::size_t>(keys_[place]) & (most_moves - 1));
    }
    std::int64_t value_at(std::size_t place) const { return keys_[place] >> 20; }

    /// Brings the best of the moves from `from` on to that place. To be called for each place in turn.
    void bring_best_forward(std::size_t from) {
        if (from >= sort_at_) [[unlikely]] {
            if (from == sort_at_) sort_rest(from);
            return;
        }
        Key* const keys = keys_.data();
        const std::size_t size = size_;
        std::size_t best = from;
        Key most = keys[from];
        for (std::size_t i = from + 1; i < size; ++i) {
            const bool better = keys[i] > most;
            best = better ? i : best;
            most = better ? keys[i] : most;
        }
        keys[best] = keys[from];
        keys[from] = most;
    }

    /// The move at `place` is worth so much less than it was; another may come there.
    void demote(std::size_t place, std::int64_t value) {
        keys_[place] = key(value, index_at(place));
        if (place < sort_at_) return bring_best_forward(place);
        // All but the first are in order: it goes back behind those that are better now.
        for (; place + 1 < size_ && keys_[place + 1] > keys_[place]; ++place) std::swap(keys_[place], keys_[place + 1]);
    }

   private:
    void make_room(std::size_t moves);
    void sort_rest(std::size_t from);

    std::vector<Key> keys_;  ///< never shrinks, so nothing is allocated while searching
    std::size_t size_ = 0;
    std::size_t sort_at_ = sorted_from;  ///< from this place on the rest is sorted
};

/// For searches that learn no order: the move at `table_move` first, then by the game's hint or, without one, by what it
/// prefers.
template <Game G>
void order_by_hint(const G& game, const typename G::Position& position, const MoveList<typename G::Move>& moves,
                   std::size_t table_move, MoveOrder& order) {
    MoveOrder::Key* keys = order.begin(moves.size());
    for (std::size_t i = 0; i < moves.size(); ++i) {
        std::int64_t value = 0;
        if (i == table_move)
            value = MoveOrder::largest_value;
        else if constexpr (HintingGame<G>)
            value = wants_used<Ability::OrderHint>(game) ? game.order_hint(position, moves[i]) : 0;
        else if constexpr (PreferringGame<G>)
            value = wants_used<Ability::Preference>(game) ? game.preference(position, moves[i]) : 0;
        *keys++ = MoveOrder::key(value, i);
    }
}

/// Moves without padding, up to eight bytes, can be told apart by number; others are not remembered.
template <class Move>
inline constexpr bool numbers_moves =
    (std::is_integral_v<Move> || std::is_enum_v<Move> ||
     std::has_unique_object_representations_v<Move>)&&std::is_trivially_copyable_v<Move> &&
    sizeof(Move) <= 8;

inline constexpr std::size_t move_numbers = 4'096;

/// Small moves have numbers of their own; larger ones are scattered.
template <class Move>
[[gnu::always_inline]] inline std::size_t number_of(const Move& move) {
    if constexpr (sizeof(Move) == 1) return std::bit_cast<std::uint8_t>(move);
    std::uint64_t bytes = 0;
    std::memcpy(&bytes, &move, sizeof(Move));
    return static_cast<std::size_t>(bytes < move_numbers ? bytes : mix_bits(bytes) % move_numbers);
}

}  // namespace arvek::detail
