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

/// Of a drawn game that is added to each pair, for the ratings, and for their intervals: there as little as keeps them finite.
constexpr double added_to_rate = 0.5, added_to_test = 0.02;

/// How much less, or more, the points vary than those of games that are won or lost and have nothing to do with each other,
/// as far as the games show it: few that were lost show little.
double variation_of(const PairScore& score) {
    if (!score.variance) return 1.0;
    constexpr double doubt = 0.4;  // points of variance
    const double share = (score.points_a + added_to_rate / 2) / (score.games + added_to_rate);
    const double binomial = score.games * share * (1 - share);
    const double trust = binomial / (binomial + doubt);
    return 1 - trust * trust * trust * (1 - *score.variance / binomial);
}

/// How the likelihood of the scores bends, and of what spread its slope is, at given strengths. The sum of all strengths
/// is held at 0.
struct Bend {
    Eigen::VectorXd slope;
    Eigen::MatrixXd curvature, spread;
};

Bend bend_at(const Eigen::VectorXd& strength, std::span<const PairScore> scores, double added_games) {
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
        const double seen = all * variation_of(score);
        for (auto [matrix, value] : {std::pair{&bend.curvature, all}, std::pair{&bend.spread, seen}}) {
            (*matrix)(a, a) += value;
            (*matrix)(b, b) += value;
            (*matrix)(a, b) -= value;
            (*matrix)(b, a) -= value;
        }
    }
    return bend;
}

double log_likelihood(const Eigen::VectorXd& strength, std::span<const PairScore> scores, double added_games) {
    double sum = 0;
    for (const PairScore& score : scores) {
        if (score.games == 0) continue;
        const double apart =
            strength(static_cast<Eigen::Index>(score.a)) - strength(static_cast<Eigen::Index>(score.b));
        const double points = score.points_a + added_games / 2, games = score.games + added_games;
        // log of 1 / (1 + exp(-x)), without overflow
        const auto log_share = [](double x) { return x > 0 ? -std::log1p(std::exp(-x)) : x - std::log1p(std::exp(x)); };
        sum += points * log_share(apart) + (games - points) * log_share(-apart);
    }
    return sum;
}

/// The likeliest strengths, or with `held` the likeliest of those whose `contrast` is that. Goes on from `strength`.
Bend likeliest(Eigen::VectorXd& strength, std::span<const PairScore> scores, double added_games,
               const Eigen::VectorXd* contrast = nullptr, double held = 0) {
    constexpr int most_steps = 200;
    constexpr double longest_step = 2.0, close_enough = 1e-10;
    for (int step = 0; step < most_steps; ++step) {
        const Bend bend = bend_at(strength, scores, added_games);
        const auto factored = bend.curvature.ldlt();
        Eigen::VectorXd move = factored.solve(bend.slope);
        if (contrast != nullptr) {
            const Eigen::VectorXd along = factored.solve(*contrast);
            move += along * ((held - contrast->dot(strength) - contrast->dot(move)) / contrast->dot(along));
        }
        const double size = move.cwiseAbs().maxCoeff();
        if (size > longest_step) move *= longest_step / size;
        strength += move;
        if (size < close_enough) break;
    }
    return bend_at(strength, scores, added_games);
}

/// How far, in standard deviations, the scores speak against strengths whose contrast is `held`; goes on from `strength`.
/// By the slope; or, given the most that the likelihood can be, by the slope or the likelihood, whichever speaks less: with few
/// losses the one is too sure below, the other above.
double against(double held, Eigen::VectorXd& strength, const Eigen::VectorXd& contrast,
               std::span<const PairScore> scores, std::optional<double> most_likelihood) {
    const Bend bend = likeliest(strength, scores, added_to_test, &contrast, held);
    const Eigen::VectorXd along = bend.curvature.ldlt().solve(contrast);
    const double spread = std::max(along.dot(bend.spread * along), 1e-300);
    const double by_slope = std::abs(along.dot(bend.slope)) / std::sqrt(spread);
    if (!most_likelihood) return by_slope;
    const double variation = spread / std::max(along.dot(bend.curvature * along), 1e-300);
    const double fallen = *most_likelihood - log_likelihood(strength, scores, added_to_test);
    return std::min(by_slope, std::sqrt(std::max(0.0, 2 * fallen / variation)));
}

/// Where the scores speak against it as much as a 95 % interval leaves out, on the side of `sign`: the test of the slope,
/// turned around. `likely`: the contrast of the likeliest.
double end_of_interval(int sign, double likely, double first_step, const Eigen::VectorXd& likeliest_strength,
                       const Eigen::VectorXd& contrast, std::span<const PairScore> scores, bool few_losses) {
    constexpr double farthest = 40.0, close_enough = 1e-4;
    Eigen::VectorXd strength = likeliest_strength;
    (void)likeliest(strength, scores, added_to_test);
    std::optional<double> most_likelihood;
    if (few_losses) most_likelihood = log_likelihood(strength, scores, added_to_test);
    const auto speaks = [&](double apart) {
        return against(likely + sign * apart, strength, contrast, scores, most_likelihood) >= errors_to_each_side;
    };
    double inside = 0, outside = std::clamp(first_step, 0.01, 4.0);
    while (outside < farthest && !speaks(outside)) inside = outside, outside *= 1.6;
    while (outside - inside > close_enough * std::max(1.0, outside)) {
        const double middle = (inside + outside) / 2;
        (speaks(middle) ? outside : inside) = middle;
    }
    return likely + sign * outside;
}

}  // namespace

RatingTable rate_players(std::size_t players, std::span<const PairScore> scores, std::optional<std::size_t> anchor,
                         bool intervals) {
    check_scores(players, scores, anchor);
    const auto count = static_cast<Eigen::Index>(players);
    Eigen::VectorXd strength = Eigen::VectorXd::Zero(count);
    const Bend bend = likeliest(strength, scores, added_to_rate);
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
        table.ratings.push_back({rating(i), rating(i), rating(i)});
        for (Eigen::Index j = 0; j < count; ++j) table.covariance.push_back(covariance(i, j));
        const bool is_held = anchor && static_cast<Eigen::Index>(*anchor) == i;
        if (!intervals || count < 2 || is_held) continue;
        const Eigen::VectorXd contrast = from.row(i).transpose();
        const double step = 1.5 * std::sqrt(std::max(0.0, covariance(i, i))) / scale;
        constexpr double few = 5.0;
        const bool few_losses = std::any_of(scores.begin(), scores.end(), [&](const PairScore& score) {
            const bool is_of = static_cast<Eigen::Index>(score.a) == i || static_cast<Eigen::Index>(score.b) == i;
            return is_of && score.games > 0 && std::min(score.points_a, score.games - score.points_a) < few;
        });
        Rating& entry = table.ratings.back();
        entry.low = scale * end_of_interval(-1, rating(i) / scale, step, strength, contrast, scores, few_losses);
        entry.high = scale * end_of_interval(1, rating(i) / scale, step, strength, contrast, scores, few_losses);
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
