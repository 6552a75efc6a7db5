#pragma once
// The Monte Carlo tree of a game in which all is in sight: see search/monte_carlo.hpp.
//
// Selection: Kocsis, Szepesvari (2006), "Bandit Based Monte-Carlo Planning"; with priors: Rosin (2011), "Multi-armed
// Bandits with Episode Context". Minimaxed evaluations mixed into the means: Lanctot et al. (2014), "Monte Carlo Tree
// Search with Heuristic Evaluations using Implicit Minimax Backups". Exact values backed up: Winands, Bjornsson, Saito
// (2008), "Monte-Carlo Tree Search Solver". Several threads without locks: Enzenberger, Mueller (2010), "A Lock-free
// Multithreaded Monte-Carlo Tree Search Algorithm". Evaluations backed up for three and four players as max^n does: Luckhardt,
// Irani (1986). Events that are too many to list, more of them kept as visits grow: Couetoux et al. (2011), "Continuous Upper
// Confidence Trees".

#include <algorithm>
#include <array>
#include <bit>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/players.hpp"
#include "arvek/search/detail/random_play.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/detail/sampling_choice.hpp"
#include "arvek/search/detail/sampling_node.hpp"
#include "arvek/search/detail/way_down.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/move_prior.hpp"

namespace arvek::detail {

template <Game G>
class SamplingTree {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Node = SampledNode<Move>;
    using Children = SampledChildren::Read;
    using Arena = SampledArena<Move>;
    static constexpr std::uint32_t root = Arena::root;
    static constexpr bool may_be_for_more = CountedPlayersGame<G>;

    /// A way down from the root that a thread takes several times before it tells the others what came of it: the nodes
    /// near the root belong to all, and to write to them for every playout would cost as much as the playout.
    struct Way {
        /// What is under way is a small part of the visits of every node on it.
        static constexpr std::uint32_t most_times = 16, share = 32, least_visits = 256;

        std::uint32_t left = 0, taken = 0;
        std::size_t steps = 0, seen = 0;  ///< of the worker's path and of its way down
        Position position{};              ///< at its end
        std::vector<double> sums;         ///< by step: what came of it
    };

    /// What one thread needs; on cache lines of its own.
    struct alignas(64) Worker : RandomPlay<G> {
        Worker(const G& game, std::uint64_t seed, const Limits& limits, std::span<const Position> earlier,
               const PayoffRange& usual)
            : RandomPlay<G>(seed, limits), met(usual), down(game, earlier) {}

        PayoffRange met;  ///< the payoffs that are usual, and all that it has met
        std::vector<SampledStep> path;
        WayDown<G> down;
        /// Where the path leaves what is known for what is open, and what is known there.
        std::vector<std::pair<std::size_t, SampledValues>> asides;
        Way way;  ///< with several threads
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

    /// `reluctance`: what a draw by repetition counts less than it is worth to the one who decides, in points.
    void begin(const Position& position, std::span<const Move> only, double reluctance) {
        root_position_ = position;
        only_ = only;
        reluctance_ = reluctance;
    }

    /// Makes the children of the root, so that no thread finds another at it.
    void begin_root(Worker& w) {
        bool full = false;
        if (!arena_[root].children.read().there()) (void)expand(w, root, root_position_, 0, full);
    }

    /// One playout. False, and nothing of it counted, where the limits ended it in the middle. Sets `full` where there
    /// was no room for a node's children.
    template <bool Shared>
    bool iterate(Worker& w, bool& full) {
        if (w.playouts % 4 == 3 && arena_.used() < w.playouts && arena_.is_whole()) return look_around<Shared>(w, full);
        if constexpr (Shared) {
            if (w.way.left == 0 && !find_way(w)) return false;
            --w.way.left;
            w.path.resize(w.way.steps);
            w.down.shorten(w.way.seen);
        } else {
            w.path.clear();
            w.path.push_back({root, 0});
            w.down.shorten(0);
        }
        Position position = Shared ? w.way.position : root_position_;
        w.asides.clear();
        SampledValues values{};
        bool exact_now = false;
        for (;;) {
            const SampledStep here = w.path.back();
            Node& node = arena_[here.node];
            if (w.path.size() > 1) {
                if (const auto known = node.guess.read(); known.exact) {
                    values = guessed(here);
                    exact_now = true;
                    ++w.leaves;
                    break;
                }
                if (w.down.comes_back(position)) {
                    values = value_of_repetition();
                    set_estimate<Shared>(here, values);
                    ++w.leaves;
                    break;
                }
            }
            Children children = node.children.read();
            if (!children.there()) {
                if (const auto outcome = game_.outcome(position)) {
                    values = ended(*outcome);
                    set_exact(here.node, values, here.chooser);
                    exact_now = true;
                    ++w.leaves;
                    break;
                }
                const bool is_root = w.path.size() == 1;
                // A visit of one's own is counted beforehand where there are several threads.
                const std::uint32_t needed = is_root ? 0u : rules_.expand_at + (Shared ? 1u : 0u);
                const bool grows = node.sum.visits() >= needed && expand(w, here.node, position, here.chooser, full);
                if (!grows) {
                    ++w.leaves;
                    if (rules_.evaluates && w.path.size() > 1)
                        values = guessed(here);
                    else if (!value_of_leaf(w, position, values))
                        return give_up<Shared>(w);
                    break;
                }
                exact_now = true;
                children = node.children.read();
            }
            w.down.enter(position);
            std::uint32_t chosen = 0;
            if (children.drawn) {
                const Move event = drawn_event(game_, position, w.random);
                chosen = child_of_event(node, here.node, children, event, full);
                if (chosen == 0) {  // one of those that no room is kept for yet
                    exact_now = false;
                    ++w.leaves;
                    if (!w.spend()) return give_up<Shared>(w);
                    game_.play(position, event);
                    if (const auto outcome = game_.outcome(position))
                        values = ended(*outcome);
                    else if (!value_of_leaf(w, position, values))
                        return give_up<Shared>(w);
                    break;
                }
            } else {
                chosen = children.chance ? drawn_child(w, children) : select(w, node, children);
                if (!children.chance && arena_[chosen].guess.is_exact()) [[unlikely]] {
                    const std::uint32_t open = instead_of_exact(node, children, chosen);
                    if (open != chosen) {
                        const auto mover = static_cast<std::uint8_t>(index_of(game_.player_to_move(position)));
                        w.asides.push_back({w.path.size() - 1, guessed({chosen, mover})});
                        chosen = open;
                    }
                }
            }
            std::uint8_t chooser = here.chooser;
            if (!children.chance) chooser = static_cast<std::uint8_t>(index_of(game_.player_to_move(position)));
            if constexpr (Shared) arena_[chosen].sum.template add<true>(1, axis_low());
            w.path.push_back({chosen, chooser});
            if (!w.spend()) return give_up<Shared>(w);
            game_.play(position, arena_[chosen].move);
        }
        back_up<Shared>(w, values, exact_now);
        ++w.playouts;
        return true;
    }

    /// A way down by which moves seem good sees little of the others' replies to replies, and a tree with fewer nodes than
    /// playouts has been gone through again and again: so it is looked through, by any moves of which not all is known. No
    /// node's mean changes by it; what is found to be exact does. As iterate().
    template <bool Shared>
    bool look_around(Worker& w, bool& full) {
        if constexpr (Shared) end_way(w);
        w.path.clear();
        w.path.push_back({root, 0});
        w.down.shorten(0);
        Position position = root_position_;
        bool exact_now = false;
        for (;;) {
            const SampledStep here = w.path.back();
            Node& node = arena_[here.node];
            if (node.guess.is_exact()) {
                exact_now = true;
                break;
            }
            if (w.path.size() > 1 && w.down.comes_back(position)) {
                set_estimate<Shared>(here, value_of_repetition());
                break;
            }
            Children children = node.children.read();
            if (!children.there()) {
                if (const auto outcome = game_.outcome(position)) {
                    set_exact(here.node, ended(*outcome), here.chooser);
                    exact_now = true;
                    break;
                }
                if (!expand(w, here.node, position, here.chooser, full)) break;
                children = node.children.read();
            }
            const std::uint32_t chosen = any_open(w, children);
            if (chosen == 0) break;
            w.down.enter(position);
            std::uint8_t chooser = here.chooser;
            if (!children.chance) chooser = static_cast<std::uint8_t>(index_of(game_.player_to_move(position)));
            w.path.push_back({chosen, chooser});
            if (!w.spend()) return false;
            game_.play(position, arena_[chosen].move);
        }
        w.deepest = std::max(w.deepest, static_cast<int>(w.path.size()) - 1);
        ++w.leaves;
        ++w.playouts;
        if (rules_.implicit <= 0 && !exact_now) return true;
        for (std::size_t at = w.path.size() - 1; at-- > 0;) exact_now = settle_step<Shared>(w.path, at, exact_now);
        w.root_is_exact = w.root_is_exact || exact_now;
        return true;
    }

    /// Adds what came of the way to the nodes that belong to all. To be called before a worker rests.
    void end_way(Worker& w) {
        Way& way = w.way;
        if (way.steps == 0) return;
        for (std::size_t at = way.steps; at-- > 0;) {
            Node& node = arena_[w.path[at].node];
            if (at == 0)
                node.sum.template add<true>(way.taken, way.sums[0]);
            else
                node.sum.template add<true>(0u - way.left, way.sums[at] - axis_low() * (way.taken + way.left));
            const Children children = node.children.read();
            if (rules_.implicit <= 0 || way.taken == 0 || !children.there()) continue;
            if (node.guess.is_exact()) continue;
            if (children.chance)
                settle_chance_node<true>(w.path[at], children, false);
            else if (at + 1 < way.steps)
                settle<true>(w.path[at], children, 0, w.path[at + 1].chooser, false);
            else
                settle<true>(w.path[at], children, 0, index_of(game_.player_to_move(way.position)), false);
        }
        way.steps = way.taken = way.left = 0;
    }

    /// Whether more playouts would change nothing.
    bool is_settled() const {
        const Node& node = arena_[root];
        if (node.guess.is_exact()) return true;
        const std::uint32_t visits = node.sum.visits();
        if (visits >= SampledSum::most_visits) return true;
        const Children children = node.children.read();
        if (!children.there()) return false;
        std::uint32_t open = children.cut ? 1 : 0;  // moves that are not known to be as bad as can be
        for (std::uint32_t i = 0; i < children.count && open < 2; ++i) {
            const auto known = arena_[children.first + i].guess.read();
            open += known.exact && axis_.is_worst(known.value) ? 0u : 1u;
        }
        return open == 1 && visits >= enough_for_the_only_move;
    }

    /// The moves that are expected after the node, itself included, and whether they come to the end of the game.
    bool line_from(std::uint32_t node, std::vector<Move>& line) const {
        for (std::uint32_t at = node; line.size() < 60;) {
            const Node& here = arena_[at];
            line.push_back(here.move);
            const Children children = here.children.read();
            if (!children.there()) return here.guess.is_exact();
            std::uint32_t best = 0;
            double most = -1e30;
            bool any = false;
            for (std::uint32_t i = 0; i < children.count; ++i) {
                const Node& child = arena_[children.first + i];
                // Below an exact node by exact values alone.
                const auto known = child.guess.read();
                if (here.guess.is_exact() ? !known.exact : !known.exact && child.sum.visits() == 0) continue;
                const double worth = here.guess.is_exact() ? (children.chance ? 0 : known.value) : worth_of(child);
                if (worth > most) most = worth, best = i, any = true;
            }
            if (!any) return false;
            at = children.first + best;
        }
        return false;
    }
    /// By which a move is chosen in the end: visits; an exact value if it is as good as anything can be.
    double worth_of(const Node& node) const {
        const auto sum = node.sum.read();
        const auto known = node.guess.read();
        if (known.exact && axis_.is_best(known.value)) return 1e20;
        if (known.exact && axis_.is_worst(known.value)) return static_cast<double>(sum.visits) * 1e-12 - 2.0;
        return static_cast<double>(sum.visits) + (sum.visits > 0 ? 0.5 * axis_.share(sum.mean()) : 0.0);
    }

   private:
    template <bool Shared>
    bool give_up(Worker& w) {
        if constexpr (Shared) {
            for (std::size_t at = w.way.steps; at < w.path.size(); ++at)
                arena_[w.path[at].node].sum.template add<true>(0u - 1u, -axis_low());
            ++w.way.left;
        }
        (void)w;
        return false;
    }

    /// What is under way counts as much as the worst that is usual, so that other threads go elsewhere.
    double axis_low() const { return axis_.usual_range().low; }

    /// Down through nodes that were visited often. False where the limits ended it.
    bool find_way(Worker& w) {
        end_way(w);
        Way& way = w.way;
        w.path.clear();
        w.path.push_back({root, 0});
        w.down.shorten(0);
        way.position = root_position_;
        for (;;) {
            const Node& node = arena_[w.path.back().node];
            const Children children = node.children.read();
            if (!children.there() || children.drawn) break;
            if (w.path.size() > 1 && w.down.comes_back(way.position)) break;
            const std::uint32_t chosen = children.chance ? drawn_child(w, children) : select(w, node, children);
            const Node& child = arena_[chosen];
            if (child.sum.visits() < Way::least_visits || child.guess.is_exact()) break;
            if (!w.spend()) return false;
            w.down.enter(way.position);
            std::uint8_t chooser = w.path.back().chooser;
            if (!children.chance) chooser = static_cast<std::uint8_t>(index_of(game_.player_to_move(way.position)));
            w.path.push_back({chosen, chooser});
            game_.play(way.position, child.move);
        }
        way.steps = w.path.size();
        way.seen = w.down.length();
        way.left = 1;
        if (way.steps > 1) way.left = std::min(Way::most_times, arena_[w.path.back().node].sum.visits() / Way::share);
        way.left = std::max(way.left, 1u);
        way.sums.assign(way.steps, 0);
        for (std::size_t at = 1; at < way.steps; ++at)
            arena_[w.path[at].node].sum.template add<true>(way.left, axis_low() * way.left);
        return true;
    }

    /// What an end pays. Throws RulesError where two are not paid what the other loses: all that follows rests on it.
    SampledValues ended(const Outcome& outcome) const {
        if (players_ == 2) require_zero_sum(outcome);
        return axis_.values_of(outcome);
    }
    /// As the rule says, nothing; for the one who decides perhaps a little less.
    SampledValues value_of_repetition() const {
        SampledValues values{};
        if (reluctance_ > 0) {
            const std::size_t decides = index_of(game_.player_to_move(root_position_));
            values[decides] = -reluctance_;
            if (players_ == 2) values[1 - decides] = reluctance_;
        }
        return values;
    }
    SampledValues values_for(std::size_t chooser, double value) const {
        SampledValues values{};
        values[chooser] = value;
        if (players_ == 2) values[1 - chooser] = -value;
        return values;
    }
    void set_exact(std::uint32_t at, const SampledValues& values, std::size_t chooser) {
        if (players_ > 2)
            for (std::size_t i = 0; i < players_; ++i) arena_.seats(at).set(i, values[i]);
        arena_[at].guess.set_exact(values[chooser]);
    }
    /// Of a node that is no leaf to be grown: what it is worth takes the place of its evaluation.
    template <bool Shared>
    void set_estimate(const SampledStep& step, const SampledValues& values) {
        if (players_ > 2)
            for (std::size_t i = 0; i < players_; ++i) arena_.seats(step.node).set(i, values[i]);
        arena_[step.node].guess.template set_estimate<Shared>(values[step.chooser]);
    }
    /// What the node is known, or thought, to be worth.
    SampledValues guessed(const SampledStep& step) const {
        if (players_ <= 2) return values_for(step.chooser, arena_[step.node].guess.value());
        SampledValues values{};
        for (std::size_t i = 0; i < players_; ++i) values[i] = arena_.seats(step.node).at(i);
        return values;
    }

    double evaluation_for(const Position& position, std::size_t player) const {
        return axis_.value_of(evaluation_by(evaluator_, game_, position, static_cast<Player>(player)));
    }

    /// By evaluation, or by playing on at random. False where the limits ended it.
    bool value_of_leaf(Worker& w, Position& position, SampledValues& values) {
        if (!rules_.evaluates) return w.play_out(game_, evaluator_, axis_, position, values);
        values = evaluations(game_, evaluator_, axis_, position);
        return true;
    }

    // ---- growing ----

    /// Makes the children of a leaf. False where another thread does, and where there is no room.
    bool expand(Worker& w, std::uint32_t at, const Position& position, std::size_t chooser, bool& full) {
        Node& node = arena_[at];
        Children made;
        made.first = 1;
        if (!node.children.exchange({}, made)) return false;
        made.chance = chance_is_next(game_, position);
        w.moves.clear();
        w.weights.clear();
        if (made.chance)
            made.drawn = !collect_events(w, position);
        else
            made.cut = !collect_moves(w, position, at == root);
        std::uint32_t n = static_cast<std::uint32_t>(w.moves.size());
        if (n == 0 && !made.drawn) throw_no_move();
        const std::uint32_t room = made.drawn ? SamplingRules::first_draws : n;
        made.first = room < arena_.room() ? arena_.take(room) : 0;
        made.count = n;
        if (made.first == 0) {
            full = true;
            node.children.set({});
            return false;
        }
        made.even = made.chance;
        for (std::uint32_t i = 0; i < n; ++i) {
            Node& child = arena_.fresh(made.first + i);
            child.move = w.moves[i];
            child.sum.prior = made.chance ? w.weights[i] : 1.0f / static_cast<float>(n);
            made.even = made.even && w.weights[i] == w.weights[0];
        }
        if (!made.chance) {
            if (rules_.looks) look_at_children(w, made.first, n, position, index_of(game_.player_to_move(position)));
            if (rules_.by_prior) set_priors(w, made.first, n, position);
        } else if (rules_.looks) {
            // What every event promises is kept with it, so that a leaf below costs no evaluation.
            look_at_children(w, made.first, n, position, chooser);
        }
        node.children.set(made);
        return true;
    }

    /// False where there is no room for them all.
    bool collect_moves(Worker& w, const Position& position, bool is_root) {
        if (is_root && !only_.empty()) {
            for (const Move& move : only_) w.moves.push_back(move);
        } else {
            game_.generate_moves(position, w.moves);
        }
        const std::size_t most = std::min<std::size_t>(SampledChildren::most, arena_.room() / 2);
        if (w.moves.size() <= most) return true;
        w.random.shuffle(w.moves);
        std::size_t place = 0;
        w.moves.remove_if([&](const Move&) { return place++ >= most; });
        return false;
    }

    /// The likelier first. False, and none, where they cannot be listed.
    bool collect_events(Worker& w, const Position& position) {
        if (!lists_events(game_)) return false;
        w.events.clear();
        list_events(game_, position, w.events);
        std::stable_sort(w.events.begin(), w.events.end(),
                         [](const auto& a, const auto& b) { return a.probability > b.probability; });
        for (const auto& event : w.events) {
            w.moves.push_back(event.move);
            w.weights.push_back(static_cast<float>(event.probability));
        }
        return true;
    }

    /// Of an event that was drawn. The more visits, the more events have a child of their own; 0 for one that has none.
    std::uint32_t child_of_event(Node& node, std::uint32_t at, Children children, const Move& event, bool& full) {
        for (std::uint32_t i = 0; i < children.count; ++i)
            if (arena_[children.first + i].move == event) return children.first + i;
        const double visits = node.sum.visits();
        if (children.busy || children.count >= SampledChildren::most ||
            children.count >= SamplingRules::first_draws + 2 * __builtin_sqrt(visits))
            return 0;
        Children made = children;
        made.busy = true;
        if (!node.children.exchange(children, made)) return 0;
        const std::uint32_t capacity =
            children.tight ? children.count : std::max(SamplingRules::first_draws, std::bit_ceil(children.count));
        if (children.count == capacity) {
            const std::uint32_t wanted = std::max(SamplingRules::first_draws, std::bit_ceil(children.count + 1));
            made.first = wanted < arena_.room() ? arena_.take(wanted) : 0;
            if (made.first == 0) {
                full = true;
                node.children.set(children);
                return 0;
            }
            for (std::uint32_t i = 0; i < children.count; ++i) {
                arena_.fresh(made.first + i) = arena_[children.first + i];
                if (players_ > 2) arena_.seats(made.first + i).copy(arena_.seats(children.first + i));
            }
            made.tight = false;
        }
        const std::uint32_t child = made.first + children.count;
        arena_.fresh(child).move = event;
        arena_[child].sum.prior = 1.0f;  // each by how often it was drawn
        arena_[child].guess.template set_estimate<false>(arena_[at].guess.value());
        if (players_ > 2) arena_.seats(child).copy(arena_.seats(at));
        ++made.count;
        made.busy = false;
        node.children.set(made);
        return child;
    }

    /// Whether the child ends the game, or else what its evaluation is, for `chooser`.
    void note_what_is_seen(std::uint32_t at, const Position& after, std::size_t chooser) {
        Node& child = arena_[at];
        const auto outcome = game_.outcome(after);
        if (!outcome && !rules_.evaluates) return;
        if (players_ <= 2) {
            if (outcome)
                child.guess.set_exact(ended(*outcome)[chooser]);
            else
                child.guess.template set_estimate<false>(evaluation_for(after, chooser));
            return;
        }
        if (outcome) return set_exact(at, axis_.values_of(*outcome), chooser);
        const SampledValues values = evaluations(game_, evaluator_, axis_, after);
        for (std::size_t i = 0; i < players_; ++i) arena_.seats(at).set(i, values[i]);
        child.guess.template set_estimate<false>(values[chooser]);
    }
    void look_at_children(Worker& w, std::uint32_t first, std::uint32_t n, const Position& position,
                          std::size_t chooser) {
        std::uint32_t looked = 0;
        for (; looked < n && w.budget.may_work(); ++looked) {
            Position after = position;
            game_.play(after, arena_[first + looked].move);
            note_what_is_seen(first + looked, after, chooser);
        }
        if (looked == n) return;
        // Out of time: the rest is thought to be as bad as the worst that was seen.
        double worst = looked == 0 ? 0 : 1e30;
        for (std::uint32_t i = 0; i < looked; ++i) worst = std::min(worst, arena_[first + i].guess.value());
        for (std::uint32_t i = looked; i < n; ++i) {
            arena_[first + i].guess.template set_estimate<false>(worst);
            if (players_ > 2) arena_.seats(first + i).set(chooser, worst);
        }
    }

    /// The caller's, or else by how the children evaluate. None is without any.
    void set_priors(Worker& w, std::uint32_t first, std::uint32_t n, const Position& position) {
        w.weights.resize(n);
        if (prior_ != nullptr) {
            prior_->weigh(game_, position, std::span<const Move>(w.moves.begin(), w.moves.end()), w.weights);
        } else {
            for (std::uint32_t i = 0; i < n; ++i)
                w.weights[i] = exponential_of(SamplingRules::prior_heat * axis_.share(arena_[first + i].guess.value()));
        }
        float total = 0;
        for (float& weight : w.weights) total += weight = weight > 0 ? weight : 0.0f;  // what is no number counts 0
        if (!(total > 0) || !(total < 1e30f)) return;
        const float floor = SamplingRules::prior_floor / static_cast<float>(n);
        for (std::uint32_t i = 0; i < n; ++i)
            arena_[first + i].sum.prior = floor + (1.0f - SamplingRules::prior_floor) * w.weights[i] / total;
    }

    // ---- choosing the way ----

    std::uint32_t drawn_child(Worker& w, const Children& children) const {
        if (children.even) return children.first + static_cast<std::uint32_t>(w.pick(children.count));
        double left = w.random.unit();
        for (std::uint32_t i = 0; i + 1 < children.count; ++i) {
            left -= static_cast<double>(arena_[children.first + i].sum.prior);
            if (left < 0) return children.first + i;
        }
        return children.first + children.count - 1u;
    }

    /// Any of the children of which not all is known; 0 where there is none, or where events are drawn.
    std::uint32_t any_open(Worker& w, const Children& of) const {
        std::uint32_t chosen = 0, open = 0;
        for (std::uint32_t i = of.first; !of.drawn && i < of.first + of.count; ++i)
            if (!arena_[i].guess.is_exact() && w.random.below(++open) == 0) chosen = i;
        return chosen;
    }

    std::uint32_t select(const Worker& w, const Node& node, const Children& of) const {
        const std::span<const Node> children(&arena_[of.first], of.count);
        const float reach = rules_.exploration * axis_.spread(w.met);
        const std::uint32_t chosen = rules_.by_prior ? chosen_by_prior(node, children, rules_, axis_, reach)
                                                     : chosen_plainly(node, children, axis_, reach);
        return of.first + chosen;
    }

    /// Where the best is known exactly, nothing is learned from it. Far more visits than a bandit would give go to what is
    /// still open, to the child with the fewest: half of all, at the root a part that becomes ever smaller. What comes of it
    /// counts from there on down; above counts what is known.
    std::uint32_t instead_of_exact(const Node& node, const Children& of, std::uint32_t chosen) const {
        if (axis_.is_best(arena_[chosen].guess.value())) return chosen;
        double visits = 0;
        std::uint32_t open = chosen, fewest = UINT32_MAX;
        for (std::uint32_t i = of.first; i < of.first + of.count; ++i) {
            if (arena_[i].guess.is_exact()) continue;
            const std::uint32_t own = arena_[i].sum.visits();
            visits += own;
            if (own < fewest) fewest = own, open = i;
        }
        const double all = node.sum.visits();
        const double root_of_all = __builtin_sqrt(all);
        const double part = &node == &arena_[root] ? root_of_all * __builtin_sqrt(root_of_all) : all / 2;
        return visits < std::min(part, all / 2) ? open : chosen;
    }

    // ---- what came of it ----

    template <bool Shared>
    void back_up(Worker& w, SampledValues values, bool exact_now) {
        w.deepest = std::max(w.deepest, static_cast<int>(w.path.size()) - 1);
        for (std::size_t i = 0; i < players_; ++i) w.met.include(values[i]);
        const bool looks_back = rules_.implicit > 0 || exact_now;
        if constexpr (Shared) ++w.way.taken;
        for (std::size_t at = w.path.size(); at-- > 0;) {
            const SampledStep& step = w.path[at];
            Node& node = arena_[step.node];
            if (!w.asides.empty() && w.asides.back().first == at) [[unlikely]] {
                values = w.asides.back().second;
                w.asides.pop_back();
            }
            if constexpr (Shared) {
                if (at < w.way.steps) {
                    w.way.sums[at] += values[step.chooser];
                    if (!exact_now) continue;  // the rest at the end of the way
                } else {
                    // The visit was added on the way down.
                    node.sum.template add<true>(0, values[step.chooser] - axis_low());
                }
            } else {
                node.sum.template add<false>(1, values[step.chooser]);
            }
            if (!looks_back || at + 1 == w.path.size()) continue;
            exact_now = settle_step<Shared>(w.path, at, exact_now);
        }
        w.root_is_exact = w.root_is_exact || (looks_back && exact_now && w.path.size() > 1);
    }

    /// What a node that is not the last of the path is thought to be worth. Returns whether that is exact now.
    template <bool Shared>
    bool settle_step(const std::vector<SampledStep>& path, std::size_t at, bool exact_now) {
        const Children children = arena_[path[at].node].children.read();
        if (!children.there()) return false;
        if (children.chance) return settle_chance_node<Shared>(path[at], children, exact_now);
        return settle<Shared>(path[at], children, path[at + 1].node, path[at + 1].chooser, exact_now);
    }

    template <bool Shared>
    static void keep(Node& node, double value, bool exact, bool luck) {
        if (exact)
            node.guess.set_exact(value, luck);
        else
            node.guess.template set_estimate<Shared>(value);
    }

    /// The best of the children for whoever moves. Returns whether the node is exact now.
    template <bool Shared>
    bool settle(const SampledStep& step, const Children& children, std::uint32_t visited, std::size_t mover,
                bool exact_now) {
        Node& node = arena_[step.node];
        const std::uint32_t first = children.first;
        if (rules_.implicit <= 0) {
            // Only exactness is asked for: by a move that nothing is better than, or else by all, most of which are not.
            if (!exact_now) return false;
            const bool best_there_is = players_ <= 2 && axis_.is_best(arena_[visited].guess.value());
            for (std::uint32_t i = 0; i < children.count && !best_there_is; ++i)
                if (!arena_[first + i].guess.is_exact()) return false;
        }
        double best = -1e300, best_exact = -1e300;
        std::uint32_t best_place = first;
        bool all = !children.cut, luck = false;
        for (std::uint32_t i = 0; i < children.count; ++i) {
            const auto known = arena_[first + i].guess.read();
            if (known.value > best) best = known.value, best_place = first + i;
            if (known.exact)
                best_exact = std::max(best_exact, known.value);
            else
                all = false;
            luck = luck || known.luck;
        }
        if (players_ > 2) return settle_as_max_n<Shared>(step, children, best_place, exact_now && all, luck);
        const bool is_best = axis_.is_best(best_exact);
        const bool exact = exact_now && (is_best || all);
        if (!exact && rules_.implicit <= 0) return false;
        const double value = exact ? best_exact : best;
        keep<Shared>(node, mover == step.chooser ? value : -value, exact, luck && !is_best);
        return exact;
    }

    /// Everybody gets what the move that is best for the mover brings. Exact where all moves are, and no two that are as
    /// good for the mover differ for others.
    template <bool Shared>
    bool settle_as_max_n(const SampledStep& step, const Children& children, std::uint32_t best, bool exact, bool luck) {
        const auto differs = [&](std::uint32_t i) {
            for (std::size_t j = 0; j < players_; ++j)
                if (arena_.seats(i).at(j) != arena_.seats(best).at(j)) return true;
            return false;
        };
        for (std::uint32_t i = children.first; exact && i < children.first + children.count; ++i)
            exact = arena_[i].guess.value() < arena_[best].guess.value() || !differs(i);
        if (!exact && rules_.implicit <= 0) return false;
        for (std::size_t i = 0; i < players_; ++i) arena_.seats(step.node).set(i, arena_.seats(best).at(i));
        keep<Shared>(arena_[step.node], arena_.seats(step.node).at(step.chooser), exact, luck);
        return exact;
    }

    /// The mean over the events. It rests on luck unless every event is worth the same.
    template <bool Shared>
    bool settle_chance_node(const SampledStep& step, const Children& children, bool exact_now) {
        Node& node = arena_[step.node];
        if (children.count == 0) return false;
        const std::uint32_t first = children.first, end = first + children.count;
        bool exact = exact_now && !children.drawn;
        for (std::uint32_t i = first; exact && i < end; ++i) exact = arena_[i].guess.is_exact();
        if (!exact && rules_.implicit <= 0) return false;
        const double value = arena_[first].guess.value();
        SampledValues means{};
        double mean = 0, total = 0;
        bool luck = false;
        for (std::uint32_t i = first; i < end; ++i) {
            const Node& child = arena_[i];
            const auto known = child.guess.read();
            luck = luck || known.luck || known.value != value;
            // One that was drawn counts by how often it was.
            const double weight = children.drawn ? static_cast<double>(std::max(1u, child.sum.visits()))
                                                 : static_cast<double>(child.sum.prior);
            mean += known.value * weight;
            for (std::size_t j = 0; players_ > 2 && j < players_; ++j) {
                means[j] += arena_.seats(i).at(j) * weight;
                luck = luck || arena_.seats(i).at(j) != arena_.seats(first).at(j);
            }
            total += weight;
        }
        const bool same = exact && !luck;
        if (players_ > 2)
            for (std::size_t j = 0; j < players_; ++j)
                arena_.seats(step.node).set(j, same ? arena_.seats(first).at(j) : means[j] / total);
        keep<Shared>(node, same ? value : mean / total, exact, luck);  // events keep the chooser
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
    std::span<const Move> only_{};
    double reluctance_ = 0;
};

}  // namespace arvek::detail
