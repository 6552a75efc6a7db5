#include <string>
#include "scuffle/scuffle.hpp"

namespace waterway {

using arvek::Board;
using arvek::BoardCell;
using arvek::Ground;
using arvek::Player;

Board Scuffle::board(const Position& position, Player) const {
    Board board;
    const bool over = outcome(position).has_value();
    const auto cell_name = [&](std::size_t side, std::size_t hand) {
        return std::string(side == 0 ? "T " : "A ") + crews_[side].hands[hand].name;
    };
    constexpr double wide = 4.6;
    for (std::size_t side = 0; side < 2; ++side) {
        const double x = static_cast<double>(side) * (wide + 0.6);
        board.cells.push_back(arvek::board_label(x, -1, crews_[side].name, wide));
        for (std::size_t i = 0; i < hands(side); ++i) {
            const HandState& state = position.crews[side][i];
            const Hand& hand = crews_[side].hands[i];
            BoardCell cell;
            cell.name = cell_name(side, i);
            cell.x = x;
            cell.y = 1.1 * static_cast<double>(i);
            cell.width = wide;
            if (state.out()) cell.ground = Ground::Blocked;
            if (!over && actor(position).side == side && actor(position).hand == i) cell.ground = Ground::Special;
            std::string words = state.out() ? "out"
                                            : std::to_string(state.stamina) + "/" + std::to_string(hand.stamina) +
                                                  ", clock " + std::to_string(state.clock);
            for (std::size_t c = 0; c < condition_count && !state.out(); ++c)
                if (state.turns[c] > 0)
                    words +=
                        std::string(", ") + name_of(static_cast<Condition>(c)) + " " + std::to_string(state.turns[c]);
            cell.put(hand.name + "  " + words, static_cast<Player>(side), hand.name + ", " + words);
            board.cells.push_back(std::move(cell));
        }
    }
    board.notes.push_back(std::to_string(position.actions) + " actions so far, a draw at " +
                          std::to_string(actions_to_draw));
    if (over) return board;
    if (position.pending) {
        board.notes.push_back(move_text(position, position.action) + ": hit or miss?");
        return board;
    }
    const Actor from = actor(position);
    arvek::MoveList<Move> moves;
    generate_moves(position, moves);
    for (const Move& move : moves) {
        arvek::BoardMove on_board{move_text(position, move), {}};
        const TargetKind aimed = hand(from).actions[move.action].target;
        if (aimed == TargetKind::OneMate) on_board.cells.push_back(cell_name(from.side, move.target));
        if (aimed == TargetKind::OneRival) on_board.cells.push_back(cell_name(1 - from.side, move.target));
        if (aimed == TargetKind::Self) on_board.cells.push_back(cell_name(from.side, from.hand));
        board.moves.push_back(std::move(on_board));
    }
    return board;
}

}  // namespace waterway
