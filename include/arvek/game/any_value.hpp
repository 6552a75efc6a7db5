#pragma once
// AnyValue: a regular value (copyable, with ==) of a type that only its maker knows. What positions and moves are where
// the game's type is gone: any_game.hpp.
//
//     arvek::AnyValue<16> value(Move{3});
//     value.get<Move>();                       // the type it was made of, which the caller must know
//
// Small values lie inside, larger ones on the heap; nothing is shared between copies.

#include <cstddef>
#include <cstring>
#include <new>
#include <type_traits>
#include <utility>

namespace arvek {

namespace detail {

/// What can be done with the values of one type.
struct ValueOperations {
    std::size_t size;
    std::size_t alignment;
    bool plain;  ///< copied byte by byte, and nothing to do at the end
    void (*copy)(void* to, const void* from);
    void (*destroy)(void* value);
    bool (*equal)(const void* a, const void* b);
};

template <class T>
inline constexpr ValueOperations value_operations{
    sizeof(T),
    alignof(T),
    std::is_trivially_copyable_v<T>&& std::is_trivially_destructible_v<T>,
    [](void* to, const void* from) { ::new (to) T(*static_cast<const T*>(from)); },
    [](void* value) { static_cast<T*>(value)->~T(); },
    [](const void* a, const void* b) { return *static_cast<const T*>(a) == *static_cast<const T*>(b); }};

}  // namespace detail

/// A value of a type that only its maker knows.
template <std::size_t Room>
class AnyValue {
   public:
    /// No value, equal to no value alone.
    AnyValue() noexcept {}
    /// A value of any regular type.
    template <class T>
    requires(!std::is_same_v<T, AnyValue>) explicit AnyValue(const T& value)
        : operations_(&detail::value_operations<T>) {
        take_copy_of(&value);
    }
    AnyValue(const AnyValue& other) : operations_(other.operations_) {
        if (operations_ != nullptr) take_copy_of(other.where());
    }
    AnyValue(AnyValue&& other) noexcept { take(other); }
    ~AnyValue() { clear(); }
    AnyValue& operator=(const AnyValue& other) {
        if (this == &other) return *this;
        if (operations_ == other.operations_ && operations_ != nullptr && operations_->plain) {
            std::memcpy(where(), other.where(), operations_->size);
            return *this;
        }
        AnyValue copy(other);
        clear();
        take(copy);
        return *this;
    }
    AnyValue& operator=(AnyValue&& other) noexcept {
        if (this == &other) return *this;
        clear();
        take(other);
        return *this;
    }

    bool has_value() const noexcept { return operations_ != nullptr; }  ///< whether there is one
    /// Requires: it was made of a T.
    template <class T>
    const T& get() const noexcept {
        return *std::launder(static_cast<const T*>(where()));
    }
    /// Requires that it is of that type.
    template <class T>
    T& get() noexcept {
        return *std::launder(static_cast<T*>(where()));
    }

    friend bool operator==(const AnyValue& a, const AnyValue& b) {
        if (a.operations_ != b.operations_) return false;
        return a.operations_ == nullptr || a.operations_->equal(a.where(), b.where());
    }

   private:
    // Only plain values lie inside, so that moving one never throws.
    bool is_inside() const noexcept {
        return operations_->plain && operations_->size <= Room && operations_->alignment <= alignof(std::max_align_t);
    }
    const void* where() const noexcept { return is_inside() ? static_cast<const void*>(inside_) : outside_; }
    void* where() noexcept { return is_inside() ? static_cast<void*>(inside_) : outside_; }

    void take_copy_of(const void* from) {
        if (is_inside()) {
            std::memcpy(inside_, from, operations_->size);
            return;
        }
        const std::align_val_t alignment{operations_->alignment};
        void* to = ::operator new(operations_->size, alignment);
        try {
            operations_->copy(to, from);
        } catch (...) {
            ::operator delete(to, alignment);
            throw;
        }
        outside_ = to;
    }
    void take(AnyValue& other) noexcept {
        operations_ = std::exchange(other.operations_, nullptr);
        if (operations_ == nullptr) return;
        if (is_inside())
            std::memcpy(inside_, other.inside_, operations_->size);
        else
            outside_ = other.outside_;
    }
    void clear() noexcept {
        if (operations_ == nullptr) return;
        if (!is_inside()) {
            operations_->destroy(outside_);
            ::operator delete (outside_, std::align_val_t{operations_->alignment});
        }
        operations_ = nullptr;
    }

    const detail::ValueOperations* operations_ = nullptr;
    union {
        alignas(std::max_align_t) std::byte inside_[Room];
        void* outside_;
    };
};

}  // namespace arvek
