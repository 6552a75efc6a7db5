#pragma once
// A full search as a good programmer would write it for one game: deepening, a scout, a table, killers and history. No
// limits, no lines, no ranking, no repetition, no counters but the nodes. Over the game's own functions, so that what is
// compared is the search; compiled for one game, with all of them in its loop. The measure for the standard search.

#include <algorithm>
#include <array>
#include <cstdint>
#include <cstdlib>
#include <vector>

#include <arvek/game/evaluation.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/ordering.hpp>

namespace bench {

/// `Squares`: a move is one byte below it.
template <class G, int Squares, bool UsesHint>
class HandWrittenSearch {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    static_assert(sizeof(Move) == 1);

    explicit HandWrittenSearch(const G& game) : game_(game), table_(std::size_t{1} << 20) {}

    /// The value for the side to move, by deepening up to `depth`.
    int solve(const Position& position, int depth) {
        ++decision_;  // what earlier ones left is nothing
        killers_ = {};
        history_ = {};
        nodes_ = 0;
        int value = 0;
        for (int d = 1; d <= depth; ++d) {
            ++nodes_;
            value = visit(position, d, 0, -limit, limit);
        }
        return value;
    }

    std::uint64_t nodes() const { return nodes_; }

   private:
    static constexpr int limit = 2'100'000'000, proven = 900'000'000;
    static constexpr int most_moves = 64, most_plies = 64;

    enum : std::uint8_t { Lower, Upper, Exact };
    struct Entry {
        std::uint64_t hash = 0;
        std::int32_t score = 0;
        std::uint8_t depth = 0, bound = Lower, move = 255, decision = 0;
    };

    static int byte_of(const Move& move) {
        std::uint8_t byte;
        std::memcpy(&byte, &move, 1);
        return byte;
    }

    int visit(const Position& position, int depth, int ply, int alpha, const int beta) {
        const int alpha_before = alpha;
        const arvek::Player player = game_.player_to_move(position);
        const int side = static_cast<int>(player);
        int table_move = 255;
        std::uint64_t hash = 0;
        Entry* entry = nullptr;
        if (depth > 1) {
            hash = game_.hash(position);
            entry = &table_[hash & (table_.size() - 1)];
            if (entry->hash == hash && entry->decision == decision_) {
                table_move = entry->move;
                const int score = entry->score > proven    ? entry->score - ply
                                  : entry->score < -proven ? entry->score + ply
                                                           : entry->score;
                if (ply > 0 && entry->depth >= depth &&
                    (entry->bound == Exact || (entry->bound == Lower && score >= beta) ||
                     (entry->bound == Upper && score <= alpha)))
                    return score;
            }
        }
        auto& moves = moves_[ply];
        moves.clear();
        game_.generate_moves(position, moves);
        const int count = static_cast<int>(moves.size());
        std::array<int, most_moves> keys;
        const auto& killers = killers_[ply][side];
        for (int i = 0; i < count; ++i) {
            const int byte = byte_of(moves[i]);
            int key = history_[side][byte];
            if (byte == killers[0]) key += 1 << 15;
            if (byte == killers[1]) key += 1 << 14;
            if constexpr (UsesHint) key += game_.order_hint(position, moves[i]) << 17;
            if (byte == table_move) key = 1 << 30;
            keys[i] = key;
        }
        int best = -limit, best_move = 255;
        for (int i = 0; i < count; ++i) {
            int at = i;
            for (int j = i + 1; j < count; ++j) at = keys[j] > keys[at] ? j : at;
            std::swap(keys[i], keys[at]);
            std::swap(moves[i], moves[at]);
            Position next = position;
            game_.play(next, moves[i]);
            ++nodes_;
            int score;
            if (const auto outcome = game_.outcome(next)) {
                const int payoff = static_cast<int>(outcome->payoff(player));
                score = payoff == 0
                            ? 0
                            : 10'000 * payoff + (payoff > 0 ? 1'000'000'000 - ply - 1 : ply + 1 - 1'000'000'000);
            } else if (depth == 1) {
                score = game_.evaluate(next, player).number();
            } else if (game_.player_to_move(next) == player) {
                score = i == 0 ? visit(next, depth - 1, ply + 1, alpha, beta)
                               : visit(next, depth - 1, ply + 1, alpha, alpha + 1);
                if (i > 0 && score > alpha && score < beta) score = visit(next, depth - 1, ply + 1, alpha, beta);
            } else {
                score = i == 0 ? -visit(next, depth - 1, ply + 1, -beta, -alpha)
                               : -visit(next, depth - 1, ply + 1, -alpha - 1, -alpha);
                if (i > 0 && score > alpha && score < beta) score = -visit(next, depth - 1, ply + 1, -beta, -alpha);
            }
            if (score <= best) continue;
            best = score;
            if (score <= alpha) continue;
            alpha = score;
            best_move = byte_of(moves[i]);
            if (alpha < beta) continue;
            if (killers[0] != best_move) killers_[ply][side] = {best_move, killers[0]};
            note(history_[side][best_move], depth * depth);
            for (int j = 0; j < i; ++j) note(history_[side][byte_of(moves[j])], -depth * depth);
            break;
        }
        if (entry != nullptr) {
            entry->hash = hash;
            entry->score = best > proven ? best + ply : best < -proven ? best - ply : best;
            entry->depth = static_cast<std::uint8_t>(depth);
            entry->bound = best >= beta ? Lower : best > alpha_before ? Exact : Upper;
            entry->decision = decision_;
            entry->move = static_cast<std::uint8_t>(best > alpha_before ? best_move : table_move);
        }
        return best;
    }

    static void note(int& count, int change) { count += change - count * std::abs(change) / (1 << 14); }

    const G& game_;
    std::vector<Entry> table_;
    std::array<arvek::MoveList<Move>, most_plies> moves_;
    std::array<std::array<std::array<int, 2>, 2>, most_plies> killers_{};
    std::array<std::array<int, Squares>, 2> history_{};
    std::uint64_t nodes_ = 0;
    std::uint8_t decision_ = 0;
};

}  // namespace bench
