#include "arvek/arena/ratings.hpp"

#include <Eigen/Dense>
#include <cmath>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

void check_scores(std::size_t players, std::span<const PairScore> scores, std::size_t anchor) {
    if (anchor >= players) throw InputError("ratings", "the anchor is none of the players", "a place among them");
    std::vector<bool> reached(players);
    reached[anchor] = true;
    for (const PairScore& score : scores) {
        if (score.a >= players || score.b >= players || score.a == score.b)
            throw InputError("ratings", "a score is of players that are not there", "two places among the players");
        if (score.games < 0 || !(score.points_a >= 0 && score.points_a <= score.games))
            throw InputError("ratings", "points of " + std::to_string(score.points_a) + " are out of range",
                             "0 to the number of games");
    }
    for (std::size_t round = 0; round < players; ++round)
        for (const PairScore& score : scores)
            if (score.games > 0 && (reached[score.a] || reached[score.b])) reached[score.a] = reached[score.b] = true;
    for (const bool is_reached : reached)
        if (!is_reached) throw InputError("ratings", "not all players are connected by games", "games between them");
}

}  // namespace

std::vector<Rating> fit_ratings(std::size_t players, std::span<const PairScore> scores, std::size_t anchor) {
    check_scores(players, scores, anchor);
    constexpr double added_games = 0.5;
    constexpr int most_steps = 200;
    constexpr double longest_step = 2.0, close_enough = 1e-10;
    const auto count = static_cast<Eigen::Index>(players);
    Eigen::VectorXd strength = Eigen::VectorXd::Zero(count);
    Eigen::MatrixXd curvature(count, count);
    const auto fixed = static_cast<Eigen::Index>(anchor);
    for (int step = 0; step < most_steps; ++step) {
        Eigen::VectorXd slope = Eigen::VectorXd::Zero(count);
        curvature.setZero();
        for (const PairScore& score : scores) {
            if (score.games == 0) continue;
            const auto a = static_cast<Eigen::Index>(score.a), b = static_cast<Eigen::Index>(score.b);
            const double games = score.games + added_games;
            const double expected = 1.0 / (1.0 + std::exp(strength(b) - strength(a)));
            const double surplus = score.points_a + added_games / 2 - games * expected;
            slope(a) += surplus;
            slope(b) -= surplus;
            const double bend = games * expected * (1 - expected);
            curvature(a, a) += bend;
            curvature(b, b) += bend;
            curvature(a, b) -= bend;
            curvature(b, a) -= bend;
        }
        slope(fixed) = 0;
        curvature.row(fixed).setZero();
        curvature.col(fixed).setZero();
        curvature(fixed, fixed) = 1;
        Eigen::VectorXd move = curvature.ldlt().solve(slope);
        const double size = move.cwiseAbs().maxCoeff();
        if (size > longest_step) move *= longest_step / size;
        strength += move;
        if (size < close_enough) break;
    }
    const Eigen::MatrixXd covariance = curvature.ldlt().solve(Eigen::MatrixXd::Identity(count, count));
    const double scale = 400.0 / std::log(10.0);
    std::vector<Rating> ratings;
    for (Eigen::Index i = 0; i < count; ++i) {
        const double half = i == fixed ? 0.0 : 1.959963984540054 * std::sqrt(covariance(i, i));
        ratings.push_back({scale * strength(i), scale * (strength(i) - half), scale * (strength(i) + half)});
    }
    return ratings;
}

}  // namespace arvek
