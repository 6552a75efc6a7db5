#pragma once
// Ability: acting. Buys rules about who acts, and about actions by name.
//
//     arvek::ActNames act_names() const;
//     arvek::Act act(const Position&, const Move&) const;
//
// A move is then an action of an actor: a hand of a crew, a piece, a wharf. An action may be of several kinds, and may
// have a target: somebody who may be an actor too.

#include <concepts>
#include <cstdint>
#include <string>
#include <vector>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

/// A move as rules see it; numbers are places in ActNames.
struct Act {
    static constexpr std::uint16_t no_target = 0xffff;           ///< for Act::target: at nobody
    static constexpr std::uint32_t no_individual = 0xffff'ffff;  ///< for an act that no single one does

    std::uint16_t actor = 0;           ///< a place among ActNames::actors
    std::uint16_t action = 0;          ///< a place among ActNames::actions
    std::uint64_t kinds = 0;           ///< a bit for each kind that the action is of
    std::uint16_t target = no_target;  ///< a place among ActNames::targets
    /// Tells apart actors of one name where the game follows them: the same number all game long.
    std::uint32_t individual = no_individual;

    /// Whether it is of a kind, by its place among ActNames::kinds.
    bool is_of(std::size_t kind) const { return (kinds >> kind & 1u) != 0; }
};

/// Every name that can occur in the game, whether or not it can right now.
struct ActNames {
    std::vector<std::string> actors;     ///< who can act
    std::vector<std::string> actions;    ///< what can be done
    std::vector<std::string> kinds;      ///< at most 64
    std::vector<std::string> targets{};  ///< at whom
};

template <class G>
concept ActingGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, const typename G::Move& move) {
    { game.act_names() } -> std::same_as<ActNames>;
    { game.act(position, move) } -> std::same_as<Act>;
};

/// Whether moves of the game have actors and actions.
template <Game G>
constexpr bool acts_in(const G& game) {
    if constexpr (ActingGame<G>) {
        return wants_used<Ability::Acting>(game);
    } else {
        (void)game;
        return false;
    }
}

}  // namespace arvek
