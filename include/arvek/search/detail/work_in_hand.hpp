#pragma once
// WorkInHand: which moves the threads of a search are looking at just now, so that each one first takes what no other
// has in hand. What they find they share by the table. Source: Weill (1996), "The ABDADA Distributed Minimax-Search
// Algorithm"; here without a count of searchers in the table itself.

#include <array>
#include <cstddef>
#include <cstdint>

#include "arvek/game/random.hpp"
#include "arvek/search/detail/move_order.hpp"

namespace arvek::detail {

class WorkInHand {
   public:
    /// Moves with fewer plies left are not worth the talk.
    static constexpr int least_depth = 3;

    /// A name for the `move`-th move of the position with that hash.
    static std::uint64_t name_of(std::uint64_t hash, std::size_t move) {
        return mix_bits(hash + (move + 1) * 0x9e3779b97f4a7c15u) | 1;
    }

    bool is_in_hand(std::uint64_t name) const {
        for (const std::uint64_t& place : places_of(name))
            if (__atomic_load_n(&place, __ATOMIC_RELAXED) == name) return true;
        return false;
    }
    void take(std::uint64_t name) {
        auto& places = places_of(name);
        for (std::uint64_t& place : places) {
            if (__atomic_load_n(&place, __ATOMIC_RELAXED) != 0) continue;
            __atomic_store_n(&place, name, __ATOMIC_RELAXED);
            return;
        }
        __atomic_store_n(&places[0], name, __ATOMIC_RELAXED);
    }
    void put_down(std::uint64_t name) {
        for (std::uint64_t& place : places_of(name))
            if (__atomic_load_n(&place, __ATOMIC_RELAXED) == name) __atomic_store_n(&place, 0, __ATOMIC_RELAXED);
    }
    void forget() {
        for (auto& places : places_) places.fill(0);
    }

   private:
    static constexpr std::size_t groups = 1 << 10;
    using Places = std::array<std::uint64_t, 4>;

    Places& places_of(std::uint64_t name) { return places_[name >> 1 & (groups - 1)]; }
    const Places& places_of(std::uint64_t name) const { return places_[name >> 1 & (groups - 1)]; }

    std::array<Places, groups> places_{};
};

/// Brings the best move that no other thread looks at to `place`; when all are looked at, the best of them. `hash` is that
/// of the position.
inline void defer_what_is_in_hand(const WorkInHand& shared, MoveOrder& order, std::size_t place, std::uint64_t hash) {
    constexpr std::int64_t deferred = -MoveOrder::largest_value / 2;
    for (std::int64_t less = deferred;
         order.value_at(place) > deferred && shared.is_in_hand(WorkInHand::name_of(hash, order.index_at(place)));)
        order.demote(place, --less);
}

}  // namespace arvek::detail
