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
// Source of the deepening: Korf (1985), "Depth-First Iterative-Deepening: An Optimal Admissible Tree Search"; of each
// technique: its header under detail/. One object serves one caller at a time.

#include <algorithm>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/detail/standard_tree.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

/// How the standard search goes about it.
struct StandardOptions {
    Techniques techniques{};           ///< those that are switched on
    std::size_t table_mebibytes = 16;  ///< 1 to most_table_mebibytes; the power of two below is used
    /// Whether a decision may use what earlier ones left in the table. In a game where positions repeat that is the
    /// best moves alone, since scores there hold for one course of the game.
    bool keep_table = false;
    /// 1 to most_threads. More than one search at once and share the table, which they need; a node limit is divided
    /// among them. With one, the same request gives the same decision and counters.
    int threads = 1;
};

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G, Stepping S = Stepping::Automatic>
class Standard : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

/// The search itself, for a type that is a game.
template <Game G, Stepping S>
class Standard<G, S> {
    static_assert(game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    /// The first moves are looked at in an order drawn from the seed, so equals need not be told apart.
    using ChoosesBySeed = void;

    /// Throws InputError for an option out of range and for a game that is not one of two players.
    explicit Standard(const G& game, const StandardOptions& options = {},
                      std::shared_ptr<const Evaluator<G>> evaluator = nullptr)
        : game_(game), options_(options), evaluator_(std::move(evaluator)) {
        require_searchable(game_, "standard");
        if (has_hash(game_) && options.techniques.table) table_.emplace(options.table_mebibytes);
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
        begin_table(request.margins);
        return search_in_threads(position, limits, request, earlier);
    }

   private:
    using Tree = detail::StandardTree<G, S>;

    struct Worker {
        detail::StandardMemory<Move> memory;
        Counters counters;
    };

    Decision<Move> search_in_threads(const Position& position, const Limits& limits, const SearchRequest<Move>& request,
                                     std::span<const Position> earlier) {
        for (auto& work : work_) work.forget();
        // No more threads than nodes, and none gets a node too many.
        std::size_t searching = workers_.size();
        Limits own = limits;
        StopFlag stop;
        Limits helping{.depth = limits.depth, .stop = StopToken::of(stop)};
        if (limits.nodes) {
            searching = static_cast<std::size_t>(std::min<std::uint64_t>(searching, *limits.nodes));
            helping.nodes = *limits.nodes / searching;
            own.nodes = *limits.nodes - *helping.nodes * (searching - 1);
        }
        const auto help = [&](std::size_t i) {
            SearchRequest<Move> other = request;
            other.tree = nullptr;
            other.progress = nullptr;
            search(workers_[i + 1], position, helping, other, earlier);
        };
        WorkerThreads helpers(searching - 1, help, stop);
        Decision<Move> decision = search(workers_[0], position, own, request, earlier);
        helpers.finish();
        for (std::size_t i = 1; i < searching; ++i) decision.stats += workers_[i].counters;
        return decision;
    }

    /// Scores in the table hold for one way to count the end of a game, and where positions repeat for one course of
    /// it.
    void begin_table(bool margins) {
        if (!table_) return;
        if (margins != margins_in_table_) table_->clear();
        margins_in_table_ = margins;
        table_->begin_decision(!options_.keep_table               ? Kept::Nothing
                               : draw_at_occurrence_of(game_) > 0 ? Kept::Moves
                                                                  : Kept::Everything);
    }

    Decision<Move> search(Worker& worker, const Position& position, const Limits& limits,
                          const SearchRequest<Move>& request, std::span<const Position> earlier) {
        detail::Budget budget(limits);
        Tree tree(game_, options_.techniques, evaluator_.get(), table_ ? &*table_ : nullptr, worker.memory, budget,
                  request, work_.empty() ? nullptr : work_.data());
        if constexpr (RepeatingGame<G>) tree.line_of_play.begin(game_, earlier, position);
        detail::RootQuestion question;
        question.learns_order = question.deepens = true;
        question.aspires = options_.techniques.aspiration;
        auto decision =
            detail::decide_by_tree(game_, tree, budget, position, limits, request, question, evaluator_.get());
        decision.stats.tries_with_hint = worker.memory.trust.mean_tries(detail::HintTrust::Hint);
        decision.stats.tries_without_hint = worker.memory.trust.mean_tries(detail::HintTrust::Learned);
        worker.counters = budget.counters();
        return decision;
    }

    G game_;
    StandardOptions options_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    bool margins_in_table_ = true;
    std::optional<TranspositionTable> table_;
    std::vector<detail::WorkInHand> work_;  ///< one in all, where there are several threads
    std::vector<Worker> workers_;           ///< one for each thread
};

template <class G>
Standard(const G&) -> Standard<G>;
template <class G>
Standard(const G&, const StandardOptions&) -> Standard<G>;

}  // namespace arvek
