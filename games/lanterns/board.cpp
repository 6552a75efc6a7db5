#include "lanterns/lanterns.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Lanterns::board(const Position& position, Player) const {
    Board board = arvek::square_board(parameters_.columns, parameters_.rows);
    const Hooks winning = winning_hooks(position);
    for (int row = 0; row < parameters_.rows; ++row)
        for (int column = 0; column < parameters_.columns; ++column) {
            BoardCell& cell = board.cells[static_cast<std::size_t>(row * parameters_.columns + column)];
            const Hooks hook = bit_at(column, row);
            if ((winning & hook) != 0) cell.ground = Ground::Special;
            if ((position.lanterns_of(Player::First) & hook) != 0) cell.put("T", Player::First, "lantern");
            if ((position.lanterns_of(Player::Second) & hook) != 0) cell.put("A", Player::Second, "lantern");
        }
    if (!parameters_.drop || outcome(position)) return board;
    visit_moves(position, [&](const Move& move) {
        const auto column = static_cast<std::size_t>(move.hook / parameters_.rows);
        const auto row = static_cast<std::size_t>(move.hook % parameters_.rows);
        const auto columns = static_cast<std::size_t>(parameters_.columns);
        board.moves.push_back({move_text(position, move), {board.cells[row * columns + column].name}});
        return true;
    });
    return board;
}

}  // namespace waterway
