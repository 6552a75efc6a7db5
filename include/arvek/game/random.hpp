#pragma once
// Random: the seeded generator behind every random choice in the library.
//
// Nothing in the library draws from anywhere else, so the same seed gives the same game on every run. Not for secrets.

#include <cstddef>
#include <cstdint>
#include <vector>

namespace arvek {

/// One step of the SplitMix64 mixer: spreads every bit of `x` over the whole result.
/// Source: Steele, Lea, Flood (2014), "Fast Splittable Pseudorandom Number Generators".
constexpr std::uint64_t mix_bits(std::uint64_t x) {
    x += 0x9e3779b97f4a7c15u;
    x = (x ^ (x >> 30)) * 0xbf58476d1ce4e5b9u;
    x = (x ^ (x >> 27)) * 0x94d049bb133111ebu;
    return x ^ (x >> 31);
}

/// A seed for part `part` of what `seed` stands for: one game of a match, one decision of a game.
constexpr std::uint64_t derived_seed(std::uint64_t seed, std::uint64_t part) {
    return mix_bits(mix_bits(seed) ^ (part * 0xda942042e4dd58b5u));
}

/// A small fast generator of 64-bit numbers (SplitMix64, period 2^64). Copy it to repeat what follows.
class Random {
   public:
    /// The same seed gives the same numbers.
    explicit constexpr Random(std::uint64_t seed) : state_(seed) {}

    /// The next 64 random bits.
    constexpr std::uint64_t next() {
        const std::uint64_t result = mix_bits(state_);
        state_ += 0x9e3779b97f4a7c15u;
        return result;
    }

    /// An integer from 0 to `bound` - 1, each equally likely. Requires bound >= 1.
    /// Source: Lemire (2019), "Fast Random Integer Generation in an Interval".
    constexpr std::uint64_t below(std::uint64_t bound) {
        const std::uint64_t reject_under = (0 - bound) % bound;
        for (;;) {
            const Wide product = static_cast<Wide>(next()) * bound;
            if (static_cast<std::uint64_t>(product) >= reject_under) return static_cast<std::uint64_t>(product >> 64);
        }
    }

    /// A number in [0, 1), in steps of 2^-53.
    constexpr double unit() { return static_cast<double>(next() >> 11) * 0x1.0p-53; }

    /// True with probability `probability`.
    constexpr bool chance(double probability) { return unit() < probability; }

    /// Puts the elements of a random-access range in random order, each order equally likely.
    template <class Range>
    constexpr void shuffle(Range& range) {
        for (std::size_t left = range.size(); left > 1; --left) {
            const std::size_t pick = static_cast<std::size_t>(below(left));
            auto last = range[left - 1];
            range[left - 1] = range[pick];
            range[pick] = last;
        }
    }

   private:
    __extension__ typedef unsigned __int128 Wide;

    std::uint64_t state_;
};

/// The place at which the sum of the weights passes `at`; one that has a weight. Requires weights of 0 or more, of
/// which one at least is more, and 0 <= at < their sum.
std::size_t weighted_draw(const std::vector<double>& weights, double at);

}  // namespace arvek
