#include "arvek/game/board.hpp"

namespace arvek {

namespace {

std::string column_name(int column) {
    std::string name;
    for (int rest = column; rest >= 0; rest = rest / 26 - 1)
        name.insert(name.begin(), static_cast<char>('a' + rest % 26));
    return name;
}

}  // namespace

BoardCell board_label(double x, double y, std::string text, double width) {
    BoardCell label;
    label.x = x;
    label.y = y;
    label.width = width;
    label.ground = Ground::None;
    label.text = std::move(text);
    return label;
}

Board square_board(int columns, int rows, bool chequered) {
    Board board;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            BoardCell cell;
            cell.name = column_name(column) + std::to_string(row + 1);
            cell.x = column;
            cell.y = rows - 1 - row;
            if (chequered && (row + column) % 2 == 0) cell.ground = Ground::Darker;
            board.cells.push_back(std::move(cell));
        }
    for (int row = 0; row < rows; ++row)
        board.cells.push_back(board_label(-1, rows - 1 - row, std::to_string(row + 1)));
    for (int column = 0; column < columns; ++column)
        board.cells.push_back(board_label(column, rows, column_name(column)));
    return board;
}

}  // namespace arvek
