#include "arvek/lab/odds.hpp"

#include <algorithm>
#include <cmath>

#include "arvek/game/interval.hpp"

namespace arvek {

namespace {

/// `shift`: what is added to the slope times the estimate.
double chance_of(double slope, double estimate, double shift = 0.0) {
    return 1.0 / (1.0 + std::exp(-slope * estimate - shift));
}

/// The units that fit best when they are added to every estimate, beside a slope of their own.
std::optional<double> turn_of(const std::vector<OddsFit::Seen>& seen, double slope) {
    double shift = 0;  // slope times the units
    for (int step = 0; step < 50; ++step) {
        double gradient[2] = {0, 0}, curvature[3] = {0, 0, 0};
        for (const auto& each : seen) {
            const double chance = chance_of(slope, each.estimate, shift);
            const double left = each.points - chance, spread = chance * (1 - chance);
            gradient[0] += left * each.estimate;
            gradient[1] += left;
            curvature[0] += spread * each.estimate * each.estimate;
            curvature[1] += spread * each.estimate;
            curvature[2] += spread;
        }
        const double determinant = curvature[0] * curvature[2] - curvature[1] * curvature[1];
        if (!(determinant > 0)) return std::nullopt;
        const double by_slope = (curvature[2] * gradient[0] - curvature[1] * gradient[1]) / determinant;
        const double by_shift = (curvature[0] * gradient[1] - curvature[1] * gradient[0]) / determinant;
        slope += by_slope;
        shift += by_shift;
        if (!std::isfinite(slope) || !std::isfinite(shift)) return std::nullopt;
        if (std::abs(by_slope) < 1e-9 * std::abs(slope) && std::abs(by_shift) < 1e-9) break;
    }
    if (!(slope > 0)) return std::nullopt;
    return shift / slope;
}

/// Rows of about as many positions each; equal estimates are never parted.
std::vector<OddsRow> rows_of(std::vector<OddsFit::Seen> seen, double slope) {
    constexpr std::size_t wanted = 10;
    std::stable_sort(seen.begin(), seen.end(), [](const auto& a, const auto& b) { return a.estimate < b.estimate; });
    const std::size_t each = std::max<std::size_t>(1, (seen.size() + wanted - 1) / wanted);
    std::vector<OddsRow> rows;
    for (std::size_t from = 0; from < seen.size();) {
        std::size_t to = std::min(from + each, seen.size());
        while (to < seen.size() && seen[to].estimate == seen[to - 1].estimate) ++to;
        OddsRow& row = rows.emplace_back();
        row.least = seen[from].estimate;
        row.most = seen[to - 1].estimate;
        row.positions = to - from;
        double points = 0, fitted = 0;
        for (; from < to; ++from) {
            points += seen[from].points;
            fitted += chance_of(slope, seen[from].estimate);
        }
        row.won = points / static_cast<double>(row.positions);
        row.fitted = fitted / static_cast<double>(row.positions);
    }
    return rows;
}

}  // namespace

void OddsFit::add(std::span<const Seen> game) {
    for (const Seen& each : game)
        if (std::isfinite(each.estimate)) seen_.push_back(each);
    ends_.push_back(seen_.size());
}

OddsFound OddsFit::report() const {
    OddsFound found;
    found.games = static_cast<int>(ends_.size());
    found.positions = seen_.size();
    double size = 0, for_leader = 0, against_leader = 0;
    for (const Seen& each : seen_) {
        size += std::abs(each.estimate);
        const double got = each.estimate > 0 ? each.points : 1 - each.points;
        if (each.estimate != 0) for_leader += got, against_leader += 1 - got;
    }
    found.always_won = for_leader > 0 && against_leader == 0;
    if (for_leader <= against_leader || found.always_won) {
        found.rows = rows_of(seen_, 0.0);
        return found;
    }
    // The likelihood has one top; Newton's steps, in units of the mean estimate, are halved until they climb.
    const double unit = static_cast<double>(seen_.size()) / size;
    double slope = 0;
    const auto likelihood = [&](double at) {
        double sum = 0;
        for (const Seen& each : seen_) {
            const double x = at * each.estimate;
            // log(1 + e^-x), without overflow
            const double loss = x > 0 ? std::log1p(std::exp(-x)) : std::log1p(std::exp(x)) - x;
            sum -= loss + (1 - each.points) * x;
        }
        return sum;
    };
    double now = likelihood(slope), curvature = 0;
    for (int step = 0; step < 100; ++step) {
        double gradient = 0;
        curvature = 0;
        for (const Seen& each : seen_) {
            const double chance = chance_of(slope, each.estimate);
            gradient += (each.points - chance) * each.estimate;
            curvature += chance * (1 - chance) * each.estimate * each.estimate;
        }
        if (!(curvature > 0)) break;
        double move = gradient / curvature, next = likelihood(slope + move);
        for (int halved = 0; next < now && halved < 40; ++halved) next = likelihood(slope + (move /= 2));
        slope += move;
        now = next;
        if (std::abs(move) < 1e-10 * unit) break;
    }
    found.rows = rows_of(seen_, slope);
    if (!(slope > 0) || !(curvature > 0)) return found;
    double squares = 0;
    std::size_t at = 0;
    for (const std::size_t end : ends_) {
        double of_game = 0;
        for (; at < end; ++at)
            of_game += (seen_[at].points - chance_of(slope, seen_[at].estimate)) * seen_[at].estimate;
        squares += of_game * of_game;
    }
    found.units_per_doubling = std::log(2.0) / slope;
    found.turn = turn_of(seen_, slope);
    constexpr std::size_t fewest = 10;  // of fewer games the spread tells nothing
    if (ends_.size() < fewest) return found;
    const double games = static_cast<double>(ends_.size());
    const double error = errors_to_each_side * std::sqrt(squares * games / (games - 1)) / curvature;
    found.low = std::log(2.0) / (slope + error);
    if (slope - error > 0) found.high = std::log(2.0) / (slope - error);
    return found;
}

}  // namespace arvek
