#include "arvek/search/transposition_table.hpp"

#include <bit>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <new>
#include <string>
#include <utility>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

constexpr std::size_t most_mebibytes = std::size_t{1} << 20;
constexpr std::size_t bucket_bytes = 64;

}  // namespace

TranspositionTable::TranspositionTable(std::size_t mebibytes) {
    if (mebibytes < 1 || mebibytes > most_mebibytes)
        throw InputError("memory", std::to_string(mebibytes) + " MiB is out of range",
                         "1 to " + std::to_string(most_mebibytes) + " MiB");
    const std::size_t buckets = std::bit_floor((mebibytes << 20) / bucket_bytes);
    bucket_mask_ = buckets - 1;
    // Zeroed memory that the system hands out page by page: a table that is hardly used costs hardly anything.
    memory_ = std::calloc(buckets + 1, bucket_bytes);
    if (memory_ == nullptr) throw std::bad_alloc();
    void* aligned = memory_;
    std::size_t room = (buckets + 1) * bucket_bytes;
    slots_ = static_cast<Slot*>(std::align(bucket_bytes, buckets * bucket_bytes, aligned, room));
}

TranspositionTable::~TranspositionTable() { std::free(memory_); }

TranspositionTable::TranspositionTable(TranspositionTable&& other) noexcept
    : memory_(std::exchange(other.memory_, nullptr)),
      slots_(std::exchange(other.slots_, nullptr)),
      bucket_mask_(other.bucket_mask_),
      age_(other.age_),
      kept_(other.kept_) {}

void TranspositionTable::clear() {
    std::memset(static_cast<void*>(slots_), 0, (bucket_mask_ + 1) * bucket_bytes);
    age_ = 0;
}

void TranspositionTable::begin_decision(bool kept) {
    kept_ = kept;
    age_ = (age_ + 1) & age_mask;
    // An age that comes round again must not bring forgotten entries back.
    if (age_ == 0 && !kept) clear();
}

}  // namespace arvek
