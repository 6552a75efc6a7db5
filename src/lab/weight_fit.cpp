#include "arvek/lab/weight_fit.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <string>
#include <utility>

#include "../game/mean_interval.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

void check_samples(std::span<const WeightSample> samples, double ridge) {
    if (samples.empty()) throw InputError("weights", "there are no positions", "games that have been played");
    if (!(ridge >= 0 && std::isfinite(ridge)))
        throw InputError("weights", "a ridge of " + std::to_string(ridge) + " is out of range", "0 or more");
    for (const WeightSample& sample : samples) {
        if (sample.values.size() != samples.front().values.size())
            throw InputError("weights", "positions have different numbers of features", "the same features of each");
        for (const double value : sample.values)
            if (!std::isfinite(value)) throw InputError("weights", "a feature is no number", "numbers");
        if (!(sample.result >= 0 && sample.result <= 1))
            throw InputError("weights", "a result of " + std::to_string(sample.result) + " is out of range", "0 to 1");
    }
}

/// How many standard errors a 95 % interval reaches to each side with so many games more than weights: Student's
/// distribution. Infinitely many where the games are too few to tell.
double errors_with(int freedom) {
    constexpr int least = 8;
    if (freedom < least) return std::numeric_limits<double>::infinity();
    return errors_to_each_side_with(freedom);
}

}  // namespace

WeightFit fit_weights(std::span<const WeightSample> samples, double ridge) {
    check_samples(samples, ridge);
    const auto count = static_cast<Eigen::Index>(samples.size());
    const auto features = static_cast<Eigen::Index>(samples.front().values.size());
    Eigen::MatrixXd values(count, features + 1);
    Eigen::VectorXd results(count);
    for (Eigen::Index i = 0; i < count; ++i) {
        const WeightSample& sample = samples[static_cast<std::size_t>(i)];
        for (Eigen::Index j = 0; j < features; ++j) values(i, j) = sample.values[static_cast<std::size_t>(j)];
        values(i, features) = 1.0;
        results(i) = sample.result;
    }
    // Of one size, so that the ridge means the same for all.
    Eigen::VectorXd size(features + 1);
    for (Eigen::Index j = 0; j <= features; ++j) {
        const double square = values.col(j).squaredNorm() / static_cast<double>(count);
        size(j) = square > 0 ? std::sqrt(square) : 1.0;
        values.col(j) /= size(j);
    }
    Eigen::VectorXd weights = Eigen::VectorXd::Zero(features + 1);
    Eigen::MatrixXd curvature;
    const double least_ridge = 1e-6;  // a feature that never changes has no weight
    const Eigen::MatrixXd held =
        Eigen::MatrixXd::Identity(features + 1, features + 1) * (std::max(ridge, least_ridge) / 4.0);
    Eigen::VectorXd chances(count);
    constexpr int most_steps = 100;
    for (int step = 0; step < most_steps; ++step) {
        chances = (1.0 + (-(values * weights).array()).exp()).inverse().matrix();
        const Eigen::VectorXd bend = (chances.array() * (1.0 - chances.array())).matrix();
        curvature = values.transpose() * bend.asDiagonal() * values + held;
        const Eigen::VectorXd slope = values.transpose() * (results - chances) - held * weights;
        Eigen::VectorXd move = curvature.ldlt().solve(slope);
        const double longest = move.cwiseAbs().maxCoeff();
        if (longest > 2.0) move *= 2.0 / longest;
        weights += move;
        if (longest < 1e-9) break;
    }
    // How the slopes of whole games differ, each as it would be had the weights been fitted without the game.
    std::map<std::size_t, std::pair<Eigen::VectorXd, Eigen::MatrixXd>> by_game;
    for (Eigen::Index i = 0; i < count; ++i) {
        auto [at, added] =
            by_game.try_emplace(samples[static_cast<std::size_t>(i)].game, Eigen::VectorXd::Zero(features + 1),
                                Eigen::MatrixXd::Zero(features + 1, features + 1));
        at->second.first += (results(i) - chances(i)) * values.row(i).transpose();
        at->second.second += chances(i) * (1 - chances(i)) * values.row(i).transpose() * values.row(i);
    }
    Eigen::MatrixXd spread = Eigen::MatrixXd::Zero(features + 1, features + 1);
    for (const auto& [game, of] : by_game) {
        const Eigen::VectorXd without = curvature * (curvature - of.second).ldlt().solve(of.first);
        spread += without * without.transpose();
    }
    const auto games = static_cast<double>(by_game.size());
    spread *= std::max(0.0, games - 1) / games;
    const Eigen::MatrixXd inverse = curvature.ldlt().solve(Eigen::MatrixXd::Identity(features + 1, features + 1));
    const Eigen::MatrixXd covariance = inverse * spread * inverse;
    const double errors = errors_with(static_cast<int>(by_game.size()) - static_cast<int>(features) - 1);

    WeightFit fit;
    fit.samples = samples.size();
    fit.games = by_game.size();
    const double units = fitted_units_per_doubling / std::log(2.0);
    const auto fitted = [&](Eigen::Index j) -> FittedWeight {
        const double weight = units * weights(j) / size(j);
        const double half = errors * units * std::sqrt(std::max(0.0, covariance(j, j))) / size(j);
        return {weight, weight - half, weight + half};
    };
    for (Eigen::Index j = 0; j < features; ++j) fit.weights.push_back(fitted(j));
    fit.to_move = fitted(features);
    double bits = 0;
    for (Eigen::Index i = 0; i < count; ++i) {
        const double chance = std::clamp(chances(i), 1e-12, 1.0 - 1e-12);
        bits += 1.0 + results(i) * std::log2(chance) + (1.0 - results(i)) * std::log2(1.0 - chance);
    }
    fit.bits = bits / static_cast<double>(count);
    return fit;
}

}  // namespace arvek
