#include "arvek/opponent/person.hpp"

#include <algorithm>
#include <cmath>
#include <vector>

#include "arvek/opponent/profile.hpp"

namespace arvek {

namespace {

/// From one level to the next in most games; a level is odds of about two to one.
constexpr double usual_step = 139.0;
constexpr int level_of_people = 4;
constexpr double spread_of_people = 350.0;

}  // namespace

LevelRatings level_ratings(const Profile* profile) {
    std::array<std::optional<double>, highest_level> given{};
    if (profile != nullptr)
        for (std::size_t i = 0; i < given.size(); ++i) given[i] = profile->levels[i].rating;
    LevelRatings ratings{};
    for (std::size_t i = 0; i < ratings.size(); ++i) {
        if (given[i]) {
            ratings[i] = *given[i];
            continue;
        }
        std::optional<std::size_t> below, above;
        for (std::size_t j = 0; j < given.size(); ++j)
            if (given[j]) {
                if (j < i) below = j;
                if (j > i && !above) above = j;
            }
        const auto steps = [](std::size_t from, std::size_t to) { return static_cast<double>(to - from); };
        if (below && above)
            ratings[i] = *given[*below] + (*given[*above] - *given[*below]) * steps(*below, i) / steps(*below, *above);
        else if (below)
            ratings[i] = *given[*below] + usual_step * steps(*below, i);
        else if (above)
            ratings[i] = *given[*above] - usual_step * steps(i, *above);
        else
            ratings[i] = usual_step * static_cast<double>(i + 1);
    }
    // Levels that hardly differ may have been measured in the wrong order.
    for (std::size_t i = 1; i < ratings.size(); ++i) ratings[i] = std::max(ratings[i], ratings[i - 1] + 1.0);
    return ratings;
}

PersonRating rate_person(std::span<const PersonGame> games, const LevelRatings& ratings) {
    const double middle = ratings[level_of_people - lowest_level];
    constexpr double step = 5.0, reach = 2'000.0, fades = 0.97;
    std::vector<double> places, likely;
    const double least = std::min(middle, ratings.front()) - reach, most = std::max(middle, ratings.back()) + reach;
    for (double place = least; place <= most; place += step) places.push_back(place);
    double best = -1e300;
    for (const double place : places) {
        double log = -0.5 * std::pow((place - middle) / spread_of_people, 2);
        double weight = 1.0;
        for (std::size_t i = games.size(); i-- > 0; weight *= fades) {
            const double wins = 1.0 / (1.0 + std::pow(10.0, (games[i].rating - place) / 400.0));
            log += weight * (games[i].result * std::log(std::max(wins, 1e-300)) +
                             (1.0 - games[i].result) * std::log(std::max(1.0 - wins, 1e-300)));
        }
        likely.push_back(log);
        best = std::max(best, log);
    }
    double sum = 0;
    for (double& each : likely) sum += each = std::exp(each - best);
    PersonRating rating;
    double squares = 0, below = 0;
    for (std::size_t i = 0; i < places.size(); ++i) rating.mean += likely[i] / sum * places[i];
    rating.low = least;
    rating.high = most;
    for (std::size_t i = 0; i < places.size(); ++i) {
        squares += likely[i] / sum * std::pow(places[i] - rating.mean, 2);
        const double before = below;
        below += likely[i] / sum;
        if (before < 0.025 && below >= 0.025) rating.low = places[i];
        if (before < 0.975 && below >= 0.975) rating.high = places[i];
    }
    rating.spread = std::sqrt(squares);
    return rating;
}

double level_of_rating(double rating, const LevelRatings& ratings) {
    for (std::size_t i = 0; i < ratings.size(); ++i) {
        if (rating > ratings[i]) continue;
        if (i == 0) return lowest_level;
        return static_cast<double>(i) + (rating - ratings[i - 1]) / (ratings[i] - ratings[i - 1]);
    }
    return highest_level;
}

PersonStrength strength_of(const PersonRating& rating, const LevelRatings& ratings) {
    const double step = (ratings.back() - ratings.front()) / (highest_level - lowest_level);
    return {level_of_rating(rating.mean, ratings), std::clamp(rating.spread / step, 0.25, 3.0)};
}

}  // namespace arvek
