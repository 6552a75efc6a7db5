#include <string>
#include "stowage/stowage.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Stowage::board(const Position& position, Player) const {
    Board board = arvek::square_board(parameters_.columns, parameters_.rows);
    for (int row = 0; row < parameters_.rows; ++row)
        for (int column = 0; column < parameters_.columns; ++column) {
            if ((position.filled >> (column * parameters_.rows + row) & 1) == 0) continue;
            BoardCell& cell = board.cells[static_cast<std::size_t>(row * parameters_.columns + column)];
            cell.ground = Ground::Blocked;
            cell.spoken = "filled";
        }
    std::string before;
    double y = 0;
    for (const std::uint8_t crate : position.quay) {
        if (crate == 0) continue;
        BoardCell cell = arvek::board_label(parameters_.columns + 0.9, y, kind_name(crate - 1), 1.4);
        cell.ground = Ground::Special;
        if (before != cell.text) cell.name = cell.text;  // two of a kind are one to choose
        before = cell.text;
        board.cells.push_back(std::move(cell));
        y += 1.1;
    }
    board.notes.push_back("Lots " + std::to_string(position.stowed) + " of " + std::to_string(parameters_.lots) +
                          ", score " + std::to_string(position.score) + ", trim " +
                          std::to_string(tilt_of(position.filled)));
    board.notes.push_back("Choose a crate at the right, then the cell of its lower left corner.");
    return board;
}

}  // namespace waterway
