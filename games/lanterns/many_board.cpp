#include "lanterns/many_lanterns.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board ManyLanterns::board(const Position& position, Player) const {
    Board board = arvek::square_board(parameters_.columns, parameters_.rows);
    Hooks winning = 0;
    for (const Hooks lanterns : position.lanterns)
        for (const Hooks line : lines_)
            if ((lanterns & line) == line) winning |= line;
    const auto cell_of = [&](int hook) -> BoardCell& {
        return board
            .cells[static_cast<std::size_t>(hook % parameters_.rows * parameters_.columns + hook / parameters_.rows)];
    };
    for (int hook = 0; hook < parameters_.rows * parameters_.columns; ++hook) {
        if ((winning >> hook & 1) != 0) cell_of(hook).ground = Ground::Special;
        for (std::size_t side = 0; side < sides_; ++side)
            if ((position.lanterns[side] >> hook & 1) != 0) {
                const auto player = static_cast<Player>(side);
                cell_of(hook).put(player_name(player).substr(0, 1), player, "lantern");
            }
    }
    if (!parameters_.drop || outcome(position)) return board;
    arvek::MoveList<Move> moves;
    generate_moves(position, moves);
    for (const Move& move : moves) board.moves.push_back({move_text(position, move), {cell_of(move.hook).name}});
    return board;
}

}  // namespace waterway
