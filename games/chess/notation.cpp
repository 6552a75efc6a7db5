// Chess in its open notations: FEN, SAN and coordinates.

#include <algorithm>
#include <cctype>
#include <string>
#include <vector>

#include <arvek/game/input_error.hpp>
#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

#include "chess/chess.hpp"

namespace waterway {

using arvek::InputError;
using arvek::Player;
using chess::bit;
using chess::file_of;
using chess::first_of;
using chess::rank_of;

namespace {

constexpr std::string_view kind_letters = " PNBRQK";
constexpr const char* fen_example = "a FEN, such as 'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1'";

std::string square_text(int square) {
    return {static_cast<char>('a' + file_of(square)), static_cast<char>('1' + rank_of(square))};
}

char letter_of(const Chess::Position& position, int square) {
    const auto kind = position.kind_at(square);
    if (kind == Chess::None) return '.';
    const char letter = kind_letters[kind];
    return (position.black >> square & 1) != 0 ? static_cast<char>(std::tolower(letter)) : letter;
}

void read_board(arvek::TextReader& in, Chess::Position& position) {
    for (int rank = 7; rank >= 0; --rank) {
        int file = 0;
        bool after_number = false;
        while (file < 8) {
            const char letter = in.next();
            if (letter >= '1' && letter <= '8') {
                if (after_number || file + (letter - '0') > 8)
                    in.fail(std::string("rank ") + static_cast<char>('1' + rank) +
                                (after_number ? " has two numbers in a row" : " has more than 8 squares"),
                            in.whole());
                file += letter - '0';
                after_number = true;
                in.pass();
                continue;
            }
            const auto kind =
                letter == '\0' ? std::string_view::npos
                               : kind_letters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(letter))));
            if (kind == std::string_view::npos || kind == 0)
                in.fail(std::string("rank ") + static_cast<char>('1' + rank) +
                            (letter == '/' || letter == ' ' || letter == '\0'
                                 ? " has only " + std::to_string(file) + " squares"
                                 : ": " + in.here() + " is no piece and no number of empty squares"),
                        in.whole());
            const bool black = std::islower(static_cast<unsigned char>(letter)) != 0;
            if (kind == Chess::Pawn && (rank == 0 || rank == 7))
                in.fail("a pawn cannot stand on rank " + std::to_string(rank + 1), in.whole());
            Chess::toggle(position, 8 * rank + file, static_cast<Chess::Kind>(kind),
                          black ? Player::Second : Player::First);
            in.pass();
            after_number = false;
            ++file;
        }
        if (rank > 0) in.take('/', "rank " + std::to_string(rank + 1));
    }
}

void require_sides(const arvek::TextReader& in, const Chess::Position& position) {
    for (const Player player : {Player::First, Player::Second}) {
        const std::string name = player == Player::First ? "White" : "Black";
        const auto own = position.of(player);
        const int kings = std::popcount(own & position.of(Chess::King)), pieces = std::popcount(own),
                  pawns = std::popcount(own & position.of(Chess::Pawn));
        if (kings != 1)
            in.fail_as_such(name + " has " + (kings == 0 ? "no king" : std::to_string(kings) + " kings"),
                            "one king of each side");
        if (pieces > 16)
            in.fail_as_such(name + " has " + std::to_string(pieces) + " pieces", "at most 16 of each side");
        if (pawns > 8) in.fail_as_such(name + " has " + std::to_string(pawns) + " pawns", "at most 8 of each side");
    }
}

void read_castling(arvek::TextReader& in, Chess::Position& position) {
    if (in.pass_if('-')) return;
    constexpr std::string_view letters = "KQkq";
    do {
        const std::size_t i = in.one_of(letters, "right to castle, or - for none,");
        const int king = i < 2 ? 4 : 60, rook = king + (i % 2 == 0 ? 3 : -4);
        const Player player = i < 2 ? Player::First : Player::Second;
        const auto own = position.of(player);
        if ((position.of(Chess::King) & own & bit(king)) == 0 || (position.of(Chess::Rook) & own & bit(rook)) == 0)
            in.fail_as_such(std::string("the right to castle '") + letters[i] + "' needs the king on " +
                                square_text(king) + " and a rook on " + square_text(rook),
                            "rights that the position can have");
        if ((position.castling >> i & 1) != 0)
            in.fail_as_such(std::string("the right to castle '") + letters[i] + "' is given twice", in.whole());
        position.castling = static_cast<std::uint8_t>(position.castling | 1 << i);
    } while (!in.at_end() && in.next() != ' ');
}

void read_passed(arvek::TextReader& in, Chess::Position& position) {
    if (in.pass_if('-')) return;
    const auto file = static_cast<int>(in.one_of("abcdefgh", "square that a pawn has passed, or - for none,"));
    const bool white = position.to_move == Player::First;
    const int rank = in.one_of("12345678", "rank of the passed square") == (white ? 5u : 2u) ? (white ? 5 : 2) : -1;
    if (rank < 0)
        in.fail_as_such("the passed square must be on rank " + std::string(white ? "6" : "3") + ", behind a pawn of " +
                            (white ? "Black" : "White"),
                        in.whole());
    const int square = 8 * rank + file, pawn = white ? square - 8 : square + 8, start = white ? square + 8 : square - 8;
    const auto rivals = position.of(arvek::rival_of(position.to_move));
    if ((position.of(Chess::Pawn) & rivals & bit(pawn)) == 0 || (position.occupied() & (bit(square) | bit(start))) != 0)
        in.fail_as_such("no pawn has just passed " + square_text(square), "- where none has");
    position.passed = static_cast<std::uint8_t>(square);
}

/// The operations of an EPD, each a word, what it is about, and ';'. Two of them are the counts of a FEN.
void read_operations(arvek::TextReader& in, Chess::Position& position) {
    const std::string number = "a number from 0 to 9999";
    while (!in.at_end()) {
        std::string name;
        while (!in.at_end() && in.next() != ' ' && in.next() != ';') name += in.pass();
        if (name.empty() || std::isalpha(static_cast<unsigned char>(name.front())) == 0)
            in.fail(in.here() + " is no operation", "a word, such as bm, with what it is about and ;");
        std::string about;
        bool quoted = false;
        while (!in.at_end() && (quoted || in.next() != ';')) {
            if (in.next() == '"') quoted = !quoted;
            about += in.pass();
        }
        if (in.at_end()) in.fail("the operation '" + name + "' has no end", "';'");
        in.take(';', "the operation " + name);
        while (in.pass_if(' ')) {
        }
        if (name != "hmvc" && name != "fmvn") continue;
        const bool digits =
            about.size() > 1 && about.size() <= 5 && about.find_first_not_of("0123456789", 1) == std::string::npos;
        if (!digits) in.fail_as_such("the operation '" + name + "' has no number", number);
        const int counted = std::stoi(about.substr(1));
        if (name == "hmvc")
            position.clock = static_cast<std::uint16_t>(counted);
        else
            position.number = static_cast<std::uint16_t>(std::max(counted, 1));
    }
}

}  // namespace

std::string Chess::position_text(const Position& position) const {
    std::string text;
    for (int rank = 7; rank >= 0; --rank) {
        int empty = 0;
        for (int file = 0; file < 8; ++file) {
            const char letter = letter_of(position, 8 * rank + file);
            if (letter == '.') {
                ++empty;
                continue;
            }
            if (empty > 0) text += std::to_string(std::exchange(empty, 0));
            text += letter;
        }
        if (empty > 0) text += std::to_string(empty);
        if (rank > 0) text += '/';
    }
    text += position.to_move == Player::First ? " w " : " b ";
    for (std::size_t i = 0; i < 4; ++i)
        if ((position.castling >> i & 1) != 0) text += "KQkq"[i];
    if (position.castling == 0) text += '-';
    text += position.passed == no_square ? " -" : " " + square_text(position.passed);
    return text + " " + std::to_string(position.clock) + " " + std::to_string(position.number);
}

Chess::Position Chess::read_position(std::string_view text) const {
    arvek::TextReader in(text, fen_example);
    Position position;
    read_board(in, position);
    require_sides(in, position);
    in.take(' ', "the board");
    position.to_move = in.one_of("wb", "player to move") == 0 ? Player::First : Player::Second;
    in.take(' ', "the player to move");
    read_castling(in, position);
    in.take(' ', "the rights to castle");
    read_passed(in, position);
    if (in.rest().size() > 1 && std::isalpha(static_cast<unsigned char>(in.rest()[1])) != 0) {
        in.take(' ', "the passed square");
        read_operations(in, position);
    } else if (!in.at_end()) {
        in.take(' ', "the passed square");
        position.clock = static_cast<std::uint16_t>(in.number("count of moves without capture or pawn move", 0, 9'999));
        in.take(' ', "the count of moves without capture or pawn move");
        position.number = static_cast<std::uint16_t>(in.number("number of the move", 1, 9'999));
        in.finish("the number of the move");
    }
    position.key ^= key_without_pieces(position);
    settle(position);
    const Player rival = arvek::rival_of(position.to_move);
    const int rivals_king = first_of(position.of(King) & position.of(rival));
    if ((attackers_of(position, rivals_king, position.occupied()) & position.of(position.to_move)) != 0)
        in.fail_as_such(player_name(rival) + " is in check, and yet it is the turn of " + player_name(position.to_move),
                        "a position that can come up in a game");
    return position;
}

std::string Chess::coordinates(const Position&, const Move& move) const {
    std::string text = square_text(move.from()) + square_text(move.to());
    if (move.promotion() != None) text += static_cast<char>(std::tolower(kind_letters[move.promotion()]));
    return text;
}

std::string Chess::move_text(const Position& position, const Move& move) const {
    const Kind kind = position.kind_at(move.from());
    const bool takes = is_capture(position, move);
    std::string text;
    if (kind == King && (move.to() - move.from() == 2 || move.from() - move.to() == 2)) {
        text = move.to() > move.from() ? "O-O" : "O-O-O";
    } else if (kind == Pawn) {
        if (takes) text += {static_cast<char>('a' + file_of(move.from())), 'x'};
        text += square_text(move.to());
        if (move.promotion() != None) text += {'=', kind_letters[move.promotion()]};
    } else {
        text += kind_letters[kind];
        // Which of several: by file if that tells, else by rank, else by both.
        bool others = false, same_file = false, same_rank = false;
        arvek::MoveList<Move> moves;
        generate_moves(position, moves);
        for (const Move& other : moves) {
            if (other.to() != move.to() || other.from() == move.from() || position.kind_at(other.from()) != kind)
                continue;
            others = true;
            same_file = same_file || file_of(other.from()) == file_of(move.from());
            same_rank = same_rank || rank_of(other.from()) == rank_of(move.from());
        }
        const std::string from = square_text(move.from());
        if (others) text += !same_file ? from.substr(0, 1) : !same_rank ? from.substr(1) : from;
        if (takes) text += 'x';
        text += square_text(move.to());
    }
    Position after = position;
    play(after, move);
    if (after.in_check) text += count_moves(after) == 0 ? '#' : '+';
    return text;
}

Chess::Move Chess::read_move(const Position& position, std::string_view given) const {
    arvek::MoveList<Move> moves;
    generate_moves(position, moves);
    const auto names_of = [&](const std::vector<Move>& some) {
        std::vector<std::string> names;
        for (const Move& move : some) names.push_back(move_text(position, move));
        return names;
    };
    const auto refuse = [&](const std::string& problem) {
        throw InputError("move", "'" + std::string(given) + "' " + problem,
                         "a legal move in algebraic notation, such as '" +
                             (moves.empty() ? "e4" : move_text(position, moves[0])) + "', or as coordinates");
    };
    // What only decorates is left out: checks, marks of praise, signs of capture and of promotion.
    std::string text(given);
    while (!text.empty() && std::string_view("+#!?").find(text.back()) != std::string_view::npos) text.pop_back();
    if (text.size() > 4 && (text.ends_with("e.p.") || text.ends_with("ep")))
        text.erase(text.size() - (text.back() == '.' ? 4 : 2));
    if (text == "O-O" || text == "0-0" || text == "o-o" || text == "O-O-O" || text == "0-0-0" || text == "o-o-o") {
        const int king = first_of(position.of(King) & position.of(position.to_move));
        const Move castling(king, text.size() == 3 ? king + 2 : king - 2);
        if (position.kind_at(king) == King && (king == 4 || king == 60) && moves.contains(castling)) return castling;
        refuse("is not legal here");
    }
    std::string bare;
    for (const char letter : text)
        if (std::string_view("x:-=()").find(letter) == std::string_view::npos) bare += letter;

    // A piece, perhaps; squares or parts of them; what a pawn becomes, perhaps.
    const auto read_as = [&](std::string_view rest, Kind kind) -> std::vector<Move> {
        Kind promotion = None;
        if (!rest.empty() && std::isalpha(static_cast<unsigned char>(rest.back())) != 0) {
            const auto at = kind_letters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(rest.back()))));
            if (at == std::string_view::npos || at < Knight || at > Queen) return {};
            promotion = static_cast<Kind>(at);
            rest.remove_suffix(1);
        }
        if (rest.size() < 2 || rest.size() > 4) return {};
        const auto is_square = [](std::string_view two) {
            return two[0] >= 'a' && two[0] <= 'h' && two[1] >= '1' && two[1] <= '8';
        };
        if (!is_square(rest.substr(rest.size() - 2))) return {};
        const int to = 8 * (rest[rest.size() - 1] - '1') + (rest[rest.size() - 2] - 'a');
        rest.remove_suffix(2);
        if (rest.size() == 2 && !is_square(rest)) return {};
        std::vector<Move> found;
        for (const Move& move : moves) {
            const Kind moved = position.kind_at(move.from());
            if (move.to() != to || (kind != None && moved != kind) || move.promotion() != promotion) continue;
            const std::string from = square_text(move.from());
            const bool fits = rest.empty() ? kind != None : std::all_of(rest.begin(), rest.end(), [&](char letter) {
                return from.find(letter) != std::string::npos;
            });
            if (fits) found.push_back(move);
        }
        return found;
    };
    std::vector<Move> found;
    if (!bare.empty() && bare.size() <= 6) {
        const auto piece = kind_letters.find(bare[0]);
        if (piece != std::string_view::npos && piece >= Pawn)
            found = read_as(std::string_view(bare).substr(1), static_cast<Kind>(piece));
        else if (bare.size() >= 4 && std::isdigit(static_cast<unsigned char>(bare[1])) != 0)
            found = read_as(bare, None);  // both squares
        else
            found = read_as(bare, Pawn);
    }
    if (found.size() == 1) return found.front();
    if (found.size() > 1) {
        const auto names = names_of(found);
        throw InputError("move", "'" + std::string(given) + "' can be more than one move", arvek::any_of_text(names));
    }
    refuse("is not a legal move here");
    return {};
}

std::string Chess::drawing(const Position& position) const {
    std::string text;
    for (int rank = 7; rank >= 0; --rank) {
        text += static_cast<char>('1' + rank);
        text += ' ';
        for (int file = 0; file < 8; ++file) {
            text += ' ';
            text += letter_of(position, 8 * rank + file);
        }
        text += '\n';
    }
    text += "   a b c d e f g h\n";
    text += player_name(position.to_move) + " to move" + (position.in_check ? ", in check" : "") + ", move " +
            std::to_string(position.number) + "\n";
    return text;
}

}  // namespace waterway
