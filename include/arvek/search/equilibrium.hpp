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
// than was asked for. Needs events that can be listed. Views must remember enough: a view that is met again after a move
// of the same player (it forgets what was done) is refused. Sources: Zinkevich et al. (2007), "Regret Minimization in
// Games with Incomplete Information"; Tammelin (2014), "Solving Large Imperfect Information Games Using CFR+".

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

namespace arvek {

struct EquilibriumOptions {
    double exploitability = 1e-4;          ///< enough; in points, 0 or more
    int iterations = 200'000;              ///< at the most, 1 or more
    std::size_t memory_mebibytes = 1'024;  ///< for the tree, 1 or more
    std::optional<double> seconds{};
    Clock clock{};
    StopToken stop{};
};

/// Throws InputError for an option out of range.
void check_options(const EquilibriumOptions& options);

/// What to do behind one view.
template <class View, class Move>
struct MixedMoves {
    struct Share {
        Move move{};
        double probability = 0.0;
        double value = 0.0;  ///< the expected payoff of the move, against the other's strategy
    };

    Player player = Player::First;
    View view{};
    std::vector<Share> moves;
};

template <class View, class Move>
struct EquilibriumFound {
    double value = 0.0;           ///< the first player's, when both play so
    double exploitability = 0.0;  ///< half of what the best answers to both gain together
    double error = 0.0;           ///< the game's value lies no farther off `value`: what they gain together
    std::vector<MixedMoves<View, Move>> strategy;  ///< in the order in which views come up
    int iterations = 0;
    std::uint64_t positions = 0;
    bool complete = false;  ///< whether the exploitability is as small as was asked for
    double seconds = 0.0;
    std::string stopped_by;  ///< "end", "iterations", "time" or "stop"
};

template <ViewedGame G>
class Equilibrium {
    static_assert(game_is_complete<G>());
    static_assert(game_is_for_two<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using View = typename G::View;
    using Found = EquilibriumFound<View, Move>;

    explicit Equilibrium(const G& game) : game_(game) {}

    /// From the initial position. Throws InputError for options out of range, a game not of two, events that cannot be
    /// listed, a tree that is too large for the memory, views that forget, and payoffs that do not sum to zero.
    Found solve(const EquilibriumOptions& options = {}) { return solve(game_.initial_position(), options); }
    /// The same from a position that both sides know to have come, such as one before anything is dealt.
    Found solve(const Position& start, const EquilibriumOptions& options) {
        check_options(options);
        require_game_for_two(game_, "equilibrium");
        if (has_chance(game_) && !lists_events(game_))
            throw InputError("equilibrium", "events are drawn and not listed, so they cannot be weighed",
                             ability_info(Ability::Chance).functions);
        detail::RegretTree tree;
        views_.clear();
        known_.clear();
        moves_.clear();
        lay_out(start, tree, options.memory_mebibytes * 1024 * 1024);
        const detail::RegretReport report =
            tree.minimise({options.exploitability, options.iterations, options.seconds, options.clock, options.stop});
        Found found;
        found.value = report.value;
        found.exploitability = report.exploitability;
        found.error = 2 * report.exploitability;
        found.iterations = report.iterations;
        found.positions = tree.size();
        found.complete = report.complete;
        found.seconds = report.seconds;
        found.stopped_by = report.stopped_by;
        for (std::size_t set = 0; set < views_.size(); ++set) {
            auto& row = found.strategy.emplace_back();
            row.player = tree.player_of(set);
            row.view = views_[set];
            for (std::size_t i = 0; i < moves_[set].size(); ++i)
                row.moves.push_back({moves_[set][i], report.probabilities[set][i], report.values[set][i]});
        }
        return found;
    }

   private:
    /// The tree, with positions before anybody has moved merged where chance comes to them in several ways.
    void lay_out(const Position& start, detail::RegretTree& tree, std::size_t most_bytes) {
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
                    if (next.size() * sizeof(Dealt) > most_bytes) throw_too_large();
                    places.add(hash, static_cast<std::uint32_t>(next.size()));
                    next.push_back({after, probability});
                }
            }
            open = std::move(next);
        }
        std::vector<double> probabilities;
        for (const Dealt& dealt : settled) probabilities.push_back(dealt.probability);
        const auto root = tree.add_chance(probabilities);
        for (std::size_t i = 0; i < settled.size(); ++i)
            tree.set_child(root, i, below(settled[i].position, tree, most_bytes));
    }
    std::uint64_t hash_of(const Position& position) const {
        if constexpr (HashedGame<G>)
            if (has_hash(game_)) return game_.hash(position);
        return 0;
    }
    [[noreturn]] static void throw_too_large() {
        throw InputError("equilibrium", "the tree of the game is too large for the memory",
                         "a smaller game, or more memory");
    }

    std::uint32_t below(const Position& position, detail::RegretTree& tree, std::size_t most_bytes) {
        if (tree.bytes() > most_bytes) throw_too_large();
        if (const auto outcome = game_.outcome(position)) {
            if (outcome->payoff(Player::First) != -outcome->payoff(Player::Second))
                throw InputError("equilibrium", "payoffs do not sum to zero",
                                 "a game in which one wins what the other loses");
            return tree.add_end(outcome->payoff(Player::First));
        }
        if (chance_is_next(game_, position)) {
            MoveList<Event<Move>> events;
            list_events(game_, position, events);
            std::vector<double> probabilities;
            for (const auto& event : events) probabilities.push_back(event.probability);
            const auto node = tree.add_chance(probabilities);
            for (std::size_t i = 0; i < events.size(); ++i)
                tree.set_child(node, i, after_move(position, events[i].move, tree, most_bytes));
            return node;
        }
        const Player player = game_.player_to_move(position);
        const MoveList<Move> legal = legal_moves(game_, position);
        const std::uint32_t set = set_of(game_.view(position, player), player, legal, tree);
        const auto node = tree.add_choice(set);
        for (std::size_t i = 0; i < moves_[set].size(); ++i) {
            // Moves are those of the view, so each position behind it has them, perhaps in another order.
            if (!legal.contains(moves_[set][i])) throw_moves_differ();
            tree.set_child(node, i, after_move(position, moves_[set][i], tree, most_bytes));
        }
        return node;
    }
    std::uint32_t after_move(const Position& position, const Move& move, detail::RegretTree& tree,
                             std::size_t most_bytes) {
        Position next = position;
        game_.play(next, move);
        return below(next, tree, most_bytes);
    }
    [[noreturn]] static void throw_moves_differ() {
        throw InputError("equilibrium", "two positions with the same view have different legal moves",
                         "legal moves that follow from what is seen");
    }

    std::uint32_t set_of(const View& view, Player player, const MoveList<Move>& legal, detail::RegretTree& tree) {
        const std::uint64_t key = view_key(view) + index_of(player);
        const std::uint32_t known =
            known_.find(key, [&](std::uint32_t set) { return views_[set] == view && tree.player_of(set) == player; });
        if (known != detail::KeyIndex::none) {
            if (moves_[known].size() != legal.size()) throw_moves_differ();
            return known;
        }
        const auto set = static_cast<std::uint32_t>(views_.size());
        views_.push_back(view);
        moves_.emplace_back(legal.begin(), legal.end());
        known_.add(key, set);
        tree.add_set(player, legal.size());
        return set;
    }

    G game_;
    std::vector<View> views_;
    std::vector<std::vector<Move>> moves_;
    detail::KeyIndex known_;
};

template <class G>
Equilibrium(const G&) -> Equilibrium<G>;

}  // namespace arvek
