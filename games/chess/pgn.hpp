#pragma once
// Games of chess as text: Portable Game Notation (PGN), as its standard of 1994 has it.
//
//   for (const waterway::PgnGame& game : waterway::read_pgn(chess, text, "club.pgn")) ...
//   out << waterway::pgn_text(chess, game);
//
// Moves are read loosely and written strictly. Comments are kept; variations and numeric marks are passed over, whatever
// stands in them.

#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "chess/chess.hpp"

namespace waterway {

struct PgnGame {
    std::vector<std::pair<std::string, std::string>> tags{};  ///< in their order: {"Event", "Wharf cup"}
    Chess::Position start{};                                  ///< of the tag FEN, or the initial position
    std::vector<Chess::Move> moves{};
    /// What is said after so many moves; 0: before the first.
    std::vector<std::pair<std::size_t, std::string>> comments{};
    std::string result = "*";  ///< "1-0", "0-1", "1/2-1/2", or "*": not known

    /// The value of a tag; empty where there is none.
    std::string_view tag(std::string_view name) const;

    friend bool operator==(const PgnGame&, const PgnGame&) = default;
};

/// Every game of the text. Throws arvek::InputError, which names `source`, the line and the column, for what is no PGN and
/// for a move that is not legal.
std::vector<PgnGame> read_pgn(const Chess& chess, std::string_view text, std::string_view source);

/// One game: the seven tags that each has, filled with "?" where they are not given, then the others, FEN where the
/// start is not the usual one, and the moves in lines of up to 79 letters.
std::string pgn_text(const Chess& chess, const PgnGame& game);

}  // namespace waterway
