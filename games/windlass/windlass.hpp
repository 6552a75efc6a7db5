#pragma once
// Windlass: placing pegs, then sliding them, without end. One of the Basin Games of the Lowmere Waterway.
//
// A hub and a rim of `posts`. Each side has `pegs`. In turn each places a peg on any free post or the hub; when all are
// placed, each slides one own peg along the rim, or between rim and hub, to a neighbouring free place. Three own pegs
// on three consecutive rim posts, or, where `posts` is even, on two opposite posts and the hub, win at once, in either
// phase. A side that cannot slide loses. The third time a position occurs the game is a draw.
//
// Moves: "h" or a rim number; a slide is "3-4", "3-h" or "h-3".
// Positions: hub, '/', rim from post 1 on, the player to move, pegs in hand of Teal and of Amber: "./T..A..... T 3 3".

#include <array>
#include <bit>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/game/board.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/patterns.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/repetition.hpp>
#include <arvek/game/suggesters.hpp>
#include <arvek/game/visiting_moves.hpp>

namespace waterway {

class Windlass {
   public:
    struct Parameters {
        int posts = 9;
        int pegs = 4;
    };

    /// One bit a place: post n is bit n - 1, the hub is bit `posts`.
    using Places = std::uint32_t;

    /// Both sides in one word, which a search copies in one store: the side to move in the low half, its rival in the
    /// high one. A side is its pegs, from bit 16 on its pegs in hand, and from bit 24 on which player its rival is.
    struct Position {
        static constexpr Places one_in_hand = 1u << 16;

        std::uint64_t sides = std::uint64_t{1} << 24;

        static constexpr Position of(Places own, Places others, int own_hand, int others_hand, arvek::Player to_move) {
            return {side(own, own_hand, to_move) | side(others, others_hand, arvek::rival_of(to_move)) << 32};
        }

        /// The pegs of the side to move, and of its rival.
        constexpr Places own() const { return static_cast<Places>(sides) & 0xffff; }
        constexpr Places others() const { return static_cast<Places>(sides >> 32) & 0xffff; }
        /// The same with other bits above those of the places, for where they fall away anyway.
        constexpr Places own_side() const { return static_cast<Places>(sides); }
        constexpr Places others_side() const { return static_cast<Places>(sides >> 32); }
        /// Pegs that are still to be placed.
        constexpr int own_hand() const { return static_cast<int>(sides >> 16 & 0xff); }
        constexpr int others_hand() const { return static_cast<int>(sides >> 48 & 0xff); }
        constexpr arvek::Player to_move() const { return static_cast<arvek::Player>(sides >> 56); }

        friend bool operator==(const Position&, const Position&) = default;

       private:
        static constexpr std::uint64_t side(Places pegs, int hand, arvek::Player player) {
            return pegs | static_cast<std::uint64_t>(hand) << 16 |
                   static_cast<std::uint64_t>(arvek::rival_of(player)) << 24;
        }
    };

    /// What the move adds to the mover's side: the bit of the place filled, less that of the place left or of one in
    /// hand. No two moves add the same.
    struct Move {
        std::int32_t change = 0;

        friend bool operator==(const Move&, const Move&) = default;
    };

    struct Undo {};

    int draw_at_occurrence() const { return 3; }
    static constexpr std::size_t most_places = 13, most_pegs = 5;
    arvek::Payoff most_payoff() const { return 1; }

    /// Throws arvek::InputError for parameters out of range.
    explicit Windlass(const Parameters& parameters);
    Windlass() : Windlass(Parameters{}) {}

    Position initial_position() const {
        return Position::of(0, 0, parameters_.pegs, parameters_.pegs, arvek::Player::First);
    }

    arvek::Player player_to_move(const Position& position) const { return position.to_move(); }

    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        moves.append_at_most(most_places + 4 * most_pegs, [&](Move* end) {
            visit_moves(position, [&](const Move& move) {
                *end++ = move;
                return true;
            });
            return end;
        });
    }

    template <class Visit>
    void visit_moves(const Position& position, Visit visit) const {
        const Places free = free_places(position);
        if (position.own_hand() > 0) {
            for (Places left = free; left != 0; left &= left - 1)
                if (!visit(added(lowest(left), Position::one_in_hand))) return;
            return;
        }
        for (Places pegs = position.own(); pegs != 0; pegs &= pegs - 1) {
            const Places peg = lowest(pegs);
            for (Places left = free & neighbours_[static_cast<std::size_t>(std::countr_zero(pegs))]; left != 0;
                 left &= left - 1)
                if (!visit(added(lowest(left), peg))) return;
        }
    }

    void play(Position& position, const Move& move) const {
        position.sides = std::rotl(position.sides + static_cast<std::uint64_t>(std::int64_t{move.change}), 32);
    }

    Undo play_reversibly(Position& position, const Move& move) const {
        play(position, move);
        return {};
    }
    void take_back(Position& position, const Move& move, const Undo&) const {
        position.sides = std::rotl(position.sides, 32) - static_cast<std::uint64_t>(std::int64_t{move.change});
    }

    std::optional<arvek::Outcome> outcome(const Position& position) const {
        const arvek::Player last = arvek::rival_of(position.to_move());
        if (has_line(position.others_side())) return arvek::Outcome::win(last);
        if (position.own_hand() == 0 && !can_slide(position.own_side(), free_places(position)))
            return arvek::Outcome::win(last);
        return std::nullopt;
    }

    /// Counts pairs that lack one peg of a line on a place that is free, and the hub.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        const Places free = free_places(position);
        const Rim gaps = rim_of(free);
        const int balance = promise(position.own_side(), free, gaps) - promise(position.others_side(), free, gaps);
        return arvek::Score::estimate(player == position.to_move() ? balance : -balance);
    }

    std::uint64_t hash(const Position& position) const { return arvek::mix_bits(position.sides); }

    /// The hub first.
    int preference(const Position& position, const Move& move) const;

    /// What evaluations are learned from: the hub with each five posts in a row, and the pegs in hand.
    std::vector<arvek::Pattern> patterns() const;
    void read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const;

    std::span<const arvek::Quantity<Windlass>> quantities() const;
    std::span<const arvek::Suggester<Windlass>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// The rim as a ring around the hub, with the number of each post.
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    static Places bit(int place) { return Places{1} << place; }
    static Places lowest(Places places) { return places & (~places + 1); }
    static Move added(Places filled, Places left) { return {static_cast<std::int32_t>(filled - left)}; }
    /// Free places that would finish a line of the pegs, and how many slides they can make.
    int gaps_of(Places pegs, Places free) const;
    int slides_of(Places pegs, Places free) const;
    /// The pegs of the side to move when it has moved.
    Places own_after(Position position, const Move& move) const {
        play(position, move);
        return position.others();
    }

    Places free_places(const Position& position) const {
        return all_ & ~(position.own_side() | position.others_side());
    }

    /// The rim as it is, and turned by one post and by two: what stands at a post, at the next one and after that.
    /// Turned ones have more bits above those of the rim.
    struct Rim {
        Places at, next, after;
    };
    Rim rim_of(Places places) const {
        const Places at = places & rim_, twice_round = at | at << parameters_.posts;
        return {at, twice_round >> 1, twice_round >> 2};
    }

    /// 4 for each pair that lacks one peg of a line on a free place, and 1 for the hub.
    int promise(Places pegs, Places free, const Rim& gaps) const {
        const Rim rim = rim_of(pegs);
        int pairs = std::popcount((rim.at & rim.next & gaps.after) | (rim.at & gaps.next & rim.after) |
                                  (gaps.at & rim.next & rim.after));
        if (half_ > 0) {
            const Places across = rim.at >> half_, gaps_across = gaps.at >> half_;
            if ((free & hub_) != 0) pairs += std::popcount(rim.at & across);
            if ((pegs & hub_) != 0)
                pairs += std::popcount(((rim.at & gaps_across) | (gaps.at & across)) & (bit(half_) - 1));
        }
        return 4 * pairs + ((pegs & hub_) != 0 ? 1 : 0);
    }

    bool has_line(Places pegs) const {
        const Rim rim = rim_of(pegs);
        if ((rim.at & rim.next & rim.after) != 0) return true;
        return half_ > 0 && (pegs & hub_) != 0 && (rim.at & rim.at >> half_) != 0;
    }

    bool can_slide(Places own, Places free) const {
        if ((own & hub_) != 0 && (free & rim_) != 0) return true;
        const Rim rim = rim_of(own), gaps = rim_of(free);
        if (rim.at != 0 && (free & hub_) != 0) return true;
        return ((rim.at & gaps.next) | (rim.next & gaps.at)) != 0;
    }

    Parameters parameters_;
    Places rim_ = 0;
    Places hub_ = 0;
    Places all_ = 0;
    int half_ = 0;  ///< posts to the opposite one; 0 where none is
    std::array<Places, 13> neighbours_{};
};

}  // namespace waterway
