#pragma once
// Play that reaches what uniform play hardly ever does: seldom-played moves first, sides that keep a bias for a whole
// game, and games that go on from positions at which something was seen that had not been seen before.

#include <cstdint>
#include <string>
#include <unordered_map>
#include <vector>

#include "arvek/game/random.hpp"
#include "findings.hpp"

namespace arvek::detail {

class Exploring {
   public:
    Exploring(const AnyGame& game, std::uint64_t seed) : game_(game), seed_(seed) {}

    /// Begins game `number`: how its moves are chosen, and the moves that it begins with.
    Path begin(int number);
    /// Which of the moves of a position to play next.
    std::size_t choose(const AnyPosition& position, const MoveList<AnyMove>& moves, Random& random);
    /// Tells of a position that was met; whether there was anything new about it.
    bool meet(const AnyPosition& before, const AnyPosition& position, const Path& path);

   private:
    enum class Manner { Uniform, Seldom, Biased, Novel, Pressing };

    std::uint64_t key_of(const AnyPosition& position, const AnyMove& move) const;
    void features_of(const AnyPosition& before, const AnyPosition& position, std::vector<std::uint64_t>& found) const;

    struct Known {
        Path path;              ///< the shortest that was met
        std::uint64_t met = 0;  ///< how often
        std::uint64_t begun = 0;
    };

    const AnyGame& game_;
    std::uint64_t seed_;
    Manner manner_ = Manner::Uniform;
    std::uint64_t bias_[max_players] = {};
    std::unordered_map<std::uint64_t, std::uint64_t> played_;
    std::unordered_map<std::uint64_t, Known> known_;
    std::vector<std::uint64_t> in_order_;  ///< keys of `known_`, as they were met
    std::vector<std::uint64_t> features_;
};

}  // namespace arvek::detail
