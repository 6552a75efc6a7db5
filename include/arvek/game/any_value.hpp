#pragma once
// AnyValue: a regular value (copyable, with ==) of a type that only its maker knows. What positions and views are where
// the game's type is gone: any_game.hpp.
//
//     arvek::AnyValue value(MyGame::Position{});
//     value.get<MyGame::Position>();           // the type it was made of, which the caller must know
//
// Plain values of up to AnyValue::room bytes lie inside, and only their own bytes are copied. Others lie in boxes, of
// which every thread keeps those that it no longer needs, so that what they hold (a vector's room) is used again.
// Nothing is shared between copies.

#include <cstddef>
#include <cstdint>
#include <cstring>
#include <memory>
#include <new>
#include <string_view>  // for std::hash, which <functional> has with much else
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/game/hashing.hpp"

namespace arvek {

namespace detail {

/// What can be done with the values of one type.
struct ValueOperations {
    std::size_t size;
    std::size_t alignment;
    bool is_inside;  ///< whether its bytes lie inside; else in a box
    /// A box with a copy.
    void* (*boxed)(const void* value);
    /// Gives a box back.
    void (*give_back)(void* box) noexcept;
    /// Copies over a value in a box.
    void (*assign)(void* to, const void* from);
    bool (*equal)(const void* a, const void* b);
    std::uint64_t (*key)(
        const void* value);  ///< equal for equal values, and hardly ever else; null where there is none
};

/// Boxes of one type that a thread does not need at the moment.
template <class T>
class Boxes {
   public:
    static void* with_copy_of(const void* value) {
        const T& from = *static_cast<const T*>(value);
        if (Boxes* boxes = of_thread(); boxes != nullptr && !boxes->unused_.empty()) {
            std::unique_ptr<T> box = std::move(boxes->unused_.back());
            boxes->unused_.pop_back();
            *box = from;
            return box.release();
        }
        return new T(from);
    }
    static void give_back(void* box) noexcept {
        std::unique_ptr<T> unused(static_cast<T*>(box));
        if (Boxes* boxes = of_thread(); boxes != nullptr && boxes->unused_.size() < most_unused)
            boxes->unused_.push_back(std::move(unused));
    }

   private:
    static constexpr std::size_t most_unused = 256;

    Boxes() { unused_.reserve(most_unused); }
    ~Boxes() { is_gone = true; }

    /// Null at the end of the thread, where other things of the thread may still give boxes back.
    static Boxes* of_thread() {
        static thread_local Boxes boxes;
        return is_gone ? nullptr : &boxes;
    }
    static inline thread_local bool is_gone = false;

    std::vector<std::unique_ptr<T>> unused_;
};

template <class T>
constexpr auto value_key() -> std::uint64_t (*)(const void*) {
    if constexpr (requires(const T& value) {
                      { std::hash<T>{}(value) } -> std::convertible_to<std::size_t>;
                  })
        return
            [](const void* value) { return static_cast<std::uint64_t>(std::hash<T>{}(*static_cast<const T*>(value))); };
    else if constexpr (std::has_unique_object_representations_v<T>)
        return [](const void* value) { return hash_of_bytes(value, sizeof(T)); };
    else
        return nullptr;
}

inline constexpr std::size_t room_inside = 256;
inline constexpr std::size_t alignment_inside = 16;

/// Whether values of the type lie inside.
template <class T>
inline constexpr bool lies_inside = std::is_trivially_copyable_v<T>&& std::is_trivially_destructible_v<T> &&
                                    sizeof(T) <= room_inside && alignof(T) <= alignment_inside;

template <class T>
inline constexpr ValueOperations value_operations{
    sizeof(T),
    alignof(T),
    lies_inside<T>,
    &Boxes<T>::with_copy_of,
    &Boxes<T>::give_back,
    [](void* to, const void* from) { *static_cast<T*>(to) = *static_cast<const T*>(from); },
    [](const void* a, const void* b) { return *static_cast<const T*>(a) == *static_cast<const T*>(b); },
    value_key<T>()};

}  // namespace detail

/// A value of a type that only its maker knows.
class AnyValue {
   public:
    static constexpr std::size_t room = detail::room_inside;  ///< bytes of a value that lies inside

    /// No value, equal to no value alone.
    AnyValue() noexcept {}
    /// A value of any regular type.
    template <class T>
    requires(!std::is_base_of_v<AnyValue, T>) explicit AnyValue(const T& value)
        : operations_(&detail::value_operations<T>) {
        if constexpr (detail::lies_inside<T>)
            ::new (static_cast<void*>(inside_)) T(value);
        else
            box_ = operations_->boxed(&value);
    }
    AnyValue(const AnyValue& other) : operations_(other.operations_) {
        if (operations_ != nullptr) take_copy_of(other);
    }
    AnyValue(AnyValue&& other) noexcept { take(other); }
    ~AnyValue() { clear(); }
    AnyValue& operator=(const AnyValue& other) {
        if (this == &other) return *this;
        if (operations_ != nullptr && !operations_->is_inside) {
            if (operations_ == other.operations_) {
                operations_->assign(box_, other.box_);
                return *this;
            }
            clear();
        }
        operations_ = nullptr;  // as long as copying may throw
        if (other.operations_ == nullptr) return *this;
        if (other.operations_->is_inside)
            copy_bytes_of(other, other.operations_->size);
        else
            box_ = other.operations_->boxed(other.box_);
        operations_ = other.operations_;
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
        return *std::launder(static_cast<const T*>(data<T>()));
    }
    /// Requires that it is of that type.
    template <class T>
    T& get() noexcept {
        return *std::launder(static_cast<T*>(const_cast<void*>(std::as_const(*this).template data<T>())));
    }

    friend bool operator==(const AnyValue& a, const AnyValue& b) {
        if (a.operations_ != b.operations_) return false;
        return a.operations_ == nullptr || a.operations_->equal(a.data(), b.data());
    }

    /// @{
    /// Where its bytes are. Requires: there is a value.
    const void* data() const noexcept { return operations_->is_inside ? static_cast<const void*>(inside_) : box_; }
    void* data() noexcept { return operations_->is_inside ? static_cast<void*>(inside_) : box_; }
    /// @}
    /// What can be done with it; null where there is no value.
    const detail::ValueOperations* operations() const noexcept { return operations_; }
    /// A value that lies inside, of these bytes. Requires: there is none yet.
    void take_bytes(const detail::ValueOperations& operations, const void* bytes) noexcept {
        operations_ = &operations;
        std::memcpy(inside_, bytes, operations.size);
    }
    /// A value of the type of `other` whose bytes are still to be written: where they lie inside they are not there yet; a
    /// box holds some value of the type. Requires: there is none yet, and one in `other`.
    void* prepare_like(const AnyValue& other) {
        if (other.operations_->is_inside) [[likely]] {
            operations_ = other.operations_;
            return inside_;
        }
        box_ = other.operations_->boxed(other.box_);
        operations_ = other.operations_;
        return box_;
    }

   private:
    template <class T>
    const void* data() const noexcept {
        if constexpr (detail::lies_inside<T>)
            return inside_;
        else
            return box_;
    }

    /// A few words at a time, with those behind the value's end, which nobody reads.
    [[gnu::always_inline]] void copy_bytes_of(const AnyValue& other, std::size_t size) noexcept {
        struct Words {
            std::uint64_t words[2];
        };
        for (std::size_t at = 0; at < size; at += sizeof(Words)) {
            Words words;
            std::memcpy(&words, other.inside_ + at, sizeof words);
            std::memcpy(inside_ + at, &words, sizeof words);
        }
    }
    [[gnu::always_inline]] void take_copy_of(const AnyValue& other) {
        if (operations_->is_inside) [[likely]]
            copy_bytes_of(other, operations_->size);
        else
            box_ = operations_->boxed(other.box_);
    }
    void take(AnyValue& other) noexcept {
        operations_ = std::exchange(other.operations_, nullptr);
        if (operations_ == nullptr) return;
        if (operations_->is_inside)
            copy_bytes_of(other, operations_->size);
        else
            box_ = other.box_;
    }
    void clear() noexcept {
        if (operations_ != nullptr && !operations_->is_inside) [[unlikely]]
            operations_->give_back(box_);
        operations_ = nullptr;
    }

    const detail::ValueOperations* operations_ = nullptr;
    union {
        alignas(detail::alignment_inside) std::byte inside_[room];
        void* box_;
    };
};

}  // namespace arvek
