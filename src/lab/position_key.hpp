#pragma once
// One number for a position, whatever its game can do.

#include <cstdint>

#include "arvek/game/any_game.hpp"
#include "arvek/game/hashing.hpp"

namespace arvek::detail {

/// The game's own hash, or else one of the position's text.
inline std::uint64_t position_key(const AnyGame& game, const AnyPosition& position) {
    return has_hash(game) ? game.hash(position) : hash_of_text(game.position_text(position));
}

}  // namespace arvek::detail
