#pragma once
// A small game of chance: in turn each side rolls a die, then keeps the roll or lets it go. After three turns each the
// larger sum wins, but one over nine counts as nothing.

#include <arvek/game/chance.hpp>
#include <string>

namespace testing_support {

struct Dice {
    struct Position {
        int sums[2] = {0, 0};
        int roll = 0;  // 0: still to be thrown
        int turns = 0;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = int;  // 1 to 6: what the die shows; 7 keeps it, 8 lets it go
    static constexpr Move keep = 7, let_go = 8;

    double six = 1.0 / 6;  // the probability of a six; the others have 1/6
    bool six_twice = false;

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& p) const { return static_cast<arvek::Player>(p.turns % 2); }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const {
        moves.push_back(keep);
        moves.push_back(let_go);
    }
    bool chance_is_next(const Position& p) const { return p.roll == 0; }
    void generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>& events) const {
        for (int face = 1; face <= 5; ++face) events.push_back({face, 1.0 / 6});
        events.push_back({6, six_twice ? six / 2 : six});
        if (six_twice) events.push_back({6, six / 2});
    }
    void play(Position& p, const Move& move) const {
        if (move <= 6) {
            p.roll = move;
            return;
        }
        if (move == keep) p.sums[p.turns % 2] += p.roll;
        p.roll = 0;
        ++p.turns;
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.turns < 6) return std::nullopt;
        const auto worth = [&](int side) { return p.sums[side] > 9 ? 0 : p.sums[side]; };
        return arvek::Outcome::margin_of_first(worth(0) - worth(1));
    }
    int preference(const Position& p, const Move& move) const {
        return (move == keep) == (p.sums[p.turns % 2] + p.roll <= 9) ? 1 : 0;
    }
};

}  // namespace testing_support
