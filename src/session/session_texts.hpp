#pragma once
// Texts of a session that several of its parts need.

#include <string>
#include <vector>

#include "arvek/session/session.hpp"

namespace arvek::detail {

/// The texts of moves that are played one after the other from `position`.
std::vector<std::string> line_texts(const AnyGame& game, AnyPosition position, const std::vector<AnyMove>& line);

Ending ending_of(const Outcome& outcome, const std::vector<std::string>& player_names);

}  // namespace arvek::detail
