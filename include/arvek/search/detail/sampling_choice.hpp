#pragma once
// Which child of a node a playout goes to: see detail/sampling_tree.hpp. The children stand side by side.

#include <algorithm>
#include <array>
#include <cstdint>
#include <span>

#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/detail/sampling_node.hpp"

namespace arvek::detail {

/// Of the numbers of visits that are met most, what a division and a root would have to find.
struct VisitShares {
    struct Share {
        float inverse, inverse_root;
    };
    static constexpr std::uint32_t count = 512;

    std::array<Share, count> of{};

    constexpr VisitShares() {
        double root = 1;
        for (std::uint32_t n = 1; n < count; ++n) {
            for (int i = 0; i < 6; ++i) root = (root + n / root) / 2;  // from the root of n - 1
            of[n] = {static_cast<float>(1.0 / n), static_cast<float>(1.0 / root)};
        }
    }
};
inline constexpr VisitShares visit_shares;

/// 1 / visits; requires a visit.
inline float inverse_of(std::uint32_t visits) {
    return visits < VisitShares::count ? visit_shares.of[visits].inverse : 1.0f / static_cast<float>(visits);
}

/// How much there is still to explore after so many visits of a node. More than the logarithm of the plain bandit: what moves
/// further down are worth changes while they are explored. Source: Shah, Xie, Xu (2020), "Non-Asymptotic Analysis of Monte
/// Carlo Tree Search".
inline float unexplored(float visits) { return logarithm_of(visits) + 0.03f * root_of(visits); }

/// The plain bandit: what is asked of each child is as little as it can be. `reach`: exploration, in points. The place of
/// the chosen.
template <class Move>
std::uint32_t chosen_plainly(const SampledNode<Move>& node, std::span<const SampledNode<Move>> children,
                             const ValueAxis& axis, float exploration) {
    const float reach = exploration * root_of(unexplored(static_cast<float>(node.sum.visits()) + 1.0f));
    std::uint32_t best = 0;
    double most = -1e300;
    for (std::uint32_t i = 0; i < children.size(); ++i) {
        const auto sum = children[i].sum.read();
        double value;
        if (children[i].guess.is_exact()) [[unlikely]] {
            const double guess = children[i].guess.value();
            if (axis.is_best(guess)) return i;
            value = axis.is_worst(guess) ? -1e200 : guess;
        } else {
            if (sum.visits == 0) return i;  // nothing is better known to be better
            if (sum.visits < VisitShares::count) [[likely]] {
                const auto& share = visit_shares.of[sum.visits];
                value = sum.sum * static_cast<double>(share.inverse) + static_cast<double>(reach * share.inverse_root);
            } else {
                const float visits = static_cast<float>(sum.visits);
                value = sum.mean() + static_cast<double>(reach / root_of(visits));
            }
        }
        if (value > most) most = value, best = i;
    }
    return best;
}

/// By priors. An exact value has nothing left to explore.
template <class Move>
std::uint32_t chosen_by_prior(const SampledNode<Move>& node, std::span<const SampledNode<Move>> children,
                              const SamplingRules& rules, const ValueAxis& axis, float exploration) {
    const float total = static_cast<float>(node.sum.visits());
    const float reach = exploration * root_of(std::max(total, 1.0f));
    double seen_sum = 0, seen_visits = 0;
    for (const auto& child : children) {
        const auto sum = child.sum.read();
        seen_sum += sum.sum;
        seen_visits += sum.visits;
    }
    const double usual = seen_visits > 0 ? seen_sum / seen_visits : 0.0;
    const double untried = usual - SamplingRules::untried_loss * static_cast<double>(exploration / rules.exploration);
    std::uint32_t best = 0;
    double most = -1e300;
    for (std::uint32_t i = 0; i < children.size(); ++i) {
        const auto& child = children[i];
        const auto sum = child.sum.read();
        const auto known = child.guess.read();
        double value;
        if (known.exact) {
            if (axis.is_best(known.value)) return i;
            value = axis.is_worst(known.value) ? -1e200 : known.value;
        } else {
            value = untried;
            if (sum.visits > 0) {
                value = sum.sum * static_cast<double>(inverse_of(sum.visits));
                if (rules.implicit > 0)
                    value += static_cast<double>(rules.guess_share(sum.visits)) * (known.value - value);
            }
            value += static_cast<double>(reach * child.sum.prior * inverse_of(sum.visits + 1));
        }
        if (value > most) most = value, best = i;
    }
    return best;
}

}  // namespace arvek::detail
