#include <string>
#include "convoy/convoy.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Convoy::board(const Position& position, Player) const {
    Board board;
    for (std::size_t lane = 0; lane < lanes(); ++lane) {
        const auto y = static_cast<double>(lane);
        BoardCell name = arvek::board_label(-1.6, y, std::to_string(lane + 1), 1.4);
        name.name = std::to_string(lane + 1);
        name.ground = Ground::Special;
        name.spoken = "lane " + name.name;
        board.cells.push_back(std::move(name));
        for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
            if (const int ticks = position.closed[side][lane]; ticks > 0)
                board.cells.push_back(arvek::board_label(side == 0 ? -0.6 : static_cast<double>(length()) - 0.4, y,
                                                         "x" + std::to_string(ticks), 0.5));
        for (std::size_t at = 0; at < length(); ++at) {
            BoardCell cell;
            cell.x = static_cast<double>(at) + 0.1;
            cell.y = y;
            cell.ground = Ground::Darker;
            if (const Boat& boat = position.lanes[lane][at]; boat.there()) {
                const std::string kind = kind_name(boat.kind), strength = std::to_string(boat.strength);
                cell.put(std::string(1, static_cast<char>(kind[0] - 'a' + 'A')) + strength,
                         static_cast<Player>(boat.side), kind + " of strength " + strength);
            }
            board.cells.push_back(std::move(cell));
        }
    }
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
        board.notes.push_back(std::string(side == 0 ? "Teal" : "Amber") + ": wall " +
                              std::to_string(position.walls[side]) + ", purse " +
                              std::to_string(position.purses[side]));
    board.notes.push_back("Tick " + std::to_string(position.tick) + " of " + std::to_string(last_tick) +
                          ". x3: the lane is closed to that side for 3 ticks.");
    return board;
}

}  // namespace waterway
