#pragma once
// Stowage: one player, a barge and crates. One of the Basin Games of the Lowmere Waterway.
//
// A hold of `rows` x `columns`. Each round `lot` crates are drawn and lie on the quay; the one player stows them in any
// order, each on free cells, as it lies. A column that is full is hoisted out at once and is empty again. A crate scores
// its cells, and 10 x n x n where it hoists n columns. Filled cells in the left half less those in the right half (a
// middle column counts for neither) must stay within `trim` after each crate, judged after hoisting. The game ends when
// no crate on the quay can be stowed, or when `lots` lots are stowed; the score is the payoff.
//
// Moves: the kind and the cell of the lower left corner of its box, "O4-c2"; events: "lot-T4b", one crate at a time.
// Positions: rows from the top, the crates on the quay ('?' once for each still to be drawn), the lots stowed, the score:
// "......../##....../...#..../ I3a,O4,? 2 25" (here of fewer rows).

#include <array>
#include <bit>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/game/board.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/playing_out.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

namespace waterway {

class Stowage {
   public:
    static constexpr int most_cells = 100, most_lot = 4, kinds = 19;

    struct Parameters {
        int rows = 6;
        int columns = 8;
        int lot = 3;
        int trim = 6;
        int lots = 20;
    };

    /// Cells of the hold, column by column from the lower left: cell = column * rows + row.
    __extension__ typedef unsigned __int128 Cells;

    struct Position {
        Cells filled = 0;
        std::array<std::uint8_t, most_lot> quay{};  ///< kind + 1 of each crate, in rising order; 0: none
        std::uint8_t to_draw = 0;                   ///< crates of the lot that are still to be drawn
        std::uint8_t stowed = 0;                    ///< whole lots
        std::int32_t score = 0;

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        std::uint8_t kind = 0;
        std::uint8_t cell = 0;  ///< of the lower left corner; `drawn`: it is an event

        static constexpr std::uint8_t drawn = 255;
        friend bool operator==(const Move&, const Move&) = default;
    };

    /// Throws arvek::InputError for parameters out of range.
    explicit Stowage(const Parameters& parameters);
    Stowage() : Stowage(Parameters{}) {}

    static constexpr int players() { return 1; }

    Position initial_position() const {
        Position position;
        position.to_draw = static_cast<std::uint8_t>(parameters_.lot);
        return position;
    }
    arvek::Player player_to_move(const Position&) const { return arvek::Player::First; }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const;

    bool chance_is_next(const Position& position) const { return position.to_draw > 0; }
    void generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const;
    Move draw_event(const Position&, arvek::Random& random) const {
        return {static_cast<std::uint8_t>(random.below(kinds)), Move::drawn};
    }

    /// What the score may come to: the score, what columns that are nearly full promise, and what the lots to come are
    /// worth in an open hold, less the more the hold is ragged.
    arvek::Score evaluate(const Position& position, arvek::Player player) const;
    std::uint64_t hash(const Position& position) const;
    /// What the crate scores at once.
    int preference(const Position& position, const Move& move) const;

    std::span<const arvek::Quantity<Stowage>> quantities() const;
    std::span<const arvek::Suggester<Stowage>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player) const { return "Stower"; }

    const Parameters& parameters() const { return parameters_; }
    /// "I2a", "L3b" and so on.
    static const char* kind_name(int kind);

   private:
    struct Placing {
        Cells cells;
        std::uint8_t cell;
        std::int8_t tilt;  ///< cells in the left half less those in the right
    };

    static int count(Cells cells) {
        return std::popcount(static_cast<std::uint64_t>(cells)) +
               std::popcount(static_cast<std::uint64_t>(cells >> 64));
    }
    Cells column_cells(int column) const { return column_mask_ << (column * parameters_.rows); }
    int tilt_of(Cells cells) const { return count(cells & left_) - count(cells & right_); }
    /// The hold after the crate, and how many columns were hoisted.
    Cells stow(Cells filled, Cells crate, int& hoisted) const;
    int hoists(const Position& position, const Move& move) const;
    /// Between filled and free cells, where little fits.
    int edges(Cells filled) const;
    int fullest_column(Cells filled) const;
    bool may_lie(Cells filled, const Placing& placing) const;
    bool can_stow_any(const Position& position) const;

    Parameters parameters_;
    std::array<std::vector<Placing>, kinds> placings_;
    Cells column_mask_ = 0, left_ = 0, right_ = 0;
};

}  // namespace waterway
