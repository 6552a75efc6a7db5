#include "arvek/opponent/level.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <numeric>

#include "arvek/game/random.hpp"

namespace arvek {

namespace {

struct LevelRow {
    int depth;            ///< 0: no limit of depth; of playouts: how many
    std::uint64_t nodes;  ///< so that every opponent answers soon in every game
    double overlooks, noise, most_lost;
};

constexpr std::array<LevelRow, highest_level> search_rows{{
    {1, 500'000, 0.70, 3.00, 9.0},
    {1, 500'000, 0.55, 1.50, 6.0},
    {1, 500'000, 0.40, 0.80, 3.0},
    {1, 500'000, 0.25, 0.40, 2.0},
    {2, 500'000, 0.20, 0.25, 1.5},
    {2, 500'000, 0.12, 0.12, 1.0},
    {3, 20'000, 0.05, 0.05, 0.5},
    {5, 30'000, 0.02, 0.00, 0.0},
    {7, 100'000, 0.00, 0.00, 0.0},
    {0, 500'000, 0.00, 0.00, 0.0},
}};

// Luck leaves little between the best play and random moves, so the steps are small; docs/monte_carlo.md.
constexpr std::array<LevelRow, highest_level> luck_rows{{
    {1, 500'000, 0.70, 3.00, 9.0},
    {1, 500'000, 0.25, 0.50, 2.5},
    {1, 500'000, 0.10, 0.20, 1.5},
    {3, 500'000, 0.25, 0.35, 2.0},
    {3, 500'000, 0.19, 0.24, 1.5},
    {3, 500'000, 0.14, 0.15, 1.0},
    {3, 500'000, 0.09, 0.08, 0.7},
    {3, 500'000, 0.04, 0.03, 0.4},
    {3, 500'000, 0.00, 0.00, 0.0},
    {0, 500'000, 0.00, 0.00, 0.0},
}};

// Playouts for ten moves without luck: LevelSettings::playouts_by_moves.
constexpr std::array<LevelRow, highest_level> playout_rows{{
    {4, 1'000'000, 0.600, 2.00, 6.0},
    {7, 1'000'000, 0.380, 0.90, 4.5},
    {10, 1'000'000, 0.280, 0.55, 3.0},
    {13, 1'000'000, 0.220, 0.42, 2.4},
    {18, 1'000'000, 0.170, 0.32, 2.0},
    {27, 1'000'000, 0.125, 0.21, 1.5},
    {45, 1'000'000, 0.085, 0.13, 1.0},
    {90, 1'000'000, 0.045, 0.06, 0.7},
    {300, 1'000'000, 0.015, 0.015, 0.4},
    {15'000, 2'000'000, 0.000, 0.00, 0.0},
}};

constexpr std::array<LevelRow, highest_level> other_rows{{
    {1, 500'000, 1.000, 3.00, 9.0},
    {1, 500'000, 0.800, 2.00, 6.0},
    {1, 500'000, 0.670, 1.50, 4.0},
    {1, 500'000, 0.575, 1.00, 3.0},
    {1, 500'000, 0.485, 0.70, 2.0},
    {1, 500'000, 0.395, 0.50, 1.5},
    {1, 500'000, 0.300, 0.30, 1.0},
    {1, 500'000, 0.205, 0.15, 0.7},
    {1, 500'000, 0.105, 0.05, 0.4},
    {1, 500'000, 0.000, 0.00, 0.0},
}};

}  // namespace

LevelSettings level_settings(int level, LevelTable table) {
    assert(level >= lowest_level && level <= highest_level);
    const auto& rows = table == LevelTable::Search     ? search_rows
                       : table == LevelTable::Luck     ? luck_rows
                       : table == LevelTable::Playouts ? playout_rows
                                                       : other_rows;
    const LevelRow& row = rows[static_cast<std::size_t>(level - lowest_level)];
    LevelSettings settings;
    settings.playouts_by_moves = table == LevelTable::Playouts;
    if (table == LevelTable::Playouts)
        settings.limits.playouts = static_cast<std::uint64_t>(row.depth);
    else if (row.depth > 0)
        settings.limits.depth = row.depth;
    settings.limits.nodes = row.nodes;
    settings.overlooks = row.overlooks;
    settings.noise = row.noise;
    settings.most_lost = row.most_lost;
    settings.sees_wins = level >= sees_wins_from_level ? 1.0 : 0.0;
    settings.sees_losses = level >= sees_losses_from_level ? 1.0 : 0.0;
    return settings;
}

FollowingLevel::FollowingLevel(int first, int least, int most, int after)
    : level_(first), least_(least), most_(most), after_(after) {
    assert(lowest_level <= least && least <= first && first <= most && most <= highest_level && after >= 1);
}

void FollowingLevel::add(int result) {
    if (row_ * result < 0) row_ = 0;
    row_ += result;
    if (std::abs(row_) < after_) return;
    row_ = 0;
    level_ = std::clamp(level_ + result, least_, most_);
}

std::vector<double> worths_of(std::span<const Score> scores) {
    double least = 0, most = 0;
    bool any = false;
    for (const Score score : scores) {
        if (score.is_proven()) continue;
        const double number = score.number();
        least = any ? std::min(least, number) : number;
        most = any ? std::max(most, number) : number;
        any = true;
    }
    const double apart = std::max(most - least, 1.0);
    std::vector<double> worths;
    for (const Score score : scores) {
        double worth = score.number();
        // Among proven scores the payoff counts, then the plies, both a little.
        if (score.is_proven()) {
            const double payoff = std::abs(static_cast<double>(score.payoff()));
            const double size = payoff / (payoff + 10.0) - static_cast<double>(score.plies()) * 1e-6;
            worth = score.is_proven_win() ? most + apart * (1.5 + size) : least - apart * (1.5 + size);
        }
        worths.push_back(worth);
    }
    return worths;
}

std::vector<std::size_t> noisy_order(std::span<const double> worths, const LevelSettings& level, std::uint64_t seed) {
    std::vector<std::size_t> order(worths.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    if (order.empty()) return order;
    const double best = *std::max_element(worths.begin(), worths.end());
    double short_of_best = 0;
    for (const double worth : worths) short_of_best += best - worth;
    const double spread = order.size() > 1 ? short_of_best / static_cast<double>(order.size() - 1) : 0.0;
    Random random(seed);
    std::vector<double> liking;
    std::vector<bool> too_bad;
    for (const double worth : worths) {
        const double unit = std::max(random.unit(), 1e-18);
        liking.push_back(worth - level.noise * spread * std::log(-std::log(unit)));
        too_bad.push_back(best - worth > level.most_lost * spread);
    }
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        if (too_bad[a] != too_bad[b]) return static_cast<bool>(too_bad[b]);
        return too_bad[a] ? worths[a] > worths[b] : liking[a] > liking[b];
    });
    return order;
}

}  // namespace arvek
