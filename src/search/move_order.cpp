#include "arvek/search/detail/move_order.hpp"

#include <algorithm>
#include <functional>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek::detail {

void MoveOrder::make_room(std::size_t moves) {
    if (moves > most_moves)
        throw InputError("position", "it has " + std::to_string(moves) + " moves",
                         "at most " + std::to_string(most_moves));
    keys_.resize(std::max<std::size_t>(2 * moves, 64));
}

void MoveOrder::sort_rest(std::size_t from) {
    const auto begin = keys_.begin() + static_cast<std::ptrdiff_t>(from);
    std::sort(begin, keys_.begin() + static_cast<std::ptrdiff_t>(size_), std::greater<>());
}

}  // namespace arvek::detail
