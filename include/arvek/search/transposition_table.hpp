#pragma once
// TranspositionTable: what is known of positions met before, by their hash.
//
// Of a fixed size in MiB; when it is full, what is shallow and old gives way. Any number of threads may read and write
// at once without locks. Source: Zobrist (1970), "A New Hashing Method with Application for Game Playing".

#include <cstddef>
#include <cstdint>

#include "arvek/game/score.hpp"
#include "arvek/search/detail/slot_table.hpp"

namespace arvek {

/// What the score of an entry is.
enum class Bound : std::uint8_t {
    None,   ///< there is none, only a move
    Lower,  ///< at least that
    Upper,  ///< at most that
    Exact   ///< that
};

/// What is known of a position.
struct TableEntry {
    Score score;                   ///< proven scores count plies from the entry's own position
    int depth = 0;                 ///< plies searched below it, at most `complete_depth`
    Bound bound = Bound::None;     ///< what the score is
    std::uint16_t move = no_move;  ///< where the best move stands among the generated ones

    /// The depth of a value that no deeper search can change.
    static constexpr int complete_depth = 1'023;
    static constexpr std::uint16_t no_move = 4'095;  ///< for an entry without a move
};

/// What a decision may use of the entries that earlier decisions left.
enum class Kept : std::uint8_t {
    Nothing,    ///< every decision begins anew
    Moves,      ///< the best moves, which only order: right whatever the game went through before
    Everything  ///< scores too
};

/// The largest table that can be asked for.
inline constexpr std::int64_t most_table_mebibytes = detail::SlotTable::most_mebibytes;

/// What is known of positions met before.
class TranspositionTable {
   public:
    /// Throws InputError unless 1 <= mebibytes <= most_table_mebibytes; std::bad_alloc when there is not so much
    /// memory.
    explicit TranspositionTable(std::size_t mebibytes) : slots_(mebibytes) {}

    /// Begins another decision. What earlier ones left counts as `kept` says, and gives way first.
    void begin_decision(Kept kept);

    /// Forgets everything.
    void clear();

    /// Fetches ahead what look_up() and store() will look at.
    void prefetch(std::uint64_t hash) const { slots_.prefetch(hash); }

    /// Whether `hash` is there; if so, `entry` is what is known.
    bool look_up(std::uint64_t hash, TableEntry& entry) const {
        const std::uint64_t data = slots_.find(hash);
        if (data == 0) return false;
        if (age_of(data) != age_ && kept_ != Kept::Everything) {
            if (kept_ == Kept::Nothing) return false;
            entry = {};
            entry.move = unpacked(data).move;
            return true;
        }
        entry = unpacked(data);
        return true;
    }

    /// Remembers what is known of a position, in place of what matters less.
    void store(std::uint64_t hash, const TableEntry& entry) {
        // Each decision passed counts like eight plies of depth; what counts as gone is worth as little as an empty
        // slot.
        slots_.place(hash, packed(entry), [this](std::uint64_t data) {
            const int decisions_passed = static_cast<int>((age_ - age_of(data)) & age_mask);
            if (decisions_passed > 0 && kept_ == Kept::Nothing) return detail::SlotTable::worth_of_nothing;
            return depth_of(data) - 8 * decisions_passed;
        });
    }

    /// How many entries there is room for.
    std::size_t capacity() const { return slots_.capacity(); }

   private:
    static constexpr std::uint64_t age_mask = 255;

    // score 32 bits, move 12, depth 10, bound 2, age 8; never 0, as every entry has a bound
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

    detail::SlotTable slots_;
    std::uint64_t age_ = 0;
    Kept kept_ = Kept::Nothing;
};

}  // namespace arvek
