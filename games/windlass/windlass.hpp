#pragma once
// Windlass: placing pegs, then sliding them, without end. One of the Basin Games of the Lowmere Waterway.
//
// A hub and a rim of `posts`. Each side has `pegs`. In turn each places a peg on any free post or the hub; when all are
// placed, each slides one own peg along the rim, or between rim and hub, to a neighbouring free place. Three own pegs
// on three consecutive rim posts, or, where `posts` is even, on two opposite posts and the hub, win at once, in either
// phase. A side that can not slide loses. The third time a position occurs the game is a draw.
//
// Moves: "h" or a rim number; a slide is "3-4", "3-h" or "h-3".
// Positions: hub, '/', rim from post 1 on, the player to move, pegs in hand of Teal and of Amber: "./T..A..... T 3 3".

#include <array>
#include <bit>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/repetition.hpp>

namespace waterway {

class Windlass {
   public:
    struct Parameters {
        int posts = 9;
        int pegs = 4;
    };

    /// One bit a place: post n is bit n - 1, the hub is bit `posts`.
    using Places = std::uint32_t;

    struct Position {
        Places own = 0;             ///< the pegs of the side to move
        Places others = 0;          ///< the pegs of its rival
        std::uint8_t own_hand = 0;  ///< pegs that the side to move has still to place
        std::uint8_t others_hand = 0;
        arvek::Player to_move = arvek::Player::First;

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        static constexpr std::uint8_t hand = 255;

        std::uint8_t from = hand;  ///< the place that is left, or `hand`
        std::uint8_t to = 0;

        friend bool operator==(const Move&, const Move&) = default;
    };

    struct Undo {};

    static constexpr int draw_at_occurrence = 3;
    static constexpr std::size_t most_places = 13, most_pegs = 5;
    static constexpr arvek::Payoff most_payoff = 1;

    /// Throws arvek::InputError for parameters out of range.
    explicit Windlass(const Parameters& parameters);
    Windlass() : Windlass(Parameters{}) {}

    Position initial_position() const {
        const auto pegs = static_cast<std::uint8_t>(parameters_.pegs);
        return {0, 0, pegs, pegs, arvek::Player::First};
    }

    arvek::Player player_to_move(const Position& position) const { return position.to_move; }

    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        const Places free = free_places(position);
        if (position.own_hand > 0) {
            moves.append_at_most(most_places, [&](Move* end) {
                for (unsigned left = free; left != 0; left &= left - 1) *end++ = {Move::hand, lowest(left)};
                return end;
            });
            return;
        }
        moves.append_at_most(most_places + 4 * most_pegs, [&](Move* end) {
            for (unsigned pegs = position.own; pegs != 0; pegs &= pegs - 1) {
                const std::uint8_t from = lowest(pegs);
                for (unsigned left = free & neighbours_[from]; left != 0; left &= left - 1)
                    *end++ = {from, lowest(left)};
            }
            return end;
        });
    }

    void play(Position& position, const Move& move) const {
        Places moved = position.own | bit(move.to);
        std::uint8_t hand = position.own_hand;
        if (move.from == Move::hand)
            --hand;
        else
            moved ^= bit(move.from);
        position = {position.others, moved, position.others_hand, hand, arvek::rival_of(position.to_move)};
    }

    Undo play_reversibly(Position& position, const Move& move) const {
        play(position, move);
        return {};
    }
    void take_back(Position& position, const Move& move, const Undo&) const {
        Places moved = position.others ^ bit(move.to);
        std::uint8_t hand = position.others_hand;
        if (move.from == Move::hand)
            ++hand;
        else
            moved |= bit(move.from);
        position = {moved, position.own, hand, position.own_hand, arvek::rival_of(position.to_move)};
    }

    std::optional<arvek::Outcome> outcome(const Position& position) const {
        const arvek::Player last = arvek::rival_of(position.to_move);
        if (has_line(position.others)) return arvek::Outcome::win(last);
        if (position.own_hand == 0 && !can_slide(position)) return arvek::Outcome::win(last);
        return std::nullopt;
    }

    /// Counts pairs that lack one peg of a line on a place that is free, and the hub.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        const Places free = free_places(position);
        const int balance = promise(position.own, free) - promise(position.others, free);
        return arvek::Score::estimate(player == position.to_move ? balance : -balance);
    }

    std::uint64_t hash(const Position& position) const {
        return arvek::mix_bits(static_cast<std::uint64_t>(position.own) |
                               static_cast<std::uint64_t>(position.others) << 16 |
                               static_cast<std::uint64_t>(position.own_hand) << 32 |
                               static_cast<std::uint64_t>(position.others_hand) << 40 |
                               static_cast<std::uint64_t>(position.to_move) << 48);
    }

    /// The hub first.
    int preference(const Position& position, const Move& move) const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// The rim as a ring around the hub, with the number of each post.
    std::string drawing(const Position& position) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    static Places bit(int place) { return static_cast<Places>(1 << place); }
    int last_post() const { return (parameters_.posts - 1) & 15; }
    static std::uint8_t lowest(unsigned places) { return static_cast<std::uint8_t>(std::countr_zero(places)); }

    Places free_places(const Position& position) const {
        return static_cast<Places>(all_ & ~(position.own | position.others));
    }

    /// The rim turned by one post.
    Places turned(Places rim) const { return static_cast<Places>(rim >> 1 | (rim & 1) << last_post()); }

    /// 4 for each pair that lacks one peg of a line on a free place, and 1 for the hub.
    int promise(Places pegs, Places free) const {
        const Places rim = pegs & rim_, next = turned(rim), after = turned(next);
        const Places gaps = free & rim_, next_gap = turned(gaps), after_gap = turned(next_gap);
        int pairs = std::popcount(
            static_cast<Places>((rim & next & after_gap) | (rim & next_gap & after) | (gaps & next & after)));
        const Places hub = bit(parameters_.posts);
        if (half_ > 0) {
            const auto across = static_cast<Places>(rim >> half_), gaps_across = static_cast<Places>(gaps >> half_);
            const auto first_half = static_cast<Places>(bit(half_) - 1);
            if ((free & hub) != 0) pairs += std::popcount(static_cast<Places>(rim & across));
            if ((pegs & hub) != 0)
                pairs += std::popcount(static_cast<Places>(((rim & gaps_across) | (gaps & across)) & first_half));
        }
        return 4 * pairs + ((pegs & hub) != 0 ? 1 : 0);
    }

    bool has_line(Places pegs) const {
        const Places rim = pegs & rim_;
        const Places next = turned(rim), after = turned(next);
        if ((rim & next & after) != 0) return true;
        return half_ > 0 && (pegs & bit(parameters_.posts)) != 0 && (rim & rim >> half_) != 0;
    }

    bool can_slide(const Position& position) const {
        const Places free = free_places(position);
        const Places hub = bit(parameters_.posts);
        if ((position.own & hub) != 0 && (free & rim_) != 0) return true;
        const Places rim = position.own & rim_;
        if (rim != 0 && (free & hub) != 0) return true;
        const Places around = static_cast<Places>(rim << 1 | rim >> 1 | rim >> last_post() | rim << last_post());
        return (around & rim_ & free) != 0;
    }

    Parameters parameters_;
    Places rim_ = 0;
    Places all_ = 0;
    int half_ = 0;  ///< posts to the opposite one; 0 where none is
    std::array<Places, 13> neighbours_{};
};

}  // namespace waterway
