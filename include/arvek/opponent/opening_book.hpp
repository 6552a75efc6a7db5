#pragma once
// The opening book of a profile, with its texts looked up in a game.

#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"

namespace arvek {

struct Profile;

/// A position and what is played there, drawn by weight.
struct BookLine {
    AnyPosition position{};                             ///< where it is replied
    std::vector<std::pair<AnyMove, double>> replies{};  ///< with their weights
    std::vector<AnyMove>
        moves{};  ///< that lead to it from the initial position; none where the book gives the position
};

/// The lines of a profile's book, in its order. Throws InputError at the place of what is wrong.
std::vector<BookLine> book_of(const AnyGame& game, const Profile& profile);

}  // namespace arvek
