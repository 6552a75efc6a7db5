// What a position of chess is worth, and how moves look at a glance.

#include <algorithm>
#include <cmath>

#include "chess/chess.hpp"

namespace waterway {

using arvek::index_of;
using arvek::Player;
using arvek::rival_of;
using chess::bit;
using chess::file_of;
using chess::first_of;
using chess::for_each;
using chess::rank_of;
using chess::Tapered;

namespace chess {

std::span<const WeightName> weight_names() {
    static constexpr std::array<WeightName, 30> names{{
        {"pawn", &Weights::pawn},
        {"knight", &Weights::knight},
        {"bishop", &Weights::bishop},
        {"rook", &Weights::rook},
        {"queen", &Weights::queen},
        {"bishop_pair", &Weights::bishop_pair},
        {"pawn_centre", &Weights::pawn_centre},
        {"pawn_advance", &Weights::pawn_advance},
        {"knight_centre", &Weights::knight_centre},
        {"bishop_centre", &Weights::bishop_centre},
        {"rook_centre", &Weights::rook_centre},
        {"queen_centre", &Weights::queen_centre},
        {"king_centre", &Weights::king_centre},
        {"rook_on_seventh", &Weights::rook_on_seventh},
        {"rook_on_open_file", &Weights::rook_on_open_file},
        {"rook_on_half_open_file", &Weights::rook_on_half_open_file},
        {"knight_mobility", &Weights::knight_mobility},
        {"bishop_mobility", &Weights::bishop_mobility},
        {"rook_mobility", &Weights::rook_mobility},
        {"queen_mobility", &Weights::queen_mobility},
        {"doubled_pawn", &Weights::doubled_pawn},
        {"isolated_pawn", &Weights::isolated_pawn},
        {"backward_pawn", &Weights::backward_pawn},
        {"protected_pawn", &Weights::protected_pawn},
        {"passed_pawn", &Weights::passed_pawn},
        {"free_passed_pawn", &Weights::free_passed_pawn},
        {"shelter_pawn", &Weights::shelter_pawn},
        {"open_file_at_king", &Weights::open_file_at_king},
        {"attack_at_king", &Weights::attack_at_king},
        {"tempo", &Weights::tempo},
    }};
    return names;
}

PlacementTables placement_tables(const Weights& weights) {
    PlacementTables tables{};
    for (int square = 0; square < 64; ++square) {
        const int rank = rank_of(square), file = file_of(square);
        // 3 in the four squares of the centre, -3 in the corners.
        const int from_centre = std::max(std::abs(2 * file - 7), std::abs(2 * rank - 7)) / 2;
        const int beside_centre = (std::abs(2 * file - 7) + std::abs(2 * rank - 7) - 2) / 4;
        const int centre = 3 - from_centre - beside_centre;
        const int file_centre = 2 - std::abs(2 * file - 7) / 2;
        const auto put = [&](Chess::Kind kind, const Tapered& material, const Tapered& placed, int times) {
            Tapered& entry = tables[kind][static_cast<std::size_t>(square)];
            entry = material;
            entry += placed * times;
        };
        put(Chess::Pawn, weights.pawn, weights.pawn_centre,
            rank >= 2 && rank <= 5 ? file_centre : std::min(file_centre, 0));
        tables[Chess::Pawn][static_cast<std::size_t>(square)] += weights.pawn_advance * (rank - 1);
        put(Chess::Knight, weights.knight, weights.knight_centre, centre);
        put(Chess::Bishop, weights.bishop, weights.bishop_centre, centre);
        put(Chess::Rook, weights.rook, weights.rook_centre, file_centre);
        put(Chess::Queen, weights.queen, weights.queen_centre, centre);
        // A king at home likes the corner, and not to leave its rank.
        put(Chess::King, {}, weights.king_centre, rank == 0 && (file <= 2 || file >= 6) ? -3 : centre);
        if (rank == 6) tables[Chess::Rook][static_cast<std::size_t>(square)] += weights.rook_on_seventh;
    }
    return tables;
}

}  // namespace chess

namespace {

using chess::Squares;

constexpr Squares file_squares(int file) { return chess::file_a << file; }
constexpr Squares files_beside(int file) {
    return (file > 0 ? file_squares(file - 1) : 0) | (file < 7 ? file_squares(file + 1) : 0);
}
/// The ranks before a square, as the side sees it.
constexpr Squares ranks_before(std::size_t side, int square) {
    const int rank = rank_of(square);
    if (side == 0) return rank == 7 ? 0 : ~Squares{0} << 8 * (rank + 1);
    return rank == 0 ? 0 : ~Squares{0} >> 8 * (8 - rank);
}

/// What the pieces that are left count towards the middle of a game, 24 at the start.
constexpr std::array<int, 7> phase_of_kind{0, 0, 1, 1, 2, 4, 0};
constexpr int full_phase = 24;

constexpr std::array<int, 7> plain_value{0, 1, 3, 3, 5, 9, 20};

}  // namespace

int Chess::lead_of_mover(const Position& position) const {
    const chess::Weights& w = weights_;
    Tapered sum;
    int phase = 0;
    const Squares occupied = position.occupied(), all_pawns = position.of(Pawn);
    for (const Player player : {Player::First, Player::Second}) {
        const std::size_t side = index_of(player);
        const Squares own = position.of(player), others = position.of(rival_of(player));
        const Squares pawns = all_pawns & own, rival_pawns = all_pawns & others;
        const Squares guarded = chess::attacked_by_pawns(1 - side, rival_pawns);
        const Squares reachable = ~own & ~guarded;
        const int rivals_king = first_of(position.of(King) & others);
        const Squares at_rivals_king = chess::king_attacks(rivals_king);
        const int mirrored = side == 0 ? 0 : 56;
        Tapered own_sum;
        int attacks = 0;
        const auto place = [&](Kind kind, int square) {
            own_sum += placement_[kind][static_cast<std::size_t>(square ^ mirrored)];
            phase += phase_of_kind[kind];
        };
        for_each(position.of(Knight) & own, [&](int square) {
            place(Knight, square);
            const Squares reached = chess::knight_attacks(square);
            own_sum += w.knight_mobility * (std::popcount(reached & reachable) - 4);
            attacks += std::popcount(reached & at_rivals_king);
        });
        const Squares bishops = position.of(Bishop) & own;
        if ((bishops & (bishops - 1)) != 0) own_sum += w.bishop_pair;
        for_each(bishops, [&](int square) {
            place(Bishop, square);
            const Squares reached = chess::bishop_attacks(square, occupied);
            own_sum += w.bishop_mobility * (std::popcount(reached & reachable) - 6);
            attacks += std::popcount(reached & at_rivals_king);
        });
        for_each(position.of(Rook) & own, [&](int square) {
            place(Rook, square);
            const Squares reached = chess::rook_attacks(square, occupied);
            own_sum += w.rook_mobility * (std::popcount(reached & reachable) - 7);
            attacks += std::popcount(reached & at_rivals_king);
            const Squares file = file_squares(file_of(square));
            if ((file & pawns) == 0)
                own_sum += (file & rival_pawns) == 0 ? w.rook_on_open_file : w.rook_on_half_open_file;
        });
        for_each(position.of(Queen) & own, [&](int square) {
            place(Queen, square);
            const Squares reached = chess::bishop_attacks(square, occupied) | chess::rook_attacks(square, occupied);
            own_sum += w.queen_mobility * (std::popcount(reached & reachable) - 13);
            attacks += std::popcount(reached & at_rivals_king);
        });
        // More attacks at once are worse than one after another.
        own_sum += -(w.attack_at_king * (attacks * (attacks + 3) / 4));

        const Squares protecting = chess::attacked_by_pawns(side, pawns);
        for_each(pawns, [&](int square) {
            place(Pawn, square);
            const int file = file_of(square);
            const Squares before = ranks_before(side, square), beside = files_beside(file);
            if ((before & file_squares(file) & pawns) != 0) own_sum += w.doubled_pawn;
            if ((protecting & bit(square)) != 0)
                own_sum += w.protected_pawn;
            else if ((beside & pawns) == 0)
                own_sum += w.isolated_pawn;
            else if ((beside & pawns & ~before) == 0)
                own_sum += w.backward_pawn;
            if ((before & (beside | file_squares(file)) & rival_pawns) == 0 &&
                (before & file_squares(file) & pawns) == 0) {
                const int gone = rank_of(square ^ mirrored) - 1;
                own_sum += w.passed_pawn * (gone * gone);
                if ((chess::pushed(side, bit(square)) & occupied) == 0) own_sum += w.free_passed_pawn * (gone * gone);
            }
        });

        const int king = first_of(position.of(King) & own);
        place(King, king);
        const Squares shelter_files = file_squares(file_of(king)) | files_beside(file_of(king));
        const Squares next = chess::pushed(side, chess::rank_squares(rank_of(king)));
        own_sum += w.shelter_pawn * std::popcount(shelter_files & pawns & (next | chess::pushed(side, next)));
        for (int file = std::max(0, file_of(king) - 1); file <= std::min(7, file_of(king) + 1); ++file)
            if ((file_squares(file) & pawns) == 0) own_sum += w.open_file_at_king;

        if (player == position.to_move) {
            own_sum += w.tempo;
            sum += own_sum;
        } else {
            sum += -own_sum;
        }
    }
    phase = std::min(phase, full_phase);
    int lead = (sum.middle * phase + sum.end * (full_phase - phase)) / full_phase;
    // Without pawns, a piece more is hardly ever enough.
    const Squares ahead = position.of(lead > 0 ? position.to_move : rival_of(position.to_move));
    if ((all_pawns & ahead) == 0 && phase <= 6) {
        const Squares major = position.straight_sliders();
        const int pieces_ahead = std::popcount(ahead & ~position.of(King) & ~all_pawns);
        if ((major & ahead) == 0 && pieces_ahead <= 1) lead /= 8;
    }
    return lead;
}

int Chess::order_hint(const Position& position, const Move& move) const {
    const Kind kind = position.kind_at(move.from());
    int hint = move.promotion() == Queen ? 8 * 8 : move.promotion() != None ? -1 : 0;
    Kind taken = position.kind_at(move.to());
    if (taken == None && kind == Pawn && move.to() == position.passed) taken = Pawn;
    if (taken == None) return hint;
    // The most valuable first, by the least valuable. What is lost at once by a pawn that takes back waits.
    const int gain = plain_value[taken], risk = plain_value[kind];
    const Squares guards = chess::pawn_attacks(index_of(position.to_move), move.to()) & position.of(Pawn) &
                           position.of(rival_of(position.to_move));
    if (gain < risk && guards != 0) return -1;
    return hint + 8 * gain - kind + 8;
}

arvek::LevelChange Chess::level_change(int level) const {
    if (level == 1) return {.overlooks = 0.72, .sees_wins = 0.1};
    return {};
}

double Chess::salience(const Position& position, const Move& move) const {
    const Kind kind = position.kind_at(move.from());
    const bool takes = is_capture(position, move);
    // On a full board even a piece that can be taken is easily missed.
    double salience = kind == Pawn || kind == King ? 0.13 : 0.16;
    if (takes) salience = 0.19 + 0.015 * plain_value[position.kind_at(move.to())];
    if (move.promotion() == Queen) salience = 0.7;
    // What lies next to a piece is seen sooner than what is far across the board, forward sooner than backward.
    const int files = std::abs(file_of(move.to()) - file_of(move.from()));
    const int ranks = rank_of(move.to()) - rank_of(move.from());
    const int forward = position.to_move == Player::First ? ranks : -ranks;
    salience -= 0.02 * std::max(files, std::abs(ranks));
    if (forward < 0) salience -= 0.08;
    if (kind == Knight) salience -= 0.04;
    // Saving what is attacked by something lesser stands out, too.
    if (!takes && plain_value[kind] >= 3) {
        const Squares rivals = position.of(rival_of(position.to_move));
        if ((attackers_of(position, move.from(), position.occupied()) & rivals & position.of(Pawn)) != 0)
            salience += 0.15;
    }
    Position after = position;
    play(after, move);
    if (after.in_check) salience += 0.15;
    return std::clamp(salience, 0.0, 1.0);
}

}  // namespace waterway
