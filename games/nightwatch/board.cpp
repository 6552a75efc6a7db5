#include <string>
#include "nightwatch/nightwatch.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Nightwatch::board(const Position& position, Player) const {
    Board board = arvek::square_board(columns_, rows_);
    for (int cell = 0; cell < columns_ * rows_; ++cell)
        if (is_wall(static_cast<Cell>(cell))) {
            board.cells[static_cast<std::size_t>(cell)].ground = Ground::Blocked;
            board.cells[static_cast<std::size_t>(cell)].spoken = "wall";
        }
    for (const Piece& piece : position) {
        const std::string kind = kind_name(piece.kind);
        const std::string hits = std::to_string(piece.hits);
        board.cells[piece.cell].put(
            kind.substr(0, 1) + (piece.hits > 0 ? hits : ""), static_cast<Player>(piece.side),
            kind + (piece.hits == 0 ? "" : ", " + hits + (piece.hits == 1 ? " hit taken" : " hits taken")));
    }
    board.notes.push_back(title_ + ": " + std::to_string(position.quiet) + " moves without a removal, a draw at " +
                          std::to_string(quiet_moves_to_draw));
    board.notes.push_back("A number on a piece: hits taken. Wardens and Hooks go at 3, Runners and Vaulters at 2.");
    return board;
}

}  // namespace waterway
