#include <string>
#include "sluice/sluice.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Sluice::board(const Position& position, Player) const {
    Board board;
    const auto add = [&](std::string name, double x, double y, int water, Player owner, const char* what) {
        BoardCell cell;
        cell.name = std::move(name);
        cell.x = x;
        cell.y = y;
        cell.round = true;
        cell.put(std::to_string(water), owner,
                 std::to_string(water) + (water == 1 ? " bucket in " : " buckets in ") + what);
        board.cells.push_back(std::move(cell));
    };
    for (int basin = 0; basin < basins_; ++basin) {
        const std::string number = std::to_string(basin + 1);
        add("T" + number, basin, 2, position.places[at(first_basin(Player::First) + basin)], Player::First, "a basin");
        add("A" + number, basins_ - 1 - basin, 0, position.places[at(first_basin(Player::Second) + basin)],
            Player::Second, "a basin");
        board.cells.push_back(arvek::board_label(basin, 2.8, number));
        board.cells.push_back(arvek::board_label(basins_ - 1 - basin, -0.8, number));
    }
    for (const Player player : {Player::First, Player::Second}) {
        const bool teal = player == Player::First;
        add(teal ? "T store" : "A store", teal ? basins_ + 0.3 : -1.3, 1, position.places[at(store_of(player))], player,
            "the store");
        board.cells.back().ground = Ground::Special;
        board.cells.back().height = 2.4;
        board.cells.back().round = false;
    }
    if (outcome(position)) return board;
    arvek::MoveList<Move> moves;
    generate_moves(position, moves);
    for (const Move& move : moves) {
        const std::string text = move_text(position, move);
        board.moves.push_back({text, {(position.to_move == Player::First ? "T" : "A") + text}});
    }
    return board;
}

}  // namespace waterway
