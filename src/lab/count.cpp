#include "arvek/lab/count.hpp"

#include <algorithm>

#include "arvek/game/input_error.hpp"
#include "arvek/search/engine_game.hpp"

namespace arvek {

std::string LargeCount::text() const {
    if (too_large_) return "over 340282366920938463463374607431768211455";
    std::string digits;
    Wide left = number_;
    do {
        digits += static_cast<char>('0' + static_cast<int>(left % 10));
        left /= 10;
    } while (left != 0);
    std::reverse(digits.begin(), digits.end());
    return digits;
}

void detail::check_count_depth(int depth) {
    if (depth < 1 || depth > max_depth)
        throw InputError("depth", std::to_string(depth) + " is out of range",
                         "1 to " + std::to_string(max_depth) + " plies");
}

std::vector<SequenceCount> count_sequences_as(const AnyGame& game, const AnyPosition& position, int depth,
                                              const CountOptions& options) {
    const InTheOpen own(game);
    if (!options.with_table) return count_sequences(own, own.settled(position), depth, options.last_ply);
    if (!has_hash(game))
        throw InputError("--table", "the game has no hash, by which positions are recognised", "no --table");
    return count_sequences_with_table(own, own.settled(position), depth);
}

}  // namespace arvek
