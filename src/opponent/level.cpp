#include "arvek/opponent/level.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <numeric>

#include "arvek/game/any_game.hpp"
#include "arvek/game/random.hpp"
#include "arvek/opponent/chooser.hpp"

namespace arvek {

namespace {

struct LevelRow {
    int depth;            ///< 0: no limit of depth; of playouts: how many
    std::uint64_t nodes;  ///< so that every opponent answers soon in every game
    double overlooks, noise, most_lost;
    double deeper = 0.0;
};

// Measured against scripted players, a weak and a fair one, in five games; docs/levels.md.
constexpr std::array<LevelRow, highest_level> search_rows{{
    {1, 500'000, 0.650, 3.20, 8.0},
    {1, 500'000, 0.397, 1.28, 5.5, 0.15},
    {1, 500'000, 0.307, 0.81, 4.6, 0.34},
    {1, 500'000, 0.220, 0.535, 3.7, 0.65},
    {2, 2'650, 0.144, 0.36, 2.9, 0.02},
    {2, 3'900, 0.102, 0.232, 2.05, 0.19},
    {2, 4'800, 0.076, 0.168, 1.65, 0.40},
    {2, 8'000, 0.006, 0.015, 1.0, 0.93},
    {7, 250'000, 0.00, 0.00, 0.0},
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
    {1, 500'000, 0.650, 2.00, 6.0},
    {1, 500'000, 0.557, 1.50, 4.0},
    {1, 500'000, 0.495, 1.00, 3.0},
    {1, 500'000, 0.445, 0.70, 2.0},
    {1, 500'000, 0.395, 0.50, 1.5},
    {1, 500'000, 0.305, 0.30, 1.0},
    {1, 500'000, 0.205, 0.15, 0.7},
    {1, 500'000, 0.105, 0.05, 0.4},
    {1, 500'000, 0.000, 0.00, 0.0},
}};

// How surely a win in one is seen, and a loss in one prevented. Who looks ahead hardly ever passes by either, as people do
// not; what chooses in another way is left to its own ideas more.
constexpr std::array<double, highest_level> win_guards{0.55, 0.66, 0.76, 0.85, 0.92, 0.97, 0.99, 1.0, 1.0, 1.0};
constexpr std::array<double, highest_level> loss_guards{0.06, 0.16, 0.30, 0.46, 0.62, 0.76, 0.87, 0.95, 1.0, 1.0};
constexpr std::array<double, highest_level> search_win_guards{0.60, 0.88,  0.94, 0.967, 0.98,
                                                              0.99, 0.995, 1.0,  1.0,   1.0};
constexpr std::array<double, highest_level> search_loss_guards{0.28, 0.75, 0.89,  0.93, 0.953,
                                                               0.97, 0.98, 0.995, 1.0,  1.0};

// At the top, where nothing else makes games differ; by luck they differ of themselves.
constexpr std::array<double, 3> variety_from_level_8{0.40, 1.00, 1.00};

}  // namespace

LevelTable level_table_of(const ChooserInfo& info) {
    if (info.plays_out) return LevelTable::Playouts;
    if (!info.looks_ahead) return LevelTable::Other;
    return info.weighs_chance ? LevelTable::Luck : LevelTable::Search;
}

LevelSettings level_settings(int level, LevelTable table) {
    assert(level >= lowest_level && level <= highest_level);
    const auto& rows = table == LevelTable::Search     ? search_rows
                       : table == LevelTable::Luck     ? luck_rows
                       : table == LevelTable::Playouts ? playout_rows
                                                       : other_rows;
    const auto at = static_cast<std::size_t>(level - lowest_level);
    const LevelRow& row = rows[at];
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
    settings.deeper = row.deeper;
    const bool searches = table == LevelTable::Search;
    settings.sees_wins = searches ? search_win_guards[at] : win_guards[at];
    settings.sees_losses = searches ? search_loss_guards[at] : loss_guards[at];
    if (level >= 8 && searches) settings.variety = variety_from_level_8[static_cast<std::size_t>(level - 8)];
    if (level == 9 && searches) settings.deeper_at_first = 6;
    return settings;
}

LevelSettings changed(LevelSettings settings, const LevelChange& change) {
    if (change.depth) settings.limits.depth = change.depth;
    if (change.nodes) settings.limits.nodes = change.nodes;
    settings.overlooks = change.overlooks.value_or(settings.overlooks);
    settings.noise = change.noise.value_or(settings.noise);
    settings.most_lost = change.most_lost.value_or(settings.most_lost);
    settings.sees_wins = change.sees_wins.value_or(settings.sees_wins);
    settings.sees_losses = change.sees_losses.value_or(settings.sees_losses);
    settings.deeper = change.deeper.value_or(settings.deeper);
    settings.variety = change.variety.value_or(settings.variety);
    return settings;
}

LevelChange level_change_of(const AnyGame& game, int level, LevelTable table) {
    if (table != LevelTable::Search || !offers(game, Ability::LevelChange)) return {};
    return game.level_change(level);
}

double LevelSettings::overlooks_at(double salience) const {
    // What stands out the most is overlooked a tenth as often; one who sees next to nothing sees next to none of it.
    const double share = std::clamp(overlooks * (1.7 - 1.6 * std::clamp(salience, 0.0, 1.0)), 0.0, 1.0);
    const double blind = std::clamp((overlooks - 0.4) / 0.6, 0.0, 1.0);
    return share + (1.0 - share) * blind;
}

namespace {

constexpr double least_strength = lowest_level - 0.5, strength_step = 0.25;
constexpr std::size_t strengths = 45;  // to half a level above the highest

double strength_at(std::size_t i) { return least_strength + strength_step * static_cast<double>(i); }

}  // namespace

FollowingLevel::FollowingLevel(int first, int least, int most, int after)
    : FollowingLevel(first, 2.0, least, most, after) {
    assert(least <= first && first <= most);
}

FollowingLevel::FollowingLevel(double strength, double spread, int least, int most, int after)
    : level_(std::clamp(static_cast<int>(std::lround(strength)), least, most)),
      least_(least),
      most_(most),
      after_(after),
      likely_(strengths) {
    assert(lowest_level <= least && least <= most && most <= highest_level && after >= 1 && spread > 0);
    for (std::size_t i = 0; i < strengths; ++i) {
        const double off = (strength_at(i) - strength) / spread;
        likely_[i] = std::exp(-off * off / 2);
    }
}

std::pair<double, double> FollowingLevel::player() const {
    double sum = 0, mean = 0, squares = 0;
    for (std::size_t i = 0; i < strengths; ++i) {
        sum += likely_[i];
        mean += likely_[i] * strength_at(i);
    }
    mean /= sum;
    for (std::size_t i = 0; i < strengths; ++i)
        squares += likely_[i] * (strength_at(i) - mean) * (strength_at(i) - mean);
    return {mean, std::sqrt(squares / sum)};
}

void FollowingLevel::add(double result) {
    // A level is odds of about two to one; a player also gets better or tired, so what was known fades a little.
    constexpr double odds_of_a_level = 0.8, fades = 0.94;
    double sum = 0;
    for (std::size_t i = 0; i < strengths; ++i) {
        const double wins = 1.0 / (1.0 + std::exp(-odds_of_a_level * (strength_at(i) - level_)));
        likely_[i] = std::pow(likely_[i], fades) * std::pow(wins, result) * std::pow(1.0 - wins, 1.0 - result);
        sum += likely_[i];
    }
    for (double& each : likely_) each /= sum;
    if (++games_ < after_) return;
    const double mean = player().first;
    // Not for less than it is off by: half a level and a little.
    constexpr double enough = 0.6;
    const int step = mean > level_ + enough ? 1 : mean < level_ - enough ? -1 : 0;
    const int level = std::clamp(level_ + step, least_, most_);
    if (level != level_) games_ = 0;
    level_ = level;
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

double spread_of(std::span<const double> worths) {
    if (worths.size() < 2) return 0.0;
    const double best = *std::max_element(worths.begin(), worths.end());
    std::vector<double> short_of_best;
    for (const double worth : worths) short_of_best.push_back(best - worth);
    std::sort(short_of_best.begin(), short_of_best.end());
    const auto mean_of_first = [&](std::size_t count) {
        return std::accumulate(short_of_best.begin() + 1,
                               short_of_best.begin() + 1 + static_cast<std::ptrdiff_t>(count), 0.0) /
               static_cast<double>(count);
    };
    const double of_better_half = mean_of_first(worths.size() / 2);
    // Where those are all as good as the best, what is left.
    return of_better_half > 0 ? of_better_half : 0.25 * mean_of_first(worths.size() - 1);
}

std::vector<std::size_t> noisy_order(std::span<const double> worths, const LevelSettings& level, std::uint64_t seed) {
    std::vector<std::size_t> order(worths.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    if (order.empty()) return order;
    const double best = *std::max_element(worths.begin(), worths.end());
    const double spread = spread_of(worths);
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
