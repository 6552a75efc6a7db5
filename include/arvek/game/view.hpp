#pragma once
// Ability: views. For hidden hands: what a player sees, and positions that may lie behind it.
//
//     View view(const Position&, arvek::Player) const;              // all that the player sees and remembers
//     Position sample(const View&, arvek::Random&) const;           // a whole position that agrees with the view
//
// View is a nested type of the game, a regular value: copyable, with ==. A view says whose it is. It holds what the player has seen so far and must remember, such as who could not follow a
// suit, and nothing else: two positions that the player cannot tell apart have equal views. sample() gives each position
// that agrees with the view as likely as what was seen makes it; the view of what it gives is the view again. The legal
// moves of the player to move, and whether the game is over, follow from that player's view.
//
// A type derived from such a game that declares  using AllInSight = void;  is the same game with open hands.
//
// Opponents of such a game are handed views and never a position, so that they cannot peek. Searches recognise views by
// a hash: by their bytes where those tell (std::has_unique_object_representations), or else by std::hash<View>.

#include <concepts>
#include <cstdint>
#include <optional>
#include <type_traits>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/random.hpp"

namespace arvek {

template <class G>
concept ViewedGame = Game<G> && !requires {
    typename G::AllInSight;
}
&&std::regular<typename G::View>&& requires(const G& game, const typename G::Position& position,
                                            const typename G::View& view, Player player, Random& random) {
    { game.view(position, player) } -> std::same_as<typename G::View>;
    { game.sample(view, random) } -> std::same_as<typename G::Position>;
};

/// A view that can be told from others by a number.
template <class View>
concept KeyedView = std::has_unique_object_representations_v<View> || requires(const View& view) {
    { std::hash<View>{}(view) } -> std::convertible_to<std::size_t>;
};

/// Equal for equal views, and hardly ever else.
template <KeyedView View>
std::uint64_t view_key(const View& view) {
    if constexpr (requires { std::hash<View>{}(view); }) {
        return mix_bits(static_cast<std::uint64_t>(std::hash<View>{}(view)));
    } else {
        return hash_of_bytes(&view, sizeof(View));
    }
}

namespace detail {

template <class G>
struct SeenOf {
    using type = typename G::Position;
};
template <ViewedGame G>
struct SeenOf<G> {
    using type = typename G::View;
};

}  // namespace detail

/// What an opponent is given: a view where the game has views, and else the position.
template <class G>
using Seen = typename detail::SeenOf<G>::type;

/// Whether players see less than the whole position.
template <Game G>
constexpr bool has_views(const G& game) {
    if constexpr (ViewedGame<G>) return wants_used<Ability::Views>(game);
    (void)game;
    return false;
}

/// What the player sees of the position.
template <Game G>
Seen<G> seen_by(const G& game, const typename G::Position& position, Player player) {
    if constexpr (ViewedGame<G>)
        return game.view(position, player);
    else
        return position;
}

/// A position that agrees with what is seen, always the same for the same; the position itself where all is in sight.
/// For whatever looks at one position alone, such as rules.
template <Game G>
typename G::Position stand_in(const G& game, const Seen<G>& seen) {
    if constexpr (ViewedGame<G>) {
        Random random(1);
        return game.sample(seen, random);
    } else {
        return seen;
    }
}

}  // namespace arvek
