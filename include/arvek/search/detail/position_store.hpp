#pragma once
// Where a solver keeps the positions that it has met, millions of them.

#include <cstddef>
#include <vector>

namespace arvek::detail {

/// Things by number, in the order in which they were added; in parts, so that growing never takes the room twice.
template <class T>
class InParts {
   public:
    std::size_t size() const { return size_; }
    const T& operator[](std::size_t i) const { return parts_[i / a_part][i % a_part]; }
    void push_back(const T& thing) {
        if (size_ % a_part == 0) parts_.emplace_back().reserve(a_part);
        parts_.back().push_back(thing);
        ++size_;
    }
    void clear() {
        parts_.clear();
        size_ = 0;
    }

   private:
    static constexpr std::size_t a_part = 1'024;

    std::vector<std::vector<T>> parts_;
    std::size_t size_ = 0;
};

/// Positions by number.
template <class Position>
class PositionStore : public InParts<Position> {
   public:
    bool is(std::size_t i, const Position& position) const { return (*this)[i] == position; }
    /// What one takes.
    static constexpr std::size_t bytes_each() { return sizeof(Position); }
};

}  // namespace arvek::detail
