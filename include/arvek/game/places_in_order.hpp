#pragma once
// The places of moves in a list, of which nothing is known but whether two are equal.

#include <cstddef>
#include <span>

namespace arvek {

/// Quick where moves are asked for in about the order of the list, as they mostly are: each is looked for from where the one
/// before was found.
template <class Move>
class PlacesInOrder {
   public:
    /// For a list that lives as long and does not change.
    explicit PlacesInOrder(std::span<const Move> list) : list_(list) {}

    /// Where a move is that is not there.
    std::size_t none() const { return list_.size(); }
    /// Where the move is; none() where it is not there.
    std::size_t of(const Move& move) {
        for (std::size_t i = 0, at = next_; i < list_.size(); ++i, ++at) {
            if (at == list_.size()) at = 0;
            if (!(list_[at] == move)) continue;
            next_ = at + 1;
            return at;
        }
        return none();
    }
    /// Whether it is there.
    bool has(const Move& move) { return of(move) != none(); }

   private:
    std::span<const Move> list_;
    std::size_t next_ = 0;
};

}  // namespace arvek
