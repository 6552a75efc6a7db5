#pragma once
// A game that nobody would play: every position's moves, player to move, end, payoff and evaluation come from a hash of
// the moves that led there. The same player often moves again, margins vary, lines end at every depth. What a search
// gets wrong about signs, it gets wrong here.

#include <arvek/game/evaluation.hpp>
#include <arvek/game/hashing.hpp>

#include <array>
#include <optional>

namespace testing_support {

template <std::size_t PaddingWords>
struct RandomTreeOf {
    struct Position {
        std::uint64_t path = 0;
        int ply = 0;
        std::array<std::uint64_t, PaddingWords> padding{};
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = int;
    struct Undo {
        std::uint64_t path;
    };

    std::uint64_t seed = 1;
    int longest = 7;
    bool strictly_alternating = false;
    int barren_from = 1'000'000;  ///< the ply from which positions have no moves, whether play is over or not

    Position initial_position() const { return {seed, 0, {}}; }
    arvek::Player player_to_move(const Position& p) const {
        const bool second = strictly_alternating ? p.ply % 2 == 1 : (drawn(p, 1) & 1) != 0;
        return second ? arvek::Player::Second : arvek::Player::First;
    }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        if (p.ply >= barren_from) return;
        const int count = 1 + static_cast<int>(drawn(p, 2) % 4);
        for (int i = 0; i < count; ++i) moves.push_back(i);
    }
    void play(Position& p, const Move& move) const {
        p.path = arvek::mix_bits(p.path * 31 + static_cast<std::uint64_t>(move));
        ++p.ply;
        if constexpr (PaddingWords > 0) p.padding[static_cast<std::size_t>(p.ply) % PaddingWords] += p.path;
    }
    Undo play_reversibly(Position& p, const Move& move) const {
        const Undo undo{p.path};
        play(p, move);
        return undo;
    }
    void take_back(Position& p, const Move&, const Undo& undo) const {
        if constexpr (PaddingWords > 0) p.padding[static_cast<std::size_t>(p.ply) % PaddingWords] -= p.path;
        p.path = undo.path;
        --p.ply;
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.ply == 0 || (p.ply < longest && drawn(p, 3) % 8 != 0)) return std::nullopt;
        return arvek::Outcome::margin_of_first(static_cast<int>(drawn(p, 4) % 7) - 3);
    }
    arvek::Score evaluate(const Position& p, arvek::Player player) const {
        const int value = static_cast<int>(drawn(p, 5) % 41) - 20;
        return arvek::Score::estimate(player == arvek::Player::First ? value : -value);
    }

    std::uint64_t hash(const Position& p) const {
        return arvek::hash_of_words({p.path, static_cast<std::uint64_t>(p.ply)});
    }

   private:
    static std::uint64_t drawn(const Position& p, std::uint64_t what) { return arvek::mix_bits(p.path ^ (what << 32)); }
};

using RandomTree = RandomTreeOf<0>;
/// Large enough that the library takes moves back rather than copy.
using LargeRandomTree = RandomTreeOf<32>;

}  // namespace testing_support
