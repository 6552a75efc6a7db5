#include "arvek/lab/tuning.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>
#include <set>
#include <utility>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"

namespace arvek {

/// Works on shares of the ranges, 0 to 1.
class Tuning::Search {
   public:
    using Shares = std::vector<double>;

    virtual ~Search() = default;
    /// What the step is played with. Kept until the next is asked for, as a surface is searched for it.
    const std::pair<Shares, Shares>& sides_of(int step) {
        if (step != sides_are_of_) {
            sides_ = next(step);
            sides_are_of_ = step;
        }
        return sides_;
    }
    /// `sides`: what really played, rounded as it was.
    virtual void add(int step, const Shares& a, const Shares& b, double score_a, int comparisons) = 0;
    virtual Shares now() const = 0;
    virtual Shares best() const = 0;

   protected:
    virtual std::pair<Shares, Shares> next(int step) const = 0;

   private:
    std::pair<Shares, Shares> sides_;
    int sides_are_of_ = -1;
};

namespace {

using Shares = Tuning::Search::Shares;

double within(double share) { return std::clamp(share, 0.0, 1.0); }

class Perturbation final : public Tuning::Search {
   public:
    Perturbation(Shares start, Shares least_apart, const TuningOptions& options)
        : at_(std::move(start)), least_apart_(std::move(least_apart)), options_(options), later_(at_.size(), 0.0) {}

    std::pair<Shares, Shares> next(int step) const override {
        Random random(derived_seed(options_.seed, static_cast<std::uint64_t>(step)));
        std::pair<Shares, Shares> sides{at_, at_};
        for (std::size_t i = 0; i < at_.size(); ++i) {
            const double apart = apart_at(step, i), up = random.chance(0.5) ? apart : -apart;
            // At an edge both sides move inwards, so that they stay as far apart.
            const double middle = std::clamp(at_[i], apart, 1.0 - apart);
            sides.first[i] = middle + up;
            sides.second[i] = middle - up;
        }
        return sides;
    }

    void add(int step, const Shares& a, const Shares& b, double score_a, int comparisons) override {
        // In multiples of what luck alone does, so that a step of few games does not lead far.
        constexpr double most = 2.5;
        const double surplus = std::clamp((2.0 * score_a - 1.0) * std::sqrt(comparisons), -most, most);
        const double delay = 0.1 * options_.steps;
        const double gain = first_move * std::pow((1.0 + delay) / (step + 1.0 + delay), 0.602);
        for (std::size_t i = 0; i < at_.size(); ++i) {
            if (a[i] == b[i]) continue;
            const double wider = std::min(2.0, first_apart / apart_at(step, i));
            at_[i] = within(at_[i] + gain * surplus * wider * (a[i] > b[i] ? 1.0 : -1.0));
        }
        if (2 * (step + 1) <= options_.steps) return;
        ++later_count_;
        for (std::size_t i = 0; i < at_.size(); ++i) later_[i] += at_[i];
    }

    Shares now() const override { return at_; }
    Shares best() const override {
        if (later_count_ == 0) return at_;
        Shares mean = later_;
        for (double& share : mean) share /= later_count_;
        return mean;
    }

   private:
    static constexpr double first_apart = 0.25, first_move = 0.03;

    double apart_at(int step, std::size_t i) const {
        return std::min(0.5, std::max(least_apart_[i], first_apart * std::pow(step + 1.0, -0.101)));
    }

    Shares at_, least_apart_;
    TuningOptions options_;
    Shares later_;  ///< the sum of the later steps
    int later_count_ = 0;
};

/// A Gaussian process over what candidates score against the start, which is half a point a game.
class Surface final : public Tuning::Search {
   public:
    Surface(Shares start, const TuningOptions& options) : start_(std::move(start)), options_(options) {
        seen_.push_back({start_, 0.5, 1e-6});
    }

    std::pair<Shares, Shares> next(int step) const override {
        // To begin with at random, so that there is a surface.
        Random random(derived_seed(options_.seed, static_cast<std::uint64_t>(step)));
        const std::size_t first = 3 * start_.size() + 2;
        if (static_cast<std::size_t>(step) < first) {
            Shares candidate;
            for (std::size_t i = 0; i < start_.size(); ++i) candidate.push_back(random.unit());
            return {candidate, start_};
        }
        // The bolder, the sooner; every third one is what seems best.
        const double boldness = step % 3 == 2 ? 0.0 : 1.6;
        return {highest(boldness, random), start_};
    }

    void add(int, const Shares& a, const Shares&, double score_a, int comparisons) override {
        const double share = std::clamp(score_a, 0.05, 0.95);
        seen_.push_back({a, score_a, share * (1.0 - share) / comparisons});
        fit();
    }

    Shares now() const override { return best(); }
    Shares best() const override {
        Random random(derived_seed(options_.seed, 1'000'003));
        return highest(0.0, random);
    }

   private:
    struct Seen {
        Shares at;
        double score, variance;
    };

    static constexpr double height = 0.2;  ///< how far scores lie from a half, as a standard deviation

    double alike(const Shares& x, const Shares& y, double length) const {
        double squares = 0;
        for (std::size_t i = 0; i < x.size(); ++i) squares += (x[i] - y[i]) * (x[i] - y[i]);
        return height * height * std::exp(-squares / (2 * length * length));
    }

    /// With the length of which the scores are the likeliest.
    void fit() {
        double likeliest = -std::numeric_limits<double>::infinity();
        const auto count = static_cast<Eigen::Index>(seen_.size());
        Eigen::VectorXd scores(count);
        for (Eigen::Index i = 0; i < count; ++i) scores(i) = seen_[static_cast<std::size_t>(i)].score - 0.5;
        for (const double length : {0.15, 0.25, 0.4, 0.7, 1.2}) {
            Eigen::MatrixXd covariance(count, count);
            for (Eigen::Index i = 0; i < count; ++i)
                for (Eigen::Index j = 0; j < count; ++j)
                    covariance(i, j) =
                        alike(seen_[static_cast<std::size_t>(i)].at, seen_[static_cast<std::size_t>(j)].at, length) +
                        (i == j ? seen_[static_cast<std::size_t>(i)].variance : 0.0);
            Eigen::LLT<Eigen::MatrixXd> factor(covariance);
            const Eigen::VectorXd weights = factor.solve(scores);
            const double likelihood =
                -0.5 * scores.dot(weights) - Eigen::MatrixXd(factor.matrixL()).diagonal().array().log().sum();
            if (likelihood <= likeliest) continue;
            likeliest = likelihood;
            length_ = length;
            weights_ = weights;
            factor_ = std::move(factor);
        }
    }

    /// What the surface says, and how unsure it is there.
    std::pair<double, double> at(const Shares& candidate) const {
        Eigen::VectorXd near(static_cast<Eigen::Index>(seen_.size()));
        for (std::size_t i = 0; i < seen_.size(); ++i)
            near(static_cast<Eigen::Index>(i)) = alike(seen_[i].at, candidate, length_);
        const double spread = height * height - near.dot(factor_.solve(near));
        return {near.dot(weights_), std::sqrt(std::max(0.0, spread))};
    }

    Shares highest(double boldness, Random& random) const {
        if (seen_.size() < 2) return start_;
        Shares best = start_;
        double most = -1e9;
        const auto look = [&](const Shares& candidate) {
            const auto [score, unsure] = at(candidate);
            if (score + boldness * unsure <= most) return;
            most = score + boldness * unsure;
            best = candidate;
        };
        for (const Seen& each : seen_) look(each.at);
        constexpr int tries = 400, refinements = 200;
        for (int i = 0; i < tries; ++i) {
            Shares candidate;
            for (std::size_t k = 0; k < start_.size(); ++k) candidate.push_back(random.unit());
            look(candidate);
        }
        for (int i = 0; i < refinements; ++i) {
            Shares candidate = best;
            const double reach = i < refinements / 2 ? 0.1 : 0.03;
            for (double& share : candidate) share = within(share + reach * (2 * random.unit() - 1));
            look(candidate);
        }
        return best;
    }

    Shares start_;
    TuningOptions options_;
    std::vector<Seen> seen_;
    double length_ = 0.4;
    Eigen::VectorXd weights_;
    Eigen::LLT<Eigen::MatrixXd> factor_;
};

double share_of(const TunedNumber& number, double value) { return (value - number.low) / (number.high - number.low); }

double value_of(const TunedNumber& number, double share) {
    const double value = number.low + share * (number.high - number.low);
    if (!number.whole) {
        // No more digits than mean anything: ten thousandths of the range.
        const double scale = std::pow(10.0, 4.0 - std::floor(std::log10(number.high - number.low)));
        return std::clamp(std::round(value * scale) / scale, number.low, number.high);
    }
    return std::clamp(std::round(value), std::ceil(number.low), std::floor(number.high));
}

void check(const std::vector<TunedNumber>& numbers, const TuningOptions& options) {
    if (numbers.empty() || numbers.size() > most_tuned_numbers)
        throw InputError("tuning", std::to_string(numbers.size()) + " numbers are out of range",
                         "1 to " + std::to_string(most_tuned_numbers));
    const bool surface = options.method == TuningMethod::Surface;
    if (surface && numbers.size() > most_numbers_of_surface)
        throw InputError("tuning", std::to_string(numbers.size()) + " numbers are too many for a surface",
                         "at most " + std::to_string(most_numbers_of_surface) + ", or perturbation");
    const int most = surface ? most_steps_of_surface : 100'000;
    if (options.steps < 1 || options.steps > most)
        throw InputError("tuning", std::to_string(options.steps) + " steps are out of range",
                         "1 to " + std::to_string(most));
    std::set<std::string> names;
    for (const TunedNumber& number : numbers) {
        if (!(number.low < number.high) || !std::isfinite(number.high - number.low))
            throw InputError(number.name, "the range is empty", "a low end below the high one");
        if (!(number.low <= number.start && number.start <= number.high))
            throw InputError(number.name,
                             "it starts at " + std::to_string(number.start) + ", which is outside its range",
                             "a range that holds the start");
        if (number.whole && std::ceil(number.low) >= std::floor(number.high))
            throw InputError(number.name, "there is but one integer in the range", "a range of two or more");
        if (!names.insert(number.name).second) throw InputError(number.name, "it is named twice", "each number once");
    }
}

}  // namespace

Tuning::Tuning(std::vector<TunedNumber> numbers, const TuningOptions& options)
    : numbers_((check(numbers, options), std::move(numbers))), options_(options) {
    Search::Shares start, least_apart;
    for (const TunedNumber& number : numbers_) {
        start.push_back(share_of(number, number.start));
        // Half a step of an integer to either side is a whole one between them.
        least_apart.push_back(number.whole ? 0.5 / (number.high - number.low) : 0.0);
    }
    if (options.method == TuningMethod::Perturbation)
        search_ = std::make_unique<Perturbation>(std::move(start), std::move(least_apart), options_);
    else
        search_ = std::make_unique<Surface>(std::move(start), options_);
}

Tuning::~Tuning() = default;

namespace {

std::vector<double> values_of(const std::vector<TunedNumber>& numbers, const Shares& shares) {
    std::vector<double> values;
    for (std::size_t i = 0; i < numbers.size(); ++i) values.push_back(value_of(numbers[i], shares[i]));
    return values;
}

}  // namespace

std::vector<double> Tuning::start() const {
    std::vector<double> values;
    for (const TunedNumber& number : numbers_) values.push_back(number.start);
    return values;
}

std::optional<TuningStep> Tuning::next() const {
    if (done_ == options_.steps) return std::nullopt;
    const auto& [a, b] = search_->sides_of(done_);
    return TuningStep{values_of(numbers_, a), values_of(numbers_, b)};
}

void Tuning::add(double points_a, int comparisons) {
    const auto step = next();
    if (!step) throw InputError("tuning", "the last step has been played", "no more results");
    if (comparisons < 1 || !(points_a >= 0 && points_a <= comparisons))
        throw InputError("tuning", "points of " + std::to_string(points_a) + " are out of range",
                         "0 to the comparisons");
    Shares a, b;
    for (std::size_t i = 0; i < numbers_.size(); ++i) {
        a.push_back(share_of(numbers_[i], step->a[i]));
        b.push_back(share_of(numbers_[i], step->b[i]));
    }
    search_->add(done_, a, b, points_a / comparisons, comparisons);
    ++done_;
}

std::vector<double> Tuning::now() const { return values_of(numbers_, search_->now()); }
std::vector<double> Tuning::best() const { return values_of(numbers_, search_->best()); }

}  // namespace arvek
