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

struct StandardOptions {
    Techniques techniques{};
    std::size_t table_mebibytes = 16;  ///< 1 to most_table_mebibytes; the power of two below is used
    /// Whether a decision may use what earlier ones left in the table. In a game where positions repeat that is the
    /// best moves alone, since scores there hold for one course of the game.
    bool keep_table = false;
    /// 1 to most_threads. More than one search at once and share the table, which they need; a node limit is divided
    /// among them. With one, the same request gives the same decision and counters.
    int threads = 1;
};

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
        techniques_ = options_.techniques;
        hint_ = HintWorth::Unknown;
        Decision<Move> first;
        Limits left = limits;
        if (tries_out_the_hint()) {
            for (const std::uint64_t first_nodes : {std::uint64_t{500}, std::uint64_t{2'000}}) {
                Decision<Move> trial = try_out_the_hint(position, left, first_nodes, request, earlier);
                const bool goes_on = take_off(left, trial.stats);
                first = deeper(std::move(first), std::move(trial));
                if (!goes_on) return first;
                if (hint_ != HintWorth::Unknown) break;
            }
        }
        return deeper(std::move(first), search_in_threads(position, left, request, earlier));
    }

   private:
    using Tree = detail::StandardTree<G, S>;

    /// Of the game's ordering hint, against what the search learns.
    enum class HintWorth : std::uint8_t { Unknown, Nothing, Much };

    struct Worker {
        detail::StandardMemory<Move> memory;
        Counters counters;
    };

    TranspositionTable* table() { return table_ ? &*table_ : nullptr; }

    static void add(Counters& sum, const Counters& more) {
        sum.nodes += more.nodes;
        sum.leaves += more.leaves;
        sum.cutoffs += more.cutoffs;
        sum.table_hits += more.table_hits;
    }

    /// Of two decisions one after the other the second, unless it was stopped before it came as deep as the first; with
    /// the counters of both.
    static Decision<Move> deeper(Decision<Move> first, Decision<Move> second) {
        DecisionStats stats = second.stats;
        const std::uint64_t nodes_before = first.stats.nodes;
        add(stats, first.stats);
        stats.seconds += first.stats.seconds;
        if (stats.hint_nodes == 0) {
            stats.hint_nodes = first.stats.hint_nodes;
            stats.no_hint_nodes = first.stats.no_hint_nodes;
        }
        const bool came_to_less = second.stats.depth < first.stats.depth && second.stats.stopped_by != StoppedBy::End;
        Decision<Move> decision = came_to_less ? std::move(first) : std::move(second);
        if (came_to_less) {
            stats.depth = decision.stats.depth;
            stats.nodes_to_depth = decision.stats.nodes_to_depth;
        } else {
            stats.nodes_to_depth += nodes_before;
        }
        decision.stats = stats;
        return decision;
    }

    /// A hint can only be worth less than what the search learns where it learns anything.
    bool tries_out_the_hint() const {
        const Techniques& use = options_.techniques;
        if constexpr (!HintingGame<G>) return false;
        return use.hint && (use.history || use.killers || use.replies) && offers_hint();
    }
    bool offers_hint() const {
        if constexpr (HintingGame<G>) return wants_used<Ability::OrderHint>(game_);
        return false;
    }

    /// The first depths, as far as so many nodes go; then the same without the hint, with a table of its own. Where that
    /// is cheaper, the search goes on without the hint. The decision is that of the first depths, whole where the limits
    /// do not reach beyond them.
    Decision<Move> try_out_the_hint(const Position& position, const Limits& limits, std::uint64_t first_nodes,
                                    const SearchRequest<Move>& request, std::span<const Position> earlier) {
        constexpr double cheaper = 0.93, dearer = 1.1;
        Limits few = limits;
        few.nodes = std::min(limits.nodes.value_or(first_nodes), first_nodes);
        begin_table(request.margins);
        Decision<Move> first = search(workers_[0], position, few, request, earlier, table());
        const std::uint64_t with_hint = first.stats.nodes_to_depth;
        if (first.stats.stopped_by != StoppedBy::Nodes || limits.nodes == few.nodes || first.stats.depth < 2)
            return first;
        if (!table_for_trying_ && table_) table_for_trying_.emplace(1);
        if (table_for_trying_) table_for_trying_->begin_decision(Kept::Nothing);
        techniques_.hint = false;
        SearchRequest<Move> unseen = request;
        unseen.tree = nullptr;
        const auto most = static_cast<std::uint64_t>(dearer * static_cast<double>(with_hint));
        Limits same = limits;
        if (!take_off(same, first.stats)) return first;
        same.depth = first.stats.depth;
        same.nodes = std::min(most, same.nodes.value_or(most));
        const Decision<Move> other =
            search(workers_[0], position, same, unseen, earlier, table_for_trying_ ? &*table_for_trying_ : nullptr);
        if (other.stats.depth < first.stats.depth)
            hint_ = HintWorth::Much;
        else if (static_cast<double>(other.stats.nodes) < cheaper * static_cast<double>(with_hint))
            hint_ = HintWorth::Nothing;
        first.stats.hint_nodes = with_hint;
        first.stats.no_hint_nodes = other.stats.nodes;
        add(first.stats, other.stats);
        first.stats.seconds += other.stats.seconds;
        techniques_.hint = hint_ != HintWorth::Nothing;
        if (!techniques_.hint) begin_table(request.margins);
        return first;
    }

    /// What is left of the limits; false where nothing is, and `used` says by which it was stopped.
    static bool take_off(Limits& limits, DecisionStats& used) {
        if (used.stopped_by != StoppedBy::Nodes) return false;  // not by the few nodes of the first depths
        if (limits.nodes) {
            if (*limits.nodes <= used.nodes) return false;
            *limits.nodes -= used.nodes;
        }
        if (limits.seconds) {
            if (*limits.seconds <= used.seconds) used.stopped_by = StoppedBy::Time;
            *limits.seconds -= used.seconds;
        }
        if (limits.stop.stop_requested()) used.stopped_by = StoppedBy::Stop;
        return used.stopped_by == StoppedBy::Nodes;
    }

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
            search(workers_[i + 1], position, helping, other, earlier, table());
        };
        WorkerThreads helpers(searching - 1, help, stop);
        Decision<Move> decision = search(workers_[0], position, own, request, earlier, table());
        helpers.finish();
        for (std::size_t i = 1; i < searching; ++i) add(decision.stats, workers_[i].counters);
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
                          const SearchRequest<Move>& request, std::span<const Position> earlier,
                          TranspositionTable* table) {
        detail::Budget budget(limits);
        Tree tree(game_, techniques_, evaluator_.get(), table, worker.memory, budget, request,
                  work_.empty() ? nullptr : work_.data());
        tree.hint_leads = hint_ == HintWorth::Much;
        if constexpr (RepeatingGame<G>) tree.line_of_play.begin(game_, earlier, position);
        detail::RootQuestion question;
        question.learns_order = question.deepens = true;
        question.aspires = options_.techniques.aspiration;
        auto decision =
            detail::decide_by_tree(game_, tree, budget, position, limits, request, question, evaluator_.get());
        worker.counters = budget.counters();
        return decision;
    }

    G game_;
    StandardOptions options_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    Techniques techniques_;  ///< those of the decision
    HintWorth hint_ = HintWorth::Unknown;
    bool margins_in_table_ = true;
    std::optional<TranspositionTable> table_;
    std::optional<TranspositionTable> table_for_trying_;  ///< of a search without the hint
    std::vector<detail::WorkInHand> work_;                ///< one in all, where there are several threads
    std::vector<Worker> workers_;                         ///< one for each thread
};

template <class G>
Standard(const G&) -> Standard<G>;
template <class G>
Standard(const G&, const StandardOptions&) -> Standard<G>;

}  // namespace arvek
