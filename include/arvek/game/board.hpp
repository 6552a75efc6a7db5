#pragma once
// Ability: board. Buys a board that is looked at and clicked on, where a page shows the game: arvek workbench (docs/workbench.md).
//
//     arvek::Board board(const Position&, arvek::Player viewer) const;
//
// A board is cells with what stands on them. A move is played by clicking the cells that its text names, in their
// order: "c2" is one click, "b2-b4" two, or a drag. So the names of the cells are those in the texts of the moves; where
// the texts say less, `moves` says which cells a move goes by. It is asked in finished positions too, and where chance
// is next. In a game with views it shows what `viewer` sees and nothing else; elsewhere it is the same for everyone.
//
//     arvek::Board board(const Position& position, arvek::Player) const {
//         arvek::Board board = arvek::square_board(3, 3);  // "a1", "b1", "c1", "a2", ... from the lower left
//         for (std::size_t i = 0; i < 9; ++i)
//             if (const int pieces = position.stores[i]; pieces > 0)
//                 board.cells[i].put(std::to_string(pieces), arvek::Player::First, "a pile");
//         return board;
//     }

#include <concepts>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/game.hpp"
#include "arvek/game/player.hpp"

namespace arvek {

/// How the ground of a cell looks.
enum class Ground : std::uint8_t {
    Plain,    ///< like most
    Darker,   ///< every other square of a chequered board, water, a store
    Blocked,  ///< nothing can stand there
    Special,  ///< a goal, a mooring, a last move
    None      ///< no ground: a label
};

/// A cell of a board.
struct BoardCell {
    std::string name{};                ///< as the moves' texts say it, unique; empty: only to look at
    double x = 0.0, y = 0.0;           ///< of the middle, in cells; y grows downwards
    double width = 1.0, height = 1.0;  ///< in cells
    bool round = false;                ///< an ellipse instead of a rectangle
    Ground ground = Ground::Plain;     ///< what it is drawn as
    std::string text{};                ///< what stands there, a few letters: "K", "12"; empty: nothing
    int player = -1;                   ///< whose it is, the number of the player; -1: nobody's
    std::string spoken{};              ///< the same in words, without whose it is: "King"; empty: `text`

    /// Puts something of a player's onto the cell.
    void put(std::string what, Player owner, std::string in_words = {}) {
        text = std::move(what);
        player = static_cast<int>(index_of(owner));
        spoken = std::move(in_words);
    }

    bool operator==(const BoardCell&) const = default;
};

/// By which cells a move goes.
struct BoardMove {
    std::string move{};                ///< its text
    std::vector<std::string> cells{};  ///< their names, in order

    bool operator==(const BoardMove&) const = default;
};

/// What is shown of a position: cells, what lies on them, and which moves go by them.
struct Board {
    std::vector<BoardCell> cells{};                            ///< in the order in which keys go through them
    std::vector<std::pair<std::size_t, std::size_t>> paths{};  ///< cells that a line joins, by their places
    std::vector<std::string> notes{};                          ///< lines below the board
    std::vector<BoardMove> moves{};                            ///< where the texts of moves do not name their cells

    bool operator==(const Board&) const = default;
};

/// The most cells that a board may have.
inline constexpr std::size_t most_board_cells = 4'096;

/// A board of squares: cells from the lower left, row by row, "a1", "b1", ..., "a2", ..., and after them labels without
/// ground along two edges. Columns after z are called aa, ab and so on.
Board square_board(int columns, int rows, bool chequered = false);

/// A label, or a cell elsewhere: `text` at a place.
BoardCell board_label(double x, double y, std::string text, double width = 1.0);

template <class G>
concept BoardGame = Game<G> && requires(const G& game, const typename G::Position& position, Player viewer) {
    { game.board(position, viewer) } -> std::same_as<Board>;
};

}  // namespace arvek
