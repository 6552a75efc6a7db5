#include <string>
#include "chess/chess.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Chess::board(const Position& position, Player) const {
    constexpr const char* signs[] = {"", "\u265f", "\u265e", "\u265d", "\u265c", "\u265b", "\u265a"};
    constexpr const char* words[] = {"", "pawn", "knight", "bishop", "rook", "queen", "king"};
    Board board = arvek::square_board(8, 8, true);
    for (int square = 0; square < 64; ++square)
        if (const Kind kind = position.kind_at(square); kind != None)
            board.cells[static_cast<std::size_t>(square)].put(
                signs[kind], (position.black >> square & 1) != 0 ? Player::Second : Player::First, words[kind]);
    if (position.in_check) board.notes.push_back(player_name(position.to_move) + " is in check");
    if (outcome(position)) return board;
    arvek::MoveList<Move> moves;
    generate_moves(position, moves);
    const auto name = [&](int square) { return board.cells[static_cast<std::size_t>(square)].name; };
    for (const Move& move : moves)
        board.moves.push_back({move_text(position, move), {name(move.from()), name(move.to())}});
    return board;
}

}  // namespace waterway
