#pragma once
// The values of games drawn at random, by plain recursion that shares nothing with the searches. A position that comes
// back on the way pays nobody anything where the game has the rule of repetition.

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <vector>

#include "support/random_game.hpp"

namespace testing_support {

class PlainValues {
   public:
    using Values = std::array<double, arvek::max_players>;
    /// What a position at the horizon is thought to be worth to each seat.
    using Estimates = std::function<Values(int node)>;
    /// Who chooses against whom.
    enum class Others { ForThemselves, AgainstDecider };
    /// What chance does: what its probabilities say, or the worst or best for the decider.
    enum class Luck { Fair, Worst, Best };

    explicit PlainValues(const RandomRules& of, bool with_margins) : rules(of), margins(with_margins) {}

    const RandomRules& rules;
    bool margins;
    Others others = Others::ForThemselves;
    Luck luck = Luck::Fair;
    int decider = rules.nodes[0].kind;
    Estimates estimates{};
    bool nearly_tied = false;  ///< whether one was met between values so close that rounding decides
    bool tied = false;  ///< whether a choice between equals was met: the others' values then depend on which is taken

    /// With `depth` plies still to look at; less than 0: to the end.
    Values value(int node, int depth) {
        way_.clear();
        known_.clear();
        return at(node, depth);
    }
    /// Of each move or event of the first node.
    std::vector<Values> values_of_moves(int node, int depth) {
        way_.assign(1, node);
        known_.clear();
        std::vector<Values> values;
        for (const int next : rules.nodes[static_cast<std::size_t>(node)].next) values.push_back(at(next, depth - 1));
        return values;
    }
    /// How many ways there are to the end, at most `most`.
    double ways(int node, int depth, double most) {
        std::map<std::pair<int, int>, double> known;
        const std::function<double(int, int)> count = [&](int from, int left) -> double {
            const auto& of = rules.nodes[static_cast<std::size_t>(from)];
            if (of.kind == RandomRules::End || left == 0) return 1;
            if (const auto found = known.find({from, left}); found != known.end()) return found->second;
            double sum = 1;
            for (const int to : of.next) {
                sum += (of.kind == RandomRules::Chance ? of.each : 1) * count(to, left - 1);
                if (sum > most) break;
            }
            return known[{from, left}] = sum;
        };
        return count(node, depth);
    }

   private:
    double paid(int payoff) const { return margins ? payoff : payoff > 0 ? 1 : payoff < 0 ? -1 : 0; }

    Values at(int node, int depth) {
        const auto& of = rules.nodes[static_cast<std::size_t>(node)];
        Values values{};
        if (of.kind == RandomRules::End) {
            for (std::size_t i = 0; i < arvek::max_players; ++i) values[i] = paid(of.payoffs[i]);
            return values;
        }
        const bool remembers = rules.draw_at == 0;
        if (!remembers && std::find(way_.begin(), way_.end(), node) != way_.end()) return values;
        if (depth == 0) return estimates(node);
        if (remembers)
            if (const auto found = known_.find({node, depth}); found != known_.end()) return found->second;
        way_.push_back(node);
        values = of.kind == RandomRules::Chance ? mean(of, depth) : best(of, depth);
        way_.pop_back();
        if (remembers) known_[{node, depth}] = values;
        return values;
    }
    Values mean(const RandomRules::Node& of, int depth) {
        const auto seat = static_cast<std::size_t>(decider);
        Values values{};
        for (std::size_t k = 0; k < of.next.size(); ++k) {
            const Values after = at(of.next[k], depth - 1);
            if (luck != Luck::Fair) {
                const bool better = luck == Luck::Worst ? after[seat] < values[seat] : after[seat] > values[seat];
                if (k == 0 || better) values = after;
                continue;
            }
            for (std::size_t i = 0; i < values.size(); ++i) values[i] += of.weights[k] * after[i];
        }
        return values;
    }
    Values best(const RandomRules::Node& of, int depth) {
        const auto seat = static_cast<std::size_t>(others == Others::AgainstDecider ? decider : of.kind);
        const bool against = others == Others::AgainstDecider && of.kind != decider;
        Values values{};
        bool is_tied = false;
        for (std::size_t k = 0; k < of.next.size(); ++k) {
            const Values after = at(of.next[k], depth - 1);
            const double apart = against ? values[seat] - after[seat] : after[seat] - values[seat];
            if (k > 0 && std::abs(apart) <= 1e-9) is_tied = is_tied || after != values;
            nearly_tied = nearly_tied || (k > 0 && std::abs(apart) > 1e-12 && std::abs(apart) <= 1e-5);
            if (k > 0 && apart <= 1e-9) continue;
            is_tied = false;
            values = after;
        }
        tied = tied || is_tied;
        return values;
    }

    std::vector<int> way_;
    std::map<std::pair<int, int>, Values> known_;
};

}  // namespace testing_support
