#pragma once
// Exact values of games of chance for one or two in which all is in sight and play may go round: how much each side gets
// with best play.
//
//     auto solution = arvek::LuckSolver<MyGame>(game).solve(position, {.clock = arvek::steady_seconds});
//     solution.value, solution.error;         // of the first player, and by how much it may be off
//
// Every position that can come is kept, and a least and a most are improved from the end of the game on, over and over,
// until they meet. So the answer holds whenever it is stopped: the value lies within the error. Needs a hash and events
// that can be listed. Source: Haddad, Monmege (2018), "Interval Iteration Algorithm for MDPs and IMDPs".

#include <cstdint>
#include <string>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/text.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/position_store.hpp"
#include "arvek/search/detail/random_lines.hpp"
#include "arvek/search/solution.hpp"

namespace arvek {

/// Solves games of chance.
template <Game G>
class LuckSolver {
    static_assert(game_is_complete<G>());
    static_assert(detail::holds(!ViewedGame<G> || AnswersAtRunTime<G>),
                  "Arvek: this solver sees the whole position, and players of this game do not; take Equilibrium "
                  "instead (search/equilibrium.hpp)");

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// For a game that lives as long.
    explicit LuckSolver(const G& game) : game_(game) {}

    /// Throws InputError for options out of range, a game of three or four, one without a hash or with events that cannot
    /// be listed, a finished position, and one after which positions can come back where that is a draw.
    LuckSolution<Move> solve(const Position& position, const LuckSolveOptions& options = {});

   private:
    void check(const LuckSolveOptions& options) const {
        if (!(options.error > 0)) throw InputError("error", "it is out of range", "more than 0");
        if (options.memory_mebibytes < 1) throw InputError("memory", "0 MiB is out of range", "1 or more MiB");
        if (players_of(game_) > 2)
            throw InputError("solve", "the game has " + std::to_string(players_of(game_)) + " players",
                             "a game of one or two");
        if (!has_hash(game_))
            throw InputError("solve", "the game has no hash, by which positions are recognised",
                             ability_info(Ability::Hash).functions);
        if (has_chance(game_) && !lists_events(game_))
            throw InputError("solve", "events are drawn and not listed, so they cannot be weighed",
                             ability_info(Ability::Chance).functions);
    }

    Payoff largest_seen() const {
        double largest = 1;
        for (std::size_t i = 0; i < ends_.size(); ++i) largest = std::max(largest, ends_[i] < 0 ? -ends_[i] : ends_[i]);
        return static_cast<Payoff>(largest);
    }
    /// No payoff is larger, either way.
    double payoff_bound() const {
        const Payoff most = margins_ ? most_payoff_of(game_) : 1;
        return frontier_ == 0 && most >= largest_payoff ? largest_seen() : most;
    }

    void begin() {
        positions_.clear();
        is_end_.clear();
        is_chance_.clear();
        maximises_.clear();
        ends_.clear();
        first_.assign(1, 0);
        next_.clear();
        weight_.clear();
        slots_.assign(1024, 0);
        frontier_ = 0;
    }

    /// All positions that can come; where memory or time run out before, those that were not looked at stay between the
    /// least and the most. The reason then, or an empty text.
    std::string expand(const Position& start, std::size_t most_bytes) {
        (void)place_of(start);
        MoveList<Move> moves;
        MoveList<Event<Move>> events;
        for (std::size_t at = 0; at < positions_.size(); ++at) {
            const bool out_of_memory = bytes() > most_bytes;
            if (out_of_memory || !budget_->spend_node()) {
                frontier_ = positions_.size() - at;
                const std::string why = out_of_memory ? "memory" : name_of(budget_->reason());
                first_.resize(positions_.size() + 1, first_.back());
                return why;
            }
            const Position position = positions_[at];
            if (const auto outcome = game_.outcome(position)) {
                is_end_[at] = true;
                if (players_of(game_) == 2) require_zero_sum(*outcome);
                const Payoff payoff = outcome->payoff(Player::First);
                ends_[at] = margins_ ? payoff : std::clamp(payoff, -1, 1);
            } else if (chance_is_next(game_, position)) {
                is_chance_[at] = true;
                events.clear();
                list_events(game_, position, events);
                for (const auto& event : events) add(position, event.move, event.probability);
            } else {
                maximises_[at] = players_of(game_) == 1 || game_.player_to_move(position) == Player::First;
                moves.clear();
                game_.generate_moves(position, moves);
                if (moves.empty()) throw_no_move();
                for (const Move& move : moves) add(position, move, 0.0);
            }
            first_.push_back(next_.size());
        }
        return "";
    }
    void add(const Position& position, const Move& move, double weight) {
        Position after = position;
        game_.play(after, move);
        const std::uint32_t place = place_of(after);
        next_.push_back(place);
        weight_.push_back(weight);
    }

    std::size_t bytes() const {
        return positions_.size() * (positions_.bytes_each() + 40) + slots_.size() * sizeof(std::uint32_t) +
               next_.size() * 12;
    }

    std::uint32_t place_of(const Position& position) {
        if (2 * positions_.size() >= slots_.size()) grow();
        std::size_t slot = hash_of(position) & (slots_.size() - 1);
        while (slots_[slot] != 0) {
            if (positions_.is(slots_[slot] - 1, position)) return slots_[slot] - 1;
            slot = (slot + 1) & (slots_.size() - 1);
        }
        positions_.push_back(position);
        is_end_.push_back(false);
        is_chance_.push_back(false);
        maximises_.push_back(false);
        ends_.push_back(0.0);
        slots_[slot] = static_cast<std::uint32_t>(positions_.size());
        return slots_[slot] - 1;
    }
    std::uint64_t hash_of(const Position& position) const {
        if constexpr (HashedGame<G>) return mix_bits(game_.hash(position));
        return 0;
    }
    void grow() {
        slots_.assign(slots_.size() * 2, 0);
        for (std::size_t i = 0; i < positions_.size(); ++i) {
            std::size_t slot = hash_of(positions_[i]) & (slots_.size() - 1);
            while (slots_[slot] != 0) slot = (slot + 1) & (slots_.size() - 1);
            slots_[slot] = static_cast<std::uint32_t>(i + 1);
        }
    }

    /// Whether play can come back to a position.
    bool goes_round() const {
        std::vector<std::uint32_t> before(positions_.size(), 0);  // positions that lead here and are not done
        for (const std::uint32_t to : next_) ++before[to];
        std::vector<std::uint32_t> free;
        for (std::uint32_t i = 0; i < before.size(); ++i)
            if (before[i] == 0) free.push_back(i);
        std::size_t done = 0;
        for (; !free.empty(); ++done) {
            const std::uint32_t from = free.back();
            free.pop_back();
            for (std::size_t k = first_[from]; k < first_[from + 1]; ++k)
                if (--before[next_[k]] == 0) free.push_back(next_[k]);
        }
        return done < positions_.size();
    }

    /// Each position once, from those that were found last to the first; returns by how much the most changed bound did.
    double sweep() {
        double changed = 0;
        for (std::size_t i = positions_.size(); i-- > 0;) {
            const std::size_t from = first_[i], to = first_[i + 1];
            if (from == to) continue;  // an end, or not looked at
            if ((i & 1023) == 0 && !budget_->spend_node()) return changed;
            double least = 0, most = 0;
            if (is_chance_[i]) {
                for (std::size_t k = from; k < to; ++k) {
                    least += weight_[k] * least_[next_[k]];
                    most += weight_[k] * most_[next_[k]];
                }
            } else if (maximises_[i]) {
                least = most = -1e300;
                for (std::size_t k = from; k < to; ++k) {
                    least = std::max(least, least_[next_[k]]);
                    most = std::max(most, most_[next_[k]]);
                }
            } else {
                least = most = 1e300;
                for (std::size_t k = from; k < to; ++k) {
                    least = std::min(least, least_[next_[k]]);
                    most = std::min(most, most_[next_[k]]);
                }
            }
            least = std::max(least, least_[i]);
            most = std::min(most, most_[i]);
            changed = std::max({changed, least - least_[i], most_[i] - most});
            least_[i] = least;
            most_[i] = most;
        }
        return changed;
    }

    void name_moves(const Position& position, int side, LuckSolution<Move>& solution) {
        const auto value_of = [&](std::size_t k) { return side * (least_[next_[k]] + most_[next_[k]]) / 2; };
        std::size_t k = first_[0];
        if (first_.size() < 2 || first_[1] == k) return;
        if (is_chance_[0]) {
            MoveList<Event<Move>> events;
            list_events(game_, position, events);
            for (const auto& event : events) solution.moves.push_back({event.move, event.probability, value_of(k++)});
            return;
        }
        for (const Move& move : legal_moves(game_, position)) solution.moves.push_back({move, 0.0, value_of(k++)});
        std::stable_sort(solution.moves.begin(), solution.moves.end(),
                         [](const auto& a, const auto& b) { return a.value > b.value; });
    }

    G game_;
    detail::Budget* budget_ = nullptr;
    detail::PositionStore<Position> positions_;
    std::vector<bool> is_end_, is_chance_, maximises_;
    std::vector<double> ends_, least_, most_;
    std::vector<std::size_t> first_;
    std::vector<std::uint32_t> next_;
    std::vector<double> weight_;
    std::vector<std::uint32_t> slots_;
    std::size_t frontier_ = 0;  ///< positions that were not looked at
    double bound_ = 1;
    bool margins_ = true;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
auto LuckSolver<G>::solve(const Position& position, const LuckSolveOptions& options) -> LuckSolution<Move> {
    check(options);
    if (game_.outcome(position))
        throw InputError("position", "the game is over, so there is nothing to solve", "a position where play goes on");
    detail::Budget budget({.seconds = options.seconds, .clock = options.clock, .stop = options.stop});
    budget_ = &budget;
    margins_ = options.margins;
    begin();
    const std::size_t most_bytes = options.memory_mebibytes * 1024 * 1024;
    LuckSolution<Move> solution;
    solution.stopped_by = expand(position, most_bytes);
    if (draw_at_occurrence_of(game_) > 0 && goes_round())
        throw InputError("solve",
                         "positions come back in this game of chance, and what a draw by repetition makes them worth "
                         "depends on the way to them",
                         "a position after which none comes back, or decide with expectation");
    int side = 1;
    if (!is_chance_[0]) side = game_.player_to_move(position) == Player::First ? 1 : -1;
    bound_ = payoff_bound();
    least_.assign(positions_.size(), -bound_);
    most_.assign(positions_.size(), bound_);
    for (std::size_t i = 0; i < positions_.size(); ++i)
        if (is_end_[i]) least_[i] = most_[i] = ends_[i];
    while (solution.stopped_by.empty()) {
        const double changed = sweep();
        ++solution.sweeps;
        if (most_[0] - least_[0] <= 2 * options.error) {
            solution.complete = true;
            solution.stopped_by = "end";
        } else if (budget.stopped()) {
            solution.stopped_by = name_of(budget.reason());
        } else if (changed <= 0) {
            solution.stopped_by = "end";  // nothing changes any more: play without an end keeps the bounds apart
        }
    }
    solution.value = side * (least_[0] + most_[0]) / 2;
    solution.error = (most_[0] - least_[0]) / 2;
    solution.positions = positions_.size();
    solution.seconds = budget.seconds();
    name_moves(position, side, solution);
    return solution;
}

template <class G>
LuckSolver(const G&) -> LuckSolver<G>;

}  // namespace arvek
