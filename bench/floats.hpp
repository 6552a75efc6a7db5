#pragma once
// Floats: two-coloured floats on a basin of eight by eight. A game for measuring alone: many moves, a cheap evaluation, and
// sides that sometimes move twice.
//
// A side lays a float with its own colour up, so that in one or more of eight directions a row of rival floats lies
// between it and another of its own; all of those are turned over. Who can turn none waits. When neither can, the game is
// over, and more floats win.

#include <array>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <bit>
#include <cstdint>
#include <optional>
#include <utility>

namespace bench {

class Floats {
   public:
    using Squares = std::uint64_t;

    struct Position {
        Squares own = (Squares{1} << 28) | (Squares{1} << 35);  ///< of the side to move
        Squares others = (Squares{1} << 27) | (Squares{1} << 36);
        arvek::Player to_move = arvek::Player::First;

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        std::uint8_t square = 0;

        friend bool operator==(const Move&, const Move&) = default;
    };

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& position) const { return position.to_move; }

    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        Squares free = places(position.own, position.others);
        moves.append_at_most(static_cast<std::size_t>(std::popcount(free)), [&](Move* end) {
            for (; free != 0; free &= free - 1) (end++)->square = static_cast<std::uint8_t>(std::countr_zero(free));
            return end;
        });
    }

    void play(Position& position, const Move& move) const {
        const Squares laid = Squares{1} << move.square;
        const Squares turned = turned_by(laid, position.own, position.others);
        const Squares own = position.own | laid | turned, others = position.others & ~turned;
        if (places(others, own) == 0 && places(own, others) != 0) {
            position.own = own;
            position.others = others;
            return;
        }
        position.own = others;
        position.others = own;
        position.to_move = arvek::rival_of(position.to_move);
    }

    std::optional<arvek::Outcome> outcome(const Position& position) const {
        if (places(position.own, position.others) != 0) return std::nullopt;
        const int own = std::popcount(position.own), others = std::popcount(position.others);
        if (own == others) return arvek::Outcome::draw();
        return arvek::Outcome::win(own > others ? position.to_move : arvek::rival_of(position.to_move));
    }

    /// Corners, places to lay, and floats next to an empty corner.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        const Squares own = position.own, others = position.others, empty = ~(own | others);
        const Squares risky = next_to(empty & corners) & ~corners;
        const int balance = 24 * (std::popcount(own & corners) - std::popcount(others & corners)) +
                            3 * (std::popcount(places(own, others)) - std::popcount(places(others, own))) -
                            6 * (std::popcount(own & risky) - std::popcount(others & risky));
        return arvek::Score::estimate(player == position.to_move ? balance : -balance);
    }

    std::uint64_t hash(const Position& position) const {
        return arvek::hash_of_words({position.own, position.others, static_cast<std::uint64_t>(position.to_move)});
    }

    /// Corners first, then edges; the neighbours of corners last.
    int order_hint(const Position&, const Move& move) const {
        const Squares square = Squares{1} << move.square;
        if ((square & corners) != 0) return 2;
        if ((square & next_to(corners)) != 0) return -1;
        return (square & edges) != 0 ? 1 : 0;
    }

   private:
    static constexpr Squares corners = 0x8100'0000'0000'0081, edges = 0xff81'8181'8181'81ff;
    static constexpr Squares not_left = 0xfefe'fefe'fefe'fefe, not_right = 0x7f7f'7f7f'7f7f'7f7f;

    template <int Step>
    static constexpr Squares shifted(Squares squares) {
        constexpr int column = Step == 1 || Step == 9 || Step == -7    ? 1
                               : Step == -1 || Step == -9 || Step == 7 ? -1
                                                                       : 0;
        const Squares moved = Step > 0 ? squares << (Step > 0 ? Step : 0) : squares >> (Step < 0 ? -Step : 0);
        return column > 0 ? moved & not_left : column < 0 ? moved & not_right : moved;
    }

    static constexpr Squares next_to(Squares squares) {
        const Squares row = squares | shifted<1>(squares) | shifted<-1>(squares);
        return row | shifted<8>(row) | shifted<-8>(row);
    }

    template <int Step>
    static Squares reached(Squares from, Squares through) {
        Squares row = shifted<Step>(from) & through;
        for (int i = 0; i < 5; ++i) row |= shifted<Step>(row) & through;
        return row;
    }

    static Squares places(Squares own, Squares others) {
        const auto along = [&]<int... Steps>(std::integer_sequence<int, Steps...>) {
            return (shifted<Steps>(reached<Steps>(own, others)) | ...);
        };
        return along(std::integer_sequence<int, 1, -1, 8, -8, 9, -9, 7, -7>{}) & ~(own | others);
    }

    static Squares turned_by(Squares laid, Squares own, Squares others) {
        const auto row = [&]<int Step>(std::integral_constant<int, Step>) {
            const Squares passed = reached<Step>(laid, others);
            return (shifted<Step>(passed) & own) != 0 ? passed : Squares{0};
        };
        const auto along = [&]<int... Steps>(std::integer_sequence<int, Steps...>) {
            return (row(std::integral_constant<int, Steps>{}) | ...);
        };
        return along(std::integer_sequence<int, 1, -1, 8, -8, 9, -9, 7, -7>{});
    }
};

}  // namespace bench
