#pragma once
// How many players a game has. Two, unless the game says otherwise:
//
//     int players() const { return 3; }                        // may depend on the game's parameters
//     static constexpr int players() { return 3; }             // known to the compiler
//
// From 1 to max_players. What cannot play such a game says so in one sentence: when it is compiled, where the number is
// known then, or else when it is made.

#include <concepts>
#include <string_view>
#include <type_traits>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek {

template <class G>
concept CountedPlayersGame = Game<G> && requires(const G& game) {
    { game.players() } -> std::same_as<int>;
};

namespace detail {

template <class G>
concept KnowsPlayersWhenCompiled = requires {
    typename std::integral_constant<int, G::players()>;
};

[[noreturn]] void throw_wrong_number_of_players(int players);
[[noreturn]] void throw_no_such_seat(int seat, int players);
[[noreturn]] void throw_not_for_two(std::string_view what, int players);

}  // namespace detail

/// False only where the compiler can tell that the game is not one for two.
template <class G>
consteval bool may_be_for_two() {
    if constexpr (detail::KnowsPlayersWhenCompiled<G>)
        return G::players() == 2;
    else
        return true;
}

/// How many players there are, 1 to max_players. Throws RulesError where the game says anything else.
template <Game G>
constexpr int players_of(const G& game) {
    if constexpr (CountedPlayersGame<G>) {
        const int players = wants_used<Ability::Players>(game) ? game.players() : 2;
        if (players < 1 || players > static_cast<int>(max_players)) detail::throw_wrong_number_of_players(players);
        return players;
    } else {
        return 2;
    }
}

/// Throws RulesError unless the game has that seat, as where three play and players() does not say so.
template <Game G>
void require_seat(const G& game, Player player) {
    const int players = players_of(game);
    if (static_cast<int>(index_of(player)) >= players) [[unlikely]]
        detail::throw_no_such_seat(static_cast<int>(index_of(player)) + 1, players);
}

/// Throws InputError, in which `what` ("minimax") is named, unless the game is one for two players.
template <Game G>
void require_game_for_two(const G& game, std::string_view what) {
    if (const int players = players_of(game); players != 2) detail::throw_not_for_two(what, players);
}

}  // namespace arvek
