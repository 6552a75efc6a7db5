#pragma once
// Counting move sequences: the quickest proof that a move generator is right, against figures known from elsewhere.
//
//     for (const auto& row : arvek::count_sequences(game, game.initial_position(), 5)) ...

#include <cstdint>
#include <string>
#include <unordered_map>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/game/text.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

/// A count in 128 bits, which knows when even those do not do.
class LargeCount {
   public:
    /// A number of 64 bits.
    constexpr LargeCount(std::uint64_t number = 0) : number_(number) {}

    /// Adds; what is too large stays so.
    constexpr LargeCount& operator+=(const LargeCount& more) {
        number_ += more.number_;
        too_large_ = too_large_ || more.too_large_ || number_ < more.number_;
        return *this;
    }
    /// Adds one.
    constexpr LargeCount& operator++() { return *this += 1; }

    constexpr bool is_too_large() const { return too_large_; }  ///< more than 2^128 - 1
    /// Whether number_64() can tell it.
    constexpr bool fits_64_bits() const { return !too_large_ && number_ >> 64 == 0; }
    /// Requires fits_64_bits().
    constexpr std::uint64_t in_64_bits() const { return static_cast<std::uint64_t>(number_); }
    /// In decimal digits; "over 340282366920938463463374607431768211455" when it is too large.
    std::string text() const;

    friend constexpr bool operator==(const LargeCount&, const LargeCount&) = default;

   private:
    __extension__ typedef unsigned __int128 Wide;

    Wide number_;
    bool too_large_ = false;
};

/// How many sequences of moves there are of a length, and how they end.
struct SequenceCount {
    int depth = 0;               ///< the length, in plies
    LargeCount sequences{};      ///< move sequences of exactly this length
    LargeCount finished{};       ///< those of them that end the game
    bool knows_finished = true;  ///< false: of this length those that end the game were not looked for
};

/// What counting does about the moves of the last ply.
enum class LastPly : std::uint8_t {
    Played,  ///< each, so that it is known which end the game
    Counted  ///< as many as the game says that there are (game/move_count.hpp), where it says so: many times as fast
};

namespace detail {

/// Throws InputError for a depth out of range.
void check_count_depth(int depth);

template <LastPly L, Game G>
void count_from(const G& game, const typename G::Position& position, std::size_t depth,
                std::vector<SequenceCount>& counts, std::vector<MoveList<typename G::Move>>& lists) {
    if constexpr (L == LastPly::Counted && CountingGame<G>) {
        if (depth + 1 == counts.size() && !chance_is_next(game, position)) {
            const int moves = game.count_moves(position);
            if (moves < 1) throw_no_move();
            counts[depth].sequences += static_cast<std::uint64_t>(moves);
            counts[depth].knows_finished = false;
            return;
        }
    }
    if constexpr (requires { game.count_ply(position); }) {
        if (depth + 1 == counts.size() && game.has_count() && !chance_is_next(game, position)) {
            const CountedPly counted = game.count_ply(position);
            counts[depth].sequences += counted.moves;
            counts[depth].finished += counted.ends;
            return;
        }
    }
    auto& moves = lists[depth];
    moves.clear();
    generate_what_is_next(game, position, moves);
    if (moves.empty()) throw_no_move();
    for (const auto& move : moves) {
        Step<G, Stepping::Copying> step(game, position, move);
        const auto& after = step.position();
        ++counts[depth].sequences;
        if (game.outcome(after))
            ++counts[depth].finished;
        else if (depth + 1 < counts.size())
            count_from<L>(game, after, depth + 1, counts, lists);
    }
}

}  // namespace detail

/// One entry for each depth from 1 to `depth`. Throws InputError for a depth out of range (1 to max_depth).
template <Game G>
std::vector<SequenceCount> count_sequences(const G& game, const typename G::Position& position, int depth,
                                           LastPly last = LastPly::Played) {
    detail::check_count_depth(depth);
    std::vector<SequenceCount> counts(static_cast<std::size_t>(depth));
    for (std::size_t i = 0; i < counts.size(); ++i) counts[i].depth = static_cast<int>(i) + 1;
    std::vector<MoveList<typename G::Move>> lists(counts.size());
    if (game.outcome(position)) return counts;
    if (last == LastPly::Counted && offers(game, Ability::MoveCount))
        detail::count_from<LastPly::Counted>(game, position, 0, counts, lists);
    else
        detail::count_from<LastPly::Played>(game, position, 0, counts, lists);
    return counts;
}

/// The same counts, each position counted once however often it is reached with as many plies to go. Much faster where
/// sequences meet again; takes memory for every position met, and rests on the game's hash. Throws as
/// count_sequences().
template <HashedGame G>
std::vector<SequenceCount> count_sequences_with_table(const G& game, const typename G::Position& position, int depth) {
    detail::check_count_depth(depth);
    // What lies below a position, by its hash and the plies to go: counts of the next ply, of the one after, and so on.
    using Below = std::vector<SequenceCount>;
    std::unordered_map<std::uint64_t, Below> known;
    const auto count = [&](const auto& self, const typename G::Position& at, int plies) -> const Below& {
        const std::uint64_t key = hash_of_words({game.hash(at), static_cast<std::uint64_t>(plies)});
        if (const auto found = known.find(key); found != known.end()) return found->second;
        Below below(static_cast<std::size_t>(plies));
        for (const auto& move : legal_moves(game, at)) {
            auto after = at;
            game.play(after, move);
            ++below[0].sequences;
            if (game.outcome(after)) {
                ++below[0].finished;
            } else if (plies > 1) {
                const Below& further = self(self, after, plies - 1);
                for (std::size_t i = 0; i < further.size(); ++i) {
                    below[i + 1].sequences += further[i].sequences;
                    below[i + 1].finished += further[i].finished;
                }
            }
        }
        return known.emplace(key, std::move(below)).first->second;
    };
    if (game.outcome(position)) return count_sequences(game, position, depth);
    std::vector<SequenceCount> counts = count(count, position, depth);
    for (std::size_t i = 0; i < counts.size(); ++i) counts[i].depth = static_cast<int>(i) + 1;
    return counts;
}

/// How counting goes about it.
struct CountOptions {
    bool with_table = false;  ///< each position once, which needs the game's hash and throws InputError without
    LastPly last_ply = LastPly::Played;  ///< without a table
};

/// Counts for a game whose type is gone. Throws as both do.
std::vector<SequenceCount> count_sequences_as(const AnyGame& game, const AnyPosition& position, int depth,
                                              const CountOptions& options);

}  // namespace arvek
