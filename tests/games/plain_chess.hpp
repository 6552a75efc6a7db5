#pragma once
// Chess once more, as slowly and plainly as can be: a board of letters, every piece tried on every square, and a move is
// legal if the king cannot be taken after it.

#include <array>
#include <cctype>
#include <cstdlib>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace testing_support {

class PlainChess {
   public:
    /// Of a FEN, in which every field is there.
    explicit PlainChess(const std::string& fen) {
        std::size_t at = 0;
        for (int rank = 7; rank >= 0; --rank)
            for (int file = 0; file < 8;) {
                const char letter = fen[at++];
                if (letter == '/') continue;
                if (std::isdigit(static_cast<unsigned char>(letter)) != 0)
                    for (int i = 0; i < letter - '0'; ++i) board(file++, rank) = '.';
                else
                    board(file++, rank) = letter;
            }
        const auto field = [&] {
            const std::size_t begin = fen.find_first_not_of(' ', at), end = fen.find(' ', begin);
            at = end;
            return fen.substr(begin, end == std::string::npos ? end : end - begin);
        };
        white_ = field() == "w";
        castling_ = field();
        passed_ = field();
        clock_ = std::stoi(field());
        number_ = std::stoi(field());
    }

    /// The positions after the legal moves, by the coordinates of the move.
    std::map<std::string, PlainChess> after() const {
        std::map<std::string, PlainChess> all;
        for (int from = 0; from < 64; ++from)
            for (int to = 0; to < 64; ++to) {
                if (!may_go(from, to)) continue;
                const char piece = squares_[at(from)];
                const bool promotes = std::toupper(piece) == 'P' && (to / 8 == 0 || to / 8 == 7);
                for (const char becomes : promotes ? std::string("qrbn") : std::string(" ")) {
                    PlainChess next = *this;
                    next.go(from, to, becomes);
                    if (next.can_take_king(white_)) continue;
                    std::string name = name_of(from) + name_of(to);
                    if (promotes) name += becomes;
                    all.emplace(name, next);
                }
            }
        return all;
    }

    bool in_check() const { return can_take_king(white_); }
    int clock() const { return clock_; }

    /// FEN; a passed square only where a pawn can take there.
    std::string fen() const {
        std::string text;
        for (int rank = 7; rank >= 0; --rank) {
            int empty = 0;
            for (int file = 0; file < 8; ++file) {
                const char letter = squares_[at(8 * rank + file)];
                if (letter == '.') {
                    ++empty;
                    continue;
                }
                if (empty > 0) text += std::to_string(empty);
                empty = 0;
                text += letter;
            }
            if (empty > 0) text += std::to_string(empty);
            if (rank > 0) text += '/';
        }
        bool useful = false;
        if (passed_ != "-")
            for (const auto& [name, next] : after())
                if (name.substr(2) == passed_ && std::toupper(squares_[at(square_of(name))]) == 'P') useful = true;
        return text + (white_ ? " w " : " b ") + castling_ + " " + (useful ? passed_ : "-") + " " +
               std::to_string(clock_) + " " + std::to_string(number_);
    }

   private:
    static std::size_t at(int square) { return static_cast<std::size_t>(square); }
    static std::string name_of(int square) {
        return {static_cast<char>('a' + square % 8), static_cast<char>('1' + square / 8)};
    }
    static int square_of(const std::string& name) { return name[0] - 'a' + 8 * (name[1] - '1'); }
    char& board(int file, int rank) { return squares_[at(8 * rank + file)]; }
    bool is_own(int square, bool white) const {
        const char letter = squares_[at(square)];
        return letter != '.' && (std::isupper(static_cast<unsigned char>(letter)) != 0) == white;
    }

    bool is_clear(int from, int to) const {
        const int files = to % 8 - from % 8, ranks = to / 8 - from / 8;
        const int step = (files > 0 ? 1 : files < 0 ? -1 : 0) + 8 * (ranks > 0 ? 1 : ranks < 0 ? -1 : 0);
        for (int square = from + step; square != to; square += step)
            if (squares_[at(square)] != '.') return false;
        return true;
    }

    /// Whether the piece attacks the square, whoever is to move.
    bool attacks(int from, int to) const {
        const int files = std::abs(to % 8 - from % 8), ranks = std::abs(to / 8 - from / 8);
        const char piece = squares_[at(from)];
        if (from == to) return false;
        switch (std::toupper(piece)) {
            case 'P': return files == 1 && to / 8 - from / 8 == (piece == 'P' ? 1 : -1);
            case 'N': return files * ranks == 2;
            case 'B': return files == ranks && is_clear(from, to);
            case 'R': return files * ranks == 0 && is_clear(from, to);
            case 'Q': return (files == ranks || files * ranks == 0) && is_clear(from, to);
            case 'K': return files <= 1 && ranks <= 1;
            default: return false;
        }
    }
    bool is_attacked(int square, bool by_white) const {
        for (int from = 0; from < 64; ++from)
            if (is_own(from, by_white) && attacks(from, square)) return true;
        return false;
    }
    /// Whether the king of that side could be taken.
    bool can_take_king(bool white) const {
        for (int square = 0; square < 64; ++square)
            if (squares_[at(square)] == (white ? 'K' : 'k')) return is_attacked(square, !white);
        return true;
    }

    bool may_go(int from, int to) const {
        if (!is_own(from, white_) || is_own(to, white_)) return false;
        const char piece = squares_[at(from)];
        const int forward = white_ ? 8 : -8;
        if (std::toupper(piece) == 'P') {
            if (attacks(from, to)) return squares_[at(to)] != '.' || name_of(to) == passed_;
            if (squares_[at(to)] != '.') return false;
            if (to - from == forward) return true;
            return to - from == 2 * forward && from / 8 == (white_ ? 1 : 6) && squares_[at(from + forward)] == '.';
        }
        if (std::toupper(piece) == 'K' && std::abs(to - from) == 2 && to / 8 == from / 8) {
            const bool short_side = to > from;
            const char right = short_side ? (white_ ? 'K' : 'k') : (white_ ? 'Q' : 'q');
            if (castling_.find(right) == std::string::npos) return false;
            const int rook = short_side ? from + 3 : from - 4;
            if (!is_clear(from, rook)) return false;
            for (const int square : {from, (from + to) / 2, to})
                if (is_attacked(square, !white_)) return false;
            return true;
        }
        return attacks(from, to);
    }

    void go(int from, int to, char becomes) {
        const char piece = squares_[at(from)];
        const bool pawn = std::toupper(piece) == 'P', takes = squares_[at(to)] != '.';
        if (pawn && name_of(to) == passed_ && to % 8 != from % 8) squares_[at(to + (white_ ? -8 : 8))] = '.';
        if (std::toupper(piece) == 'K' && std::abs(to - from) == 2) {
            const int rook = to > from ? from + 3 : from - 4;
            squares_[at((from + to) / 2)] = squares_[at(rook)];
            squares_[at(rook)] = '.';
        }
        squares_[at(to)] = becomes == ' ' ? piece : white_ ? static_cast<char>(std::toupper(becomes)) : becomes;
        squares_[at(from)] = '.';
        for (const auto& [square, rights] :
             std::vector<std::pair<int, std::string>>{{0, "Q"}, {4, "KQ"}, {7, "K"}, {56, "q"}, {60, "kq"}, {63, "k"}})
            if (from == square || to == square)
                for (const char right : rights)
                    if (const auto found = castling_.find(right); found != std::string::npos) castling_.erase(found, 1);
        if (castling_.empty()) castling_ = "-";
        passed_ = pawn && std::abs(to - from) == 16 ? name_of((from + to) / 2) : "-";
        clock_ = pawn || takes ? 0 : clock_ + 1;
        if (!white_) ++number_;
        white_ = !white_;
    }

    std::array<char, 64> squares_{};
    bool white_ = true;
    std::string castling_, passed_;
    int clock_ = 0, number_ = 1;
};

}  // namespace testing_support
