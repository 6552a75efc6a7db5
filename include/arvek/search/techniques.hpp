#pragma once
// Techniques: what the standard search does beyond plain alpha-beta; each can be switched off by name, to see its
// worth.
//
//     arvek::Standard<MyGame> search(game, {.techniques = {.killers = false}});

#include <string>
#include <string_view>
#include <vector>

namespace arvek {

/// What the standard search does beyond plain alpha-beta.
struct Techniques {
    bool table = true;         ///< a transposition table; needs the game's hash
    bool table_scores = true;  ///< a score in the table answers for the position; off: the table only orders moves
    bool pvs = true;           ///< principal-variation search: later moves are only tested against the best so far
    bool aspiration = true;    ///< each depth begins with a window around the value of the one before
    bool hint = true;          ///< the game's ordering hint, where it has one
    bool killers = true;       ///< moves that cut off elsewhere at the same ply come early
    bool history = true;       ///< moves that cut off often come early
    bool replies = true;       ///< the move that last cut off after the same rival move comes early
    bool quiescence = true;    ///< at the horizon, forcing moves go on, where the game names them
    bool stages = true;  ///< forcing moves first, quiet ones only if none cuts off, where the game tells them apart
    /// Late moves are first searched a ply less; the value at a depth may then differ from minimax.
    bool reductions = false;
    /// A position that is good enough without a move is good enough, where the game says so; may differ, too.
    bool null_move = false;
};

/// The names, in the order above.
const std::vector<std::string>& technique_names();

/// The switch of that name, or nullptr.
bool* technique_named(Techniques& techniques, std::string_view name);

}  // namespace arvek
