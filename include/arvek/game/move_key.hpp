#pragma once
// A number for a move, by which it is known again in another position of the same game.

#include <cstdint>
#include <string>
#include <string_view>
#include <type_traits>

#include "arvek/game/hashing.hpp"
#include "arvek/game/text.hpp"

namespace arvek {

/// The same for the same move in every position, as far as the game lets one tell: by its text, or else by its bytes,
/// or else by its `place` among the legal moves.
template <Game G>
std::uint64_t move_key(const G& game, const typename G::Position& position, const typename G::Move& move,
                       std::size_t place) {
    using Move = typename G::Move;
    if constexpr (requires { game.move_key(position, move, place); }) {
        return game.move_key(position, move, place);
    } else if constexpr (TextGame<G>) {
        return hash_of_text(game.move_text(position, move));
    } else if constexpr (std::is_trivially_copyable_v<Move> && std::has_unique_object_representations_v<Move>) {
        return hash_of_text({reinterpret_cast<const char*>(&move), sizeof(Move)});
    } else {
        return mix_bits(place);
    }
}

}  // namespace arvek
