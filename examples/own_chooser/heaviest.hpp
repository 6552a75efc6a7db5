// A chooser of one's own for Quayside: takes the heavier of the two ends, and minds what it uncovers for the rival.

#pragma once

#include <algorithm>
#include <memory>

#include <arvek/opponent/chooser.hpp>

#include "../own_game/quayside.hpp"

class Heaviest final : public arvek::Chooser<Quayside> {
   public:
    Heaviest(const Quayside& game, double caution) : game_(game), caution_(caution) {}

    arvek::Decision<Quayside::Move> choose(const arvek::Choice<Quayside>& now) override {
        arvek::MoveList<Quayside::Move> moves;
        game_.generate_moves(now.position, moves);
        arvek::Decision<Quayside::Move> decision;
        for (const auto move : moves) {
            const bool left = move == Quayside::Move::Left;
            const int taken = left ? now.position.left : now.position.right - 1;
            const int uncovered = left ? taken + 1 : taken - 1;
            auto& entry = decision.ranked.emplace_back();
            entry.move = move;
            entry.line = {move};
            entry.worth = weight(taken);
            entry.reason = "weight";
            entry.reasons = {"loads " + std::to_string(weight(taken))};
            if (uncovered >= now.position.left && uncovered < now.position.right) {
                entry.worth -= caution_ * weight(uncovered);
                entry.reasons.push_back("uncovers " + std::to_string(weight(uncovered)));
            }
        }
        std::stable_sort(decision.ranked.begin(), decision.ranked.end(),
                         [](const auto& a, const auto& b) { return a.worth > b.worth; });
        decision.move = decision.ranked.front().move;
        decision.has_worths = true;  // so that a level may pick a worse move in proportion to what it costs
        decision.chosen_by = decision.ranked.front().reason;
        return decision;
    }

   private:
    int weight(int crate) const { return game_.weights[static_cast<std::size_t>(crate)]; }

    Quayside game_;
    double caution_;
};

/// What is known of it by name: every verb, profile, level, match and explanation goes by this.
inline arvek::ChooserInfo heaviest_info() {
    arvek::ChooserInfo info;
    info.name = "heaviest";
    info.about = "the heavier of the two ends";
    info.options = {{"caution", 0.5, 0.0, 2.0, "how much the weight that is uncovered counts"}};
    return info;
}

inline std::unique_ptr<Heaviest> make_heaviest(const Quayside& game, const arvek::ChooserSetup& setup) {
    return std::make_unique<Heaviest>(game, setup.options.number("caution"));
}
