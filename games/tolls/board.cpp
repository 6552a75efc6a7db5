#include <bit>
#include <string>
#include "tolls/tolls.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Tolls::board(const Position& position, Player viewer) const {
    Board board;
    for (std::size_t side = 0; side < sides_; ++side) {
        const auto player = static_cast<Player>(side);
        const double y = 1.3 * static_cast<double>(side);
        board.cells.push_back(arvek::board_label(-1.8, y, player_name(player), 2));
        double x = 0;
        const auto add = [&](std::string text, std::string spoken, double width) {
            BoardCell card;
            card.x = x + (width - 1) / 2;
            card.y = y;
            card.width = width;
            card.put(std::move(text), player, std::move(spoken));
            board.cells.push_back(std::move(card));
            x += width + 0.1;
        };
        if (player == viewer) {
            for (Cards left = position.hands[side]; left != 0; left &= left - 1) {
                add(card_text(std::countr_zero(left)), {}, 1);
                board.cells.back().name = board.cells.back().text;
            }
        } else if (position.holds[side] > 0) {
            const std::string count = std::to_string(position.holds[side]);
            add(count + " unseen", count + (count == "1" ? " unseen card" : " unseen cards"), 2);
        }
        std::string note = player_name(player) + ": tolls " + std::to_string(position.took[side]);
        for (std::size_t suit = 0; suit < 4; ++suit)
            if ((position.lacks[side] >> suit & 1) != 0)
                note += ", lacks " + card_text(static_cast<int>(suit) * most_ranks).substr(0, 1);
        board.notes.push_back(std::move(note));
    }
    const double y = 1.3 * static_cast<double>(sides_) + 0.4;
    board.cells.push_back(arvek::board_label(-1.8, y, "table", 2));
    for (std::size_t i = 0; i < position.on_table; ++i) {
        BoardCell card;
        card.x = 1.1 * static_cast<double>(i);
        card.y = y;
        card.ground = Ground::Special;
        card.text = card_text(position.table[i]);
        card.spoken = card.text + " on the table";
        board.cells.push_back(std::move(card));
    }
    if (trump_ >= 0) board.notes.push_back("Trump: " + card_text(trump_ * most_ranks).substr(0, 1));
    if (position.dealing != 0) board.notes.push_back("Cards are still to be dealt");
    return board;
}

}  // namespace waterway
