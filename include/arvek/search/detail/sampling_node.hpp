#pragma once
// The nodes of a Monte Carlo tree, and the arena they stand in: see search/monte_carlo.hpp.

#include <algorithm>
#include <array>
#include <atomic>
#include <bit>
#include <cstdint>
#include <cstdlib>
#include <memory>
#include <new>
#include <type_traits>
#include <vector>

#include "arvek/game/player.hpp"

namespace arvek::detail {

/// Visits and the sum of what they were worth, in points.
class SampledSum {
   public:
    /// So many visits do not overflow.
    static constexpr std::uint32_t most_visits = 2'000'000'000;

    struct Read {
        std::uint32_t visits;
        double sum;

        /// Requires a visit.
        double mean() const { return sum / static_cast<double>(visits); }
    };
    Read read() const { return {visits_.load(std::memory_order_relaxed), sum_.load(std::memory_order_relaxed)}; }
    std::uint32_t visits() const { return visits_.load(std::memory_order_relaxed); }
    template <bool Shared>
    void add(std::uint32_t visits, double sum) {
        if constexpr (Shared) {
            if (visits != 0) visits_.fetch_add(visits, std::memory_order_relaxed);
            if (sum != 0) sum_.fetch_add(sum, std::memory_order_relaxed);
        } else {
            visits_.store(visits_.load(std::memory_order_relaxed) + visits, std::memory_order_relaxed);
            sum_.store(sum_.load(std::memory_order_relaxed) + sum, std::memory_order_relaxed);
        }
    }
    void copy(const SampledSum& other) {
        visits_.store(other.visits(), std::memory_order_relaxed);
        sum_.store(other.sum_.load(std::memory_order_relaxed), std::memory_order_relaxed);
    }

   private:
    std::atomic<double> sum_{0};
    std::atomic<std::uint32_t> visits_{0};

   public:
    float prior = 0;  ///< of a move; of an event its probability. Here, as it fills the word
};

/// A value, and whether all below it is known: in one word, so that no thread sees the one without the other, and no
/// estimate that comes late takes the place of what is exact. The lowest bits of the number say which: no payoff needs them.
class SampledGuess {
   public:
    struct Read {
        double value;
        bool exact;
        bool luck;  ///< it is, as a mean over what chance may bring
    };
    Read read() const {
        const std::uint64_t bits = bits_.load(std::memory_order_relaxed);
        return {std::bit_cast<double>(bits & ~all_bits), (bits & exact_bit) != 0, (bits & luck_bit) != 0};
    }
    double value() const { return read().value; }
    bool is_exact() const { return (bits_.load(std::memory_order_relaxed) & exact_bit) != 0; }
    /// It holds whatever chance brings.
    bool is_sure() const { return (bits_.load(std::memory_order_relaxed) & all_bits) == exact_bit; }

    void set_exact(double value, bool luck = false) {
        bits_.store(bits_of(value) | exact_bit | (luck ? luck_bit : 0), std::memory_order_relaxed);
    }
    /// Changes nothing that is exact, with `Shared` whatever other threads do.
    template <bool Shared>
    void set_estimate(double value) {
        std::uint64_t bits = bits_.load(std::memory_order_relaxed);
        if constexpr (Shared) {
            while ((bits & exact_bit) == 0 &&
                   !bits_.compare_exchange_weak(bits, bits_of(value), std::memory_order_relaxed)) {
            }
        } else {
            if ((bits & exact_bit) == 0) bits_.store(bits_of(value), std::memory_order_relaxed);
        }
    }
    /// It is an estimate from now on.
    void doubt() { bits_.store(bits_of(value()), std::memory_order_relaxed); }
    void copy(const SampledGuess& other) {
        bits_.store(other.bits_.load(std::memory_order_relaxed), std::memory_order_relaxed);
    }

   private:
    static constexpr std::uint64_t exact_bit = 1, luck_bit = 2, all_bits = 3;
    static std::uint64_t bits_of(double value) { return std::bit_cast<std::uint64_t>(value) & ~all_bits; }

    std::atomic<std::uint64_t> bits_{0};
};

/// Where the children of a node stand and what they are: in one word, so that whoever sees where also sees how many.
class SampledChildren {
   public:
    struct Read {
        std::uint32_t first = 0;  ///< 0: none yet, 1: they are being made
        std::uint32_t count = 0;  ///< up to `most`
        bool chance = false;      ///< chance chooses among them
        bool even = false;        ///< and all are as likely
        bool drawn = false;       ///< and they are those that were drawn so far
        bool busy = false;        ///< and a thread is adding another
        bool tight = false;       ///< and there is no room behind them
        bool cut = false;         ///< and there are more moves, which are never looked at

        bool there() const { return first > 1; }
    };
    static constexpr std::uint32_t most = (1u << 24) - 1;

    Read read() const { return unpacked(word_.load(std::memory_order_acquire)); }
    void set(const Read& children) { word_.store(packed(children), std::memory_order_release); }
    bool exchange(const Read& expected, const Read& children) {
        std::uint64_t word = packed(expected);
        return word_.compare_exchange_strong(word, packed(children), std::memory_order_acq_rel);
    }

   private:
    static std::uint64_t packed(const Read& c) {
        return c.first | static_cast<std::uint64_t>(c.count) << 32 | static_cast<std::uint64_t>(c.chance) << 56 |
               static_cast<std::uint64_t>(c.even) << 57 | static_cast<std::uint64_t>(c.drawn) << 58 |
               static_cast<std::uint64_t>(c.busy) << 59 | static_cast<std::uint64_t>(c.tight) << 60 |
               static_cast<std::uint64_t>(c.cut) << 61;
    }
    static Read unpacked(std::uint64_t word) {
        const auto flag = [word](int bit) { return (word >> bit & 1) != 0; };
        return {static_cast<std::uint32_t>(word),
                static_cast<std::uint32_t>(word >> 32) & most,
                flag(56),
                flag(57),
                flag(58),
                flag(59),
                flag(60),
                flag(61)};
    }

    std::atomic<std::uint64_t> word_{0};
};

/// 40 bytes with a move of up to eight bytes. All values are for whoever chose the move that leads to the node.
template <class Move>
struct SampledNode {
    SampledSum sum;
    SampledGuess guess;  ///< the backed-up evaluation, or the exact value
    SampledChildren children;
    Move move{};

    SampledNode() = default;
    SampledNode(const SampledNode& other) { *this = other; }
    SampledNode& operator=(const SampledNode& other) {
        sum.copy(other.sum);
        sum.prior = other.sum.prior;
        guess.copy(other.guess);
        children.set(other.children.read());
        move = other.move;
        return *this;
    }
};

/// What the node's position is thought to be worth to every player, where there are more than two.
struct SampledSeats {
    std::array<std::atomic<float>, max_players> of{};

    void copy(const SampledSeats& other) {
        for (std::size_t i = 0; i < of.size(); ++i) set(i, other.at(i));
    }
    double at(std::size_t i) const { return of[i].load(std::memory_order_relaxed); }
    void set(std::size_t i, double value) { of[i].store(static_cast<float>(value), std::memory_order_relaxed); }
};

/// A fixed number of nodes. The children of a node lie side by side, and behind it.
template <class Move>
class SampledArena {
   public:
    using Node = SampledNode<Move>;
    static constexpr std::uint32_t root = 2;

    /// `seats`: whether nodes have values for every player.
    explicit SampledArena(std::size_t mebibytes, bool seats = false)
        : room_(static_cast<std::uint32_t>(std::min<std::size_t>(
              mebibytes * 1024 * 1024 / (sizeof(Node) + (seats ? sizeof(SampledSeats) : 0)), 1u << 31))) {
        if (seats) {
            seats_.reset(static_cast<SampledSeats*>(std::calloc(room_, sizeof(SampledSeats))));
            if (seats_ == nullptr) throw std::bad_alloc();
        }
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
    /// Requires seats.
    SampledSeats& seats(std::uint32_t i) { return seats_.get()[i]; }
    const SampledSeats& seats(std::uint32_t i) const { return seats_.get()[i]; }
    std::uint32_t room() const { return room_; }
    /// Whether nothing has been dropped yet.
    bool is_whole() const { return whole_; }
    std::uint32_t used() const { return std::min(used_.load(std::memory_order_relaxed), room_); }

    void clear() {
        whole_ = true;
        used_.store(root + 1, std::memory_order_relaxed);
        fresh(root);
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
    /// Makes the node the root. What is not below it stays in the room until make_room().
    void move_root_to(std::uint32_t node) {
        nodes_[root] = Node(nodes_[node]);
        if (seats_ != nullptr) seats(root).copy(seats(node));
    }

   private:
    static constexpr bool plain = std::is_trivially_copyable_v<Move> && std::is_trivially_destructible_v<Move>;

    bool is_marked(std::uint32_t i) const { return (marks_[i / 64] >> (i % 64) & 1) != 0; }

    /// Marks what stays: the root, and the children of nodes that stay and were visited often enough. Children lie
    /// behind their parents, so one way through does, but for events that were moved to a larger room.
    void mark(std::uint32_t least_visits) {
        marks_.assign(used() / 64 + 1, 0);
        marks_[0] |= std::uint64_t{1} << root;
        marked_ = 1;
        while (mark_once(least_visits)) {
        }
    }
    /// Whether anything was marked that lies before what it belongs to.
    bool mark_once(std::uint32_t least_visits) {
        const std::uint32_t end = used();
        bool moved = false;
        for (std::uint32_t i = root; i < end; ++i) {
            const auto children = nodes_[i].children.read();
            if (!is_marked(i) || !children.there() || is_marked(children.first)) continue;
            if (i != root && nodes_[i].sum.visits() < least_visits) continue;
            moved = moved || children.first < i;
            for (std::uint32_t child = children.first; child < children.first + children.count; ++child)
                marks_[child / 64] |= std::uint64_t{1} << (child % 64);
            marked_ += children.count;
        }
        return moved;
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
            auto children = node.children.read();
            const bool stays = children.there() && is_marked(children.first);
            if (stays) {
                children.first = place(children.first);
                children.tight = true;
            } else {
                children = {};
            }
            node.children.set(children);
            if (seats_ != nullptr) seats(to).copy(seats(i));
            nodes_[to++] = node;
        }
        used_.store(to, std::memory_order_relaxed);
        whole_ = false;
        return to < end;
    }

    struct Free {
        void operator()(void* memory) const { std::free(memory); }
    };

    std::uint32_t room_;
    Node* nodes_ = nullptr;
    std::unique_ptr<SampledSeats, Free> seats_;
    std::atomic<std::uint32_t> used_{0};
    std::vector<std::uint64_t> marks_;
    std::uint32_t marked_ = 0;
    bool whole_ = true;
};

}  // namespace arvek::detail
