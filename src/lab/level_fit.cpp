#include "arvek/lab/level_fit.hpp"

#include <algorithm>
#include <cmath>
#include <string>

#include "arvek/game/input_error.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

namespace {

double rating_of_score(double score) { return 400.0 * std::log10(score / (1.0 - score)); }
double score_of_rating(double ahead) { return 1.0 / (1.0 + std::pow(10.0, -ahead / 400.0)); }

/// Ratings that never fall from place to place, nearest to the measured ones.
/// Source: Ayer, Brunk, Ewing, Reid, Silverman (1955), "An Empirical Distribution Function for Sampling with Incomplete
/// Information".
std::vector<double> never_falling(std::span<const MeasuredStrength> measured) {
    struct Block {
        double sum, weight;
        std::size_t count;
        double mean() const { return sum / weight; }
    };
    std::vector<Block> blocks;
    for (const MeasuredStrength& each : measured) {
        const double spread = std::max(1.0, (each.rating.high - each.rating.low) / 4.0);
        const double weight = 1.0 / (spread * spread);
        blocks.push_back({each.rating.rating * weight, weight, 1});
        while (blocks.size() > 1 && blocks[blocks.size() - 2].mean() > blocks.back().mean()) {
            const Block last = blocks.back();
            blocks.pop_back();
            blocks.back().sum += last.sum;
            blocks.back().weight += last.weight;
            blocks.back().count += last.count;
        }
    }
    std::vector<double> ratings;
    for (const Block& block : blocks) ratings.insert(ratings.end(), block.count, block.mean());
    return ratings;
}

double between(double low, double high, double share) { return low + share * (high - low); }
/// For what counts by multiples.
double between_multiples(double low, double high, double share) {
    return std::exp(between(std::log(low), std::log(high), share));
}

}  // namespace

double FittedLevels::expected(int level, int other) const {
    return score_of_rating(ratings[static_cast<std::size_t>(level - 1)] - ratings[static_cast<std::size_t>(other - 1)]);
}

FittedLevels fit_levels(std::span<const MeasuredStrength> measured, const LevelFitOptions& options) {
    return LevelSteps(measured, options).levels();
}

LevelSteps::LevelSteps(std::span<const MeasuredStrength> measured, const LevelFitOptions& options) {
    if (measured.size() < 2) throw InputError("levels", "too few strengths are measured", "two or more");
    for (std::size_t i = 1; i < measured.size(); ++i)
        if (!(measured[i - 1].place < measured[i].place))
            throw InputError("levels", "the places are not in order", "the weakest first");
    for (const double score : {options.lowest_score, options.most_against_two_below})
        if (!(score >= 0.5 && score < 1.0))
            throw InputError("levels", "a score of " + std::to_string(score) + " is out of range", "0.5 to below 1");
    ratings_ = never_falling(measured);
    for (const MeasuredStrength& each : measured) places_.push_back(each.place);
    levels_.full_strength = ratings_.back();
    constexpr int steps = highest_level - lowest_level;
    lowest_ = std::clamp(rating_of_score(options.lowest_score), ratings_.front(), ratings_.back());
    step_ = (ratings_.back() - lowest_) / steps;
    if (!options.whole_range) step_ = std::min(step_, rating_of_score(options.most_against_two_below) / 2);
    for (int level = lowest_level; level <= highest_level; ++level) {
        const auto at = static_cast<std::size_t>(level - lowest_level);
        levels_.ratings[at] = lowest_ + step_ * (level - lowest_level);
        levels_.places[at] = place_of(levels_.ratings[at]);
    }
    for (int level = lowest_level + 2; level <= highest_level; ++level)
        if (levels_.expected(level, level - 2) < 0.6) levels_.hardly_apart.push_back(level);
}

/// The farthest place where it is still so weak; between two by how far.
double LevelSteps::place_of(double rating) const {
    if (rating <= ratings_.front()) return places_.front();
    for (std::size_t i = 1; i < ratings_.size(); ++i)
        if (rating <= ratings_[i])
            return between(places_[i - 1], places_[i], (rating - ratings_[i - 1]) / (ratings_[i] - ratings_[i - 1]));
    // As strong as it becomes, for the least thinking.
    constexpr double as_strong = 1.0;
    std::size_t first = ratings_.size() - 1;
    while (first > 0 && ratings_[first - 1] >= ratings_.back() - as_strong) --first;
    return places_[first];
}

double LevelSteps::strength_at(double place) const {
    if (place <= places_.front()) return ratings_.front();
    for (std::size_t i = 1; i < places_.size(); ++i)
        if (place <= places_[i])
            return between(ratings_[i - 1], ratings_[i], (place - places_[i - 1]) / (places_[i] - places_[i - 1]));
    return ratings_.back();
}

std::optional<double> LevelSteps::against() const {
    if (level_ == lowest_level) return std::nullopt;
    const int below = std::max(lowest_level, level_ - 2);
    return levels_.places[static_cast<std::size_t>(below - lowest_level)];
}

void LevelSteps::add(double points, int games) {
    const auto other = against();
    batches_.push_back({strength_at(place()) - (other ? strength_at(*other) : 0.0), points, games});
    place_again();
}

void LevelSteps::place_again() {
    // By how much the level does better against this one than strengths say: the likeliest, with some doubt that it does
    // at all. It falls in `better`, so halving finds where it is 0.
    constexpr double doubt = 200.0, widest = 800.0;
    const auto slope_at = [&](double better) {
        double slope = -better / (doubt * doubt) * 400.0 / std::log(10.0);
        for (const Batch& batch : batches_) slope += batch.points - batch.games * score_of_rating(batch.ahead + better);
        return slope;
    };
    double low = -widest, high = widest;
    for (int i = 0; i < 50; ++i) {
        const double middle = (low + high) / 2;
        (slope_at(middle) > 0 ? low : high) = middle;
    }
    const double better = (low + high) / 2;
    const auto other = against();
    const double wanted = level_ == lowest_level ? lowest_ : level_ == lowest_level + 1 ? step_ : 2 * step_;
    const double from = other ? strength_at(*other) : 0.0;
    const double lowest =
        level_ == lowest_level ? places_.front() : levels_.places[static_cast<std::size_t>(level_ - lowest_level - 1)];
    levels_.places[static_cast<std::size_t>(level_ - lowest_level)] =
        std::max(lowest, place_of(from + wanted - better));
}

void LevelSteps::next() {
    ++level_;
    batches_.clear();
    if (done()) return;
    place_again();  // from where the one below came to stand
}

LevelSettings settings_between(double place, LevelTable table, const std::array<LevelChange, highest_level>& of_game) {
    place = std::clamp(place, lowest_place, highest_place);
    const auto at = [&](int level) {
        LevelSettings settings = changed(level_settings(level, table), of_game[static_cast<std::size_t>(level - 1)]);
        // No limit of depth, as a number that none comes to.
        if (!settings.limits.depth && table != LevelTable::Playouts) settings.limits.depth = max_depth;
        settings.deeper_at_first = 0;
        return settings;
    };
    const int low_level = static_cast<int>(std::floor(place));
    const double share = place - low_level;
    LevelSettings low, high;
    if (low_level < lowest_level) {
        // Of next to nothing: one move in ten or so is seen, and a win in one no sooner than any move.
        low = high = at(lowest_level);
        low.overlooks = 1.0;
        low.noise *= 2.0;
        low.most_lost *= 2.0;
        low.sees_wins = low.sees_losses = low.deeper = 0.0;
        low.limits.depth = low.limits.depth ? std::optional(1) : std::nullopt;
    } else {
        low = at(low_level);
        high = low_level < highest_level ? at(low_level + 1) : low;
    }
    if (share == 0.0) return low;
    LevelSettings settings = low;
    settings.overlooks = between(low.overlooks, high.overlooks, share);
    settings.noise = between(low.noise, high.noise, share);
    settings.most_lost = between(low.most_lost, high.most_lost, share);
    settings.sees_wins = between(low.sees_wins, high.sees_wins, share);
    settings.sees_losses = between(low.sees_losses, high.sees_losses, share);
    settings.variety = between(low.variety, high.variety, share);
    const auto multiple = [&](std::optional<std::uint64_t> one,
                              std::optional<std::uint64_t> other) -> std::optional<std::uint64_t> {
        if (!one || !other) return one ? one : other;
        return static_cast<std::uint64_t>(
            std::llround(between_multiples(static_cast<double>(*one), static_cast<double>(*other), share)));
    };
    settings.limits.nodes = multiple(low.limits.nodes, high.limits.nodes);
    settings.limits.playouts = multiple(low.limits.playouts, high.limits.playouts);
    if (low.limits.depth && high.limits.depth) {
        // A share of a ply is the share of decisions that look one ply farther. Beyond twelve the nodes are the limit.
        const auto plies = [](const LevelSettings& each) { return std::min(12.0, *each.limits.depth + each.deeper); };
        const double depth = between(plies(low), plies(high), share);
        settings.limits.depth = static_cast<int>(std::floor(depth));
        settings.deeper = depth - std::floor(depth);
    }
    return settings;
}

}  // namespace arvek
