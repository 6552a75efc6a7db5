#pragma once
// Monte Carlo tree search: for every game, whatever the number of players, with dice, with hidden hands.
//
//     arvek::MonteCarlo<MyGame> search(game);
//     auto decision = search.decide(position, {.playouts = 20'000});
//     for (const auto& entry : decision.ranked) ...    // entry.visits, entry.mean, entry.low, entry.high, entry.line
//
// It grows a tree where play goes well and judges a leaf by playing on at random to the end of the game, or, where that
// serves better, by the game's evaluation. Each first move has the number of playouts that began with it, its mean (the
// expected payoff in points) and a 95 % interval. Wins and losses that hold whatever is played are proven and end the
// search; the plies of such a score are those of the line that is shown, not the fewest. What rests on luck, or on a draw
// by repetition, is never proven.
//
// Where the game has views, decide() takes a view and never a position: each playout begins in a world drawn from it.
// A plan that is good against each hand by itself may be good against none when the hand is unknown; the tree is kept by
// what is seen, so it does not fall for that, but it also does not mix its moves as bluffing asks for
// (equilibrium.hpp).
//
// Limits: playouts, nodes, time, stop; without any it goes on until everything is settled, which takes the game's whole
// tree. The tree stands in a fixed room of memory: when that is full, what was visited least is dropped. The same limits
// (other than time) and seed give the same decision with one thread. Sources: detail/sampling_tree.hpp,
// detail/information_tree.hpp. One object serves one caller at a time.

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/game/places_in_order.hpp"
#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/information_tree.hpp"
#include "arvek/search/detail/sampled_scale.hpp"
#include "arvek/search/detail/sampling_tree.hpp"
#include "arvek/search/request.hpp"

namespace arvek {

/// What a leaf of the tree counts.
enum class LeafValue : std::uint8_t {
    Automatic,   ///< the evaluation where the game has one and all is in sight without luck; else a playout
    PlayOut,     ///< random moves to the end
    Evaluation,  ///< the evaluation
};

/// How a tree of playouts grows.
struct MonteCarloOptions {
    std::size_t memory_mebibytes = 64;  ///< of the tree, 1 to most_tree_mebibytes
    int threads = 1;                    ///< 1 to most_threads; one tree for all, with views one for each
    bool keep_tree = false;             ///< whether a decision goes on with what the last one found below its position
    double exploration = 0.7;           ///< of all the result's range; more looks around more. More than 0, at most 10
    LeafValue leaf = LeafValue::Automatic;  ///< how a leaf is judged
    TreeSight sight = TreeSight::Decider;   ///< with views
};

/// The largest tree that can be asked for.
inline constexpr std::size_t most_tree_mebibytes = 16'384;

/// Throws InputError for an option out of range.
void check_options(const MonteCarloOptions& options);

namespace detail {

/// Leaves that the game's evaluation judges better than random play does.
template <Game G>
bool leaves_are_evaluated(const G& game, LeafValue asked, bool has_evaluator) {
    bool evaluates = has_evaluator;
    if constexpr (EvaluatedGame<G>) evaluates = evaluates || wants_used<Ability::Evaluation>(game);
    if (asked == LeafValue::Automatic) return evaluates && !has_chance(game) && !has_views(game);
    if (asked == LeafValue::Evaluation && !evaluates)
        throw InputError("leaf", "the game has no evaluation", "playouts, or a game with evaluate()");
    return asked == LeafValue::Evaluation;
}

inline SamplingRules sampling_rules(bool evaluates, bool has_prior, double exploration) {
    SamplingRules rules;
    rules.evaluates = evaluates;
    rules.looks = evaluates;
    rules.by_prior = evaluates || has_prior;
    rules.implicit = evaluates ? 0.4f : 0.0f;
    rules.exploration = static_cast<float>(exploration);
    return rules;
}

template <class Move>
Decision<Move> sampled_decision(const std::vector<Move>& moves, const std::vector<SampledMove>& known,
                                const std::vector<std::vector<Move>>& lines, const ValueAxis& axis,
                                const PayoffRange& met, std::uint64_t seed) {
    Decision<Move> decision;
    for (const SampledRank& rank : rank_sampled(known, axis, met, seed, decision.scores_per_point)) {
        auto& entry = decision.ranked.emplace_back();
        entry.move = moves[rank.place];
        entry.score = rank.score;
        entry.kind = rank.kind;
        entry.line = lines[rank.place];
        entry.visits = known[rank.place].visits;
        entry.mean = rank.mean;
        entry.low = rank.low;
        entry.high = rank.high;
    }
    decision.move = decision.ranked.front().move;
    decision.has_scores = decision.has_visits = true;
    decision.searched_by = "montecarlo";
    return decision;
}

}  // namespace detail

/// Monte Carlo tree search.
template <Game G>
class MonteCarlo {
    static_assert(game_is_complete<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for an option out of range.
    explicit MonteCarlo(const G& game, const MonteCarloOptions& options = {},
                        std::shared_ptr<const Evaluator<G>> evaluator = nullptr,
                        std::shared_ptr<const MovePrior<G>> prior = nullptr)
        : game_(game),
          options_((check_options(options), options)),
          evaluator_(std::move(evaluator)),
          prior_(std::move(prior)),
          rules_(detail::sampling_rules(detail::leaves_are_evaluated(game, options.leaf, evaluator_ != nullptr),
                                        prior_ != nullptr, options.exploration)),
          arena_(std::make_unique<typename Tree::Arena>(options.memory_mebibytes, players_of(game) > 2)) {}

    /// The best move within the limits. Scores are expected payoffs, scores_per_point to a point. Throws InputError for
    /// limits out of range, a depth, a finished position and one where chance is next.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {});

    /// How many nodes stand in the tree's room, with those of earlier decisions that were not dropped yet.
    std::size_t tree_nodes() const { return arena_->used(); }
    std::size_t tree_room() const { return arena_->room(); }  ///< nodes that the tree has room for
    static constexpr std::size_t bytes_per_node = sizeof(detail::SampledNode<Move>);  ///< of memory

   private:
    using Tree = detail::SamplingTree<G>;
    using Node = detail::SampledNode<Move>;

    struct Run final : detail::PlayoutSearch {
        Run(const MonteCarlo& own_search, Tree& own_tree, const detail::ValueAxis& own_axis,
            const std::vector<Move>& own_legal, const SearchRequest<Move>& own_request, const Limits& limits,
            std::span<const Position> earlier)
            : search(own_search), tree(own_tree), axis(own_axis), legal(own_legal), request(own_request) {
            const auto count = static_cast<std::size_t>(search.options_.threads);
            workers.reserve(count);
            for (std::size_t i = 0; i < count; ++i)
                workers.emplace_back(search.game_, derived_seed(request.seed, i),
                                     detail::limits_of_worker(limits, i, count), earlier, axis.usual_range());
            if (count > 1) tree.begin_root(workers[0]);
        }
        Came play_out(std::size_t worker, bool shared, bool& full) override {
            const bool done = shared ? tree.template iterate<true>(workers[worker], full)
                                     : tree.template iterate<false>(workers[worker], full);
            if (!done) return Came::AtLimit;
            // The root is looked at now and then alone: with others at work it is never at rest.
            const auto& own = workers[worker];
            const bool looks = own.root_is_exact || own.playouts == 1 || own.playouts % 64 == 0;
            return looks && tree.is_settled() ? Came::Settled : Came::Back;
        }
        bool make_room() override { return search.arena_->make_room(); }
        double room_seconds() const override { return search.room_seconds(); }
        StoppedBy reason(std::size_t worker) const override { return workers[worker].budget.reason(); }
        void rest(std::size_t worker) override { tree.end_way(workers[worker]); }
        void tell() const override { (*request.progress)(decision()); }

        Decision<Move> decision() const {
            detail::PayoffRange met = axis.usual_range();
            for (const auto& worker : workers) met.include(worker.met);
            auto decision = search.decided(tree, axis, met, legal, request.seed);
            for (const auto& worker : workers) {
                decision.stats.nodes += worker.budget.nodes();
                decision.stats.playouts += worker.playouts;
                decision.stats.leaves += worker.leaves;
                decision.stats.depth = std::max(decision.stats.depth, worker.deepest);
            }
            decision.stats.nodes += 1;
            return decision;
        }

        const MonteCarlo& search;
        Tree& tree;
        const detail::ValueAxis& axis;
        const std::vector<Move>& legal;
        const SearchRequest<Move>& request;
        std::vector<typename Tree::Worker> workers;
    };

    /// About as long as it takes to drop what was visited least.
    double room_seconds() const { return 6e-8 * static_cast<double>(arena_->used()); }

    void prepare_arena(const Position& position, const Limits& limits, const SearchRequest<Move>& request) {
        if (kept_ && request.only.empty() && request.margins == kept_margins_) {
            int looked_at = 0;
            detail::Budget budget(limits);
            if (const std::uint32_t found = find(position, kept_position_, Tree::root, 6, looked_at, budget);
                found != 0) {
                if (found != Tree::root) arena_->move_root_to(found);
                (*arena_)[Tree::root].guess.doubt();
                // What is not below the root any more stays until there is need and time to drop it.
                const bool is_full = arena_->used() > arena_->room() / 4 * 3;
                const bool has_time = !limits.seconds || room_seconds() < *limits.seconds / 4;
                if (!is_full || (has_time && arena_->make_room())) return;
            }
        }
        arena_->clear();
    }

    /// The node of the position, some plies below another; 0 where it is not known, or not soon found.
    std::uint32_t find(const Position& wanted, const Position& here, std::uint32_t at, int plies, int& looked_at,
                       detail::Budget& budget) const {
        constexpr int most_looked_at = 20'000;
        if (here == wanted) return at;
        const auto children = (*arena_)[at].children.read();
        if (plies == 0 || !children.there() || ++looked_at > most_looked_at) return 0;
        for (std::uint32_t i = children.first; i < children.first + children.count; ++i) {
            if (!(*arena_)[i].children.read().there()) continue;
            if (!budget.may_work()) return 0;
            Position after = here;
            game_.play(after, (*arena_)[i].move);
            if (const std::uint32_t found = find(wanted, after, i, plies - 1, looked_at, budget); found != 0)
                return found;
        }
        return 0;
    }

    Decision<Move> decided(const Tree& tree, const detail::ValueAxis& axis, const detail::PayoffRange& met,
                           const std::vector<Move>& legal, std::uint64_t seed) const {
        std::vector<Move> moves;
        std::vector<detail::SampledMove> known;
        std::vector<std::vector<Move>> lines;
        const Node& root = (*arena_)[Tree::root];
        const auto children = root.children.read();
        for (std::uint32_t i = 0; children.there() && i < children.count; ++i) {
            const Node& child = (*arena_)[children.first + i];
            moves.push_back(child.move);
            const auto sum = child.sum.read();
            auto& entry = known.emplace_back();
            entry.visits = sum.visits;
            entry.exact = child.guess.is_exact();
            entry.sure = child.guess.is_sure();
            entry.proven = entry.sure && players_of(game_) <= 2;
            // What the choice of moves goes by: the mean, with what evaluations make of it.
            entry.value = child.guess.value();
            if (!entry.exact && entry.visits > 0) {
                const double share = rules_.implicit > 0 ? static_cast<double>(rules_.guess_share(sum.visits)) : 0.0;
                entry.value = sum.mean() + share * (entry.value - sum.mean());
            }
            entry.worth = tree.worth_of(child);
            tree.line_from(children.first + i, lines.emplace_back());
            entry.plies = static_cast<int>(lines.back().size());
        }
        detail::weigh_first_moves(known, axis);
        if (moves.size() < legal.size()) {  // there was no room for them all
            const std::vector<Move> tried = moves;
            PlacesInOrder<Move> places(tried);
            for (const Move& move : legal) {
                if (places.has(move)) continue;
                moves.push_back(move);
                known.emplace_back().worth = -1;
                lines.push_back({move});
                if (moves.size() >= legal.size() || moves.size() >= most_told) break;
            }
        }
        return detail::sampled_decision(moves, known, lines, axis, met, seed);
    }
    /// So many of the moves that were not tried are told of.
    static constexpr std::size_t most_told = 4'096;

    /// The upper part of the tree; a position counts as often as it was visited.
    void show(SearchedTree<Move>& shown, const Position& position, const Decision<Move>& decision) const {
        shown.begin(game_.player_to_move(position));
        std::uint64_t counted = 0;
        show_children(shown, Tree::root, position, 1, decision.scores_per_point, counted);
        shown.finish(std::max(1, decision.stats.depth), static_cast<int>((*arena_)[Tree::root].children.read().count));
    }
    void show_children(SearchedTree<Move>& shown, std::uint32_t at, const Position& position, int ply, double per_point,
                       std::uint64_t& counted) const {
        const auto children = (*arena_)[at].children.read();
        if (!children.there() || ply > shown.plies()) return;
        const std::uint32_t first = children.first;
        const Player mover = children.chance ? Player::First : game_.player_to_move(position);
        std::size_t unseen = 0;
        for (std::uint32_t i = 0; i < children.count; ++i) {
            const Node& child = (*arena_)[first + i];
            const std::uint32_t visits = child.sum.visits();
            if (visits == 0 && !child.guess.is_exact()) {
                ++unseen;
                continue;
            }
            if (!shown.enter(mover, child.move, ply, counted)) continue;
            Position after = position;
            game_.play(after, child.move);
            const auto known = child.guess.read();
            if (game_.outcome(after)) shown.note(Fate::End);
            const std::uint64_t before = counted;
            show_children(shown, first + i, after, ply + 1, per_point, counted);
            counted = before + std::max<std::uint64_t>(visits, 1);
            const double value = known.exact || visits == 0 ? known.value : child.sum.read().mean();
            shown.leave(Score::estimate(detail::rounded(value * per_point)),
                        known.exact && !known.luck ? ScoreKind::Exact : ScoreKind::Estimate, counted);
        }
        if (ply > 1) shown.note_moves(children.count, unseen);
    }

    G game_;
    MonteCarloOptions options_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    std::shared_ptr<const MovePrior<G>> prior_;
    detail::UsualPayoffs<G> usual_;
    detail::SamplingRules rules_;
    std::unique_ptr<typename Tree::Arena> arena_;
    bool kept_ = false, kept_margins_ = true;
    Position kept_position_{};
};

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
auto MonteCarlo<G>::decide(const Position& position, const Limits& limits, const SearchRequest<Move>& request,
                           std::span<const Position> earlier) -> Decision<Move> {
    check_limits(limits);
    detail::require_no_depth(limits);
    const double started = limits.clock.seconds_or_0();
    const std::vector<Move> legal = detail::first_moves(game_, position, request);
    const detail::ValueAxis axis = usual_.axis(game_, evaluator_.get(), limits, request.margins);
    prepare_arena(position, limits, request);
    Tree tree(game_, *arena_, rules_, axis, evaluator_.get(), prior_.get());
    const double reluctance = request.repetition < Score{} ? 0.01 * axis.usual_range().width() : 0.0;
    tree.begin(position, request.only, reluctance);
    const Limits left = detail::limits_left(limits, started);
    Run run(*this, tree, axis, legal, request, left, earlier);
    const detail::PlayoutReport report =
        detail::run_playouts(run, left, run.workers.size(), request.progress != nullptr);
    auto decision = run.decision();
    decision.stats.stopped_by = report.stopped_by;
    decision.stats.seconds = limits.clock.seconds_or_0() - started;
    if (request.tree != nullptr) show(*request.tree, position, decision);
    kept_position_ = position;
    kept_margins_ = request.margins;
    kept_ = options_.keep_tree && request.only.empty();
    return decision;
}

/// For a game with views.
template <ViewedGame G>
class MonteCarlo<G> {
    static_assert(game_is_complete<G>());

   public:
    using View = typename G::View;
    using Move = typename G::Move;

    /// For a game that lives as long. Throws InputError for an option out of range.
    explicit MonteCarlo(const G& game, const MonteCarloOptions& options = {},
                        std::shared_ptr<const Evaluator<G>> evaluator = nullptr)
        : game_(game),
          options_((check_options(options), options)),
          evaluator_(std::move(evaluator)),
          rules_(detail::sampling_rules(detail::leaves_are_evaluated(game, options.leaf, evaluator_ != nullptr), false,
                                        options.exploration)) {
        rules_.by_prior = rules_.looks = false;
    }

    /// The best move of the player whose view it is, and who must be to move.
    Decision<Move> decide(const View& view, const Limits& limits = {}, const SearchRequest<Move>& request = {}) {
        check_limits(limits);
        detail::require_no_depth(limits);
        const double started = limits.clock.seconds_or_0();
        const std::vector<Move> legal = detail::first_moves(game_, stand_in(game_, view), request);
        const detail::ValueAxis axis = usual_.axis(game_, evaluator_.get(), limits, request.margins);
        const Limits left = detail::limits_left(limits, started);
        Run run(axis, legal, request);
        memories_.reserve(static_cast<std::size_t>(options_.threads));
        for (int i = 0; i < options_.threads; ++i) {
            if (memories_.size() == static_cast<std::size_t>(i))
                memories_.emplace_back(
                    std::max<std::size_t>(1, options_.memory_mebibytes / static_cast<std::size_t>(options_.threads)));
            run.trees.push_back(std::make_unique<Tree>(game_, rules_, axis, options_.sight, evaluator_.get(),
                                                       memories_[static_cast<std::size_t>(i)]));
            const auto worker = static_cast<std::size_t>(i);
            run.trees.back()->begin(view, request.only, derived_seed(request.seed, worker),
                                    detail::limits_of_worker(left, worker, static_cast<std::size_t>(options_.threads)));
        }
        const detail::PlayoutReport report =
            detail::run_playouts(run, left, run.trees.size(), request.progress != nullptr);
        auto decision = run.decision();
        decision.stats.stopped_by = report.stopped_by;
        decision.stats.seconds = limits.clock.seconds_or_0() - started;
        if (request.tree != nullptr) show(*request.tree, *run.trees[0], decision);
        return decision;
    }

   private:
    using Tree = detail::InformationTree<G>;
    /// Of one tree, in which what was visited so seldom tells nothing.
    static constexpr std::uint64_t least_visits_of_line = 8;
    static constexpr std::size_t worlds_of_line = 32, worlds_of_picture = 64;

    /// What is played most after the move, over worlds that may be, as far as it can be played in an eighth of them.
    static std::vector<Move> line_from(const Tree& tree, std::vector<typename G::Position> worlds, const Move& move) {
        std::vector<Move> line{move};
        tree.follow(worlds, move);
        while (line.size() < 60) {
            const auto branches = tree.branches(worlds);
            if (branches.empty() || branches[0].visits < least_visits_of_line) break;
            tree.follow(worlds, branches[0].move);
            if (worlds.size() < worlds_of_line / 8) break;
            line.push_back(branches[0].move);
        }
        return line;
    }

    /// The upper part of the tree, over worlds that may be; a position counts as often as it was visited. Of several
    /// threads that of the first.
    void show(SearchedTree<Move>& shown, const Tree& tree, const Decision<Move>& decision) const {
        const auto worlds = tree.worlds(worlds_of_picture);
        shown.begin(game_.player_to_move(worlds[0]));
        std::uint64_t counted = 0;
        const std::size_t moves = show_below(shown, tree, worlds, 1, decision.scores_per_point, counted);
        shown.finish(std::max(1, decision.stats.depth), static_cast<int>(moves));
    }
    std::size_t show_below(SearchedTree<Move>& shown, const Tree& tree, const std::vector<typename G::Position>& worlds,
                           int ply, double per_point, std::uint64_t& counted) const {
        if (ply > shown.plies()) return 0;
        const auto branches = tree.branches(worlds);
        if (branches.empty()) return 0;
        const Player mover = game_.player_to_move(worlds[0]);
        for (const auto& branch : branches) {
            if (branch.visits == 0 || !shown.enter(mover, branch.move, ply, counted)) continue;
            auto after = worlds;
            tree.follow(after, branch.move);
            const std::uint64_t before = counted;
            if (!after.empty() && game_.outcome(after[0]))
                shown.note(Fate::End);
            else if (!after.empty())
                shown.note_moves(show_below(shown, tree, after, ply + 1, per_point, counted), 0);
            counted = before + branch.visits;
            const double value = branch.sum / static_cast<double>(branch.visits);
            shown.leave(Score::estimate(detail::rounded(value * per_point)), ScoreKind::Estimate, counted);
        }
        return branches.size();
    }

    struct Run final : detail::PlayoutSearch {
        Run(const detail::ValueAxis& own_axis, const std::vector<Move>& own_legal,
            const SearchRequest<Move>& own_request)
            : axis(own_axis), legal(own_legal), request(own_request) {}

        Came play_out(std::size_t worker, bool, bool&) override {
            Tree& tree = *trees[worker];
            if (!tree.iterate()) return Came::AtLimit;
            const bool only_one = tree.first_move_count() == 1 && legal.size() == 1;
            return only_one && tree.playouts >= detail::enough_for_the_only_move ? Came::Settled : Came::Back;
        }
        bool make_room() override { return false; }
        double room_seconds() const override { return 0; }
        StoppedBy reason(std::size_t worker) const override { return trees[worker]->play.budget.reason(); }
        void rest(std::size_t) override {}
        void tell() const override { (*request.progress)(decision()); }

        Decision<Move> decision() const {
            // One move and the next: the trees have them in orders of their own.
            std::vector<detail::SampledMove> known(legal.size());
            std::vector<std::vector<Move>> lines;
            std::vector<double> sums(legal.size(), 0.0);
            PlacesInOrder<Move> places(legal);
            for (const auto& tree : trees)
                tree->first_moves([&](const auto& edge) {
                    const std::size_t place = places.of(edge.move);
                    if (place == places.none()) return;
                    known[place].visits += edge.visits;
                    sums[place] += edge.sum;
                });
            const auto worlds = trees[0]->worlds(worlds_of_line);
            for (std::size_t i = 0; i < legal.size(); ++i) {
                lines.push_back(line_from(*trees[0], worlds, legal[i]));
                if (known[i].visits > 0) known[i].value = sums[i] / static_cast<double>(known[i].visits);
                known[i].worth = static_cast<double>(known[i].visits) + 0.5 * axis.share(known[i].value);
            }
            detail::weigh_first_moves(known, axis);
            detail::PayoffRange met = axis.usual_range();
            for (const auto& tree : trees) met.include(tree->met);
            auto decision = detail::sampled_decision(legal, known, lines, axis, met, request.seed);
            for (const auto& tree : trees) {
                decision.stats.nodes += tree->play.budget.nodes();
                decision.stats.playouts += tree->playouts;
                decision.stats.leaves += tree->playouts;
                decision.stats.depth = std::max(decision.stats.depth, tree->deepest);
            }
            decision.stats.nodes += 1;
            return decision;
        }

        const detail::ValueAxis& axis;
        const std::vector<Move>& legal;
        const SearchRequest<Move>& request;
        std::vector<std::unique_ptr<Tree>> trees;
    };

    G game_;
    MonteCarloOptions options_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
    detail::UsualPayoffs<G> usual_;
    detail::SamplingRules rules_;
    std::vector<typename Tree::Memory> memories_;  ///< one for each thread
};

template <class G>
MonteCarlo(const G&) -> MonteCarlo<G>;
template <class G>
MonteCarlo(const G&, const MonteCarloOptions&) -> MonteCarlo<G>;

}  // namespace arvek
