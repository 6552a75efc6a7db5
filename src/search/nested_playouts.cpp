#include "arvek/search/nested_playouts.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <string>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/scale.hpp"

namespace arvek {

void check_options(const NestedPlayoutsOptions& options) {
    if (options.levels < 1 || options.levels > most_nested_levels)
        throw InputError("levels", std::to_string(options.levels) + " is out of range",
                         "1 to " + std::to_string(most_nested_levels));
}

namespace detail {

void require_end_of_playouts(const Limits& limits) {
    require_no_depth(limits);
    if (!limits.playouts && !limits.nodes && !limits.seconds && !limits.stop.can_stop())
        throw InputError("limits", "nested playouts go on for ever without a limit",
                         "a limit of playouts, nodes or time");
}

void throw_not_nested(const char* why, const char* expected) { throw InputError("nested", why, expected); }

std::vector<SampledRank> rank_lines(const std::vector<BestLine>& moves, std::uint64_t seed, double& per_point) {
    double largest = 1;
    for (const BestLine& move : moves) largest = std::max(largest, std::abs(static_cast<double>(move.payoff)));
    per_point = scores_per_point(largest);
    std::vector<std::uint32_t> order(moves.size());
    std::iota(order.begin(), order.end(), 0u);
    Random(seed).shuffle(order);
    std::stable_sort(order.begin(), order.end(), [&](std::uint32_t a, std::uint32_t b) {
        const BestLine &first = moves[a], &second = moves[b];
        if (first.found != second.found) return first.found;
        if (first.payoff != second.payoff) return first.payoff > second.payoff;
        return first.plies < second.plies;
    });
    std::vector<SampledRank> ranked;
    for (const std::uint32_t place : order) {
        const BestLine& move = moves[place];
        SampledRank& rank = ranked.emplace_back();
        rank.place = place;
        rank.mean = rank.low = rank.high = move.payoff;
        rank.score = Score::estimate(std::llround(move.payoff * per_point));
        rank.kind = move.is_whole ? ScoreKind::Exact : move.found ? ScoreKind::Lower : ScoreKind::Estimate;
    }
    return ranked;
}

}  // namespace detail

}  // namespace arvek
