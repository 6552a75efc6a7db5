#pragma once
// The order in which a search looks at the moves of a position, and the numbers by which it remembers moves.

#include <cstdint>
#include <cstring>
#include <type_traits>
#include <vector>

#include "arvek/game/ordering.hpp"
#include "arvek/game/preference.hpp"
#include "arvek/game/random.hpp"

namespace arvek::detail {

struct OrderedMove {
    std::int64_t value;
    std::uint32_t index;  ///< among the generated moves
};

/// From this place on the rest is sorted at once: a position that got here is hardly cut off any more, and choosing among
/// thousands of moves one by one would take longer than searching them.
inline constexpr std::size_t sorted_from = 24;

/// Sorts what stands at `from` and after it, the best first; equals by index. Allocates nothing.
void sort_rest(std::vector<OrderedMove>& order, std::size_t from);

/// Brings the best of the moves from `from` on to that place. To be called for each place in turn, and again for a place
/// whose move has lost in value. Selection instead of sorting: most positions are cut off after a move or two. Equals
/// keep the game's order.
inline void bring_best_forward(std::vector<OrderedMove>& order, std::size_t from) {
    if (from == sorted_from) return sort_rest(order, from);
    std::size_t best = from;
    if (from > sorted_from) {
        // All but the first are in order: it goes back behind those that are better now.
        const OrderedMove moved = order[from];
        for (; best + 1 < order.size() && order[best + 1].value > moved.value; ++best) order[best] = order[best + 1];
        order[best] = moved;
        return;
    }
    for (std::size_t i = from + 1; i < order.size(); ++i)
        if (order[i].value > order[best].value) best = i;
    if (best == from) return;
    const OrderedMove moved = order[best];
    for (std::size_t i = best; i > from; --i) order[i] = order[i - 1];
    order[from] = moved;
}

/// For searches that learn no order: the move at `table_move` first, then by the game's hint or, without one, by what it
/// prefers.
template <Game G>
void order_by_hint(const G& game, const typename G::Position& position, const MoveList<typename G::Move>& moves,
                   std::size_t table_move, std::vector<OrderedMove>& order) {
    constexpr std::int64_t first = std::int64_t{1} << 60;
    order.resize(moves.size());
    for (std::size_t i = 0; i < moves.size(); ++i) {
        std::int64_t value = 0;
        if (i == table_move)
            value = first;
        else if constexpr (HintingGame<G>)
            value = wants_used<Ability::OrderHint>(game) ? game.order_hint(position, moves[i]) : 0;
        else if constexpr (PreferringGame<G>)
            value = wants_used<Ability::Preference>(game) ? game.preference(position, moves[i]) : 0;
        order[i] = {value, static_cast<std::uint32_t>(i)};
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
std::size_t number_of(const Move& move) {
    std::uint64_t bytes = 0;
    std::memcpy(&bytes, &move, sizeof(Move));
    return static_cast<std::size_t>(bytes < move_numbers ? bytes : mix_bits(bytes) % move_numbers);
}

}  // namespace arvek::detail
