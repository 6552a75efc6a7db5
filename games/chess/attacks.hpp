#pragma once
// Where the pieces of chess reach, as sets of squares: one bit a square, a1 the lowest, then b1, up to h8.
//
// Lines are found by subtraction: the first piece in the way takes the borrow, and the other direction is the same with
// the bytes turned round, which mirrors the ranks.

#include <array>
#include <bit>
#include <cstddef>
#include <cstdint>
#include <utility>

namespace waterway::chess {

using Squares = std::uint64_t;

constexpr Squares bit(int square) { return Squares{1} << square; }
constexpr int first_of(Squares squares) { return std::countr_zero(squares); }
constexpr int rank_of(int square) { return square >> 3; }
constexpr int file_of(int square) { return square & 7; }

inline constexpr Squares file_a = 0x0101010101010101u, file_h = file_a << 7, rank_1 = 0xff;

constexpr Squares rank_squares(int rank) { return rank_1 << (8 * rank); }

/// Calls `visit(square)` for each of the squares.
template <class Visit>
constexpr void for_each(Squares squares, Visit visit) {
    for (; squares != 0; squares &= squares - 1) visit(first_of(squares));
}

namespace detail {

using Step = std::pair<int, int>;  // files, ranks

constexpr Squares steps_from(int square, const auto& steps) {
    Squares reached = 0;
    for (const auto& [files, ranks] : steps) {
        const int file = file_of(square) + files, rank = rank_of(square) + ranks;
        if (file >= 0 && file < 8 && rank >= 0 && rank < 8) reached |= bit(8 * rank + file);
    }
    return reached;
}

constexpr Squares ray_from(int square, int files, int ranks) {
    Squares ray = 0;
    int file = file_of(square) + files, rank = rank_of(square) + ranks;
    for (; file >= 0 && file < 8 && rank >= 0 && rank < 8; file += files, rank += ranks) ray |= bit(8 * rank + file);
    return ray;
}

/// The lines through a square, without it.
struct Lines {
    Squares file, diagonal, antidiagonal;
};

struct Tables {
    std::array<Squares, 64> knight{}, king{};
    std::array<std::array<Squares, 64>, 2> pawn{};              // what a pawn of White, of Black attacks
    std::array<Lines, 64> lines{};                              //
    std::array<std::array<std::uint8_t, 64>, 8> along_rank{};   // by file and the six inner squares
    std::array<std::array<Squares, 64>, 64> between{}, line{};  // of two squares on one line; else empty

    constexpr Tables() {
        constexpr std::array<Step, 8> knight_steps{
            {{1, 2}, {2, 1}, {2, -1}, {1, -2}, {-1, -2}, {-2, -1}, {-2, 1}, {-1, 2}}};
        constexpr std::array<Step, 8> king_steps{
            {{0, 1}, {1, 1}, {1, 0}, {1, -1}, {0, -1}, {-1, -1}, {-1, 0}, {-1, 1}}};
        constexpr std::array<Step, 2> white{{{-1, 1}, {1, 1}}}, black{{{-1, -1}, {1, -1}}};
        for (int square = 0; square < 64; ++square) {
            const auto at = static_cast<std::size_t>(square);
            knight[at] = steps_from(square, knight_steps);
            king[at] = steps_from(square, king_steps);
            pawn[0][at] = steps_from(square, white);
            pawn[1][at] = steps_from(square, black);
            lines[at] = {ray_from(square, 0, 1) | ray_from(square, 0, -1),
                         ray_from(square, 1, 1) | ray_from(square, -1, -1),
                         ray_from(square, 1, -1) | ray_from(square, -1, 1)};
            for (const auto& [files, ranks] : king_steps) {
                const Squares ray = ray_from(square, files, ranks);
                Squares passed = 0;
                for (int other = square;;) {
                    const int file = file_of(other) + files, rank = rank_of(other) + ranks;
                    if (file < 0 || file > 7 || rank < 0 || rank > 7) break;
                    other = 8 * rank + file;
                    between[at][static_cast<std::size_t>(other)] = passed;
                    line[at][static_cast<std::size_t>(other)] = ray | ray_from(square, -files, -ranks) | bit(square);
                    passed |= bit(other);
                }
            }
        }
        for (int file = 0; file < 8; ++file)
            for (int inner = 0; inner < 64; ++inner) {
                const int occupied = inner << 1;
                int reached = 0;
                for (int f = file + 1; f < 8; ++f) {
                    reached |= 1 << f;
                    if ((occupied >> f & 1) != 0) break;
                }
                for (int f = file - 1; f >= 0; --f) {
                    reached |= 1 << f;
                    if ((occupied >> f & 1) != 0) break;
                }
                along_rank[static_cast<std::size_t>(file)][static_cast<std::size_t>(inner)] =
                    static_cast<std::uint8_t>(reached);
            }
    }
};

inline constexpr Tables tables{};

constexpr Squares along(Squares line, Squares occupied, int square) {
    Squares forward = occupied & line;
    Squares backward = __builtin_bswap64(forward);
    forward -= bit(square);
    backward -= __builtin_bswap64(bit(square));
    return (forward ^ __builtin_bswap64(backward)) & line;
}

}  // namespace detail

constexpr Squares knight_attacks(int square) { return detail::tables.knight[static_cast<std::size_t>(square)]; }
constexpr Squares king_attacks(int square) { return detail::tables.king[static_cast<std::size_t>(square)]; }
/// What a pawn attacks; `side` 0 is White.
constexpr Squares pawn_attacks(std::size_t side, int square) {
    return detail::tables.pawn[side][static_cast<std::size_t>(square)];
}

constexpr Squares bishop_attacks(int square, Squares occupied) {
    const detail::Lines& lines = detail::tables.lines[static_cast<std::size_t>(square)];
    return detail::along(lines.diagonal, occupied, square) | detail::along(lines.antidiagonal, occupied, square);
}

constexpr Squares rook_attacks(int square, Squares occupied) {
    const int start = square & 56;
    const auto inner = static_cast<std::size_t>(occupied >> (start + 1) & 63);
    const Squares rank = Squares{detail::tables.along_rank[static_cast<std::size_t>(square & 7)][inner]} << start;
    return rank | detail::along(detail::tables.lines[static_cast<std::size_t>(square)].file, occupied, square);
}

/// The squares strictly between two squares of one line; none where they share none.
constexpr Squares between(int one, int other) {
    return detail::tables.between[static_cast<std::size_t>(one)][static_cast<std::size_t>(other)];
}
/// The whole line through two squares; none where they share none.
constexpr Squares line_through(int one, int other) {
    return detail::tables.line[static_cast<std::size_t>(one)][static_cast<std::size_t>(other)];
}

/// Where the pawns of a side stand one square further; `side` 0 is White.
constexpr Squares pushed(std::size_t side, Squares pawns) { return side == 0 ? pawns << 8 : pawns >> 8; }
/// What the pawns of a side attack.
constexpr Squares attacked_by_pawns(std::size_t side, Squares pawns) {
    const Squares west = pawns & ~file_a, east = pawns & ~file_h;
    return side == 0 ? west << 7 | east << 9 : west >> 9 | east >> 7;
}

}  // namespace waterway::chess
