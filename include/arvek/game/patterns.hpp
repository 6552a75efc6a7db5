#pragma once
// Ability: patterns. Buys evaluations that are learned from play (search/learned_evaluator.hpp).
//
//     std::vector<arvek::Pattern> patterns() const;
//     void read_patterns(const Position&, arvek::Player, std::span<std::uint16_t> ways) const;
//
// A pattern is a part of a position that can look one of a number of ways: a cell (empty, own, the rival's), four cells
// in a row (81 ways), how many are left in hand. The larger the parts, the more a model can know, and the more games it
// takes. read_patterns() gives for each pattern the way that it looks as the player sees it, own pieces as own: the
// two players see the same where each has what the other had. It is asked in finished positions too.
//
//   patterns.push_back({"cell a1", 3, {0, 2, 1}});     // own and the rival's change places for the rival
//   ways[0] = own(position, player, 0) ? 1 : rivals(position, player, 0) ? 2 : 0;

#include <concepts>
#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "arvek/game/game.hpp"

namespace arvek {

/// A part of a position that can look in a number of ways.
struct Pattern {
    std::string name{};  ///< unique in the game: "cell a1"
    int ways = 2;        ///< that it can look, 1 to most_ways
    /// How the rival sees it, by how the player does: the pattern at `rival_place` among all (-1: this one) looks way
    /// rival_ways[way] to the rival. Where every pattern says so, only one player's sight is read, which takes half the
    /// time; empty: not known.
    std::vector<std::uint16_t> rival_ways{};
    /// See rival_ways.
    int rival_place = -1;

    bool operator==(const Pattern&) const = default;
};

/// The most ways that a pattern can look.
inline constexpr int most_ways = 65'536;
/// The most patterns that a game may have.
inline constexpr std::size_t most_patterns = 4'096;

template <class G>
concept PatternedGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, Player player, std::span<std::uint16_t> ways) {
    { game.patterns() } -> std::same_as<std::vector<Pattern>>;
    { game.read_patterns(position, player, ways) } -> std::same_as<void>;
};

}  // namespace arvek
