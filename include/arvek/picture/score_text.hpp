#pragma once
// Scores and counts as people read them.

#include <cstdint>
#include <string>

#include "arvek/game/decision.hpp"

namespace arvek {

/// "+12", "win in 3", "loss by 2 in 5", "at most -4", "about +2".
std::string score_text(Score score, ScoreKind kind, double per_point = 0.0);

/// 1234567 as "1,234,567".
std::string grouped(std::uint64_t number);
/// The same of digits; any other text stays as it is.
std::string grouped(const std::string& digits);

}  // namespace arvek
