#pragma once
// Stacks: three put crates on three stacks, as many as the die says, or twice as many where that is one or two. Whose crates
// make a stack of seven takes it for three points. Over after twelve turns, and then each is paid by how much more than the
// others he has.

#include <arvek/game/abilities.hpp>

namespace zoo {

struct Stacks {
    static inline bool forgets_the_turn = false;  ///< in operator==, which has no game to ask

    struct Position {
        int stack[3] = {0, 0, 0}, points[3] = {0, 0, 0}, die = 0, turn = 0;

        friend bool operator==(const Position& a, const Position& b) {
            for (int i = 0; i < 3; ++i)
                if (a.stack[i] != b.stack[i] || a.points[i] != b.points[i]) return false;
            return a.die == b.die && a.turn % 3 == b.turn % 3 && (forgets_the_turn || a.turn == b.turn);
        }
    };
    using Move = int;  ///< 0 to 2: on a stack, 3: none fits, 4 to 6: twice as many, 11 to 14: the die

    static constexpr int players() { return 3; }
    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& p) const { return static_cast<arvek::Player>(p.turn % 3); }
    bool chance_is_next(const Position& p) const { return p.die == 0; }
    void generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>& events) const {
        for (int face = 1; face <= 4; ++face) events.push_back({10 + face, face == 1 ? 0.4 : 0.2});
    }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        for (int times = 1; times <= (p.die <= 2 ? 2 : 1); ++times)
            for (int i = 0; i < 3; ++i)
                if (p.stack[i] + times * p.die <= 7) moves.push_back(i + 4 * (times - 1));
        if (moves.size() == 0) moves.push_back(3);
    }
    void play(Position& p, const Move& move) const {
        if (move > 10) {
            p.die = move - 10;
            return;
        }
        if (move != 3) {
            int& stack = p.stack[move % 4];
            stack += p.die * (move >= 4 ? 2 : 1);
            if (stack == 7) {
                p.points[p.turn % 3] += 3;
                stack = 0;
            }
        }
        p.die = 0;
        ++p.turn;
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.turn < 12) return std::nullopt;
        const int all = p.points[0] + p.points[1] + p.points[2];
        return arvek::Outcome::of_payoffs({3 * p.points[0] - all, 3 * p.points[1] - all, 3 * p.points[2] - all});
    }
    std::uint64_t hash(const Position& p) const {
        std::uint64_t all = static_cast<std::uint64_t>(p.die * 16 + p.turn);
        for (int i = 0; i < 3; ++i) all = all * 1'024 + static_cast<std::uint64_t>(p.stack[i] * 64 + p.points[i]);
        return arvek::mix_bits(all);
    }
};

}  // namespace zoo
