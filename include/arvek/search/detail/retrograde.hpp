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
#include <cstdlib>
#include <deque>
#include <limits>
#include <optional>
#include <vector>

#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/position_store.hpp"

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

    /// Uses at most `most_bytes`; asks the budget a node for each position and each step of the analysis. `start_is_draw`:
    /// whether coming back to the start ends the game; its own value then follows from those of its moves.
    Retrograde(const G& game, Budget& budget, std::size_t most_bytes, bool start_is_draw = false)
        : game_(game), budget_(budget), most_bytes_(most_bytes), start_is_draw_(start_is_draw) {}

    /// Gathers what can be reached from `start` and values all of it. False when it takes more memory, or the budget
    /// says that it must end. `progress(positions)` is called from time to time.
    template <class Progress>
    bool solve(const Position& start, Progress progress) {
        if (!find_or_add(start)) return false;
        MoveList<typename G::Move> moves;
        for (std::size_t i = 0; i < positions_.size(); ++i) {
            if (!budget_.spend_node() || !has_room()) return false;
            if (i % positions_between_reports == 0) progress(positions_.size());
            first_edge_.push_back(static_cast<Edge>(edges_.size()));
            const Position position = positions_[i];
            if (const auto outcome = game_.outcome(position)) {
                require_zero_sum(*outcome);
                payoff_at_end_.push_back(outcome->payoff(Player::First));
                mover_.push_back(ended);
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
                const auto index = find_or_add(after);
                if (!index) return false;
                edges_.push_back(*index);
            }
        }
        first_edge_.push_back(static_cast<Edge>(edges_.size()));
        if (!has_room()) return false;
        values_.assign(positions_.size(), {});
        if (!build_predecessors()) return false;
        std::vector<Payoff> sizes;
        for (std::size_t i = 0; i < positions_.size(); ++i)
            if (mover_[i] == ended && payoff_at_end_[i] != 0) {
                const Payoff size = std::abs(payoff_at_end_[i]);
                const auto at = std::lower_bound(sizes.begin(), sizes.end(), size);
                if (at == sizes.end() || *at != size) sizes.insert(at, size);
            }
        // From small to large, so that what can be forced to more overwrites.
        for (const Payoff size : sizes)
            for (const Player player : {Player::First, Player::Second})
                if (!force(player, size)) return false;
        return true;
    }

    std::size_t size() const { return positions_.size(); }

    /// Requires: solved, and a position that was reached.
    Value value_of(const Position& position) const { return values_[slots_[slot_of(position)] - 1]; }

   private:
    static constexpr std::uint8_t ended = 2;

    /// What is held now and what valuing it all will take.
    std::size_t bytes() const {
        const std::size_t of_position = positions_.bytes_each() + sizeof(Edge) + sizeof(Payoff) + 1 +  // gathered
                                        sizeof(Value) + 2 * sizeof(Edge) +                             // valued
                                        sizeof(std::uint32_t) + 2 * sizeof(Index) + 1;                 // forced
        return positions_.size() * of_position + edges_.size() * 2 * sizeof(Index) + slots_.size() * sizeof(Index);
    }
    bool has_room() const {
        return bytes() <= most_bytes_ && positions_.size() < std::numeric_limits<Index>::max() - 1 &&
               edges_.size() < std::numeric_limits<Edge>::max() - (1u << 20);
    }

    std::size_t slot_of(const Position& position) const {
        std::size_t slot = static_cast<std::size_t>(game_.hash(position)) & (slots_.size() - 1);
        while (slots_[slot] != 0 && !positions_.is(slots_[slot] - 1, position)) slot = (slot + 1) & (slots_.size() - 1);
        return slot;
    }

    /// Nothing where there is no memory for one more.
    std::optional<Index> find_or_add(const Position& position) {
        if (2 * (positions_.size() + 1) > slots_.size()) {
            const std::size_t more = std::max<std::size_t>(2 * slots_.size(), 1'024);
            if (bytes() + (more - slots_.size()) * sizeof(Index) > most_bytes_) return std::nullopt;
            slots_ = {};  // given back before the larger ones are taken
            slots_.assign(more, 0);
            for (std::size_t i = 0; i < positions_.size(); ++i) {
                if (!budget_.spend_node()) return std::nullopt;
                slots_[slot_of(positions_[i])] = static_cast<Index>(i + 1);
            }
        }
        const std::size_t slot = slot_of(position);
        if (slots_[slot] == 0) {
            positions_.push_back(position);
            slots_[slot] = static_cast<Index>(positions_.size());
        }
        return slots_[slot] - 1;
    }

    bool build_predecessors() {
        first_predecessor_.assign(positions_.size() + 1, 0);
        for (const Index to : edges_) ++first_predecessor_[to + 1];
        if (!budget_.spend_node()) return false;
        for (std::size_t i = 1; i < first_predecessor_.size(); ++i) first_predecessor_[i] += first_predecessor_[i - 1];
        predecessors_.resize(edges_.size());
        std::vector<Edge> next(first_predecessor_.begin(), first_predecessor_.end() - 1);
        for (Index from = 0; from < positions_.size(); ++from) {
            if (!budget_.spend_node()) return false;
            for (Edge e = first_edge_[from]; e < first_edge_[from + 1]; ++e) predecessors_[next[edges_[e]]++] = from;
        }
        return true;
    }

    /// Values the positions from which `player` can force `size` or more.
    bool force(Player player, Payoff size) {
        const Payoff sign = player == Player::First ? 1 : -1;
        std::vector<std::uint32_t> moves_left(positions_.size());
        std::vector<bool> forced(positions_.size(), false);
        std::vector<Index> layer, next_layer;
        for (Index i = 0; i < positions_.size(); ++i) {
            if (i % positions_between_reports == 0 && !budget_.spend_node()) return false;
            moves_left[i] = first_edge_[i + 1] - first_edge_[i];
            if (mover_[i] == ended && payoff_at_end_[i] * sign >= size) {
                forced[i] = true;
                values_[i] = {payoff_at_end_[i], 0};
                layer.push_back(i);
            }
        }
        for (int plies = 1; !layer.empty(); ++plies) {
            next_layer.clear();
            for (const Index position : layer) {
                if (!budget_.spend_node()) return false;
                for (Edge e = first_predecessor_[position]; e < first_predecessor_[position + 1]; ++e) {
                    const Index before = predecessors_[e];
                    if (forced[before] || (before == 0 && start_is_draw_)) continue;
                    const bool own_move = mover_[before] == index_of(player);
                    if (!own_move && --moves_left[before] > 0) continue;
                    forced[before] = true;
                    values_[before] = {sign * size, plies};
                    next_layer.push_back(before);
                }
            }
            layer.swap(next_layer);
        }
        return true;
    }

    using Edge = std::uint32_t;
    static constexpr std::size_t positions_between_reports = 4'096;

    const G& game_;
    Budget& budget_;
    std::size_t most_bytes_;
    bool start_is_draw_;
    // What grows position by position lies in parts, so that growing never takes the room twice.
    PositionStore<Position> positions_;
    std::deque<Edge> first_edge_;
    std::deque<Index> edges_;
    std::deque<Payoff> payoff_at_end_;
    std::deque<std::uint8_t> mover_;
    std::vector<Index> slots_;  ///< one more than the position's number; 0: free
    std::vector<Edge> first_predecessor_;
    std::vector<Index> predecessors_;
    std::vector<Value> values_;
};

}  // namespace arvek::detail
