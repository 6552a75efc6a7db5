#pragma once
// Tuning: numbers of an opponent made better by playing.
//
//   arvek::Tuning tuning({{"boldness", 0.0, 1.0, 0.3}}, {.steps = 200, .seed = 1});
//   while (const auto step = tuning.next()) tuning.add(points_of(step->a, step->b, games), games);
//   tuning.best();                       // a candidate: to be tested against the start before it is believed
//
// What is asked next depends on the seed and on the results so far alone, so that a tuning goes on from its history, and
// comes to the same whoever plays.

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace arvek {

/// A number that is tuned.
struct TunedNumber {
    std::string name;              ///< as options and profiles name it
    double low = 0.0, high = 1.0;  ///< the range in which it is looked for
    double start = 0.5;            ///< within it
    bool whole = false;            ///< whether only integers do
};

enum class TuningMethod : std::uint8_t {
    /// All numbers are moved at once, at random up or down, and the two sides play each other; what wins shows the way.
    /// For any number of numbers. Source: Spall (1992), "Multivariate Stochastic Approximation Using a Simultaneous
    /// Perturbation Gradient Approximation"; the result is the mean of the later steps (Polyak, Juditsky 1992).
    Perturbation,
    /// Candidates play the start; a smooth surface is laid through what they score, and the next candidate is where it may
    /// be highest. For a few numbers, 1 to 6. Source: Srinivas, Krause, Kakade, Seeger (2010), "Gaussian Process
    /// Optimization in the Bandit Setting".
    Surface
};

/// How numbers are tuned.
struct TuningOptions {
    TuningMethod method = TuningMethod::Perturbation;  ///< how the next ones are found
    int steps = 200;                                   ///< 1 to 100,000; of a surface at most 400
    std::uint64_t seed = 0;                            ///< of everything that is drawn
};

inline constexpr std::size_t most_tuned_numbers = 500, most_numbers_of_surface = 6;
inline constexpr int most_steps_of_surface = 400;

/// Two sets of numbers that are to play each other.
struct TuningStep {
    std::vector<double> a, b;  ///< one set for each side
};

/// Numbers of an opponent made better by playing.
class Tuning {
   public:
    /// Throws InputError for numbers and options out of range, and two numbers of one name.
    Tuning(std::vector<TunedNumber> numbers, const TuningOptions& options);
    ~Tuning();

    const std::vector<TunedNumber>& numbers() const { return numbers_; }  ///< those that are tuned
    /// Where they stood.
    std::vector<double> start() const;
    /// What is to be played next; nothing after the last step.
    std::optional<TuningStep> next() const;
    /// What came of it: of so many comparisons, 1 or more, A's points, a draw counting half. Throws InputError for points out
    /// of range and after the last step.
    void add(double points_a, int comparisons);
    int steps_done() const { return done_; }  ///< how many results it was given
    /// Where the numbers stand; the start before the first step.
    std::vector<double> now() const;
    /// The candidate, from all results so far.
    std::vector<double> best() const;

    class Search;  ///< how a method goes about it

   private:
    std::vector<TunedNumber> numbers_;
    TuningOptions options_;
    int done_ = 0;
    std::unique_ptr<Search> search_;
};

}  // namespace arvek
