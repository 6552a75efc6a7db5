#pragma once
// What the verbs that play many games have in common. Each function throws InputError for what is wrong.

#include <string>
#include <vector>

#include "arguments.hpp"

namespace arvek::tool {

/// --threads, or one for each core.
int threads_of(const Arguments& arguments);

/// The openings of a file, and where each stands.
struct Openings {
    std::vector<std::vector<std::string>> moves;
    std::vector<std::size_t> lines;  ///< from 1

    /// Says the file and the line of an opening, for an error that names the opening by its place.
    std::string place(const std::string& path, std::size_t opening) const;
};

/// Those of the --openings file, a line of moves each; '#' begins a comment.
Openings openings_of(const Arguments& arguments);
/// --opening-plies, or `otherwise`.
int opening_plies_of(const Arguments& arguments, int otherwise);

}  // namespace arvek::tool
