#pragma once
// Retrograde analysis: every position that can be reached, valued from the ends backwards.
//
// For each payoff v above 0 that some end gives a player, the positions from which that player can force v or more are
// those that are such ends, those of the player with a move to such a position, and those of the rival with only such
// moves. They are found in order of their distance. What neither player can force is worth 0: a draw, or endless play.
// Source: Ströhlein (1970), "Untersuchungen über kombinatorische Spiele"; Thompson (1986), "Retrograde Analysis of
// Certain Endgames".

#include <algorithm>
#include <cstdint>
#include <limits>
#include <vector>

#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek::detail {

template <HashedGame G>
class Retrograde {
   public:
    using Position = typename G::Position;
    using Index = std::uint32_t;

    struct Value {
        Payoff payoff = 0;  ///< for the first player
        int plies = -1;     ///< to the forced end; -1 where nobody forces one
    };

    explicit Retrograde(const G& game) : game_(game) {}

    /// Gathers what can be reached from `start`. False when it takes more than `most_bytes`, or `may_go_on()` says no.
    template <class MayGoOn>
    bool gather(const Position& start, std::size_t most_bytes, MayGoOn may_go_on) {
        find_or_add(start);
        MoveList<typename G::Move> moves;
        for (std::size_t i = 0; i < positions_.size(); ++i) {
            first_edge_.push_back(static_cast<std::uint32_t>(edges_.size()));
            if (i % 4'096 == 0 && (bytes() > most_bytes || !may_go_on(positions_.size()))) return false;
            const Position position = positions_[i];
            if (const auto outcome = game_.outcome(position)) {
                payoff_at_end_.push_back(outcome->payoff(Player::First));
                mover_.push_back(2);
                continue;
            }
            payoff_at_end_.push_back(0);
            mover_.push_back(static_cast<std::uint8_t>(index_of(game_.player_to_move(position))));
            moves.clear();
            game_.generate_moves(position, moves);
            if (moves.empty()) throw_no_move();
            for (const auto& move : moves) {
                Position after = position;
                game_.play(after, move);
                edges_.push_back(find_or_add(after));
            }
        }
        first_edge_.push_back(static_cast<std::uint32_t>(edges_.size()));
        return bytes() <= most_bytes;
    }

    void analyse() {
        values_.assign(positions_.size(), {});
        build_predecessors();
        std::vector<Payoff> sizes;
        for (std::size_t i = 0; i < positions_.size(); ++i)
            if (mover_[i] == ended && payoff_at_end_[i] != 0) sizes.push_back(std::abs(payoff_at_end_[i]));
        std::sort(sizes.begin(), sizes.end());
        sizes.erase(std::unique(sizes.begin(), sizes.end()), sizes.end());
        // From small to large, so that what can be forced to more overwrites.
        for (const Payoff size : sizes)
            for (const Player player : {Player::First, Player::Second}) force(player, size);
    }

    std::size_t size() const { return positions_.size(); }

    /// Requires: gathered and analysed, and a position that was reached.
    Value value_of(const Position& position) const { return values_[slots_[slot_of(position)] - 1]; }

   private:
    static constexpr std::uint8_t ended = 2;

    std::size_t bytes() const {
        // With what building the predecessors and the values will take.
        return positions_.size() * (sizeof(Position) + sizeof(Value) + 32) + edges_.size() * 8 +
               slots_.size() * sizeof(Index);
    }

    std::size_t slot_of(const Position& position) const {
        std::size_t slot = static_cast<std::size_t>(game_.hash(position)) & (slots_.size() - 1);
        while (slots_[slot] != 0 && !(positions_[slots_[slot] - 1] == position))
            slot = (slot + 1) & (slots_.size() - 1);
        return slot;
    }

    Index find_or_add(const Position& position) {
        if (2 * (positions_.size() + 1) > slots_.size()) {
            std::vector<Index>(std::max<std::size_t>(2 * slots_.size(), 1'024), 0).swap(slots_);
            for (std::size_t i = 0; i < positions_.size(); ++i)
                slots_[slot_of(positions_[i])] = static_cast<Index>(i + 1);
        }
        const std::size_t slot = slot_of(position);
        if (slots_[slot] == 0) {
            positions_.push_back(position);
            slots_[slot] = static_cast<Index>(positions_.size());
        }
        return slots_[slot] - 1;
    }

    void build_predecessors() {
        first_predecessor_.assign(positions_.size() + 1, 0);
        for (const Index to : edges_) ++first_predecessor_[to + 1];
        for (std::size_t i = 1; i < first_predecessor_.size(); ++i) first_predecessor_[i] += first_predecessor_[i - 1];
        predecessors_.resize(edges_.size());
        std::vector<std::uint32_t> next(first_predecessor_.begin(), first_predecessor_.end() - 1);
        for (Index from = 0; from < positions_.size(); ++from)
            for (std::uint32_t e = first_edge_[from]; e < first_edge_[from + 1]; ++e)
                predecessors_[next[edges_[e]]++] = from;
    }

    /// Values the positions from which `player` can force `size` or more.
    void force(Player player, Payoff size) {
        const Payoff sign = player == Player::First ? 1 : -1;
        std::vector<std::uint32_t> moves_left(positions_.size());
        std::vector<bool> forced(positions_.size(), false);
        std::vector<Index> layer, next_layer;
        for (Index i = 0; i < positions_.size(); ++i) {
            moves_left[i] = first_edge_[i + 1] - first_edge_[i];
            if (mover_[i] == ended && payoff_at_end_[i] * sign >= size) {
                forced[i] = true;
                values_[i] = {payoff_at_end_[i], 0};
                layer.push_back(i);
            }
        }
        for (int plies = 1; !layer.empty(); ++plies) {
            next_layer.clear();
            for (const Index position : layer)
                for (std::uint32_t e = first_predecessor_[position]; e < first_predecessor_[position + 1]; ++e) {
                    const Index before = predecessors_[e];
                    if (forced[before]) continue;
                    const bool own_move = mover_[before] == index_of(player);
                    if (!own_move && --moves_left[before] > 0) continue;
                    forced[before] = true;
                    values_[before] = {sign * size, plies};
                    next_layer.push_back(before);
                }
            layer.swap(next_layer);
        }
    }

    const G& game_;
    std::vector<Position> positions_;
    std::vector<Index> slots_;  ///< one more than the position's number; 0: free
    std::vector<std::uint32_t> first_edge_, first_predecessor_;
    std::vector<Index> edges_, predecessors_;
    std::vector<Payoff> payoff_at_end_;
    std::vector<std::uint8_t> mover_;
    std::vector<Value> values_;
};

}  // namespace arvek::detail
