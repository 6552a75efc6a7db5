#pragma once
// The nodes of a Monte Carlo tree, and the arena they stand in: see search/monte_carlo.hpp.

#include <algorithm>
#include <atomic>
#include <bit>
#include <cstdint>
#include <cstdlib>
#include <memory>
#include <new>
#include <type_traits>
#include <vector>

namespace arvek::detail {

/// Visits and the sum of their values, in one word, so that one atomic addition keeps both in step.
class SampledSum {
   public:
    static constexpr int visit_bits = 27;
    static constexpr std::uint64_t visit_mask = (std::uint64_t{1} << visit_bits) - 1;
    static constexpr float units = 1023.0f;  ///< a value of 1
    /// So many visits do not overflow.
    static constexpr std::uint32_t most_visits = 100'000'000;

    struct Read {
        std::uint32_t visits;
        float units;  ///< the sum of the values

        /// Requires a visit.
        float mean() const { return units / (static_cast<float>(visits) * SampledSum::units); }
    };
    Read read() const {
        const std::uint64_t word = word_.load(std::memory_order_relaxed);
        return {static_cast<std::uint32_t>(word & visit_mask),
                static_cast<float>(static_cast<std::int64_t>(word >> visit_bits))};
    }
    std::uint32_t visits() const {
        return static_cast<std::uint32_t>(word_.load(std::memory_order_relaxed) & visit_mask);
    }
    static std::uint64_t in_units(float value) { return static_cast<std::uint64_t>(value * units + 0.5f); }
    template <bool Shared>
    void add(std::uint64_t visits, std::uint64_t value_units) {
        const std::uint64_t word = visits + (value_units << visit_bits);
        if constexpr (Shared)
            word_.fetch_add(word, std::memory_order_relaxed);
        else
            word_.store(word_.load(std::memory_order_relaxed) + word, std::memory_order_relaxed);
    }
    void take_back_visit() { word_.fetch_sub(1, std::memory_order_relaxed); }
    void copy(const SampledSum& other) {
        word_.store(other.word_.load(std::memory_order_relaxed), std::memory_order_relaxed);
    }

   private:
    std::atomic<std::uint64_t> word_{0};
};

/// A value, and whether it holds whatever is played: in one word, so that no thread sees the one without the other, and no
/// estimate that comes late takes the place of what is exact.
class SampledGuess {
   public:
    struct Read {
        float value;
        bool exact;
    };
    Read read() const {
        const std::int32_t bits = bits_.load(std::memory_order_relaxed);
        const float number = std::bit_cast<float>(bits);
        return bits >= exact_from ? Read{number - shift, true} : Read{number, false};
    }
    float value() const { return read().value; }
    bool is_exact() const { return bits_.load(std::memory_order_relaxed) >= exact_from; }

    void set_exact(float value) { bits_.store(bits_of(value + shift), std::memory_order_relaxed); }
    /// Changes nothing that is exact, with `Shared` whatever other threads do.
    template <bool Shared>
    void set_estimate(float value) {
        if (!(value <= 1.0f)) value = 0.5f;  // no number
        std::int32_t bits = bits_.load(std::memory_order_relaxed);
        if constexpr (Shared) {
            while (bits < exact_from && !bits_.compare_exchange_weak(bits, bits_of(value), std::memory_order_relaxed)) {
            }
        } else {
            if (bits < exact_from) bits_.store(bits_of(value), std::memory_order_relaxed);
        }
    }
    /// It is an estimate from now on.
    void doubt() { bits_.store(bits_of(value()), std::memory_order_relaxed); }
    void copy(const SampledGuess& other) {
        bits_.store(other.bits_.load(std::memory_order_relaxed), std::memory_order_relaxed);
    }

   private:
    static constexpr std::int32_t bits_of(float value) { return std::bit_cast<std::int32_t>(value); }

    // Values lie between 0 and 1, exact ones are kept with 2 more; the bits of such numbers are in the numbers' order.
    static constexpr float shift = 2.0f;
    static constexpr std::int32_t exact_from = std::bit_cast<std::int32_t>(1.5f);

    std::atomic<std::int32_t> bits_{std::bit_cast<std::int32_t>(0.5f)};
};

/// 24 bytes with a move of up to two bytes. All values are for whoever chose the move that leads to the node.
template <class Move>
struct SampledNode {
    SampledSum sum;
    std::atomic<std::uint32_t> first{0};  ///< of the children; 0: none yet, 1: they are being made
    SampledGuess guess;                   ///< the minimaxed evaluation, or the exact value
    std::uint16_t count = 0;              ///< of the children
    std::uint16_t prior = 0;              ///< in 65535ths; of an event its probability
    bool chance = false;                  ///< chance chooses among the children
    Move move{};

    SampledNode() = default;
    SampledNode(const SampledNode& other) { *this = other; }
    SampledNode& operator=(const SampledNode& other) {
        sum.copy(other.sum);
        first.store(other.first.load(std::memory_order_relaxed), std::memory_order_relaxed);
        guess.copy(other.guess);
        count = other.count;
        prior = other.prior;
        chance = other.chance;
        move = other.move;
        return *this;
    }
    bool has_children() const { return first.load(std::memory_order_acquire) > 1; }
};

/// A fixed number of nodes. The children of a node lie side by side, and behind it.
template <class Move>
class SampledArena {
   public:
    using Node = SampledNode<Move>;
    static constexpr std::uint32_t root = 2;

    explicit SampledArena(std::size_t mebibytes)
        : room_(static_cast<std::uint32_t>(std::min<std::size_t>(mebibytes * 1024 * 1024 / sizeof(Node), 1u << 31))) {
        if constexpr (plain) {
            nodes_ = static_cast<Node*>(std::calloc(room_, sizeof(Node)));
            if (nodes_ == nullptr) throw std::bad_alloc();
        } else {
            nodes_ = new Node[room_];
        }
        clear();
    }
    ~SampledArena() {
        if constexpr (plain)
            std::free(nodes_);
        else
            delete[] nodes_;
    }
    SampledArena(const SampledArena&) = delete;
    SampledArena& operator=(const SampledArena&) = delete;

    Node& operator[](std::uint32_t i) { return nodes_[i]; }
    const Node& operator[](std::uint32_t i) const { return nodes_[i]; }
    std::uint32_t room() const { return room_; }
    std::uint32_t used() const { return std::min(used_.load(std::memory_order_relaxed), room_); }

    void clear() {
        used_.store(root + 1, std::memory_order_relaxed);
        fresh(root) = Node{};
    }
    /// Room for `count` nodes side by side; 0 where there is none.
    std::uint32_t take(std::uint32_t count) {
        if (used_.load(std::memory_order_relaxed) > room_ - count) return 0;
        const std::uint32_t first = used_.fetch_add(count, std::memory_order_relaxed);
        return first <= room_ - count ? first : 0;
    }
    /// A node as new.
    Node& fresh(std::uint32_t i) {
        if constexpr (plain) return *::new (static_cast<void*>(&nodes_[i])) Node{};
        nodes_[i] = Node{};
        return nodes_[i];
    }

    /// Drops the children of all nodes with fewer visits than it takes to free half of the room. No thread may be at
    /// work meanwhile. False where nothing could be freed.
    bool make_room() {
        for (std::uint32_t least = 2; least < SampledSum::most_visits / 2; least *= 2) {
            mark(least);
            if (marked_ <= room_ / 2) return close_up();
        }
        return false;
    }
    /// Makes the node the root and drops what is not below it.
    void move_root_to(std::uint32_t node) {
        nodes_[root] = Node(nodes_[node]);
        mark(0);
        close_up();
    }

   private:
    static constexpr bool plain = std::is_trivially_copyable_v<Move> && std::is_trivially_destructible_v<Move>;

    bool is_marked(std::uint32_t i) const { return (marks_[i / 64] >> (i % 64) & 1) != 0; }

    /// Marks what stays: the root, and the children of nodes that stay and were visited often enough. Children lie
    /// behind their parents, so one way through does.
    void mark(std::uint32_t least_visits) {
        const std::uint32_t end = used();
        marks_.assign(end / 64 + 1, 0);
        marks_[0] |= std::uint64_t{1} << root;
        marked_ = 1;
        for (std::uint32_t i = root; i < end; ++i) {
            if (!is_marked(i) || nodes_[i].first.load(std::memory_order_relaxed) < 2) continue;
            if (i != root && nodes_[i].sum.visits() < least_visits) continue;
            const std::uint32_t first = nodes_[i].first.load(std::memory_order_relaxed);
            for (std::uint32_t child = first; child < first + nodes_[i].count; ++child)
                marks_[child / 64] |= std::uint64_t{1} << (child % 64);
            marked_ += nodes_[i].count;
        }
    }

    /// Moves what is marked together, in order.
    bool close_up() {
        const std::uint32_t end = used();
        std::vector<std::uint32_t> before(marks_.size(), 0);  // marked nodes before each word
        for (std::size_t word = 1; word < marks_.size(); ++word)
            before[word] = before[word - 1] + static_cast<std::uint32_t>(std::popcount(marks_[word - 1]));
        const auto place = [&](std::uint32_t i) {
            const std::uint64_t lower = (std::uint64_t{1} << (i % 64)) - 1;
            return root + before[i / 64] + static_cast<std::uint32_t>(std::popcount(marks_[i / 64] & lower));
        };
        std::uint32_t to = root;
        for (std::uint32_t i = root; i < end; ++i) {
            if (!is_marked(i)) continue;
            Node node(nodes_[i]);
            const std::uint32_t first = node.first.load(std::memory_order_relaxed);
            const bool stays = first > 1 && is_marked(first);
            node.first.store(stays ? place(first) : 0, std::memory_order_relaxed);
            if (!stays) {
                node.count = 0;
                node.chance = false;
            }
            nodes_[to++] = node;
        }
        used_.store(to, std::memory_order_relaxed);
        return to < end;
    }

    std::uint32_t room_;
    Node* nodes_ = nullptr;
    std::atomic<std::uint32_t> used_{0};
    std::vector<std::uint64_t> marks_;
    std::uint32_t marked_ = 0;
};

}  // namespace arvek::detail
