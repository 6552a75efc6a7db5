#pragma once
// Standard: the search to take for play. Alpha-beta, and whatever else a game's abilities allow.
//
//     arvek::Standard<MyGame> search(game, {.table_mebibytes = 64});
//     auto decision = search.decide(position, {.seconds = 0.5, .clock = arvek::steady_seconds});
//
// It goes deeper ply by ply, whatever the limits. Stopped in the middle of a depth, it keeps the best move of the last
// one it finished, unless the unfinished one has already found a better. What each technique is and what it needs of
// the game: techniques.hpp.
//
// What is guaranteed where positions repeat (game/repetition.hpp): a position met again on the way counts as a draw, in
// the search and against the history passed in. No value that rests on such a draw is ever taken from the table for
// another way to the position. A proven win or loss is therefore proven however the position was reached.
//
// With the table on, a value may come from a line searched deeper than asked; with it off, and without quiescence and
// reductions, values are those of minimax at that depth.
//
// Source of the deepening: Slate, Atkin (1977), "Chess 4.5"; of each technique: its header under detail/. One object
// serves one caller at a time.

#include <optional>
#include <span>
#include <vector>

#include "arvek/search/detail/helpers.hpp"
#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/detail/standard_tree.hpp"

namespace arvek {

struct StandardOptions {
    Techniques techniques{};
    std::size_t table_mebibytes = 16;  ///< 1 to most_table_mebibytes; the power of two below is used
    bool keep_table = false;           ///< whether a decision may use what earlier ones left in the table
    /// 1 to most_threads. More than one search at once and share the table, which they need; a node limit is divided
    /// among them. With one, the same request gives the same decision and counters.
    int threads = 1;
};

inline constexpr int most_threads = 256;

/// Throws InputError unless 1 <= threads <= most_threads, and for several threads without a table to share.
void check_threads(int threads, bool has_table);

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G, Stepping S = Stepping::Automatic>
class Standard : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

template <Game G, Stepping S>
class Standard<G, S> {
    static_assert(detail::game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit Standard(const G& game, const StandardOptions& options = {}) : game_(game), options_(options) {
        if (HashedGame<G> && options.techniques.table) table_.emplace(options.table_mebibytes);
        check_threads(options.threads, table_.has_value());
        if (options.threads > 1) work_.resize(1);
        workers_.resize(static_cast<std::size_t>(options.threads));
    }

    /// The best move within the limits, the legal moves ranked as `request.ranking` asks. `earlier`: the positions of
    /// the game before this one, for the repetition rule. Throws InputError for limits out of range and a finished
    /// position.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {}) {
        check_limits(limits);
        if (table_) table_->begin_decision(options_.keep_table);
        Limits own = limits;
        if (own.nodes) own.nodes = std::max<std::uint64_t>(*own.nodes / workers_.size(), 1);
        for (auto& work : work_) work.forget();
        detail::Flag stop;
        Limits helping{.depth = limits.depth, .nodes = own.nodes, .stop = StopToken::of(stop)};
        const auto help = [&](std::size_t i) {
            SearchRequest<Move> other = request;
            other.tree = nullptr;
            search(workers_[i + 1], position, helping, other, earlier);
        };
        detail::Helpers helpers(workers_.size() - 1, help, stop);
        Decision<Move> decision = search(workers_[0], position, own, request, earlier);
        helpers.finish();
        for (std::size_t i = 1; i < workers_.size(); ++i) {
            const Counters& more = workers_[i].counters;
            decision.stats.nodes += more.nodes;
            decision.stats.leaves += more.leaves;
            decision.stats.cutoffs += more.cutoffs;
            decision.stats.table_hits += more.table_hits;
        }
        return decision;
    }

   private:
    using Tree = detail::StandardTree<G, S>;

    struct Worker {
        detail::StandardMemory<Move> memory;
        Counters counters;
    };

    Decision<Move> search(Worker& worker, const Position& position, const Limits& limits,
                          const SearchRequest<Move>& request, std::span<const Position> earlier) {
        detail::Budget budget(limits);
        Tree tree(game_, options_.techniques, table_ ? &*table_ : nullptr, worker.memory, budget, request,
                  work_.empty() ? nullptr : work_.data());
        if constexpr (RepeatingGame<G>) tree.begin_path(earlier, position);
        Limits deepening = limits;
        if (!deepening.nodes && !deepening.seconds)
            deepening.nodes = UINT64_MAX;  // a depth alone is deepened to as well
        auto decision = detail::RootSearch<G, Tree>(game_, tree, budget, position, request).decide(deepening);
        worker.counters = budget.counters();
        return decision;
    }

    G game_;
    StandardOptions options_;
    std::optional<TranspositionTable> table_;
    std::vector<detail::WorkInHand> work_;  ///< one in all, where there are several threads
    std::vector<Worker> workers_;           ///< one for each thread
};

template <class G>
Standard(const G&) -> Standard<G>;
template <class G>
Standard(const G&, const StandardOptions&) -> Standard<G>;

}  // namespace arvek
