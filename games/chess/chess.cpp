#include "chess/chess.hpp"

#include <arvek/arena/files.hpp>
#include <arvek/game/random.hpp>

namespace waterway {

using arvek::index_of;
using arvek::Outcome;
using arvek::Player;
using arvek::rival_of;
using chess::bit;
using chess::first_of;
using chess::for_each;
using chess::rank_of;

namespace {

/// Random numbers for the parts of a position, always the same.
struct ChessKeys {
    std::array<std::array<std::array<std::uint64_t, 64>, 7>, 2> pieces{};
    std::array<std::uint64_t, 16> castling{};
    std::array<std::uint64_t, 8> passed{};
    std::uint64_t black_to_move = 0;

    constexpr ChessKeys() {
        std::uint64_t last = 0x6c6f776d657265;
        const auto next = [&] { return last = arvek::mix_bits(last + 0x9e3779b97f4a7c15u); };
        for (auto& side : pieces)
            for (auto& kind : side)
                for (auto& key : kind) key = next();
        for (auto& key : castling) key = next();
        for (auto& key : passed) key = next();
        black_to_move = next();
    }
};
constexpr ChessKeys chess_keys{};

/// The rights that are left when something moves from or to a square.
constexpr std::array<std::uint8_t, 64> rights_kept = [] {
    std::array<std::uint8_t, 64> kept{};
    kept.fill(15);
    kept[0] = 15 & ~Chess::white_long;
    kept[4] = 15 & ~(Chess::white_short | Chess::white_long);
    kept[7] = 15 & ~Chess::white_short;
    kept[56] = 15 & ~Chess::black_long;
    kept[60] = 15 & ~(Chess::black_short | Chess::black_long);
    kept[63] = 15 & ~Chess::black_short;
    return kept;
}();

std::uint64_t passed_key(int square) { return square == Chess::no_square ? 0 : chess_keys.passed[square & 7]; }

int king_of(const Chess::Position& position, Player player) {
    return first_of(position.of(Chess::King) & position.of(player));
}

/// Whether `by` attacks the square, with the board occupied so.
[[gnu::always_inline]] inline bool is_attacked(const Chess::Position& position, int square, chess::Squares by_pieces,
                                               Player by, chess::Squares occupied) {
    return (chess::pawn_attacks(index_of(rival_of(by)), square) & position.of(Chess::Pawn) & by_pieces) != 0 ||
           (chess::knight_attacks(square) & position.of(Chess::Knight) & by_pieces) != 0 ||
           (chess::bishop_attacks(square, occupied) & position.diagonal_sliders() & by_pieces) != 0 ||
           (chess::rook_attacks(square, occupied) & position.straight_sliders() & by_pieces) != 0 ||
           (chess::king_attacks(square) & position.of(Chess::King) & by_pieces) != 0;
}

/// Whether the pawn on `from` may take in passing without leaving its king in check.
bool may_take_in_passing(const Chess::Position& position, int from, int passed) {
    const Player player = position.to_move, rival = rival_of(player);
    const int taken = player == Player::First ? passed - 8 : passed + 8;
    const chess::Squares occupied = (position.occupied() ^ bit(from) ^ bit(taken)) | bit(passed);
    return !is_attacked(position, king_of(position, player), position.of(rival) & ~bit(taken), rival, occupied);
}

/// Whether any pawn may take on `passed`.
bool can_be_taken_in_passing(const Chess::Position& position, int passed) {
    const Player player = position.to_move;
    bool can = false;
    for_each(chess::pawn_attacks(index_of(rival_of(player)), passed) & position.of(Chess::Pawn) & position.of(player),
             [&](int from) { can = can || may_take_in_passing(position, from, passed); });
    return can;
}

/// The moves as a list.
struct MovesListed {
    Chess::Move* end;

    void piece(int from, chess::Squares to) {
        for_each(to, [&](int square) { *end++ = Chess::Move(from, square); });
    }
    void pawns(chess::Squares to, int step) {
        for_each(to, [&](int square) { *end++ = Chess::Move(square - step, square); });
    }
    void queening(chess::Squares to, int step) {
        for_each(to, [&](int square) { *end++ = Chess::Move(square - step, square, Chess::Queen); });
    }
    void promoting_less(chess::Squares to, int step) {
        for_each(to, [&](int square) {
            for (const auto kind : {Chess::Knight, Chess::Rook, Chess::Bishop})
                *end++ = Chess::Move(square - step, square, kind);
        });
    }
};

/// How many moves there are.
struct MovesCounted {
    int count = 0;

    void piece(int, chess::Squares to) { count += std::popcount(to); }
    void pawns(chess::Squares to, int) { count += std::popcount(to); }
    void queening(chess::Squares to, int) { count += std::popcount(to); }
    void promoting_less(chess::Squares to, int) { count += 3 * std::popcount(to); }
};

/// No position has more moves than 218 if it comes up in a game; with nine queens and more a side it may.
constexpr std::size_t most_moves = 1'024;

}  // namespace

Chess::Chess() : Chess(chess::Weights{}) {}

Chess::Chess(const Parameters& parameters)
    : Chess(parameters.weights.empty()
                ? chess::Weights{}
                : chess::read_weights(arvek::read_text_file(parameters.weights), parameters.weights)) {}

Chess::Chess(const chess::Weights& weights) : weights_(weights), placement_(chess::placement_tables(weights)) {
    start_ = read_position("rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1");
}

void Chess::toggle(Position& position, int square, Kind kind, Player player) {
    const Squares here = bit(square);
    if (player == Player::Second) position.black ^= here;
    for (std::size_t i = 0; i < 3; ++i) position.kinds[i] ^= (Squares{kind} >> i & 1) << square;
    position.key ^= chess_keys.pieces[index_of(player)][kind][static_cast<std::size_t>(square)];
}

std::uint64_t Chess::key_without_pieces(const Position& position) {
    return chess_keys.castling[position.castling] ^ passed_key(position.passed) ^
           (position.to_move == Player::Second ? chess_keys.black_to_move : 0);
}

void Chess::settle(Position& position) {
    const Player player = position.to_move, rival = rival_of(player);
    position.in_check =
        is_attacked(position, king_of(position, player), position.of(rival), rival, position.occupied());
    if (position.passed == no_square || can_be_taken_in_passing(position, position.passed)) return;
    position.key ^= passed_key(position.passed);
    position.passed = no_square;
}

Chess::Squares Chess::attackers_of(const Position& position, int square, Squares occupied) {
    const Squares pawns = position.of(Pawn);
    return (chess::pawn_attacks(1, square) & pawns & ~position.black) |
           (chess::pawn_attacks(0, square) & pawns & position.black) |
           (chess::knight_attacks(square) & position.of(Knight)) | (chess::king_attacks(square) & position.of(King)) |
           (chess::bishop_attacks(square, occupied) & position.diagonal_sliders()) |
           (chess::rook_attacks(square, occupied) & position.straight_sliders());
}

template <Chess::Part P, class Sink>
void Chess::make_moves(const Position& position, Sink& sink) {
    constexpr bool quiet = P != Part::Forcing, forcing = P != Part::Quiet;
    const Player player = position.to_move, rival = rival_of(player);
    const std::size_t side = index_of(player);
    const Squares occupied = position.occupied(), own = position.of(player), others = position.of(rival);
    const int king = first_of(position.of(King) & own);
    const Squares wanted = P == Part::All ? ~own : P == Part::Forcing ? others : ~occupied;

    // The king, to where nothing attacks it once it has left its square.
    Squares king_to = 0;
    for_each(chess::king_attacks(king) & wanted, [&](int to) {
        if (!is_attacked(position, to, others, rival, occupied ^ bit(king))) king_to |= bit(to);
    });
    sink.piece(king, king_to);

    // In check, only what takes the checking piece or stands in its way.
    Squares allowed = ~Squares{0};
    if (position.in_check) {
        const Squares checking = attackers_of(position, king, occupied) & others;
        if ((checking & (checking - 1)) != 0) return;
        allowed = checking | chess::between(king, first_of(checking));
    }
    const Squares targets = wanted & allowed;

    // What stands alone between the king and a rival's piece that would attack along that line.
    Squares pinned = 0;
    for_each(((chess::rook_attacks(king, others) & position.straight_sliders()) |
              (chess::bishop_attacks(king, others) & position.diagonal_sliders())) &
                 others,
             [&](int from) {
                 const Squares blocking = chess::between(king, from) & own;
                 if (blocking != 0 && (blocking & (blocking - 1)) == 0) pinned |= blocking;
             });
    const auto free_of_pin = [&](int from) {
        return (pinned >> from & 1) != 0 ? chess::line_through(king, from) : ~Squares{0};
    };

    for_each(position.of(Knight) & own & ~pinned,
             [&](int from) { sink.piece(from, chess::knight_attacks(from) & targets); });
    for_each(position.diagonal_sliders() & own,
             [&](int from) { sink.piece(from, chess::bishop_attacks(from, occupied) & targets & free_of_pin(from)); });
    for_each(position.straight_sliders() & own,
             [&](int from) { sink.piece(from, chess::rook_attacks(from, occupied) & targets & free_of_pin(from)); });

    if constexpr (quiet) {
        if (!position.in_check && position.castling != 0) {
            const int base = player == Player::First ? 0 : 56;
            const auto is_safe = [&](int square) { return !is_attacked(position, square, others, rival, occupied); };
            if ((position.castling & (player == Player::First ? white_short : black_short)) != 0 &&
                (occupied >> base & 0x60) == 0 && is_safe(base + 5) && is_safe(base + 6))
                sink.piece(king, bit(base + 6));
            if ((position.castling & (player == Player::First ? white_long : black_long)) != 0 &&
                (occupied >> base & 0x0e) == 0 && is_safe(base + 3) && is_safe(base + 2))
                sink.piece(king, bit(base + 2));
        }
    }

    const int forward = player == Player::First ? 8 : -8;
    const Squares last_rank = chess::rank_squares(player == Player::First ? 7 : 0);
    const Squares third_rank = chess::rank_squares(player == Player::First ? 2 : 5);
    const auto pawns_go = [&](Squares pawns, Squares kept_to) {
        const Squares west_step = pawns & ~chess::file_a, east_step = pawns & ~chess::file_h;
        const Squares west = (side == 0 ? west_step << 7 : west_step >> 9) & others & kept_to;
        const Squares east = (side == 0 ? east_step << 9 : east_step >> 7) & others & kept_to;
        const Squares once = chess::pushed(side, pawns) & ~occupied;
        if constexpr (forcing) {
            sink.pawns(west & ~last_rank, forward - 1);
            sink.pawns(east & ~last_rank, forward + 1);
            sink.queening(west & last_rank, forward - 1);
            sink.queening(east & last_rank, forward + 1);
            sink.queening(once & kept_to & last_rank, forward);
        }
        if constexpr (quiet) {
            sink.pawns(once & kept_to & ~last_rank, forward);
            sink.pawns(chess::pushed(side, once & third_rank) & ~occupied & kept_to, 2 * forward);
            sink.promoting_less(west & last_rank, forward - 1);
            sink.promoting_less(east & last_rank, forward + 1);
            sink.promoting_less(once & kept_to & last_rank, forward);
        }
    };
    const Squares pawns = position.of(Pawn) & own;
    pawns_go(pawns & ~pinned, allowed);
    for_each(pawns & pinned, [&](int from) { pawns_go(bit(from), allowed & chess::line_through(king, from)); });
    if constexpr (forcing) {
        if (position.passed != no_square)
            for_each(chess::pawn_attacks(index_of(rival), position.passed) & pawns, [&](int from) {
                if (may_take_in_passing(position, from, position.passed)) sink.piece(from, bit(position.passed));
            });
    }
}

void Chess::generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    moves.append_at_most(most_moves, [&](Move* end) {
        MovesListed listed{end};
        make_moves<Part::All>(position, listed);
        return listed.end;
    });
}

void Chess::generate_forcing_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    moves.append_at_most(most_moves, [&](Move* end) {
        MovesListed listed{end};
        make_moves<Part::Forcing>(position, listed);
        return listed.end;
    });
}

void Chess::generate_quiet_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    moves.append_at_most(most_moves, [&](Move* end) {
        MovesListed listed{end};
        make_moves<Part::Quiet>(position, listed);
        return listed.end;
    });
}

int Chess::count_moves(const Position& position) const {
    MovesCounted counted;
    make_moves<Part::All>(position, counted);
    return counted.count;
}

void Chess::play(Position& position, const Move& move) const {
    const Player player = position.to_move, rival = rival_of(player);
    const int from = move.from(), to = move.to();
    const Kind kind = position.kind_at(from), taken = position.kind_at(to);
    const int passed = position.passed;
    position.key ^= chess_keys.black_to_move ^ passed_key(passed);
    position.passed = no_square;
    ++position.clock;
    if (taken != None) {
        toggle(position, to, taken, rival);
        position.clock = 0;
    }
    toggle(position, from, kind, player);
    toggle(position, to, move.promotion() != None ? move.promotion() : kind, player);
    if (position.castling != 0) {
        const auto rights = static_cast<std::uint8_t>(position.castling & rights_kept[static_cast<std::size_t>(from)] &
                                                      rights_kept[static_cast<std::size_t>(to)]);
        position.key ^= chess_keys.castling[position.castling] ^ chess_keys.castling[rights];
        position.castling = rights;
    }
    if (player == Player::Second) ++position.number;
    position.to_move = rival;
    if (kind == Pawn) {
        position.clock = 0;
        if (to == passed) {
            toggle(position, player == Player::First ? to - 8 : to + 8, Pawn, rival);
        } else if ((from ^ to) == 16) {
            const int square = (from + to) / 2;
            if ((chess::pawn_attacks(index_of(player), square) & position.of(Pawn) & position.of(rival)) != 0 &&
                can_be_taken_in_passing(position, square)) {
                position.passed = static_cast<std::uint8_t>(square);
                position.key ^= passed_key(square);
            }
        }
    } else if (kind == King && (to - from == 2 || from - to == 2)) {
        const int rook_from = to > from ? from + 3 : from - 4, rook_to = (from + to) / 2;
        toggle(position, rook_from, Rook, player);
        toggle(position, rook_to, Rook, player);
    }
    position.in_check =
        is_attacked(position, king_of(position, rival), position.of(player), player, position.occupied());
}

void Chess::play_nothing(Position& position) const {
    position.key ^= chess_keys.black_to_move ^ passed_key(position.passed);
    position.passed = no_square;
    ++position.clock;
    if (position.to_move == Player::Second) ++position.number;
    position.to_move = rival_of(position.to_move);
}

bool Chess::nothing_is_sound(const Position& position) const {
    const Squares pieces = position.of(position.to_move) & ~position.of(Pawn) & ~position.of(King);
    return !position.in_check && std::popcount(pieces) > 1;
}

bool Chess::is_dead(const Position& position) {
    if (position.straight_sliders() != 0 || position.of(Pawn) != 0) return false;
    const Squares minor = position.occupied() & ~position.of(King);
    if (std::popcount(minor) <= 1) return true;
    constexpr Squares light = 0x55aa55aa55aa55aau;
    return position.of(Knight) == 0 && ((minor & light) == 0 || (minor & ~light) == 0);
}

std::optional<Outcome> Chess::rare_outcome(const Position& position) const {
    if (!(can_surely_move(position) && !position.in_check) && count_moves(position) == 0)
        return position.in_check ? Outcome::win(rival_of(position.to_move)) : Outcome::draw();
    if (position.clock >= 100 || is_dead(position)) return Outcome::draw();
    return std::nullopt;
}

}  // namespace waterway
