#pragma once
// TranspositionTable: what is known of positions met before, by their hash.
//
// Of a fixed size in MiB; when it is full, what is shallow and old gives way. Any number of threads may read and write
// at once without locks: an entry is two words, the hash is stored combined with the data, and an entry whose words
// come from two different writers does not match either hash. Sources: Zobrist (1970), "A New Hashing Method with
// Application for Game Playing"; Hyatt, Mann (2002), "A Lock-less Transposition Table Implementation for Parallel
// Search".

#include <cstddef>
#include <cstdint>

#include "arvek/game/score.hpp"

namespace arvek {

enum class Bound : std::uint8_t { None, Lower, Upper, Exact };

struct TableEntry {
    Score score;    ///< proven scores count plies from the entry's own position
    int depth = 0;  ///< plies searched below it, at most `complete_depth`
    Bound bound = Bound::None;
    std::uint16_t move = no_move;  ///< where the best move stands among the generated ones

    /// The depth of a value that no deeper search can change.
    static constexpr int complete_depth = 1'023;
    static constexpr std::uint16_t no_move = 4'095;
};

class TranspositionTable {
   public:
    /// Throws InputError unless 1 <= mebibytes <= 1'048'576; std::bad_alloc when there is not so much memory.
    explicit TranspositionTable(std::size_t mebibytes);
    ~TranspositionTable();
    TranspositionTable(TranspositionTable&& other) noexcept;
    TranspositionTable(const TranspositionTable&) = delete;
    TranspositionTable& operator=(const TranspositionTable&) = delete;
    TranspositionTable& operator=(TranspositionTable&&) = delete;

    /// Begins another decision: entries of earlier ones give way first, or, unless they are `kept`, count as gone.
    void begin_decision(bool kept);

    void clear();

    /// Whether `hash` is there; if so, `entry` is what is known.
    bool look_up(std::uint64_t hash, TableEntry& entry) const {
        const Slot* bucket = bucket_of(hash);
        for (std::size_t i = 0; i < slots_in_bucket; ++i) {
            const std::uint64_t data = load(bucket[i].data);
            if ((load(bucket[i].check) ^ data) != hash || data == 0) continue;
            if (age_of(data) != age_ && !kept_) return false;
            entry = unpacked(data);
            return true;
        }
        return false;
    }

    void store(std::uint64_t hash, const TableEntry& entry) {
        Slot* bucket = bucket_of(hash);
        Slot* chosen = nullptr;
        int least_worth = 0;
        for (std::size_t i = 0; i < slots_in_bucket; ++i) {
            const std::uint64_t data = load(bucket[i].data);
            if (data != 0 && (load(bucket[i].check) ^ data) == hash) {
                chosen = &bucket[i];
                break;
            }
            // Each decision passed counts like eight plies of depth.
            const int worth =
                data == 0 ? -1'000'000 : depth_of(data) - 8 * static_cast<int>((age_ - age_of(data)) & age_mask);
            if (chosen == nullptr || worth < least_worth) {
                chosen = &bucket[i];
                least_worth = worth;
            }
        }
        const std::uint64_t data = packed(entry);
        write(chosen->data, data);
        write(chosen->check, hash ^ data);
    }

    /// How many entries there is room for.
    std::size_t capacity() const { return (bucket_mask_ + 1) * slots_in_bucket; }

   private:
    struct Slot {
        std::uint64_t check;  ///< hash ^ data
        std::uint64_t data;   ///< 0: empty
    };
    static constexpr std::size_t slots_in_bucket = 4;  // a bucket fills one line of the cache
    static constexpr std::uint64_t age_mask = 255;

    // Relaxed: an entry stands by itself, and a mixed one is found out by its check.
    static std::uint64_t load(const std::uint64_t& word) { return __atomic_load_n(&word, __ATOMIC_RELAXED); }
    static void write(std::uint64_t& word, std::uint64_t value) { __atomic_store_n(&word, value, __ATOMIC_RELAXED); }

    // score 32 bits, move 12, depth 10, bound 2, age 8
    std::uint64_t packed(const TableEntry& entry) const {
        return static_cast<std::uint64_t>(static_cast<std::uint32_t>(entry.score.number())) |
               static_cast<std::uint64_t>(entry.move) << 32 | static_cast<std::uint64_t>(entry.depth) << 44 |
               static_cast<std::uint64_t>(entry.bound) << 54 | age_ << 56;
    }
    static TableEntry unpacked(std::uint64_t data) {
        return {Score::from_number(static_cast<std::int32_t>(data & 0xffff'ffffu)), depth_of(data),
                static_cast<Bound>(data >> 54 & 3), static_cast<std::uint16_t>(data >> 32 & 0xfff)};
    }
    static int depth_of(std::uint64_t data) { return static_cast<int>(data >> 44 & 0x3ff); }
    static std::uint64_t age_of(std::uint64_t data) { return data >> 56; }

    Slot* bucket_of(std::uint64_t hash) const { return slots_ + (hash & bucket_mask_) * slots_in_bucket; }

    void* memory_ = nullptr;
    Slot* slots_ = nullptr;
    std::size_t bucket_mask_ = 0;
    std::uint64_t age_ = 0;
    bool kept_ = false;
};

}  // namespace arvek
