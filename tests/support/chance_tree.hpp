#pragma once
// A random tree in which chance moves as well as two players: see random_tree.hpp. Events have uneven probabilities,
// the same player may move again, chance may follow chance, lines end at every depth.

#include <arvek/game/chance.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/payoff_bounds.hpp>

namespace testing_support {

struct ChanceTree {
    struct Position {
        std::uint64_t path = 0;
        int ply = 0;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = int;

    std::uint64_t seed = 1;
    int longest = 7;
    int most = 1;  ///< the largest payoff

    arvek::Payoff most_payoff() const { return most; }
    Position initial_position() const { return {seed, 0}; }
    arvek::Player player_to_move(const Position& p) const {
        return (drawn(p, 1) & 1) != 0 ? arvek::Player::Second : arvek::Player::First;
    }
    bool chance_is_next(const Position& p) const { return p.ply > 0 && drawn(p, 6) % 5 < 2; }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        const int count = 1 + static_cast<int>(drawn(p, 2) % 4);
        for (int i = 0; i < count; ++i) moves.push_back(i);
    }
    void generate_events(const Position& p, arvek::MoveList<arvek::Event<Move>>& events) const {
        const int count = 1 + static_cast<int>(drawn(p, 2) % 4);
        int sum = 0;
        for (int i = 0; i < count; ++i) sum += weight(p, i);
        for (int i = 0; i < count; ++i) events.push_back({i, static_cast<double>(weight(p, i)) / sum});
    }
    void play(Position& p, const Move& move) const {
        p.path = arvek::mix_bits(p.path * 31 + static_cast<std::uint64_t>(move));
        ++p.ply;
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.ply == 0 || (p.ply < longest && drawn(p, 3) % 6 != 0)) return std::nullopt;
        return arvek::Outcome::margin_of_first(
            static_cast<int>(drawn(p, 4) % static_cast<std::uint64_t>(2 * most + 1)) - most);
    }
    arvek::Score evaluate(const Position& p, arvek::Player player) const {
        const int value = static_cast<int>(drawn(p, 5) % 41) - 20;
        return arvek::Score::estimate(player == arvek::Player::First ? value : -value);
    }
    double units_per_doubling() const { return 5; }
    std::uint64_t hash(const Position& p) const {
        return arvek::hash_of_words({p.path, static_cast<std::uint64_t>(p.ply)});
    }

   private:
    static int weight(const Position& p, int event) {
        return 1 + static_cast<int>(drawn(p, 8 + static_cast<std::uint64_t>(event)) % 9);
    }
    static std::uint64_t drawn(const Position& p, std::uint64_t what) { return arvek::mix_bits(p.path ^ (what << 32)); }
};

}  // namespace testing_support
