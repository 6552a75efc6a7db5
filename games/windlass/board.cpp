#include <algorithm>
#include <cmath>
#include <numbers>
#include <string>
#include "windlass/windlass.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Windlass::board(const Position& position, Player) const {
    Board board;
    const std::string text = position_text(position);  // hub, '/', rim
    const auto add = [&](double x, double y, std::string name, char peg) {
        BoardCell cell;
        cell.name = std::move(name);
        cell.x = x;
        cell.y = y;
        cell.round = true;
        if (peg == 'T') cell.put("T", Player::First, "peg");
        if (peg == 'A') cell.put("A", Player::Second, "peg");
        board.cells.push_back(std::move(cell));
    };
    const double radius = std::max(2.0, parameters_.posts * 1.6 / (2 * std::numbers::pi));
    add(0, 0, "h", text[0]);
    const auto posts = static_cast<std::size_t>(parameters_.posts);
    for (std::size_t post = 0; post < posts; ++post) {
        const double angle = 2 * std::numbers::pi * static_cast<double>(post) / parameters_.posts;
        add(radius * std::sin(angle), -radius * std::cos(angle), std::to_string(post + 1), text[2 + post]);
        board.paths.emplace_back(0, post + 1);
        board.paths.emplace_back(post + 1, (post + 1) % posts + 1);
    }
    for (std::size_t post = 0; post < posts; ++post) {
        const double out = 1 + 0.85 / radius;
        board.cells.push_back(
            arvek::board_label(board.cells[post + 1].x * out, board.cells[post + 1].y * out, std::to_string(post + 1)));
    }
    const bool teal_moves = position.to_move() == Player::First;
    board.notes.push_back("In hand: Teal " + std::to_string(teal_moves ? position.own_hand() : position.others_hand()) +
                          ", Amber " + std::to_string(teal_moves ? position.others_hand() : position.own_hand()));
    return board;
}

}  // namespace waterway
