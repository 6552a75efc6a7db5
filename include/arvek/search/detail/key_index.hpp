#pragma once
// Places by 64-bit key; several may have the same.

#include <cstddef>
#include <cstdint>
#include <vector>

namespace arvek::detail {

class KeyIndex {
   public:
    void clear() {
        slots_.assign(64, {});
        size_ = 0;
    }
    void add(std::uint64_t key, std::uint32_t place) {
        if (2 * (size_ + 1) > slots_.size()) grow();
        put(key, place);
        ++size_;
    }
    /// The first place with the key for which `is_it(place)` is true; none where there is none.
    template <class IsIt>
    std::uint32_t find(std::uint64_t key, IsIt is_it) const {
        if (slots_.empty()) return none;
        for (std::size_t at = key & (slots_.size() - 1); slots_[at].place != none; at = (at + 1) & (slots_.size() - 1))
            if (slots_[at].key == key && is_it(slots_[at].place)) return slots_[at].place;
        return none;
    }

    static constexpr std::uint32_t none = UINT32_MAX;

   private:
    struct Slot {
        std::uint64_t key = 0;
        std::uint32_t place = none;
    };

    void put(std::uint64_t key, std::uint32_t place) {
        std::size_t at = key & (slots_.size() - 1);
        while (slots_[at].place != none) at = (at + 1) & (slots_.size() - 1);
        slots_[at] = {key, place};
    }
    void grow() {
        const std::vector<Slot> old = std::move(slots_);
        slots_.assign(old.empty() ? 64 : 2 * old.size(), {});
        for (const Slot& slot : old)
            if (slot.place != none) put(slot.key, slot.place);
    }

    std::vector<Slot> slots_;
    std::size_t size_ = 0;
};

}  // namespace arvek::detail
