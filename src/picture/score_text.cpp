#include "arvek/picture/score_text.hpp"

#include <cstdio>
#include <cstdlib>

namespace arvek {

std::string score_text(Score score, ScoreKind kind, double per_point) {
    std::string text;
    if (kind == ScoreKind::Lower) text = "at least ";
    if (kind == ScoreKind::Upper) text = "at most ";
    if (kind == ScoreKind::Estimate || kind == ScoreKind::Shallow) text = "about ";
    if (!score.is_proven() && per_point > 0) {
        char payoff[32];
        std::snprintf(payoff, sizeof payoff, "%+.4f", score.number() / per_point);
        return text + payoff;
    }
    if (!score.is_proven()) return text + (score.number() > 0 ? "+" : "") + std::to_string(score.number());
    const Payoff margin = std::abs(score.payoff());
    return text + (score.is_proven_win() ? "win" : "loss") + (margin > 1 ? " by " + std::to_string(margin) : "") +
           " in " + std::to_string(score.plies());
}

std::string grouped(std::uint64_t number) { return grouped(std::to_string(number)); }

std::string grouped(const std::string& digits) {
    if (digits.empty() || digits.find_first_not_of("0123456789") != std::string::npos) return digits;
    std::string text = digits;
    for (auto at = static_cast<std::ptrdiff_t>(digits.size()) - 3; at > 0; at -= 3)
        text.insert(static_cast<std::size_t>(at), 1, ',');
    return text;
}

}  // namespace arvek
