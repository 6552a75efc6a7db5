#pragma once
// MoveList: where a game puts the moves it generates.
//
//     void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
//         for (int i = 0; i < 9; ++i)
//             if (p.free(i)) moves.push_back(i);
//     }
//
// Short lists live inside the object; a longer one allocates once and keeps that room when it is cleared, so a search
// that reuses its lists does not allocate. The order of the moves is the order in which a search looks at them.

#include <cstddef>
#include <new>
#include <type_traits>
#include <utility>

namespace arvek {

/// A list of moves.
template <class Move>
class MoveList {
   public:
    using value_type = Move;             ///< what it holds
    using iterator = Move*;              ///< a place in it
    using const_iterator = const Move*;  ///< a place in it that is only read

    MoveList() noexcept : home_(inside()), begin_(home_), end_(home_), room_end_(home_ + inside_room) {}
    /// With room of the caller's for so many moves, aligned for them, which must live longer.
    MoveList(std::byte* room, std::size_t moves) noexcept
        : home_(reinterpret_cast<Move*>(room)), begin_(home_), end_(home_), room_end_(home_ + moves) {}
    MoveList(const MoveList& other) : MoveList() { append(other.begin(), other.end()); }
    MoveList(MoveList&& other) noexcept : MoveList() { take(other); }
    ~MoveList() { release(); }

    MoveList& operator=(const MoveList& other) {
        if (this != &other) {
            clear();
            append(other.begin(), other.end());
        }
        return *this;
    }
    MoveList& operator=(MoveList&& other) noexcept {
        if (this != &other) {
            release();
            reset();
            take(other);
        }
        return *this;
    }

    /// Adds a move at the end.
    void push_back(const Move& move) {
        if (end_ == room_end_) [[unlikely]] {
            const Move kept = move;  // it may lie in the room that grow() gives back
            grow(2 * size() + inside_room);
            ::new (static_cast<void*>(end_)) Move(kept);
        } else {
            ::new (static_cast<void*>(end_)) Move(move);
        }
        ++end_;
    }

    /// Adds those of a range at the end.
    template <class Iterator>
    void append(Iterator first, Iterator last) {
        for (; first != last; ++first) push_back(*first);
    }

    /// Appends in bulk, for hot generators: makes room for `most` moves and calls `fill(first)`, which writes moves
    /// from `first` on and returns the end of what it wrote. A fill may write to one place more than once, and to all
    /// `most`.
    template <class Fill>
    void append_at_most(std::size_t most, Fill fill) {
        static_assert(std::is_trivially_copyable_v<Move> && std::is_trivially_destructible_v<Move>,
                      "append_at_most writes over raw room, so the move must be a plain value");
        if (static_cast<std::size_t>(room_end_ - end_) < most) [[unlikely]]
            grow(size() + most);
        end_ = fill(end_);
    }

    /// Removes every move; keeps the room.
    void clear() noexcept { drop_from(begin_); }

    /// Removes the moves for which `unwanted(move)` is true; the others keep their order.
    template <class Predicate>
    void remove_if(Predicate unwanted) {
        Move* kept_end = begin_;
        for (Move* move = begin_; move != end_; ++move) {
            if (unwanted(static_cast<const Move&>(*move))) continue;
            if (kept_end != move) *kept_end = std::move(*move);
            ++kept_end;
        }
        drop_from(kept_end);
    }

    /// @{
    /// As of any container of the standard library.
    std::size_t size() const noexcept { return static_cast<std::size_t>(end_ - begin_); }
    bool empty() const noexcept { return begin_ == end_; }
    Move& operator[](std::size_t i) noexcept { return begin_[i]; }
    const Move& operator[](std::size_t i) const noexcept { return begin_[i]; }
    Move* begin() noexcept { return begin_; }
    Move* end() noexcept { return end_; }
    const Move* begin() const noexcept { return begin_; }
    const Move* end() const noexcept { return end_; }
    /// @}
    /// Whether the move is in it; looks at one after the other.
    bool contains(const Move& wanted) const {
        for (const Move& move : *this)
            if (move == wanted) return true;
        return false;
    }

    friend bool operator==(const MoveList& a, const MoveList& b) {
        if (a.size() != b.size()) return false;
        for (std::size_t i = 0; i < a.size(); ++i)
            if (!(a[i] == b[i])) return false;
        return true;
    }

   private:
    static constexpr std::size_t inside_bytes = 128;
    static constexpr std::size_t inside_room = inside_bytes / sizeof(Move) > 8 ? inside_bytes / sizeof(Move) : 8;

    Move* inside() noexcept { return reinterpret_cast<Move*>(bytes_); }
    bool is_at_home() const noexcept { return begin_ == home_; }

    [[gnu::noinline, gnu::cold]] void grow(std::size_t room) {
        auto* larger = static_cast<Move*>(::operator new (room * sizeof(Move), std::align_val_t{alignof(Move)}));
        Move* larger_end = larger;
        for (Move* move = begin_; move != end_; ++move, ++larger_end)
            ::new (static_cast<void*>(larger_end)) Move(std::move(*move));
        release();
        begin_ = larger;
        end_ = larger_end;
        room_end_ = larger + room;
    }

    void drop_from(Move* first) noexcept {
        if constexpr (!std::is_trivially_destructible_v<Move>)
            for (Move* move = first; move != end_; ++move) move->~Move();
        end_ = first;
    }

    void release() noexcept {
        drop_from(begin_);
        if (!is_at_home()) [[unlikely]]
            give_back();
    }
    [[gnu::noinline, gnu::cold]] void give_back() noexcept {
        ::operator delete (begin_, std::align_val_t{alignof(Move)});
    }

    void reset() noexcept {
        home_ = begin_ = end_ = inside();
        room_end_ = begin_ + inside_room;
    }

    /// Takes over what `other` holds. Requires: nothing is held yet, and the room is the inner one, where any list fits
    /// that has not outgrown its own, unless it had the caller's.
    void take(MoveList& other) noexcept {
        if (other.is_at_home()) {
            if (other.size() > inside_room) grow(other.size());
            for (Move& move : other) ::new (static_cast<void*>(end_++)) Move(std::move(move));
            other.clear();
        } else {
            begin_ = other.begin_;
            end_ = other.end_;
            room_end_ = other.room_end_;
            other.reset();
        }
    }

    Move* home_;  ///< the inner room, or the caller's
    Move* begin_;
    Move* end_;
    Move* room_end_;
    alignas(Move) std::byte bytes_[inside_room * sizeof(Move)];
};

}  // namespace arvek
