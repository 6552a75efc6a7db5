#pragma once
// Nightwatch: many pieces, one move a turn, on a map. One of the Basin Games of the Lowmere Waterway.
//
// Each side moves ONE of its pieces a turn, or passes. A Warden steps one cell in any of eight directions; a Runner
// slides up to four along a row or column; a Vaulter goes exactly two or three in a straight line of any of eight
// directions, not over walls or pieces; a Hook steps one cell in a row or column and may then pull one rival that
// stands two away in a row or column, with the cell between free, to that cell. After a move each rival piece
// orthogonally next to the moved piece takes as many hits as the mover's side has pieces orthogonally next to that
// rival. Hits add up; a Warden or Hook is taken off at three, a Runner or Vaulter at two. A side whose Warden is taken
// off loses; 120 moves in a row without a removal are a draw.
//
// Moves: "b2-b4", with a pull "b2-b3+b5" (the cell that the rival is pulled from), "pass".
// Positions: the rows from the top, '/' between; '#' a wall, '.' free, W R V H Teal's pieces and w r v h Amber's, each
// with the hits taken behind it if there are any; the player to move; the moves since the last removal: "W.#/.r1. T 7".

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/game/acting.hpp>
#include <arvek/game/board.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/patterns.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

namespace waterway {

/// A map as its file gives it: see Nightwatch::read_map().
struct NightwatchMap {
    std::string title;
    std::vector<std::string> rows;  ///< from the top, all of one length, in the letters of a position
};

class Nightwatch {
   public:
    static constexpr int most_columns = 30, most_rows = 30;
    static constexpr std::size_t most_pieces = 40;
    static constexpr int quiet_moves_to_draw = 120;

    struct Parameters {
        std::string map;  ///< the path of a map file; empty: the Coal Yard
    };

    enum class Kind : std::uint8_t { Warden, Runner, Vaulter, Hook };

    using Cell = std::uint16_t;  ///< row from the bottom times columns, plus column
    static constexpr Cell no_cell = 0xffff;

    struct Piece {
        Cell cell = no_cell;
        Kind kind = Kind::Warden;
        std::uint8_t hits = 0;  ///< taken so far
        std::uint8_t side = 0;  ///< 0 Teal, 1 Amber
        /// Tells pieces apart all game long, for characters of their own; by cell where the game or a text begins. It
        /// is no part of the position: play does not depend on it.
        std::uint8_t number = 0;

        friend bool operator==(const Piece& a, const Piece& b) {
            return a.cell == b.cell && a.kind == b.kind && a.hits == b.hits && a.side == b.side;
        }
    };

    struct Position {
        std::array<Piece, most_pieces> pieces{};  ///< the first `count`, by cell; the others as they are made
        std::uint8_t count = 0;
        std::uint8_t quiet = 0;  ///< moves since the last removal
        arvek::Player to_move = arvek::Player::First;

        const Piece* begin() const { return pieces.data(); }
        const Piece* end() const { return pieces.data() + count; }

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        Cell from = no_cell;  ///< no_cell: pass
        Cell to = no_cell;
        Cell pulled = no_cell;  ///< where the rival stands that a Hook pulls

        bool passes() const { return from == no_cell; }

        friend bool operator==(const Move&, const Move&) = default;
    };

    arvek::Payoff most_payoff() const { return 1; }

    /// Reads a map: lines of '#', '.', W R V H and w r v h, all of one length; before them "title: ...", and anywhere
    /// lines that begin with ';' and empty ones, which mean nothing. One Warden each, at most 40 pieces. Throws
    /// arvek::InputError, which names `source`, the line and the column.
    static NightwatchMap read_map(std::string_view text, std::string_view source);
    /// The map of a game when none is named.
    static std::string_view coal_yard();

    /// Throws arvek::InputError for a file that cannot be read or is no map.
    explicit Nightwatch(const Parameters& parameters);
    Nightwatch() : Nightwatch(Parameters{}) {}
    /// The game on a map in the format of a file. Throws as read_map() does.
    static Nightwatch on_map(std::string_view text, std::string_view source = "the map") {
        return Nightwatch(FromMap{}, read_map(text, source));
    }

    Position initial_position() const { return initial_; }
    arvek::Player player_to_move(const Position& position) const { return position.to_move; }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const;

    /// The pieces by kind and hits, and how near they are to the rival's Warden.
    arvek::Score evaluate(const Position& position, arvek::Player player) const;
    std::uint64_t hash(const Position& position) const;
    /// The hits that the move deals, most for a piece that it takes off; nearing the rival's Warden counts a little.
    int order_hint(const Position& position, const Move& move) const;
    int preference(const Position& position, const Move& move) const { return order_hint(position, move); }

    // What rules, suggestions and features may ask: see advice.cpp for each of them.
    arvek::ActNames act_names() const;
    arvek::Act act(const Position& position, const Move& move) const;
    /// What hits stands out, more so what takes a piece off; long and diagonal moves far from the rival hide.
    double salience(const Position& position, const Move& move) const;
    /// What evaluations are learned from: what stands on each cell and around each Warden, how near each kind is to the
    /// rival's, and how long it has been quiet. Where the map is the same from both sides, Amber sees it from its own.
    std::vector<arvek::Pattern> patterns() const;
    void read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const;

    std::span<const arvek::Quantity<Nightwatch>> quantities() const;
    std::span<const arvek::Suggester<Nightwatch>> suggesters() const;

    /// What a move does to the rival's pieces.
    struct Effect {
        int hits = 0;
        int removed = 0;
        bool removes_warden = false;
        Kind kind = Kind::Warden;  ///< of the most valuable piece removed, or hit where none is
    };
    Effect effect(const Position& position, const Move& move) const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// A cell is the side's letter, the kind and the hits taken: "TW", "AR1"; walls are "##".
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    int columns() const { return columns_; }
    int rows() const { return rows_; }
    const std::string& title() const { return title_; }
    bool is_wall(Cell cell) const { return walls_[cell] != 0; }
    /// "b2": the column's letter (aa after z) and the row from the bottom.
    std::string cell_text(Cell cell) const;
    /// Hits that take a piece of this kind off.
    static int hits_to_remove(Kind kind) { return kind == Kind::Runner || kind == Kind::Vaulter ? 2 : 3; }
    /// "Warden", "Runner", "Vaulter" or "Hook".
    static const char* kind_name(Kind kind);
    /// Steps between two cells, diagonal ones included.
    /// Pieces of a side next to where a move goes, in a row or column, besides the piece itself.
    int next_to(const Position& position, const Move& move, int side) const;
    int distance(Cell a, Cell b) const;
    /// nullptr where it has been taken off.
    static const Piece* warden_of(const Position& position, int side);
    static const Piece* piece_at(const Position& position, Cell cell);

   private:
    struct Occupied;
    struct FromMap {};

    Nightwatch(FromMap, const NightwatchMap& map);

    Cell cell_at(int column, int row) const { return static_cast<Cell>(row * columns_ + column); }
    int column_of(Cell cell) const { return column_of_[cell]; }
    int row_of(Cell cell) const { return row_of_[cell]; }
    /// In a row or column, and nothing between them.
    bool are_neighbours(Cell a, Cell b) const {
        const int apart = a < b ? b - a : a - b;
        return apart == columns_ || (apart == 1 && row_of(a) == row_of(b));
    }
    Cell seen_by_amber(Cell cell) const {
        const int column = column_of(cell), row = row_of(cell);
        if (image_ == Image::Mirrored) return cell_at(column, rows_ - 1 - row);
        return image_ == Image::Turned ? cell_at(columns_ - 1 - column, rows_ - 1 - row) : cell;
    }
    bool inside(int column, int row) const { return column >= 0 && column < columns_ && row >= 0 && row < rows_; }
    int strength(const Piece& piece) const;

    int columns_ = 0, rows_ = 0;
    // Looked up, since a division takes longer than most of what is done with it.
    std::array<std::uint8_t, most_columns * most_rows> column_of_{}, row_of_{};
    std::string title_;
    std::vector<std::uint8_t> walls_;  ///< 1 for each
    /// By cell, what of the five by five cells around it is a wall or beyond the map, as a pattern has it.
    std::vector<std::array<std::uint16_t, 25>> squares_;
    enum class Image : std::uint8_t { Same, Mirrored, Turned } image_ = Image::Same;  ///< in which Amber sees the map
    Position initial_;
};

}  // namespace waterway
