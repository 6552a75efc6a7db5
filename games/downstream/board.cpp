#include <algorithm>
#include <string>
#include "downstream/downstream.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Downstream::board(const Position& position, Player) const {
    Board board;
    const bool over = outcome(position).has_value();
    for (int at = 0; at <= home(); ++at)
        board.cells.push_back(arvek::board_label(at, -0.8,
                                                 at == 0        ? "bank"
                                                 : at == home() ? "home"
                                                                : std::to_string(at)));
    for (std::size_t side = 0; side < sides_; ++side) {
        const auto player = static_cast<Player>(side);
        board.cells.push_back(arvek::board_label(-1.6, static_cast<double>(side), player_name(player), 2));
        for (int at = 0; at <= home(); ++at) {
            BoardCell cell;
            cell.x = at;
            cell.y = static_cast<double>(side);
            cell.ground = at == 0 || at == home() ? Ground::Special : is_mooring(at) ? Ground::Plain : Ground::Darker;
            const auto boats = std::count(position.cells[side].begin(),
                                          position.cells[side].begin() + static_cast<std::ptrdiff_t>(boats_), at);
            if (boats > 0)
                cell.put(std::to_string(boats), player, std::to_string(boats) + (boats == 1 ? " boat" : " boats"));
            // The mover's boats are what is clicked.
            if (boats > 0 && !over && side == position.to_move && at < home()) cell.name = std::to_string(at);
            board.cells.push_back(std::move(cell));
        }
    }
    if (!over)
        board.notes.push_back(position.roll == 0 ? "The die is still to be rolled"
                                                 : "Rolled: " + std::to_string(position.roll));
    if (parameters_.mooring > 0) board.notes.push_back("The lighter cells are moorings, where boats lie in safety.");
    return board;
}

}  // namespace waterway
