#pragma once
// A game in which the same player may move again and go back and forth: pieces step, or jump over an own piece and may
// then jump on. Two of three on the rival's side win. Positions repeat easily.

#include <array>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/repetition.hpp>
#include <cstdint>
#include <cstdlib>
#include <optional>

namespace testing_support {

struct Hop {
    static constexpr int side = 5;
    struct Position {
        std::array<std::int8_t, side * side> cells{};  // 0 free, 1 the first player's, 2 the second's
        std::int8_t turn = 0;
        std::int8_t jumped = -1;  // where the piece stands that has jumped and may jump on
        friend bool operator==(const Position&, const Position&) = default;
    };
    struct Move {
        std::int8_t from = 0, to = 0;  // the same: the turn ends
        friend bool operator==(const Move&, const Move&) = default;
    };

    Position initial_position() const {
        Position position;
        for (std::size_t x = 1; x < side - 1; ++x) {
            position.cells[x] = 1;
            position.cells[side * (side - 1) + x] = 2;
        }
        return position;
    }
    arvek::Player player_to_move(const Position& p) const {
        return p.turn == 0 ? arvek::Player::First : arvek::Player::Second;
    }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        const int own = p.turn + 1, ahead = p.turn == 0 ? 1 : -1;
        constexpr int steps[4][2] = {{0, 1}, {1, 0}, {-1, 0}, {0, -1}};
        const auto at = [&](int x, int y) { return p.cells[static_cast<std::size_t>(y * side + x)]; };
        const auto inside = [](int x, int y) { return x >= 0 && x < side && y >= 0 && y < side; };
        for (int cell = 0; cell < side * side; ++cell) {
            if (at(cell % side, cell / side) != own || (p.jumped >= 0 && p.jumped != cell)) continue;
            for (const auto& step : steps) {
                const int x = cell % side + step[0], y = cell / side + ahead * step[1];
                const int far_x = x + step[0], far_y = y + ahead * step[1];
                if (p.jumped < 0 && inside(x, y) && at(x, y) == 0) moves.push_back(move(cell, y * side + x));
                if (inside(far_x, far_y) && at(far_x, far_y) == 0 && at(x, y) == own)
                    moves.push_back(move(cell, far_y * side + far_x));
            }
        }
        if (p.jumped >= 0) moves.push_back({p.jumped, p.jumped});
        if (moves.empty()) moves.push_back({-1, -1});
    }
    void play(Position& p, const Move& m) const {
        if (m.from != m.to) {
            std::swap(p.cells[static_cast<std::size_t>(m.from)], p.cells[static_cast<std::size_t>(m.to)]);
            const bool jumps = std::abs(m.to % side - m.from % side) == 2 || std::abs(m.to / side - m.from / side) == 2;
            p.jumped = jumps ? m.to : std::int8_t{-1};
            if (jumps) return;
        }
        p.jumped = -1;
        p.turn = p.turn == 0 ? 1 : 0;
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        int first = 0, second = 0;
        for (std::size_t x = 0; x < side; ++x) {
            first += p.cells[side * (side - 1) + x] == 1 ? 1 : 0;
            second += p.cells[x] == 2 ? 1 : 0;
        }
        if (first >= 2) return arvek::Outcome::win(arvek::Player::First);
        if (second >= 2) return arvek::Outcome::win(arvek::Player::Second);
        return std::nullopt;
    }
    arvek::Score evaluate(const Position& p, arvek::Player player) const {
        int ahead = 0;
        for (int cell = 0; cell < side * side; ++cell) {
            const int owner = p.cells[static_cast<std::size_t>(cell)], row = cell / side;
            ahead += owner == 1 ? row : owner == 2 ? row - (side - 1) : 0;
        }
        return arvek::Score::estimate(player == arvek::Player::First ? ahead : -ahead);
    }
    std::uint64_t hash(const Position& p) const {
        std::uint64_t cells = 0;
        for (const std::int8_t cell : p.cells) cells = cells * 3 + static_cast<std::uint64_t>(cell);
        return arvek::hash_of_words(
            {cells, static_cast<std::uint64_t>(p.turn), static_cast<std::uint64_t>(p.jumped + 1)});
    }
    int draw_at_occurrence() const { return 3; }

   private:
    static Move move(int from, int to) { return {static_cast<std::int8_t>(from), static_cast<std::int8_t>(to)}; }
};

}  // namespace testing_support
