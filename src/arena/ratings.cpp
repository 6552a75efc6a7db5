#include "arvek/arena/ratings.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <string>
#include <utility>

#include "arvek/game/input_error.hpp"
#include "arvek/game/interval.hpp"

namespace arvek {

namespace {

void check_scores(std::size_t players, std::span<const PairScore> scores, std::optional<std::size_t> anchor) {
    if (players == 0) throw InputError("ratings", "there are no players", "one or more");
    if (anchor && *anchor >= players)
        throw InputError("ratings", "the anchor is none of the players", "a place among them");
    std::vector<bool> reached(players);
    reached[anchor.value_or(0)] = true;
    for (const PairScore& score : scores) {
        if (score.a >= players || score.b >= players || score.a == score.b)
            throw InputError("ratings", "a score is of players that are not there", "two places among the players");
        if (score.games < 0 || !(score.points_a >= 0 && score.points_a <= score.games))
            throw InputError("ratings", "points of " + std::to_string(score.points_a) + " are out of range",
                             "0 to the number of games");
        if (score.variance && !(*score.variance >= 0 && std::isfinite(*score.variance)))
            throw InputError("ratings", "a variance of " + std::to_string(*score.variance) + " is out of range",
                             "0 or more");
    }
    for (std::size_t round = 0; round < players; ++round)
        for (const PairScore& score : scores)
            if (score.games > 0 && (reached[score.a] || reached[score.b])) reached[score.a] = reached[score.b] = true;
    for (const bool is_reached : reached)
        if (!is_reached) throw InputError("ratings", "not all players are connected by games", "games between them");
}

constexpr double added_games = 0.5;

/// How the likelihood of the scores bends, and of what spread its slope is, at given strengths. The sum of all strengths
/// is held at 0.
struct Bend {
    Eigen::VectorXd slope;
    Eigen::MatrixXd curvature, spread;
};

Bend bend_at(const Eigen::VectorXd& strength, std::span<const PairScore> scores) {
    const Eigen::Index count = strength.size();
    Bend bend{Eigen::VectorXd::Zero(count), Eigen::MatrixXd::Constant(count, count, 1.0 / static_cast<double>(count)),
              Eigen::MatrixXd::Zero(count, count)};
    for (const PairScore& score : scores) {
        if (score.games == 0) continue;
        const auto a = static_cast<Eigen::Index>(score.a), b = static_cast<Eigen::Index>(score.b);
        const double games = score.games + added_games;
        const double expected = 1.0 / (1.0 + std::exp(strength(b) - strength(a)));
        const double surplus = score.points_a + added_games / 2 - games * expected;
        bend.slope(a) += surplus;
        bend.slope(b) -= surplus;
        const double each = expected * (1 - expected), all = games * each;
        const double seen = score.variance ? *score.variance + added_games * each : all;
        for (auto [matrix, value] : {std::pair{&bend.curvature, all}, std::pair{&bend.spread, seen}}) {
            (*matrix)(a, a) += value;
            (*matrix)(b, b) += value;
            (*matrix)(a, b) -= value;
            (*matrix)(b, a) -= value;
        }
    }
    return bend;
}

}  // namespace

RatingTable rate_players(std::size_t players, std::span<const PairScore> scores, std::optional<std::size_t> anchor) {
    check_scores(players, scores, anchor);
    constexpr int most_steps = 200;
    constexpr double longest_step = 2.0, close_enough = 1e-10;
    const auto count = static_cast<Eigen::Index>(players);
    Eigen::VectorXd strength = Eigen::VectorXd::Zero(count);
    for (int step = 0; step < most_steps; ++step) {
        const Bend bend = bend_at(strength, scores);
        Eigen::VectorXd move = bend.curvature.ldlt().solve(bend.slope);
        const double size = move.cwiseAbs().maxCoeff();
        if (size > longest_step) move *= longest_step / size;
        strength += move;
        if (size < close_enough) break;
    }
    const Bend bend = bend_at(strength, scores);
    const Eigen::MatrixXd inverse = bend.curvature.ldlt().solve(Eigen::MatrixXd::Identity(count, count));
    Eigen::MatrixXd from = Eigen::MatrixXd::Identity(count, count);  // what all count from
    if (anchor)
        from.col(static_cast<Eigen::Index>(*anchor)).array() -= 1.0;
    else
        from.array() -= 1.0 / static_cast<double>(count);
    const double scale = 400.0 / std::log(10.0);
    const Eigen::VectorXd rating = scale * (from * strength);
    const Eigen::MatrixXd covariance = scale * scale * (from * inverse * bend.spread * inverse * from.transpose());
    RatingTable table;
    for (Eigen::Index i = 0; i < count; ++i) {
        const double half = errors_to_each_side * std::sqrt(std::max(0.0, covariance(i, i)));
        table.ratings.push_back({rating(i), rating(i) - half, rating(i) + half});
        for (Eigen::Index j = 0; j < count; ++j) table.covariance.push_back(covariance(i, j));
    }
    return table;
}

double RatingTable::spread_between(std::size_t a, std::size_t b) const {
    const std::size_t count = ratings.size();
    return std::sqrt(std::max(0.0, covariance[a * count + a] + covariance[b * count + b] - covariance[a * count + b] -
                                       covariance[b * count + a]));
}

double RatingTable::chance_above(std::size_t a, std::size_t b) const {
    const double spread = spread_between(a, b), ahead = ratings[a].rating - ratings[b].rating;
    if (spread == 0.0) return ahead > 0 ? 1.0 : ahead < 0 ? 0.0 : 0.5;
    return 0.5 * std::erfc(-ahead / (spread * std::sqrt(2.0)));
}

std::vector<Rating> fit_ratings(std::size_t players, std::span<const PairScore> scores, std::size_t anchor) {
    return rate_players(players, scores, anchor).ratings;
}

}  // namespace arvek
