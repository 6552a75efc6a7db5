#pragma once
// Ability: texts of views. What one player sees, as people read it; whoever shows a game to its players shows this, and
// never the text or drawing of the whole position.
//
//     std::string view_text(const View&) const;     // may have several lines

#include <concepts>
#include <string>

#include "arvek/game/view.hpp"

namespace arvek {

template <class G>
concept ViewTextGame = ViewedGame<G> && requires(const G& game, const typename G::View& view) {
    { game.view_text(view) } -> std::same_as<std::string>;
};

}  // namespace arvek
