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

/// The plain bandit: what is asked of each child is as little as it can be. The place of the chosen.
template <class Move>
std::uint32_t chosen_plainly(const SampledNode<Move>& node, std::span<const SampledNode<Move>> children,
                             const SamplingRules& rules, const ValueAxis& axis) {
    const float reach = SampledSum::units * rules.exploration * axis.spread() *
                        root_of(logarithm_of(static_cast<float>(node.sum.visits()) + 1.0f));
    std::uint32_t best = 0;
    float most = -1e30f;
    for (std::uint32_t i = 0; i < children.size(); ++i) {
        const auto sum = children[i].sum.read();
        float value;
        if (children[i].guess.is_exact()) [[unlikely]] {
            const float guess = children[i].guess.value();
            if (axis.is_best(guess)) return i;
            value = (axis.is_worst(guess) ? -100.0f : guess) * SampledSum::units;
        } else {
            if (sum.visits == 0) return i;  // nothing is better known to be better
            if (sum.visits < VisitShares::count) [[likely]] {
                const auto& share = visit_shares.of[sum.visits];
                value = sum.units * share.inverse + reach * share.inverse_root;
            } else {
                const float visits = static_cast<float>(sum.visits);
                value = (sum.units + reach * root_of(visits)) / visits;
            }
        }
        if (value > most) most = value, best = i;
    }
    return best;
}

/// By priors. An exact value has nothing left to explore.
template <class Move>
std::uint32_t chosen_by_prior(const SampledNode<Move>& node, std::span<const SampledNode<Move>> children,
                              const SamplingRules& rules, const ValueAxis& axis) {
    const float total = static_cast<float>(node.sum.visits());
    const float reach = rules.exploration * axis.spread() * root_of(std::max(total, 1.0f)) * (1.0f / 65535.0f);
    float seen_sum = 0, seen_visits = 0;
    for (const auto& child : children) {
        const auto sum = child.sum.read();
        seen_sum += sum.units;
        seen_visits += static_cast<float>(sum.visits);
    }
    const float usual = seen_visits > 0 ? seen_sum / (seen_visits * SampledSum::units) : 0.5f;
    const float untried = usual - SamplingRules::untried_loss * axis.spread();
    std::uint32_t best = 0;
    float most = -1e30f;
    for (std::uint32_t i = 0; i < children.size(); ++i) {
        const auto& child = children[i];
        const auto sum = child.sum.read();
        const auto known = child.guess.read();
        float value;
        if (known.exact) {
            if (axis.is_best(known.value)) return i;
            value = axis.is_worst(known.value) ? -100.0f : known.value;
        } else {
            value = sum.visits > 0 ? sum.units * inverse_of(sum.visits) * (1.0f / SampledSum::units) : untried;
            if (sum.visits > 0 && rules.implicit > 0) value += rules.implicit * (known.value - value);
            value += reach * static_cast<float>(child.prior) * inverse_of(sum.visits + 1);
        }
        if (value > most) most = value, best = i;
    }
    return best;
}

}  // namespace arvek::detail
