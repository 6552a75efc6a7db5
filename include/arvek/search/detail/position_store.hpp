#pragma once
// Where a solver keeps the positions that it has met, millions of them.

#include <cstddef>
#include <deque>

namespace arvek::detail {

/// Positions by number, in the order in which they were added.
template <class Position>
class PositionStore {
   public:
    std::size_t size() const { return positions_.size(); }
    const Position& operator[](std::size_t i) const { return positions_[i]; }
    bool is(std::size_t i, const Position& position) const { return positions_[i] == position; }
    void push_back(const Position& position) { positions_.push_back(position); }
    void clear() { positions_.clear(); }
    /// What one takes.
    static constexpr std::size_t bytes_each() { return sizeof(Position); }

   private:
    std::deque<Position> positions_;  // in parts, so that growing never takes the room twice
};

}  // namespace arvek::detail
