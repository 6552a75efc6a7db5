#pragma once
// Scores as people read them.

#include <string>

#include "arvek/game/decision.hpp"

namespace arvek {

/// "+12", "win in 3", "loss by 2 in 5", "at most -4", "about +2".
std::string score_text(Score score, ScoreKind kind);

}  // namespace arvek
