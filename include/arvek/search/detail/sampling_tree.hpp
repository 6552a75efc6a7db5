#pragma once
// The Monte Carlo tree of a game in which all is in sight: see search/monte_carlo.hpp.
//
// Selection: Kocsis, Szepesvari (2006), "Bandit Based Monte-Carlo Planning"; with priors: Rosin (2011), "Multi-armed
// Bandits with Episode Context". Minimaxed evaluations mixed into the means: Lanctot et al. (2014), "Monte Carlo Tree
// Search with Heuristic Evaluations using Implicit Minimax Backups". Exact values backed up: Winands, Bjornsson, Saito
// (2008), "Monte-Carlo Tree Search Solver". Several threads without locks: Enzenberger, Mueller (2010), "A Lock-free
// Multithreaded Monte-Carlo Tree Search Algorithm".

#include <array>
#include <span>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/random_play.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/detail/sampling_choice.hpp"
#include "arvek/search/detail/sampling_node.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/move_prior.hpp"

namespace arvek::detail {

template <Game G>
class SamplingTree {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Node = SampledNode<Move>;
    using Arena = SampledArena<Move>;
    static constexpr std::uint32_t root = Arena::root;
    static constexpr bool may_be_for_more = CountedPlayersGame<G>;

    /// A way down from the root that a thread takes several times before it tells the others what came of it: the nodes
    /// near the root belong to all, and to write to them for every playout would cost as much as the playout.
    struct Way {
        /// What is under way is a small part of the visits of every node on it.
        static constexpr std::uint32_t most_times = 16, share = 32, least_visits = 256;

        std::uint32_t left = 0, taken = 0;
        std::size_t steps = 0, seen = 0;   ///< of the worker's path and seen
        Position position{};               ///< at its end
        std::vector<std::uint64_t> units;  ///< by step: the sum of what came of it
    };

    /// What one thread needs; on cache lines of its own.
    struct alignas(64) Worker : RandomPlay<G> {
        using RandomPlay<G>::RandomPlay;

        std::vector<SampledStep> path;
        std::vector<Position> seen;  ///< where positions repeat
        Way way;                     ///< with several threads
        MoveList<Event<Move>> events;
        std::vector<float> weights;
        std::uint64_t playouts = 0, leaves = 0;
        int deepest = 0;
        bool root_is_exact = false;  ///< found by this one
    };

    SamplingTree(const G& game, Arena& arena, const SamplingRules& rules, const ValueAxis& axis,
                 const Evaluator<G>* evaluator, const MovePrior<G>* prior)
        : game_(game),
          arena_(arena),
          rules_(rules),
          axis_(axis),
          evaluator_(evaluator),
          prior_(prior),
          players_(static_cast<std::size_t>(players_of(game))) {}

    void begin(const Position& position, std::span<const Position> earlier, std::span<const Move> only,
               float repetition) {
        root_position_ = position;
        earlier_ = earlier;
        only_ = only;
        repetition_ = repetition;
    }

    /// Makes the children of the root, so that no thread finds another at it.
    void begin_root(Worker& w) {
        bool full = false;
        if (!arena_[root].has_children()) (void)expand(w, arena_[root], root_position_, 0, full);
    }

    /// One playout. False, and nothing of it counted, where the nodes ran out in the middle. Sets `full` where there was
    /// no room for a node's children.
    template <bool Shared>
    bool iterate(Worker& w, bool& full) {
        if constexpr (Shared) {
            if (w.way.left == 0 && !find_way(w)) return false;
            --w.way.left;
            w.path.resize(w.way.steps);
            if constexpr (RepeatingGame<G>) w.seen.resize(w.way.seen);
        } else {
            w.path.clear();
            w.path.push_back({root, 0});
            if constexpr (RepeatingGame<G>) w.seen.clear();
        }
        Position position = Shared ? w.way.position : root_position_;
        SampledValues values{};
        bool exact_now = false;
        for (;;) {
            const SampledStep here = w.path.back();
            Node& node = arena_[here.node];
            if (w.path.size() > 1) {
                if (const auto known = node.guess.read(); known.exact) {
                    values = values_for(here.chooser, known.value);
                    exact_now = true;
                    ++w.leaves;
                    break;
                }
                if constexpr (RepeatingGame<G>) {
                    if (repeats(w, position)) {
                        values.fill(0.5f);
                        const std::size_t decides = index_of(game_.player_to_move(root_position_));
                        values[decides] = repetition_;
                        if (players_ == 2) values[1 - decides] = 1.0f - repetition_;
                        break;
                    }
                    w.seen.push_back(position);
                }
            }
            if (!node.has_children()) {
                if (const auto outcome = game_.outcome(position)) {
                    values = axis_.values_of(*outcome);
                    if (players_ <= 2) {
                        node.guess.set_exact(values[here.chooser]);
                        exact_now = true;
                    }
                    ++w.leaves;
                    break;
                }
                const bool is_root = w.path.size() == 1;
                // A visit of one's own is counted beforehand where there are several threads.
                const std::uint32_t needed = is_root ? 0u : rules_.expand_at + (Shared ? 1u : 0u);
                const bool grows = node.sum.visits() >= needed && expand(w, node, position, here.chooser, full);
                if (!grows) {
                    ++w.leaves;
                    if (rules_.evaluates && w.path.size() > 1 && players_ <= 2)
                        values = values_for(here.chooser, node.guess.value());
                    else if (!value_of_leaf(w, position, values))
                        return give_up<Shared>(w);
                    break;
                }
                exact_now = players_ <= 2;
            }
            const std::uint32_t first = node.first.load(std::memory_order_acquire);
            const std::uint32_t chosen = node.chance ? first + drawn_child(w, node, first) : select(node, first);
            std::uint8_t chooser = here.chooser;
            if (!node.chance) chooser = static_cast<std::uint8_t>(index_of(game_.player_to_move(position)));
            if constexpr (Shared) arena_[chosen].sum.template add<true>(1, 0);
            w.path.push_back({chosen, chooser});
            if (!w.spend()) return give_up<Shared>(w);
            game_.play(position, arena_[chosen].move);
        }
        back_up<Shared>(w, values, exact_now);
        ++w.playouts;
        return true;
    }

    /// Adds what came of the way to the nodes that belong to all. To be called before a worker rests.
    void end_way(Worker& w) {
        Way& way = w.way;
        if (way.steps == 0) return;
        for (std::size_t at = way.steps; at-- > 0;) {
            Node& node = arena_[w.path[at].node];
            if (at == 0)
                node.sum.template add<true>(way.taken, way.units[0]);
            else
                node.sum.template add<true>(std::uint64_t{0} - way.left, way.units[at]);
            if (rules_.implicit <= 0 || way.taken == 0 || players_ > 2 || !node.has_children()) continue;
            if (node.guess.is_exact()) continue;
            if (node.chance)
                settle_chance_node<true>(node, false);
            else if (at + 1 < way.steps)
                settle<true>(node, w.path[at + 1].node, w.path[at + 1].chooser == w.path[at].chooser, false);
            else
                settle<true>(node, 0, index_of(game_.player_to_move(way.position)) == w.path[at].chooser, false);
        }
        way.steps = way.taken = way.left = 0;
    }

    /// Whether more playouts would change nothing.
    bool is_settled() const {
        const Node& node = arena_[root];
        if (node.guess.is_exact()) return true;
        const std::uint32_t visits = node.sum.visits();
        if (visits >= SampledSum::most_visits) return true;
        if (!node.has_children()) return false;
        const std::uint32_t first = node.first.load();
        std::uint32_t open = 0;  // moves that are not known to be as bad as can be
        for (std::uint32_t i = 0; i < node.count && open < 2; ++i) {
            const Node& child = arena_[first + i];
            const auto known = child.guess.read();
            open += known.exact && axis_.is_worst(known.value) ? 0u : 1u;
        }
        return open == 1;
    }

    /// The moves that are expected after the node, itself included, and whether they come to the end of the game.
    bool line_from(std::uint32_t node, std::vector<Move>& line) const {
        for (std::uint32_t at = node; line.size() < 60;) {
            const Node& here = arena_[at];
            line.push_back(here.move);
            if (!here.has_children()) return here.guess.is_exact();
            const std::uint32_t first = here.first.load();
            std::uint32_t best = 0;
            float most = -1;
            for (std::uint32_t i = 0; i < here.count; ++i) {
                const Node& child = arena_[first + i];
                // Below an exact node by exact values alone.
                const auto known = child.guess.read();
                const float worth = !here.guess.is_exact() ? worth_of(child) : known.exact ? 1.0f + known.value : 0.0f;
                if (worth > most) most = worth, best = i;
            }
            if (most <= 0) return false;
            at = first + best;
        }
        return false;
    }
    /// By which a move is chosen in the end: visits; an exact value if it is as good as anything can be.
    float worth_of(const Node& node) const {
        const auto sum = node.sum.read();
        const auto known = node.guess.read();
        if (known.exact && axis_.is_best(known.value)) return 1e20f;
        if (known.exact && axis_.is_worst(known.value)) return static_cast<float>(sum.visits) * 1e-9f;
        return static_cast<float>(sum.visits) + (sum.visits > 0 ? 0.5f * sum.mean() : 0.0f);
    }

   private:
    template <bool Shared>
    bool give_up(Worker& w) {
        if constexpr (Shared) {
            for (std::size_t at = w.way.steps; at < w.path.size(); ++at) arena_[w.path[at].node].sum.take_back_visit();
            ++w.way.left;
        }
        (void)w;
        return false;
    }

    /// Down through nodes that were visited often. False where the nodes ran out.
    bool find_way(Worker& w) {
        end_way(w);
        Way& way = w.way;
        w.path.clear();
        w.path.push_back({root, 0});
        if constexpr (RepeatingGame<G>) w.seen.clear();
        way.position = root_position_;
        for (;;) {
            const Node& node = arena_[w.path.back().node];
            if (!node.has_children()) break;
            if (w.path.size() > 1) {
                if constexpr (RepeatingGame<G>) {
                    if (repeats(w, way.position)) break;
                    w.seen.push_back(way.position);
                }
            }
            const std::uint32_t first = node.first.load(std::memory_order_acquire);
            const std::uint32_t chosen = node.chance ? first + drawn_child(w, node, first) : select(node, first);
            const Node& child = arena_[chosen];
            if (child.sum.visits() < Way::least_visits || child.guess.is_exact()) {
                if constexpr (RepeatingGame<G>)
                    if (w.path.size() > 1) w.seen.pop_back();
                break;
            }
            if (!w.spend()) return false;
            std::uint8_t chooser = w.path.back().chooser;
            if (!node.chance) chooser = static_cast<std::uint8_t>(index_of(game_.player_to_move(way.position)));
            w.path.push_back({chosen, chooser});
            game_.play(way.position, child.move);
        }
        way.steps = w.path.size();
        way.seen = w.seen.size();
        way.left = 1;
        if (way.steps > 1) way.left = std::min(Way::most_times, arena_[w.path.back().node].sum.visits() / Way::share);
        way.units.assign(way.steps, 0);
        for (std::size_t at = 1; at < way.steps; ++at) arena_[w.path[at].node].sum.template add<true>(way.left, 0);
        return true;
    }

    SampledValues values_for(std::size_t chooser, float value) const {
        SampledValues values;
        values.fill(0.5f);
        values[chooser] = value;
        if (players_ == 2) values[1 - chooser] = 1.0f - value;
        return values;
    }

    float evaluation_for(const Position& position, std::size_t player) const {
        if (players_ <= 2)
            return axis_.value_of(evaluation_by(evaluator_, game_, position, static_cast<Player>(player)));
        return evaluations(game_, evaluator_, axis_, position)[player];
    }

    /// By evaluation, or by playing on at random. False where the nodes ran out.
    bool value_of_leaf(Worker& w, Position& position, SampledValues& values) {
        if (!rules_.evaluates) return w.play_out(game_, evaluator_, axis_, position, values);
        values = evaluations(game_, evaluator_, axis_, position);
        return true;
    }

    bool repeats(const Worker& w, const Position& position) const {
        if constexpr (RepeatingGame<G>) {
            if (draw_at_occurrence_of(game_) == 0) return false;
            const auto is_same = [&](const Position& met) { return is_same_for_repetition(game_, met, position); };
            return is_same(root_position_) || std::any_of(w.seen.begin(), w.seen.end(), is_same) ||
                   std::any_of(earlier_.begin(), earlier_.end(), is_same);
        }
        return false;
    }

    // ---- growing ----

    /// Makes the children of a leaf. False where another thread does, and where there is no room.
    bool expand(Worker& w, Node& node, const Position& position, std::size_t chooser, bool& full) {
        std::uint32_t expected = 0;
        if (!node.first.compare_exchange_strong(expected, 1, std::memory_order_acquire)) return false;
        const bool chance = chance_is_next(game_, position);
        w.moves.clear();
        w.weights.clear();
        if (chance)
            collect_events(w, position);
        else
            collect_moves(w, position, &node == &arena_[root]);
        const auto n = static_cast<std::uint32_t>(w.moves.size());
        if (n == 0) throw_no_move();
        const std::uint32_t first = n < arena_.room() ? arena_.take(n) : 0;
        if (first == 0) {
            full = true;
            node.first.store(0, std::memory_order_release);
            return false;
        }
        for (std::uint32_t i = 0; i < n; ++i) {
            Node& child = arena_.fresh(first + i);
            child.move = w.moves[i];
            child.prior =
                static_cast<std::uint16_t>(chance ? w.weights[i] * 65535.0f : 65535.0f / static_cast<float>(n));
        }
        if (!chance) {
            if (rules_.looks) look_at_children(first, n, position);
            if (rules_.by_prior) set_priors(w, first, n, position);
        } else if (rules_.looks && players_ <= 2) {
            // What every event promises is kept with it, so that a leaf below costs no evaluation.
            for (std::uint32_t i = 0; i < n; ++i) {
                Position after = position;
                game_.play(after, w.moves[i]);
                note_what_is_seen(arena_[first + i], after, chooser);
            }
        }
        node.count = static_cast<std::uint16_t>(n);
        node.chance = chance;
        node.first.store(first, std::memory_order_release);
        return true;
    }

    void collect_moves(Worker& w, const Position& position, bool is_root) {
        if (is_root && !only_.empty()) {
            for (const Move& move : only_) w.moves.push_back(move);
        } else {
            game_.generate_moves(position, w.moves);
        }
        if (w.moves.size() > SamplingRules::most_children) {  // the others are never looked at
            w.random.shuffle(w.moves);
            std::size_t place = 0;
            w.moves.remove_if([&](const Move&) { return place++ >= SamplingRules::most_children; });
        }
    }

    void collect_events(Worker& w, const Position& position) {
        if (lists_events(game_)) {
            w.events.clear();
            list_events(game_, position, w.events);
            for (const auto& event : w.events) {
                w.moves.push_back(event.move);
                w.weights.push_back(static_cast<float>(event.probability));
            }
            return;
        }
        // Too many to list: some that were drawn stand for all.
        constexpr int draws = 24;
        for (int i = 0; i < draws; ++i) {
            const Move event = drawn_event(game_, position, w.random);
            std::size_t place = 0;
            while (place < w.moves.size() && !(w.moves[place] == event)) ++place;
            if (place == w.moves.size()) {
                w.moves.push_back(event);
                w.weights.push_back(0.0f);
            }
            w.weights[place] += 1.0f / draws;
        }
    }

    /// Whether the child ends the game, or else what its evaluation is, for `chooser`.
    void note_what_is_seen(Node& child, const Position& after, std::size_t chooser) {
        if (const auto outcome = game_.outcome(after)) {
            const float value = axis_.values_of(*outcome)[chooser];
            if (players_ <= 2)
                child.guess.set_exact(value);
            else
                child.guess.template set_estimate<false>(value);
        } else if (rules_.evaluates) {
            child.guess.template set_estimate<false>(evaluation_for(after, chooser));
        }
    }
    void look_at_children(std::uint32_t first, std::uint32_t n, const Position& position) {
        const std::size_t mover = index_of(game_.player_to_move(position));
        for (std::uint32_t i = 0; i < n; ++i) {
            Position after = position;
            game_.play(after, arena_[first + i].move);
            note_what_is_seen(arena_[first + i], after, mover);
        }
    }

    /// The caller's, or else by how the children evaluate.
    void set_priors(Worker& w, std::uint32_t first, std::uint32_t n, const Position& position) {
        w.weights.resize(n);
        if (prior_ != nullptr) {
            prior_->weigh(game_, position, std::span<const Move>(w.moves.begin(), w.moves.end()), w.weights);
        } else {
            for (std::uint32_t i = 0; i < n; ++i)
                w.weights[i] = exponential_of(SamplingRules::prior_heat * arena_[first + i].guess.value());
        }
        float total = 0;
        for (float& weight : w.weights) total += weight = weight > 0 ? weight : 0.0f;  // what is no number counts 0
        if (!(total > 0) || !(total < 1e30f)) return;
        for (std::uint32_t i = 0; i < n; ++i)
            arena_[first + i].prior = static_cast<std::uint16_t>(65535.0f * w.weights[i] / total);
    }

    // ---- choosing the way ----

    std::uint32_t drawn_child(Worker& w, const Node& node, std::uint32_t first) const {
        std::uint32_t left = static_cast<std::uint32_t>((w.random.next() >> 40) * 65535 >> 24);
        for (std::uint32_t i = 0; i + 1 < node.count; ++i) {
            if (left < arena_[first + i].prior) return i;
            left -= arena_[first + i].prior;
        }
        return node.count - 1u;
    }

    std::uint32_t select(const Node& node, std::uint32_t first) const {
        const std::span<const Node> children(&arena_[first], node.count);
        return first + (rules_.by_prior ? chosen_by_prior(node, children, rules_, axis_)
                                        : chosen_plainly(node, children, rules_, axis_));
    }

    // ---- what came of it ----

    template <bool Shared>
    void back_up(Worker& w, const SampledValues& values, bool exact_now) {
        w.deepest = std::max(w.deepest, static_cast<int>(w.path.size()) - 1);
        std::array<std::uint64_t, max_players> units{};
        for (std::size_t i = 0; i < players_; ++i) units[i] = SampledSum::in_units(values[i]);
        const bool looks_back = players_ <= 2 && (exact_now || rules_.implicit > 0);
        if constexpr (Shared) ++w.way.taken;
        for (std::size_t at = w.path.size(); at-- > 0;) {
            const SampledStep& step = w.path[at];
            Node& node = arena_[step.node];
            if constexpr (Shared) {
                if (at < w.way.steps) {
                    w.way.units[at] += units[step.chooser];
                    if (!exact_now) continue;  // the rest at the end of the way
                } else {
                    node.sum.template add<true>(0, units[step.chooser]);  // the visit was added on the way down
                }
            } else {
                node.sum.template add<false>(1, units[step.chooser]);
            }
            if (!looks_back || at + 1 == w.path.size()) continue;
            const std::uint8_t mover = w.path[at + 1].chooser;
            if (node.chance)
                exact_now = settle_chance_node<Shared>(node, exact_now);
            else
                exact_now = settle<Shared>(node, w.path[at + 1].node, mover == step.chooser, exact_now);
        }
        w.root_is_exact = w.root_is_exact || (looks_back && exact_now && w.path.size() > 1);
    }

    template <bool Shared>
    static void keep(Node& node, float value, bool exact) {
        if (exact)
            node.guess.set_exact(value);
        else
            node.guess.template set_estimate<Shared>(value);
    }

    /// The best of the children for whoever moves. Returns whether the node is exact now.
    template <bool Shared>
    bool settle(Node& node, std::uint32_t visited, bool same_player, bool exact_now) {
        const std::uint32_t first = node.first.load(std::memory_order_acquire);
        if (rules_.implicit <= 0) {
            // Only exactness is asked for: by a move that nothing is better than, or else by all, most of which are not.
            if (!exact_now) return false;
            const bool best_there_is = axis_.is_best(arena_[visited].guess.value());
            for (std::uint32_t i = 0; i < node.count && !best_there_is; ++i)
                if (!arena_[first + i].guess.is_exact()) return false;
        }
        float best = 0.0f, best_exact = -1.0f;
        bool all = true;
        for (std::uint32_t i = 0; i < node.count; ++i) {
            const Node& child = arena_[first + i];
            const auto known = child.guess.read();
            best = std::max(best, known.value);
            if (known.exact)
                best_exact = std::max(best_exact, known.value);
            else
                all = false;
        }
        const bool exact = exact_now && (axis_.is_best(best_exact) || all);
        if (!exact && rules_.implicit <= 0) return false;
        const float value = exact ? best_exact : best;
        keep<Shared>(node, same_player ? value : 1.0f - value, exact);
        return exact;
    }

    /// The mean over the events. Exact only where every event has the same exact value: what rests on luck is not proven.
    template <bool Shared>
    bool settle_chance_node(Node& node, bool exact_now) {
        const std::uint32_t first = node.first.load(std::memory_order_acquire);
        const float value = arena_[first].guess.value();
        bool exact = exact_now && lists_events(game_);
        float mean = 0, total = 0;
        for (std::uint32_t i = 0; i < node.count; ++i) {
            const Node& child = arena_[first + i];
            const auto known = child.guess.read();
            exact = exact && known.exact && known.value == value;
            mean += known.value * static_cast<float>(child.prior);
            total += static_cast<float>(child.prior);
        }
        if (!exact && rules_.implicit <= 0) return false;
        keep<Shared>(node, exact ? value : mean / total, exact);  // events keep the chooser
        return exact;
    }

    const G& game_;
    Arena& arena_;
    const SamplingRules& rules_;
    const ValueAxis& axis_;
    const Evaluator<G>* evaluator_;
    const MovePrior<G>* prior_;
    std::size_t players_;
    Position root_position_{};
    std::span<const Position> earlier_{};
    std::span<const Move> only_{};
    float repetition_ = 0.5f;
};

}  // namespace arvek::detail
