#pragma once
// Ability: hash. Buys recognising positions: equal positions have equal hashes, different ones almost never.
//
//     std::uint64_t hash(const Position&) const;
//
// Everything that tells two positions apart must count, the player to move above all; only what
// repetition_key() leaves out too may be left out (repetition.hpp). hash_of_words() makes a good hash of the words of a
// small position.

#include <cstddef>
#include <cstdint>
#include <cstring>
#include <initializer_list>
#include <string_view>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/random.hpp"

namespace arvek {

template <class G>
concept HashedGame = Game<G> && requires(const G& game, const typename G::Position& position) {
    { game.hash(position) } -> std::same_as<std::uint64_t>;
};

/// Whether positions of the game can be told apart by a hash.
template <Game G>
constexpr bool has_hash(const G& game) {
    if constexpr (HashedGame<G>) {
        return wants_used<Ability::Hash>(game);
    } else {
        (void)game;
        return false;
    }
}

/// A hash of some words, in their order; every bit of every word counts.
constexpr std::uint64_t hash_of_words(std::initializer_list<std::uint64_t> words) {
    std::uint64_t hash = words.size();
    for (const std::uint64_t word : words) hash = mix_bits(hash ^ word);
    return hash;
}

/// A hash of some bytes; every bit of every byte counts.
inline std::uint64_t hash_of_bytes(const void* bytes, std::size_t size) {
    std::uint64_t hash = size;
    for (std::size_t at = 0; at < size; at += 8) {
        std::uint64_t word = 0;
        std::memcpy(&word, static_cast<const unsigned char*>(bytes) + at, size - at < 8 ? size - at : 8);
        hash = mix_bits(hash ^ word);
    }
    return hash;
}

/// A hash of a text, the same wherever it is computed.
constexpr std::uint64_t hash_of_text(std::string_view text) {
    std::uint64_t hash = text.size();
    for (const char letter : text) hash = mix_bits(hash ^ static_cast<unsigned char>(letter));
    return hash;
}

}  // namespace arvek
