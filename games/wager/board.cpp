#include <string>
#include "wager/wager.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Wager::board(const Position& position, Player viewer) const {
    Board board;
    const auto done = position.done;
    const bool shown = done[0] != Deed::None && outcome(position).has_value();
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}}) {
        const auto player = static_cast<Player>(side);
        BoardCell card;
        card.x = 2.4 * static_cast<double>(side);
        card.height = 1.5;
        const bool seen = player == viewer || (shown && done[count(position) - 1] != Deed::Fold);
        const int number = position.cards[side];
        if (number > 0)
            card.put(seen ? std::to_string(number) : "?", player,
                     seen ? "card " + std::to_string(number) : std::string("an unseen card"));
        board.cells.push_back(std::move(card));
        board.cells.push_back(arvek::board_label(2.4 * static_cast<double>(side), 1.2, player_name(player), 2));
    }
    std::string line;
    for (std::size_t i = 0; i < count(position); ++i)
        line += (line.empty() ? "" : ", ") + player_name(i % 2 == 0 ? Player::First : Player::Second) + " " +
                move_text(position, {done[i], 0}) + "s";
    board.notes.push_back(line.empty() ? "Nothing was done yet" : line);
    return board;
}

}  // namespace waterway
