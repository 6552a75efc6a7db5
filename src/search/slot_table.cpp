#include "arvek/search/detail/slot_table.hpp"

#include <algorithm>
#include <bit>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <new>
#include <string>
#include <system_error>
#include <thread>
#include <utility>
#include <vector>

#ifdef __linux__
#include <sys/mman.h>
#endif

#include "arvek/game/input_error.hpp"

namespace arvek::detail {

namespace {

constexpr std::size_t bucket_bytes = 64;
constexpr std::size_t large_page_bytes = std::size_t{2} << 20;
constexpr std::size_t large_pages_from_bytes = std::size_t{128} << 20;

}  // namespace

SlotTable::SlotTable(std::size_t mebibytes, std::size_t used) {
    if (mebibytes < 1 || mebibytes > static_cast<std::size_t>(most_mebibytes))
        throw InputError("memory", std::to_string(mebibytes) + " MiB is out of range",
                         "1 to " + std::to_string(most_mebibytes) + " MiB");
    buckets_ = std::bit_floor((mebibytes << 20) / bucket_bytes);
    const std::size_t bytes = buckets_ * bucket_bytes;
    bucket_mask_ = std::min(buckets_, std::bit_floor((used << 20) / bucket_bytes)) - 1;
    // Zeroed memory that the system hands out page by page: a table that is hardly used costs hardly anything.
    const std::size_t alignment = bytes >= large_pages_from_bytes ? large_page_bytes : bucket_bytes;
    std::size_t room = bytes + alignment;
    memory_ = std::calloc(room, 1);
    if (memory_ == nullptr) throw std::bad_alloc();
    void* aligned = memory_;
    slots_ = static_cast<Slot*>(std::align(alignment, bytes, aligned, room));
#ifdef __linux__
    // Nearly every access of a large table would otherwise have to look up its page first.
    if (bytes >= large_pages_from_bytes) (void)madvise(slots_, bytes, MADV_HUGEPAGE);
#endif
    touch(0, bucket_mask_ + 1);
}

void SlotTable::touch(std::size_t first, std::size_t last) {
    constexpr std::size_t page_buckets = 4'096 / bucket_bytes;
    if ((last - first) * bucket_bytes < large_pages_from_bytes) return;
    const std::size_t count = std::clamp<std::size_t>(std::thread::hardware_concurrency(), 1, 8);
    const auto touch_part = [&](std::size_t part) {
        const std::size_t from = first + (last - first) * part / count,
                          to = first + (last - first) * (part + 1) / count;
        for (std::size_t bucket = from; bucket < to; bucket += page_buckets)
            write(slots_[bucket * slots_in_bucket].data, 0);
    };
    std::vector<std::thread> threads;
    std::size_t part = 1;
    try {
        for (; part < count; ++part) threads.emplace_back(touch_part, part);
    } catch (const std::system_error&) {  // where the system gives fewer threads, this one does the rest
    }
    touch_part(0);
    for (; part < count; ++part) touch_part(part);
    for (std::thread& thread : threads) thread.join();
}

SlotTable::~SlotTable() { std::free(memory_); }

SlotTable::SlotTable(SlotTable&& other) noexcept
    : memory_(std::exchange(other.memory_, nullptr)),
      slots_(std::exchange(other.slots_, nullptr)),
      bucket_mask_(other.bucket_mask_),
      buckets_(other.buckets_) {}

void SlotTable::grow() {
    const std::size_t old_mask = bucket_mask_;
    bucket_mask_ = std::min(4 * (old_mask + 1), buckets_) - 1;
    touch(old_mask + 1, bucket_mask_ + 1);
    // A slot stays or moves to a bucket that has not been used yet.
    for (std::size_t bucket = 0; bucket <= old_mask; ++bucket)
        for (std::size_t i = 0; i < slots_in_bucket; ++i) {
            Slot& slot = slots_[bucket * slots_in_bucket + i];
            const std::uint64_t hash = slot.check ^ slot.data;
            if (slot.data == 0 || (hash & bucket_mask_) == bucket) continue;
            place(hash, slot.data, [](std::uint64_t) { return 0; });
            slot = {};
        }
}

void SlotTable::clear() { std::memset(static_cast<void*>(slots_), 0, (bucket_mask_ + 1) * bucket_bytes); }

void SlotTable::clear_part(std::size_t part, std::size_t parts) {
    const std::size_t buckets = bucket_mask_ + 1;
    const std::size_t from = buckets * part / parts, to = buckets * (part + 1) / parts;
    std::memset(static_cast<void*>(slots_ + from * slots_in_bucket), 0, (to - from) * bucket_bytes);
}

}  // namespace arvek::detail
