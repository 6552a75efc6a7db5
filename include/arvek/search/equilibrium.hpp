#pragma once
// Equilibrium of a small game with views, for two whose payoffs sum to zero: strategies that nobody can profit from
// leaving, with the mixing and bluffing that this takes.
//
//     auto found = arvek::Equilibrium<MyGame>(game).solve({.exploitability = 1e-3});
//     found.value;                // the expected payoff of the first player
//     found.exploitability;       // what the best answers gain, in the mean of both seats; exact
//     for (const auto& row : found.strategy) ...     // player, view, and the probability of each move
//
// The whole tree of the game is laid out in memory, and regrets are minimised on it until the best answers gain no more
// than was asked for. Where it is too large for that, `sampled` minimises them on games that are drawn, and keeps nothing
// but the views that come up; how far from an equilibrium it ends is then known only if the tree can be laid out after all.
// Events need be listed unless `sampled`. Views must remember enough: a view that is met again after a move of the same
// player (it forgets what was done) is refused. Sources: Zinkevich et al. (2007), "Regret Minimization in Games with
// Incomplete Information"; Tammelin (2014), "Solving Large Imperfect Information Games Using CFR+";
// detail/sampled_regrets.hpp.

#include <algorithm>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/text.hpp"
#include "arvek/game/view.hpp"
#include "arvek/search/detail/key_index.hpp"
#include "arvek/search/detail/regret_tree.hpp"
#include "arvek/search/detail/sampled_regrets.hpp"
#include "arvek/search/mixed_strategy.hpp"

namespace arvek {

/// Looks for strategies that nobody can profit by leaving.
template <ViewedGame G>
class Equilibrium {
    static_assert(game_is_complete<G>());
    static_assert(game_is_for_two<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using View = typename G::View;
    using Found = EquilibriumFound<View, Move>;  ///< what it gives

    /// For a game that lives as long.
    explicit Equilibrium(const G& game) : game_(game) {}

    /// From the initial position. Throws InputError for options out of range, a game not of two, events that cannot be
    /// listed, a tree that is too large for the memory, views that forget, and payoffs that do not sum to zero.
    Found solve(const EquilibriumOptions& options = {}) { return solve(game_.initial_position(), options); }
    /// The same from a position that both sides know to have come, such as one before anything is dealt.
    Found solve(const Position& start, const EquilibriumOptions& options);

   private:
    using Drawn = detail::SampledRegrets<G>;

    Found solve_by_drawing(const Position& start, const EquilibriumOptions& options, bool weighs) {
        const std::size_t most_bytes = options.memory_mebibytes * 1024 * 1024;
        const double started = options.clock.seconds_or_0();
        Limits limits{.seconds = options.seconds, .clock = options.clock, .stop = options.stop};
        detail::Budget budget(limits);
        Drawn drawn(game_, most_bytes / 2, budget);
        Random random(options.seed);
        Found found;
        while (found.stopped_by.empty()) {
            if (!drawn.walk(start, random, found.iterations + 1)) {
                found.stopped_by = drawn.is_full() ? "memory" : budget.reason() == StoppedBy::Time ? "time" : "stop";
                break;
            }
            ++found.iterations;
            if (found.iterations >= options.iterations) found.stopped_by = "iterations";
        }
        // A best answer takes the whole tree.
        detail::RegretTree tree;
        clear();
        found.measured = weighs && !options.stop.stop_requested() && lay_out(start, tree, most_bytes / 2);
        if (found.measured) {
            std::vector<std::vector<double>> shares(views_.size());
            for (std::size_t set = 0; set < views_.size(); ++set) {
                const std::uint32_t known = drawn.find(views_[set], tree.player_of(set));
                std::vector<double> sums(moves_[set].size(), 0.0);
                for (std::size_t i = 0; known != detail::KeyIndex::none && i < moves_[set].size(); ++i) {
                    const auto& own = drawn.sets()[known];
                    const auto at = std::find(own.moves.begin(), own.moves.end(), moves_[set][i]);
                    sums[i] = own.sums[static_cast<std::size_t>(at - own.moves.begin())];
                }
                detail::shares_above_zero(sums, shares[set]);
            }
            const detail::RegretReport report = tree.judge(std::move(shares));
            found.complete = report.exploitability <= options.exploitability;
            fill(found, tree, report);
        } else {
            detail::DrawnMean mean;
            // As many games as fit into a tenth of the time.
            const double began = options.clock.seconds_or_0(), most = 0.1 * options.seconds.value_or(1e9);
            for (int i = 0; i < 20'000; ++i) {
                mean.add(drawn.play(start, random));
                if (i > 100 && (options.stop.stop_requested() || options.clock.seconds_or_0() - began > most)) break;
            }
            found.value = mean.mean();
            found.error = mean.error();
            for (const auto& set : drawn.sets()) {
                auto& row = found.strategy.emplace_back();
                row.player = set.player;
                row.view = set.view;
                std::vector<double> shares;
                detail::shares_above_zero(set.sums, shares);
                for (std::size_t i = 0; i < shares.size(); ++i) row.moves.push_back({set.moves[i], shares[i], 0.0});
            }
        }
        found.seconds = options.clock.seconds_or_0() - started;
        return found;
    }

    void clear() {
        views_.clear();
        known_.clear();
        moves_.clear();
        open_.clear();
    }
    void fill(Found& found, const detail::RegretTree& tree, const detail::RegretReport& report) const {
        found.value = report.value;
        found.exploitability = report.exploitability;
        found.error = 2 * report.exploitability;
        found.positions = tree.size();
        for (std::size_t set = 0; set < views_.size(); ++set) {
            auto& row = found.strategy.emplace_back();
            row.player = tree.player_of(set);
            row.view = views_[set];
            for (std::size_t i = 0; i < moves_[set].size(); ++i)
                row.moves.push_back({moves_[set][i], report.probabilities[set][i], report.values[set][i]});
        }
    }

    /// The tree, with positions before anybody has moved merged where chance comes to them in several ways. False where
    /// it is too large.
    bool lay_out(const Position& start, detail::RegretTree& tree, std::size_t most_bytes) {
        struct Dealt {
            Position position;
            double probability;
        };
        std::vector<Dealt> open{{start, 1.0}}, settled;
        while (!open.empty()) {
            std::vector<Dealt> next;
            detail::KeyIndex places;
            for (const Dealt& dealt : open) {
                if (game_.outcome(dealt.position) || !chance_is_next(game_, dealt.position)) {
                    settled.push_back(dealt);
                    continue;
                }
                MoveList<Event<Move>> events;
                list_events(game_, dealt.position, events);
                for (const auto& event : events) {
                    Position after = dealt.position;
                    game_.play(after, event.move);
                    const double probability = dealt.probability * event.probability;
                    const std::uint64_t hash = mix_bits(hash_of(after));
                    const std::uint32_t known =
                        places.find(hash, [&](std::uint32_t place) { return next[place].position == after; });
                    if (known != detail::KeyIndex::none) {
                        next[known].probability += probability;
                        continue;
                    }
                    if (next.size() * sizeof(Dealt) > most_bytes) return false;
                    places.add(hash, static_cast<std::uint32_t>(next.size()));
                    next.push_back({after, probability});
                }
            }
            open = std::move(next);
        }
        std::vector<double> probabilities;
        for (const Dealt& dealt : settled) probabilities.push_back(dealt.probability);
        too_large_ = false;
        const auto root = tree.add_chance(probabilities);
        for (std::size_t i = 0; i < settled.size() && !too_large_; ++i)
            tree.set_child(root, i, below(settled[i].position, tree, most_bytes, 0));
        return !too_large_;
    }
    std::uint64_t hash_of(const Position& position) const {
        if constexpr (HashedGame<G>)
            if (has_hash(game_)) return game_.hash(position);
        return 0;
    }
    std::uint32_t below(const Position& position, detail::RegretTree& tree, std::size_t most_bytes, int ply) {
        constexpr int most_plies = 1'000;  // beyond, play may have no end
        too_large_ = too_large_ || tree.bytes() > most_bytes || ply > most_plies;
        if (too_large_) return 0;
        if (const auto outcome = game_.outcome(position)) return tree.add_end(detail::payoff_of_first<G>(*outcome));
        if (chance_is_next(game_, position)) {
            MoveList<Event<Move>> events;
            list_events(game_, position, events);
            std::vector<double> probabilities;
            for (const auto& event : events) probabilities.push_back(event.probability);
            const auto node = tree.add_chance(probabilities);
            for (std::size_t i = 0; i < events.size(); ++i)
                tree.set_child(node, i, after_move(position, events[i].move, tree, most_bytes, ply));
            return node;
        }
        const Player player = game_.player_to_move(position);
        const MoveList<Move> legal = legal_moves(game_, position);
        const std::uint32_t set = set_of(game_.view(position, player), player, legal, tree);
        if (open_[set]) detail::throw_view_forgets();
        open_[set] = true;
        const auto node = tree.add_choice(set);
        for (std::size_t i = 0; i < moves_[set].size(); ++i) {
            // Moves are those of the view, so each position behind it has them, perhaps in another order.
            if (!legal.contains(moves_[set][i])) detail::throw_moves_differ();
            tree.set_child(node, i, after_move(position, moves_[set][i], tree, most_bytes, ply));
        }
        open_[set] = false;
        return node;
    }
    std::uint32_t after_move(const Position& position, const Move& move, detail::RegretTree& tree,
                             std::size_t most_bytes, int ply) {
        Position next = position;
        game_.play(next, move);
        return below(next, tree, most_bytes, ply + 1);
    }
    std::uint32_t set_of(const View& view, Player player, const MoveList<Move>& legal, detail::RegretTree& tree) {
        const std::uint64_t key = view_key(view) + index_of(player);
        const std::uint32_t known =
            known_.find(key, [&](std::uint32_t set) { return views_[set] == view && tree.player_of(set) == player; });
        if (known != detail::KeyIndex::none) {
            if (moves_[known].size() != legal.size()) detail::throw_moves_differ();
            return known;
        }
        const auto set = static_cast<std::uint32_t>(views_.size());
        views_.push_back(view);
        moves_.emplace_back(legal.begin(), legal.end());
        open_.push_back(false);
        known_.add(key, set);
        tree.add_set(player, legal.size());
        return set;
    }

    G game_;
    bool too_large_ = false;
    std::vector<View> views_;
    std::vector<std::vector<Move>> moves_;
    std::vector<bool> open_;  ///< the way that is laid out leads through it
    detail::KeyIndex known_;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <ViewedGame G>
auto Equilibrium<G>::solve(const Position& start, const EquilibriumOptions& options) -> Found {
    check_options(options);
    require_game_for_two(game_, "equilibrium");
    const bool weighs = !has_chance(game_) || lists_events(game_);
    if (!options.sampled && !weighs)
        throw InputError("equilibrium", "events are drawn and not listed, so they cannot be weighed",
                         std::string(ability_info(Ability::Chance).functions) + ", or drawn games (`sampled`)");
    if (options.sampled) return solve_by_drawing(start, options, weighs);
    detail::RegretTree tree;
    clear();
    if (!lay_out(start, tree, options.memory_mebibytes * 1024 * 1024))
        throw InputError("equilibrium", "the tree of the game is too large for the memory, or play has no end",
                         "a smaller game, more memory, or drawn games (`sampled`)");
    const detail::RegretReport report =
        tree.minimise({options.exploitability, options.iterations, options.seconds, options.clock, options.stop});
    Found found;
    found.iterations = report.iterations;
    found.complete = report.complete;
    found.seconds = report.seconds;
    found.stopped_by = report.stopped_by;
    fill(found, tree, report);
    return found;
}

template <class G>
Equilibrium(const G&) -> Equilibrium<G>;

}  // namespace arvek
