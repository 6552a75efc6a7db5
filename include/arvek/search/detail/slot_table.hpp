#pragma once
// SlotTable: words of data by hash, of a fixed size, for any number of threads without locks.
//
// A slot is two words, the data and the hash combined with it, so that a slot whose words come from two different
// writers matches neither hash. Source: Hyatt, Mann (2002), "A Lock-less Transposition Table Implementation for
// Parallel Search".

#include <cstddef>
#include <cstdint>

namespace arvek::detail {

class SlotTable {
   public:
    static constexpr std::int64_t most_mebibytes = std::int64_t{1} << 20;
    static constexpr int worth_of_nothing = -1'000'000;

    /// Of `mebibytes`, of which at first only `used` are. The pages of a large table are touched here, by several
    /// threads, so that no search has to wait for the system to give them. Throws InputError unless
    /// 1 <= mebibytes <= most_mebibytes; std::bad_alloc when there is not so much memory.
    explicit SlotTable(std::size_t mebibytes, std::size_t used);
    explicit SlotTable(std::size_t mebibytes) : SlotTable(mebibytes, mebibytes) {}
    ~SlotTable();
    SlotTable(SlotTable&& other) noexcept;
    SlotTable(const SlotTable&) = delete;
    SlotTable& operator=(const SlotTable&) = delete;
    SlotTable& operator=(SlotTable&&) = delete;

    void clear();
    /// Empties one of so many parts of the table. Requires part < parts.
    void clear_part(std::size_t part, std::size_t parts);

    /// Fetches ahead what find() and place() will look at.
    void prefetch(std::uint64_t hash) const { __builtin_prefetch(bucket_of(hash)); }

    /// The data kept for `hash`; 0 if there is none.
    std::uint64_t find(std::uint64_t hash) const {
        const Slot* bucket = bucket_of(hash);
        for (std::size_t i = 0; i < slots_in_bucket; ++i) {
            const std::uint64_t data = load(bucket[i].data);
            if ((load(bucket[i].check) ^ data) == hash && data != 0) return data;
        }
        return 0;
    }

    /// Keeps `data`, not 0, in place of what is known of `hash` or of whatever is worth least by `worth(data)`.
    template <class Worth>
    void place(std::uint64_t hash, std::uint64_t data, Worth worth) {
        Slot* bucket = bucket_of(hash);
        Slot* chosen = nullptr;
        int least_worth = 0;
        for (std::size_t i = 0; i < slots_in_bucket; ++i) {
            const std::uint64_t there = load(bucket[i].data);
            if (there != 0 && (load(bucket[i].check) ^ there) == hash) {
                chosen = &bucket[i];
                break;
            }
            const int worth_there = there == 0 ? worth_of_nothing : worth(there);
            if (chosen == nullptr || worth_there < least_worth) {
                chosen = &bucket[i];
                least_worth = worth_there;
            }
        }
        write(chosen->data, data);
        write(chosen->check, hash ^ data);
    }

    bool can_grow() const { return bucket_mask_ + 1 < buckets_; }
    /// Uses four times as much of the memory, or all of it; what the table holds stays. Not while other threads use it.
    void grow();

    /// How many slots are in use.
    std::size_t capacity() const { return (bucket_mask_ + 1) * slots_in_bucket; }

   private:
    struct Slot {
        std::uint64_t check;  ///< hash ^ data
        std::uint64_t data;   ///< 0: empty
    };
    static constexpr std::size_t slots_in_bucket = 4;  // a bucket fills one line of the cache

    // Relaxed: a slot stands by itself, and a mixed one is found out by its check.
    static std::uint64_t load(const std::uint64_t& word) { return __atomic_load_n(&word, __ATOMIC_RELAXED); }
    static void write(std::uint64_t& word, std::uint64_t value) { __atomic_store_n(&word, value, __ATOMIC_RELAXED); }

    void touch(std::size_t first_bucket, std::size_t last_bucket);
    Slot* bucket_of(std::uint64_t hash) const { return slots_ + (hash & bucket_mask_) * slots_in_bucket; }

    void* memory_ = nullptr;
    Slot* slots_ = nullptr;
    std::size_t bucket_mask_ = 0;  ///< of the buckets in use
    std::size_t buckets_ = 0;      ///< there is memory for
};

}  // namespace arvek::detail
