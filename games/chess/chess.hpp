#pragma once
// Chess: the standard game.
//
// Moves are written in standard algebraic notation (SAN) and read in it or as coordinates ("Nf3", "g1f3", "e7e8q");
// positions are written in Forsyth-Edwards notation (FEN). Draws: stalemate, the third occurrence of a position, fifty
// moves of each side without capture or pawn move, and dead material (no pawn, rook or queen, and one minor piece at most,
// or bishops on one colour alone).
//
// The square that a pawn has passed is kept only where a pawn can take it there, so that positions with the same moves
// are equal; a FEN that names it needlessly is read all the same.

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include <arvek/game/board.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/level_change.hpp>
#include <arvek/game/null_move.hpp>
#include <arvek/game/ordering.hpp>
#include <arvek/game/repetition.hpp>
#include <arvek/game/salience.hpp>
#include <arvek/game/take_back.hpp>

#include "chess/attacks.hpp"
#include "chess/weights.hpp"

namespace waterway {

class Chess {
   public:
    using Squares = chess::Squares;

    struct Parameters {
        std::string weights;  ///< the path of a file of weights for the evaluation; empty: the usual ones
    };

    /// The kinds of pieces. Together with the side they fill four bits, one in each of the boards of a position.
    enum Kind : std::uint8_t { None = 0, Pawn = 1, Knight = 2, Bishop = 3, Rook = 4, Queen = 5, King = 6 };

    static constexpr std::uint8_t white_short = 1, white_long = 2, black_short = 4, black_long = 8;
    static constexpr int no_square = 64;

    struct Position {
        Squares black = 0;                ///< where Black's pieces are
        std::array<Squares, 3> kinds{};   ///< the bits of the kinds of the pieces
        std::uint64_t key = 0;            ///< of pieces, player to move, castling and the passed square
        std::uint16_t clock = 0;          ///< moves of either side since a capture or pawn move
        std::uint16_t number = 1;         ///< of the move, counted up after Black's
        std::uint8_t castling = 0;        ///< rights: white_short and so on
        std::uint8_t passed = no_square;  ///< where a pawn can be taken in passing
        arvek::Player to_move = arvek::Player::First;
        bool in_check = false;

        Squares occupied() const { return kinds[0] | kinds[1] | kinds[2]; }
        Squares of(arvek::Player player) const { return player == arvek::Player::First ? occupied() & ~black : black; }
        Squares of(Kind kind) const {
            const auto& [a, b, c] = kinds;
            switch (kind) {
                case Pawn: return a & ~b & ~c;
                case Knight: return ~a & b & ~c;
                case Bishop: return a & b;
                case Rook: return ~a & c & ~b;
                case Queen: return a & c;
                case King: return b & c;
                case None: break;
            }
            return 0;
        }
        Squares diagonal_sliders() const { return kinds[0] & (kinds[1] | kinds[2]); }
        Squares straight_sliders() const { return kinds[2] & ~kinds[1]; }
        /// The kind of the piece on a square, None where it is empty.
        Kind kind_at(int square) const {
            return static_cast<Kind>((kinds[0] >> square & 1) | (kinds[1] >> square & 1) << 1 |
                                     (kinds[2] >> square & 1) << 2);
        }

        friend bool operator==(const Position&, const Position&) = default;
    };

    /// From, to, and what a pawn becomes. Castling is the king's move by two squares.
    struct Move {
        std::uint16_t code = 0;

        constexpr Move() = default;
        constexpr Move(int from, int to, Kind promotion = None)
            : code(static_cast<std::uint16_t>(from | to << 6 | promotion << 12)) {}
        constexpr int from() const { return code & 63; }
        constexpr int to() const { return code >> 6 & 63; }
        constexpr Kind promotion() const { return static_cast<Kind>(code >> 12); }

        friend bool operator==(const Move&, const Move&) = default;
    };

    Chess();
    /// Throws arvek::InputError for a file of weights that cannot be read.
    explicit Chess(const Parameters& parameters);
    /// An evaluation of one's own.
    explicit Chess(const chess::Weights& weights);

    Position initial_position() const { return start_; }
    arvek::Player player_to_move(const Position& position) const { return position.to_move; }

    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    /// Captures and queening.
    void generate_forcing_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    /// All others.
    void generate_quiet_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    /// How many legal moves there are.
    int count_moves(const Position& position) const;

    void play(Position& position, const Move& move) const;

    std::optional<arvek::Outcome> outcome(const Position& position) const {
        // With a pawn that can move, material is not dead either.
        if (!position.in_check && position.clock < 100 && can_surely_move(position)) return std::nullopt;
        return rare_outcome(position);
    }

    /// The hash leaves out the clock until the fiftieth move comes near, and the number of the move.
    std::uint64_t hash(const Position& position) const {
        constexpr int near_the_end = 80;
        return position.clock < near_the_end ? position.key : position.key ^ arvek::mix_bits(position.clock);
    }

    int draw_at_occurrence() const { return 3; }
    std::uint64_t repetition_key(const Position& position) const { return position.key; }

    /// In hundredths of a pawn.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        const int lead = lead_of_mover(position);
        return arvek::Score::estimate(player == position.to_move ? lead : -lead);
    }

    int order_hint(const Position& position, const Move& move) const;
    double salience(const Position& position, const Move& move) const;
    /// Random moves hardly ever mate, so the lowest levels are let down further than in other games.
    arvek::LevelChange level_change(int level) const;

    /// Sound unless in check, or with pawns alone, where having to move may be bad.
    void play_nothing(Position& position) const;
    bool nothing_is_sound(const Position& position) const;

    /// FEN.
    std::string position_text(const Position& position) const;
    /// FEN, whose counts may be left out, or EPD, of whose operations hmvc and fmvn count and the others are passed over.
    Position read_position(std::string_view text) const;
    /// SAN, with + and #.
    std::string move_text(const Position& position, const Move& move) const;
    /// SAN, strictly or loosely, or coordinates. Throws InputError for what is no legal move, or more than one.
    Move read_move(const Position& position, std::string_view text) const;
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const { return player == arvek::Player::First ? "White" : "Black"; }

    /// From, to and the letter of what a pawn becomes: "e2e4", "e7e8q".
    std::string coordinates(const Position& position, const Move& move) const;

    const chess::Weights& weights() const { return weights_; }

    /// What attacks a square, of both sides, with the board occupied so.
    static Squares attackers_of(const Position& position, int square, Squares occupied);
    /// Whether a move takes something.
    static bool is_capture(const Position& position, const Move& move) {
        return (position.occupied() >> move.to() & 1) != 0 ||
               (move.to() == position.passed && position.kind_at(move.from()) == Pawn);
    }
    /// Puts a piece on an empty square, or takes it away from where it stands; the key with it.
    static void toggle(Position& position, int square, Kind kind, arvek::Player player);
    /// The key of a position without its pieces.
    static std::uint64_t key_without_pieces(const Position& position);
    /// What must hold in every position that comes up in a game, beyond the counts of its text: the passed square only
    /// where it can be used, whether the player to move is in check.
    static void settle(Position& position);

   private:
    enum class Part { All, Forcing, Quiet };
    template <Part P, class Sink>
    static void make_moves(const Position& position, Sink& sink);

    static bool can_surely_move(const Position& position) {
        // A pawn that does not stand on a line with its king cannot be pinned.
        const arvek::Player player = position.to_move;
        const Squares own = position.of(player), occupied = position.occupied();
        const int king = chess::first_of(own & position.of(King));
        const auto& lines = chess::detail::tables.lines[static_cast<std::size_t>(king)];
        const Squares free =
            position.of(Pawn) & own &
            ~(lines.file | lines.diagonal | lines.antidiagonal | chess::rank_squares(chess::rank_of(king)));
        return (chess::pushed(arvek::index_of(player), free) & ~occupied) != 0;
    }
    static bool is_dead(const Position& position);
    std::optional<arvek::Outcome> rare_outcome(const Position& position) const;
    /// What the player to move is ahead by, in hundredths of a pawn.
    int lead_of_mover(const Position& position) const;

    chess::Weights weights_;
    chess::PlacementTables placement_;
    Position start_;
};

}  // namespace waterway
