#pragma once
// What the verbs that play many games have in common. Each function throws InputError for what is wrong.

#include <algorithm>
#include <string>
#include <vector>

#include "arguments.hpp"
#include "arvek/arena/match.hpp"

namespace arvek::tool {

/// --threads, or one for each core.
int threads_of(const Arguments& arguments);
/// The openings of the --openings file, a line of moves each; '#' begins a comment.
std::vector<std::vector<std::string>> openings_of(const Arguments& arguments);
/// --opening-plies, or `standard`.
int opening_plies_of(const Arguments& arguments, int standard);

/// A match of which no game is played, to find out whether it could begin.
inline MatchOptions with_no_games(MatchOptions options) {
    static constexpr bool stops = true;
    options.stop = StopToken([](const void* state) { return *static_cast<const bool*>(state); }, &stops);
    return options;
}

}  // namespace arvek::tool
