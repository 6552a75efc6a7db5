#pragma once
// AnyMove: a move of a type that only its maker knows, as a number of 64 bits.
//
//     arvek::AnyMove move(Move{3});
//     move.get<Move>();                        // the type it was made of, which the caller must know
//
// A plain move of up to 8 bytes is its bytes. Of any other, each is kept once, for as long as the program runs, and the
// number is its place: what such moves cost is a look into a table of the thread for each that is generated. Moves with
// a std::hash, or whose bytes tell, are found at once; others by comparing them with all that were met.

#include <bit>
#include <concepts>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <new>
#include <string_view>  // for std::hash, which <functional> has with much else
#include <type_traits>
#include <vector>

#include "arvek/game/hashing.hpp"

namespace arvek {

namespace detail {

#if defined(__GNUC__) && !defined(__clang__)
inline constexpr bool clears_padding = true;
template <class T>
void clear_padding(T& value) {
    __builtin_clear_padding(&value);
}
#else
inline constexpr bool clears_padding = false;
template <class T>
void clear_padding(T&) {}
#endif

/// Whether the bytes of a value, without those that belong to none of its members, tell it from others.
template <class T>
inline constexpr bool bytes_tell = std::is_trivially_copyable_v<T>&& std::is_trivially_destructible_v<T> &&
                                   (std::has_unique_object_representations_v<T> || clears_padding);

template <class T>
inline constexpr bool is_plain_move = bytes_tell<T> && sizeof(T) <= sizeof(std::uint64_t);

/// Keeps other threads from adding a move, of any type, for as long as it lives.
class AddingMoves {
   public:
    AddingMoves();
    ~AddingMoves();
    AddingMoves(const AddingMoves&) = delete;
    AddingMoves& operator=(const AddingMoves&) = delete;
};

/// Every move of one type that was met, each once.
template <class M>
class MovesMet {
   public:
    /// The place of a move.
    static std::uint64_t place_of(const M& move) {
        static thread_local Places known;
        const std::uint64_t key = key_of(move);
        const MovesMet& all = of_all();
        if (const std::uint32_t* place = known.find(key, [&](std::uint32_t at) { return all.at(at) == move; }))
            return *place;
        const std::uint32_t place = of_all().add(key, move);
        known.add(key, place);
        return place;
    }
    /// The move at a place that was given.
    static const M& move_at(std::uint64_t place) { return of_all().at(static_cast<std::uint32_t>(place)); }

   private:
    /// Places by key, in a table of open addresses.
    class Places {
       public:
        template <class Is>
        const std::uint32_t* find(std::uint64_t key, Is is) const {
            if (slots_.empty()) return nullptr;
            for (std::size_t at = key & (slots_.size() - 1); slots_[at].is_used; at = (at + 1) & (slots_.size() - 1))
                if (slots_[at].key == key && is(slots_[at].place)) return &slots_[at].place;
            return nullptr;
        }
        void add(std::uint64_t key, std::uint32_t place) {
            if (2 * (used_ + 1) > slots_.size()) {
                std::vector<Slot> before(slots_.empty() ? 64 : 2 * slots_.size());
                before.swap(slots_);
                for (const Slot& slot : before)
                    if (slot.is_used) put(slot);
            }
            put({key, place, true});
            ++used_;
        }

       private:
        struct Slot {
            std::uint64_t key = 0;
            std::uint32_t place = 0;
            bool is_used = false;
        };
        void put(const Slot& slot) {
            std::size_t at = slot.key & (slots_.size() - 1);
            while (slots_[at].is_used) at = (at + 1) & (slots_.size() - 1);
            slots_[at] = slot;
        }

        std::vector<Slot> slots_;
        std::size_t used_ = 0;
    };

    MovesMet() { add(key_of(M{}), M{}); }  // the place 0, which a move without a value has

    static MovesMet& of_all() {
        static MovesMet& all = *new MovesMet;  // for as long as anything runs
        return all;
    }

    static std::uint64_t key_of(const M& move) {
        if constexpr (requires {
                          { std::hash<M>{}(move) } -> std::convertible_to<std::size_t>;
                      }) {
            return mix_bits(static_cast<std::uint64_t>(std::hash<M>{}(move)));
        } else if constexpr (bytes_tell<M>) {
            M own = move;
            clear_padding(own);
            return hash_of_bytes(&own, sizeof(M));
        } else {
            return 0;
        }
    }

    // Chunks of 64, 64, 128, 256, ... moves, which never lie elsewhere: who knows a place may read there at any time.
    static constexpr std::size_t first_chunk = 64, chunks = 26;
    static std::size_t chunk_of(std::uint32_t place) {
        return static_cast<std::size_t>(std::bit_width(place / first_chunk));
    }
    static std::size_t start_of(std::size_t chunk) { return chunk == 0 ? 0 : first_chunk << (chunk - 1); }

    const M& at(std::uint32_t place) const {
        const std::size_t chunk = chunk_of(place);
        return __atomic_load_n(&chunks_[chunk], __ATOMIC_ACQUIRE)[place - start_of(chunk)];
    }
    std::uint32_t add(std::uint64_t key, const M& move) {
        const AddingMoves one_at_a_time;
        if (const std::uint32_t* place =
                places_.find(key, [&](std::uint32_t at_place) { return at(at_place) == move; }))
            return *place;
        const std::size_t chunk = chunk_of(count_);
        if (chunk >= chunks) throw_too_many();
        if (chunks_[chunk] == nullptr)
            __atomic_store_n(&chunks_[chunk], new M[chunk == 0 ? first_chunk : start_of(chunk)], __ATOMIC_RELEASE);
        chunks_[chunk][count_ - start_of(chunk)] = move;
        places_.add(key, count_);
        return count_++;
    }
    [[noreturn]] static void throw_too_many() { throw std::bad_alloc(); }

    M* chunks_[chunks]{};  // read and written atomically
    Places places_;
    std::uint32_t count_ = 0;
};

}  // namespace detail

/// A move of a type that only its maker knows.
struct AnyMove {
    std::uint64_t number = 0;  ///< its bytes, or its place among the moves of its type

    /// What a move without a value is.
    constexpr AnyMove() = default;
    /// Of any regular type.
    template <class M>
    requires(!std::is_same_v<M, AnyMove>) explicit AnyMove(const M& move) {
        if constexpr (detail::is_plain_move<M>) {
            if constexpr (std::has_unique_object_representations_v<M>) {
                std::memcpy(&number, &move, sizeof(M));
            } else {
                M own = move;
                detail::clear_padding(own);
                std::memcpy(&number, &own, sizeof(M));
            }
        } else {
            number = detail::MovesMet<M>::place_of(move);
        }
    }

    /// Requires: it was made of an M.
    template <class M>
    decltype(auto) get() const {
        if constexpr (detail::is_plain_move<M>) {
            M move{};
            std::memcpy(static_cast<void*>(&move), &number, sizeof(M));
            return move;
        } else {
            return (detail::MovesMet<M>::move_at(number));
        }
    }

    friend bool operator==(const AnyMove&, const AnyMove&) = default;
};

}  // namespace arvek
