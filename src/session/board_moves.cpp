#include "board_moves.hpp"

#include <algorithm>
#include <string_view>
#include <unordered_map>

#include "arvek/session/plain_text.hpp"
#include "arvek/session/session.hpp"

namespace arvek {

namespace detail {

namespace {

bool is_letter_or_digit(char each) {
    const auto code = static_cast<unsigned char>(each);
    return (code >= '0' && code <= '9') || (code >= 'a' && code <= 'z') || (code >= 'A' && code <= 'Z') || code >= 0x80;
}

/// The names that the text holds, from the left; `names` with the longest first.
std::vector<std::string> names_in(std::string_view text, const std::vector<std::string>& names) {
    std::vector<std::string> found;
    for (std::size_t at = 0; at < text.size();) {
        const bool begins = at == 0 || !is_letter_or_digit(text[at - 1]);
        const auto name = std::find_if(names.begin(), names.end(), [&](const std::string& each) {
            if (!begins || text.substr(at, each.size()) != each) return false;
            const std::size_t end = at + each.size();
            return end == text.size() || !is_letter_or_digit(text[end]) || !is_letter_or_digit(text[end - 1]);
        });
        if (name == names.end()) {
            ++at;
            continue;
        }
        found.push_back(*name);
        at += name->size();
    }
    return found;
}

}  // namespace

std::vector<BoardMove> moves_on(const Board& board, const std::vector<std::string>& moves) {
    std::unordered_map<std::string_view, const BoardMove*> said;
    for (const BoardMove& move : board.moves) said.emplace(move.move, &move);
    std::vector<std::string> names;
    for (const BoardCell& cell : board.cells)
        if (!cell.name.empty()) names.push_back(cell.name);
    std::stable_sort(names.begin(), names.end(),
                     [](const auto& one, const auto& other) { return one.size() > other.size(); });
    std::vector<BoardMove> found;
    for (const std::string& move : moves) {
        const auto known = said.find(move);
        BoardMove on_board{move, known == said.end() ? names_in(move, names) : known->second->cells};
        if (!on_board.cells.empty()) found.push_back(std::move(on_board));
    }
    return found;
}

}  // namespace detail

Board Session::board(Player viewer) const {
    const AnyGame& game = game_.kit.game;
    if (!offers(game, Ability::Board)) return {};
    Board board = game.board(position(), viewer);
    for (BoardCell& cell : board.cells)
        for (std::string* text : {&cell.name, &cell.text, &cell.spoken}) *text = plain_line(*text);
    for (std::string& note : board.notes) note = plain_line(note);
    for (BoardMove& move : board.moves) {
        move.move = plain_line(move.move);
        for (std::string& cell : move.cells) cell = plain_line(cell);
    }
    board.moves = detail::moves_on(board, legal_moves());
    return board;
}

}  // namespace arvek
