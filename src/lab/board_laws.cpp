// What a board that is shown must keep to.

#include <algorithm>
#include <cmath>
#include <set>
#include <string>

#include "arvek/game/board.hpp"
#include "position_laws.hpp"

namespace arvek::detail {

namespace {

bool has_control_character(const std::string& text) {
    return std::any_of(text.begin(), text.end(), [](char each) { return static_cast<unsigned char>(each) < 0x20; });
}

bool is_place(double at) { return std::isfinite(at) && std::abs(at) <= 1'000; }
bool is_size(double size) { return std::isfinite(size) && size > 0 && size <= 1'000; }

/// What is wrong with a cell, or nothing.
std::string fault_of(const BoardCell& cell, int players) {
    if (!is_place(cell.x) || !is_place(cell.y)) return "lies beyond -1000 to 1000";
    if (!is_size(cell.width) || !is_size(cell.height)) return "has no size between 0 and 1000";
    if (cell.player < -1 || cell.player >= players)
        return "belongs to player " + std::to_string(cell.player) + ", and there are -1 (nobody) to " +
               std::to_string(players - 1);
    for (const std::string* text : {&cell.name, &cell.text, &cell.spoken})
        if (has_control_character(*text)) return "holds a control character";
    return {};
}

}  // namespace

void PositionLaws::examine_board(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path) {
    if (!offers(game_, Ability::Board)) return;
    std::set<std::string> texts;
    if (offers(game_, Ability::Text))
        for (const AnyMove& move : moves) texts.insert(game_.move_text(position, move));
    Random random(derived_seed(seed_, path.size()));
    for (int i = 0; i < players_; ++i) {
        const auto viewer = static_cast<Player>(i);
        const auto broken = [&](const std::string& what) {
            fault("board", "board", "for " + game_.player_name(viewer) + ": " + what, path);
        };
        const Board board = game_.board(position, viewer);
        if (!(board == game_.board(position, viewer))) broken("it is another the second time");
        if (board.cells.empty() || board.cells.size() > most_board_cells)
            broken("it has " + std::to_string(board.cells.size()) + " cells, and there must be 1 to " +
                   std::to_string(most_board_cells));
        std::set<std::string> names;
        for (const BoardCell& cell : board.cells) {
            if (!cell.name.empty() && !names.insert(cell.name).second)
                broken("two cells are named '" + cell.name + "'");
            if (const std::string what = fault_of(cell, players_); !what.empty())
                broken("the cell '" + cell.name + "' " + what);
        }
        for (const auto& [from, to] : board.paths)
            if (from >= board.cells.size() || to >= board.cells.size()) broken("a path joins a cell that is not there");
        for (const BoardMove& move : board.moves) {
            if (!texts.contains(move.move)) broken("'" + move.move + "' is no legal move here");
            for (const std::string& name : move.cells)
                if (!names.contains(name)) broken("'" + move.move + "' goes by '" + name + "', which is no cell");
        }
        if (!has_views(game_) || game_.outcome(position) || chance_is_next(game_, position)) continue;
        const AnyPosition drawn = game_.sample(game_.view(position, viewer), random);
        if (game_.view(drawn, viewer) == game_.view(position, viewer) && !(game_.board(drawn, viewer) == board))
            broken("it shows what that player does not see");
    }
}

}  // namespace arvek::detail
