#pragma once
// Lanterns: hanging lanterns on a frame of hooks, first to a line wins. One of the Basin Games of the Lowmere Waterway.
//
// In turn each side hangs a lantern on a free hook. First to have `line` of their own in an unbroken row, column or
// diagonal wins; a full frame is a draw. With `drop` the move names a column and the lantern slides down to its lowest
// free hook. Moves: "c2", or "c" with drop. Positions: rows from the top, then the player to move: ".../.A./T.. T".

#include <array>
#include <bit>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include <arvek/game/board.hpp>
#include <arvek/game/equivalence.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/null_move.hpp>
#include <arvek/game/patterns.hpp>
#include <arvek/game/payoff_bounds.hpp>
#include <arvek/game/playing_out.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/sufficient_moves.hpp>
#include <arvek/game/suggesters.hpp>

namespace waterway {

class Lanterns {
   public:
    struct Parameters {
        int columns = 5;
        int rows = 5;
        int line = 4;
        bool drop = false;
        int players = 2;  ///< for three and four: ManyLanterns, in many_lanterns.hpp
    };

    /// One bit a hook, column by column from the lower left: hook = column * rows + row.
    using Hooks = std::uint64_t;

    struct Position {
        Hooks own = 0;     ///< the lanterns of the side to move
        Hooks others = 0;  ///< the lanterns of its rival
        arvek::Player to_move = arvek::Player::First;

        Hooks taken() const { return own | others; }
        Hooks lanterns_of(arvek::Player player) const { return player == to_move ? own : others; }

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        std::uint8_t hook = 0;

        friend bool operator==(const Move&, const Move&) = default;
    };

    struct Undo {};

    arvek::Payoff most_payoff() const { return 1; }

    /// Throws arvek::InputError for parameters out of range.
    explicit Lanterns(const Parameters& parameters);
    Lanterns() : Lanterns(Parameters{}) {}

    Position initial_position() const { return {}; }

    arvek::Player player_to_move(const Position& position) const { return position.to_move; }

    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        const Hooks taken = position.taken();
        if (parameters_.drop) {
            visit_moves(position, [&](const Move& move) {
                moves.push_back(move);
                return true;
            });
        } else {
            // Written without branches, since which hooks are free is hard to foretell.
            moves.append_at_most(static_cast<std::size_t>(hook_count_), [&](Move* end) {
                for (int i = 0; i < hook_count_; ++i) {
                    const std::uint8_t hook = hook_order_[static_cast<std::size_t>(i)];
                    end->hook = hook;
                    end += ~taken >> hook & 1;
                }
                return end;
            });
        }
    }

    template <class Visit>
    void visit_moves(const Position& position, Visit visit) const {
        const Hooks taken = position.taken();
        if (parameters_.drop) {
            for (int i = 0; i < parameters_.columns; ++i) {
                const int bottom = column_order_[static_cast<std::size_t>(i)] * parameters_.rows;
                const int height = std::countr_one(taken >> bottom & column_mask_);
                if (height < parameters_.rows && !visit(Move{static_cast<std::uint8_t>(bottom + height)})) return;
            }
        } else {
            for (int i = 0; i < hook_count_; ++i) {
                const std::uint8_t hook = hook_order_[static_cast<std::size_t>(i)];
                if ((~taken >> hook & 1) != 0 && !visit(Move{hook})) return;
            }
        }
    }

    void play(Position& position, const Move& move) const {
        const Hooks hung = position.own | Hooks{1} << move.hook;
        position.own = position.others;
        position.others = hung;
        position.to_move = arvek::rival_of(position.to_move);
    }

    Undo play_reversibly(Position& position, const Move& move) const {
        play(position, move);
        return {};
    }

    void take_back(Position& position, const Move& move, const Undo&) const {
        const Hooks hung = position.others;
        position.others = position.own;
        position.own = hung ^ Hooks { 1 } << move.hook;
        position.to_move = arvek::rival_of(position.to_move);
    }

    void play_nothing(Position& position) const {
        std::swap(position.own, position.others);
        position.to_move = arvek::rival_of(position.to_move);
    }
    /// One lantern more never harms, but with `drop` it gives the rival the hook above.
    bool nothing_is_sound(const Position&) const { return !parameters_.drop; }

    std::optional<arvek::Outcome> outcome(const Position& position) const {
        if (has_line(position.others)) return arvek::Outcome::win(arvek::rival_of(position.to_move));
        if (position.taken() == all_hooks_) return arvek::Outcome::draw();
        return std::nullopt;
    }

    /// Counts the lines still open to one side alone: 8 for each that lacks one lantern, 2 for each that lacks two.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        int balance = 0;
        for (const Direction& direction : directions_) {
            Lacking own, others;
            for (int i = 0, shift = 0; i < parameters_.line; ++i, shift += direction.step) {
                own.look_at(position.own >> shift);
                others.look_at(position.others >> shift);
            }
            balance += own.promise(direction.starts & ~others.any) - others.promise(direction.starts & ~own.any);
        }
        return arvek::Score::estimate(player == position.to_move ? balance : -balance);
    }

    std::uint64_t hash(const Position& position) const {
        return arvek::hash_of_words({position.own, position.others, static_cast<std::uint64_t>(position.to_move)});
    }

    /// Random play to the end, without a list of moves; of a position that is not finished.
    arvek::Outcome play_out(Position& position, arvek::Random& random) const;

    /// Mirror images, and without `drop` turned ones too, share a hash while few lanterns hang.
    std::uint64_t equivalence_hash(const Position& position) const;

    /// Sees a win at once, two places where the rival threatens to win, a line that nobody can finish any more, and,
    /// without `drop`, that too little of a side's lines is left: Erdos, Selfridge (1973), "On a Combinatorial Game".
    /// With `drop` what a rival holds who always hangs right above: the claimeven of Allis (1988).
    arvek::PayoffBounds payoff_bounds(const Position& position, arvek::Player player) const;

    /// A winning hook alone; else the one that keeps the rival from winning; else those that do not let it win next.
    void generate_sufficient_moves(const Position& position, arvek::MoveList<Move>& moves) const;

    /// A hook that makes a line first, then one that keeps the rival from it, then by how many lines lack one lantern.
    int order_hint(const Position& position, const Move& move) const {
        const Hooks hook = Hooks{1} << move.hook;
        const Hooks own = position.own | hook;
        if (has_line(own)) return 1'000;
        return (has_line(position.others | hook) ? 100 : 0) + std::popcount(finishing_hooks(own, position.taken()));
    }

    /// Hooks near the middle first.
    int preference(const Position& position, const Move& move) const;

    /// What evaluations are learned from: hooks, and the hooks of each line.
    std::vector<arvek::Pattern> patterns() const;
    void read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const;

    std::span<const arvek::Quantity<Lanterns>> quantities() const;
    std::span<const arvek::Suggester<Lanterns>> suggesters() const;

    /// Lanterns of a side in its longest line that the other can still be kept out of; and where it could finish one.
    int longest_open_line(Hooks own, Hooks others) const;
    int threats_of(Hooks own, Hooks taken) const;
    /// Hooks, in any of eight directions; with `drop` columns alone count.
    double steps_from_middle(const Move& move) const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    Move read_move(const Position& position, std::string_view text) const;
    /// The frame with a letter for each lantern; a winning line stands in brackets.
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    /// One of the four directions in which a line can run.
    struct Direction {
        int step = 0;                   ///< from one hook of a line to the next
        std::array<int, 3> shifts{};    ///< three shifts that between them bring a whole line together
        Hooks starts = 0;               ///< where a line that fits into the frame begins
        std::array<Hooks, 8> places{};  ///< where the first hook of such a line can be, the second, and so on
    };

    /// The beginnings of the lines that are wholly in `lanterns`.
    static Hooks line_starts(const Direction& direction, Hooks lanterns) {
        lanterns &= lanterns >> direction.shifts[0];
        lanterns &= lanterns >> direction.shifts[1];
        lanterns &= lanterns >> direction.shifts[2];
        return lanterns & direction.starts;
    }

    bool has_line(Hooks lanterns) const {
        Hooks found = 0;
        for (const Direction& direction : directions_) found |= line_starts(direction, lanterns);
        return found != 0;
    }

    /// For all lines of one direction at once, a bit each: how many of their lanterns one side lacks.
    struct Lacking {
        Hooks any = 0;                      ///< the side has a lantern there
        Hooks one = 0, two = 0, three = 0;  ///< lacks at least so many

        void look_at(Hooks lanterns) {
            three |= two & ~lanterns;
            two |= one & ~lanterns;
            one |= ~lanterns;
            any |= lanterns;
        }
        int promise(Hooks open) const {
            return 8 * std::popcount(open & ~two) + 2 * std::popcount(open & two & ~three);
        }
    };

    /// The free hooks that would finish a line of `lanterns`, within reach or not.
    Hooks finishing_hooks(Hooks lanterns, Hooks taken) const {
        if (parameters_.line == 4) return finishing_hooks_of_four(lanterns) & ~taken;
        Hooks found = 0;
        const int longest = parameters_.line - 1;
        for (const Direction& direction : directions_) {
            if (direction.starts == 0) continue;
            // How many lanterns stand in a row right below each hook of a line, and right above.
            std::array<Hooks, 8> below, above;
            below[0] = above[0] = ~Hooks{0};
            for (int i = 1, shift = direction.step; i <= longest; ++i, shift += direction.step) {
                const auto at = static_cast<std::size_t>(i);
                below[at] = below[at - 1] & lanterns << shift;
                above[at] = above[at - 1] & lanterns >> shift;
            }
            for (int i = 0; i <= longest; ++i) {
                const auto at = static_cast<std::size_t>(i);
                found |= below[at] & above[static_cast<std::size_t>(longest) - at] & direction.places[at];
            }
        }
        return found & ~taken;
    }

    /// The same for lines of four, which are the usual ones, taken or not.
    Hooks finishing_hooks_of_four(Hooks lanterns) const {
        Hooks found = 0;
        for (const Direction& direction : directions_) {
            const int step = direction.step;
            const Hooks above = lanterns >> step, below = lanterns << step;
            const Hooks two_above = above & lanterns >> 2 * step, two_below = below & lanterns << 2 * step;
            found |= (two_above & lanterns >> 3 * step & direction.places[0]) |
                     (below & two_above & direction.places[1]) | (two_below & above & direction.places[2]) |
                     (two_below & lanterns << 3 * step & direction.places[3]);
        }
        return found;
    }

    /// The hooks that the next lantern can take.
    Hooks reachable_hooks(Hooks taken) const {
        if (!parameters_.drop) return all_hooks_ & ~taken;
        // Adding the bottom hook of a column that is not full carries to its lowest free one.
        const Hooks full = taken >> (parameters_.rows - 1) & bottom_hooks_;
        return (taken + (bottom_hooks_ ^ full)) & ~taken;
    }

    /// Where each hook goes in a mirrored or turned frame.
    using Image = std::array<std::uint8_t, 64>;

    int hook_at(int column, int row) const { return column * parameters_.rows + row; }
    Hooks bit_at(int column, int row) const { return Hooks{1} << (hook_at(column, row) & 63); }
    /// What the next lantern can do at once.
    struct Prospects {
        Hooks reachable = 0;  ///< the hooks that it can take
        Hooks wins = 0;       ///< of those: it finishes a line
        Hooks threats = 0;    ///< the rival would finish one
        Hooks harmless = 0;   ///< it does not let the rival finish one right above
    };
    Prospects prospects(const Position& position) const;
    /// Whether each side can still finish a line: the side to move, and its rival.
    std::array<bool, 2> may_win(const Position& position) const;
    /// With drop, where each column has an even number of free hooks: the rival can hang its lantern right above each of
    /// the mover's, so that the mover gets the lower hook of each pair and no other. The most that this leaves to the
    /// mover; 1 where it says nothing.
    int most_against_follow_up(const Position& position) const;
    int distance_from_middle(int column, int row) const;
    Direction direction_towards(int columns, int rows) const;
    /// Whether the hook is part of a finished line of its side.
    Hooks winning_hooks(const Position& position) const;

    Parameters parameters_;
    int hook_count_ = 0;
    Hooks all_hooks_ = 0;
    Hooks column_mask_ = 0;
    Hooks bottom_hooks_ = 0;
    Hooks lower_hooks_ = 0,
          upper_hooks_ = 0;  ///< with drop: counted in pairs from the top, the lower and the upper ones
    std::array<Direction, 4> directions_{};
    std::vector<std::array<std::uint8_t, 8>> lines_;  ///< the hooks of each
    std::vector<Image> images_;                       ///< in which lines are lines as well
    std::array<std::uint8_t, 64> hook_order_{};
    std::array<int, 12> column_order_{};
};

}  // namespace waterway
