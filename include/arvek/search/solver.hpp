#pragma once
// Solver: the exact value of a position and every move that keeps it.
//
//     auto solution = arvek::Solver(game, {.memory_mebibytes = 2'048}).solve(position);
//
// A game whose positions can come back (game/repetition.hpp) is solved by retrograde analysis of all that can be
// reached, endless play being a draw; it must fit into the memory, and the plies to the end are known. Every other game
// is searched to the end with a table: first win, draw or loss, then, where margins count, by narrowing what it can be
// worth; plies are not known then. Stopped early, the solution says what is proven so far. The game must have a hash.
// Source of the narrowing: Plaat, Schaeffer, Pijls, de Bruin (1996), "Best-First Fixed-Depth Minimax Algorithms"
// (MTD(f)).

#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/search/detail/retrograde.hpp"
#include "arvek/search/detail/solving_tree.hpp"
#include "arvek/search/solution.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

/// Solves positions of games for one or two exactly.
template <HashedGame G>
class Solver {
    static_assert(game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for a game that is not one of two players, or says that it has no hash.
    explicit Solver(const G& game, const SolveOptions& options = {}) : game_(game), options_(options) {
        require_searchable(game_, "solve");
        if (!has_hash(game_)) throw_not_offered(Ability::Hash);
        check_threads(options.threads, true);
    }

    /// Throws InputError for an option out of range and for a finished position.
    Solution<Move> solve(const Position& position);

   private:
    Solution<Move> by_search(const Position& position, const Limits& limits) {
        detail::Budget budget(limits);
        const bool alone = options_.threads == 1;
        // A table that several threads use cannot grow.
        detail::SlotTable table(options_.memory_mebibytes,
                                alone ? detail::first_mebibytes_of_solving : options_.memory_mebibytes);
        std::vector<detail::WorkInHand> work(alone ? 0 : 1);
        detail::WorkInHand* const shared = alone ? nullptr : work.data();
        detail::SolvingTree<G> tree(game_, table, options_.hint, budget, shared);
        std::vector<Counters> of_helpers(static_cast<std::size_t>(options_.threads - 1));

        const Player player = game_.player_to_move(position);
        Solution<Move> solution;
        solution.method = "search to the end";
        for (const Move& move : legal_moves(game_, position))
            solution.moves.push_back({move, largest_payoff, ScoreKind::Upper, {}});

        Payoff reached_payoff = 0;  // by the last move that reached what was asked
        // Is the move worth `payoff` or more? Learns from the answer either way.
        const auto reaches = [&](SolvedMove<Move>& solved, Payoff payoff) {
            Position at = position;
            StopFlag stop;
            Limits helping = limits;
            helping.stop = StopToken::of(stop);
            // Other threads are asked the same, and what they find out they leave in the table.
            const auto help = [&](std::size_t i) {
                detail::Budget own(helping);
                detail::SolvingTree<G> helper(game_, table, options_.hint, own, shared);
                Position from = position;
                helper.after(from, player, solved.move, payoff, &helper.frames.front());
                of_helpers[i] += own.counters();
            };
            WorkerThreads threads(of_helpers.size(), help, stop);
            const Payoff worth = tree.after(at, player, solved.move, payoff, &tree.frames.front());
            threads.finish();
            if (budget.stopped()) return false;
            if (worth < payoff) {
                solved.value = std::min(solved.value, worth);
                return false;
            }
            reached_payoff = worth;
            return true;
        };
        // Whether some move is worth that much; the one that is comes first afterwards.
        const auto some_reaches = [&](Payoff payoff) {
            for (std::size_t i = 0; i < solution.moves.size(); ++i) {
                if (solution.moves[i].value < payoff) continue;
                const bool reached = reaches(solution.moves[i], payoff);
                if (budget.stopped()) return false;
                if (!reached) continue;
                solution.least = std::max(solution.least, reached_payoff);
                std::rotate(solution.moves.begin(), solution.moves.begin() + static_cast<std::ptrdiff_t>(i),
                            solution.moves.begin() + static_cast<std::ptrdiff_t>(i) + 1);
                return true;
            }
            solution.most = -largest_payoff;
            for (const auto& solved : solution.moves) solution.most = std::max(solution.most, solved.value);
            return false;
        };

        solution.most = most_payoff_of(game_);
        solution.least = -solution.most;
        if constexpr (BoundedGame<G>) {
            if (wants_used<Ability::PayoffBounds>(game_)) {
                const PayoffBounds bounds = game_.payoff_bounds(position, player);
                solution.least = std::max(solution.least, bounds.least);
                solution.most = std::min(solution.most, bounds.most);
            }
        }
        for (auto& solved : solution.moves) solved.value = solution.most;
        // Win, draw or loss first; then from the side that was proven last.
        Payoff asked = solution.least < 1 && solution.most >= 1 ? 1 : solution.most;
        while (solution.least < solution.most && !budget.stopped()) {
            some_reaches(asked);
            if (options_.progress) options_.progress(solution.least, solution.most, budget.nodes());
            if (!options_.margins &&
                (solution.least >= 1 || solution.most <= -1 || (solution.least == 0 && solution.most == 0)))
                break;
            if (solution.most == 0 && solution.least < 0)
                asked = 0;
            else if (solution.least > 0)
                asked = solution.least + 1;
            else
                asked = solution.most;
        }
        if (!options_.margins) {
            solution.least = std::clamp(solution.least, -1, 1);
            solution.most = std::clamp(solution.most, -1, 1);
        }
        solution.complete = solution.least == solution.most;
        // Every move that keeps the value; of a loss whose size does not matter, every move.
        const bool all_keep = !options_.margins && solution.most < 0;
        for (auto& solved : solution.moves) {
            if (!solution.complete || budget.stopped()) break;
            if (all_keep || (solved.value >= solution.least && reaches(solved, solution.least))) {
                solved.value = solution.least;
                solved.kind = ScoreKind::Exact;
            }
        }
        if (!options_.margins)
            for (auto& solved : solution.moves) solved.value = std::clamp(solved.value, -1, 1);
        std::stable_sort(solution.moves.begin(), solution.moves.end(), [](const auto& a, const auto& b) {
            return a.kind != b.kind ? a.kind < b.kind : a.value > b.value;
        });
        solution.stopped_by = budget.stopped() ? name_of(budget.reason()) : "solved";
        if (budget.stopped()) solution.complete = false;
        solution.counters = budget.counters();
        for (const Counters& more : of_helpers) solution.counters += more;
        solution.seconds = budget.seconds();
        return solution;
    }

    Solution<Move> by_retrograde(const Position& position, const Limits& limits) requires RepeatingGame<G> {
        detail::Budget budget(limits);
        Solution<Move> solution;
        solution.method = "retrograde analysis";
        // Where a position may not come back at all, a move after which the start is met again has drawn.
        const bool once = draw_at_occurrence_of(game_) == 2;
        detail::Retrograde<G> retrograde(game_, budget, options_.memory_mebibytes << 20, once);
        if (retrograde.solve(position, [&](std::size_t positions) {
                if (options_.progress) options_.progress(solution.least, solution.most, positions);
            })) {
            solution.stopped_by = "solved";
            const Player player = game_.player_to_move(position);
            const auto seen_by_mover = [&](const Position& at) {
                auto value = retrograde.value_of(at);
                if (player == Player::Second) value.payoff = -value.payoff;
                if (!options_.margins) value.payoff = std::clamp(value.payoff, -1, 1);
                return value;
            };
            for (const Move& move : legal_moves(game_, position)) {
                Position after = position;
                game_.play(after, move);
                const auto value = seen_by_mover(after);
                solution.moves.push_back({move, value.payoff, ScoreKind::Exact, {}});
                if (value.plies >= 0) solution.moves.back().plies = value.plies + 1;
            }
            // A win sooner, a loss later.
            std::stable_sort(solution.moves.begin(), solution.moves.end(), [](const auto& a, const auto& b) {
                if (a.value != b.value) return a.value > b.value;
                const int a_plies = a.plies.value_or(0), b_plies = b.plies.value_or(0);
                return a.value > 0 ? a_plies < b_plies : a_plies > b_plies;
            });
            solution.least = solution.most = solution.moves.front().value;
            solution.plies = solution.moves.front().plies;
            solution.complete = true;
        } else {
            solution.stopped_by = budget.stopped() ? name_of(budget.reason()) : "memory";
            for (const Move& move : legal_moves(game_, position))
                solution.moves.push_back({move, largest_payoff, ScoreKind::Upper, {}});
        }
        solution.counters.nodes = retrograde.size();
        solution.seconds = budget.seconds();
        return solution;
    }

    G game_;
    SolveOptions options_;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <HashedGame G>
auto Solver<G>::solve(const Position& position) -> Solution<Move> {
    Limits limits;
    limits.seconds = options_.seconds;
    limits.clock = options_.clock;
    limits.stop = options_.stop;
    check_limits(limits);
    if (legal_moves(game_, position).empty())
        throw InputError("position", "the game is over, so there is nothing to solve", "a position where play goes on");
    if constexpr (RepeatingGame<G>) {
        if (draw_at_occurrence_of(game_) > 0) return by_retrograde(position, limits);
    }
    return by_search(position, limits);
}

template <class G>
Solver(const G&) -> Solver<G>;
template <class G>
Solver(const G&, const SolveOptions&) -> Solver<G>;

}  // namespace arvek
