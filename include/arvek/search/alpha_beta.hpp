#pragma once
// AlphaBeta: the same values as Minimax, without looking at lines that can no longer matter.
//
//     arvek::AlphaBeta<MyGame> search(game);
//     auto decision = search.decide(position, {.depth = 6}, {.seed = 7});
//     for (const auto& entry : decision.ranked) ...     // move, score, exact or bound, line
//
// Fail-soft: a score outside the window is still the tightest bound that was proven. The order in which a game
// generates its moves decides how much is pruned: likely good moves first. Where positions repeat
// (game/repetition.hpp), one that comes back counts as a draw. Sources: Knuth, Moore (1975), "An Analysis of Alpha-Beta
// Pruning"; Fishburn (1983), "Another Optimization of Alpha-Beta Search" (fail-soft). One object serves one thread at a
// time.

#include <memory>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/visiting_moves.hpp"
#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/line_of_play.hpp"
#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek {

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G, Stepping S = Stepping::Automatic>
class AlphaBeta : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

/// The search itself, for a type that is a game.
template <Game G, Stepping S>
class AlphaBeta<G, S> {
    static_assert(game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for a game that is not one of two players.
    explicit AlphaBeta(const G& game, std::shared_ptr<const Evaluator<G>> evaluator = nullptr)
        : tree_{game}, evaluator_(std::move(evaluator)) {
        require_searchable(tree_.game, "alphabeta");
        tree_.evaluator = evaluator_.get();
        if constexpr (VisitingGame<G>) tree_.visits = wants_used<Ability::Visiting>(game);
    }

    /// The best move within the limits, the legal moves ranked as `request.ranking` asks. `earlier`: the positions of
    /// the game before this one, for the repetition rule. Throws InputError for limits out of range and for a finished
    /// position.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {}) {
        check_limits(limits);
        tree_.budget = detail::Budget(limits);
        tree_.ends = EndScores(request.margins);
        tree_.watched = request.tree;
        tree_.inner_nodes = 0;
        tree_.repetition = request.repetition;
        if constexpr (RepeatingGame<G>) tree_.line_of_play.begin(tree_.game, earlier, position);
        auto decision =
            detail::decide_by_tree(tree_.game, tree_, tree_.budget, position, limits, request, {}, tree_.evaluator);
        decision.stats.leaves = decision.stats.nodes - tree_.inner_nodes;
        return decision;
    }

   private:
    using Frame = detail::PlyFrame<Move>;
    /// A position that fits a register is handed on in one.
    using Handed = std::conditional_t<!takes_back<G, S>() && std::is_trivially_copyable_v<Position> &&
                                          sizeof(Position) <= sizeof(std::uint64_t),
                                      Position, Position&>;

    /// Has the last ply as a function of its own. It refuses, and nothing is done, where it would go past the budget.
    template <class Asked>
    static constexpr bool AsksLastPly = requires(const Asked& game, const Position& position, HorizonPly& last) {
        game.last_ply(position, last);
    };

    /// What the nodes of a search share, all of it at hand by one pointer.
    struct Tree {
        G game;
        detail::Budget budget{};
        std::vector<Frame> frames{};
        EndScores ends{true};
        const Evaluator<G>* evaluator = nullptr;
        SearchedTree<Move>* watched = nullptr;
        const Frame* horizon_frame = nullptr;
        bool cut_by_depth = false;
        bool visits = true;             ///< moves are given one at a time
        std::uint64_t inner_nodes = 0;  ///< every other node is a leaf: fewer to count
        detail::LineOfPlay<G> line_of_play{};
        Score repetition{};  ///< for the decider
        Player decider = Player::First;

        void prepare(int depth) {
            detail::provide_frames(frames, depth);
            if constexpr (RepeatingGame<G>) line_of_play.prepare(depth);
            frames[static_cast<std::size_t>(depth)].line.clear();  // and never has one
            horizon_frame = &frames[static_cast<std::size_t>(depth)];
            cut_by_depth = false;
            inner_nodes += depth > 0 ? 1 : 0;  // the root
        }
        bool reached_horizon() const { return cut_by_depth; }
        const MoveList<Move>& line() const { return frames[1].line; }

        detail::FirstMoveScore search_move(Position& position, Player player, const Move& move,
                                           const detail::RootWindow& window) {
            decider = player;
            return window.judged(watched == nullptr
                                     ? after<false>(position, player, move, frames[1], window.alpha(), window.ceiling)
                                     : shown(position, player, move, frames[1], window.alpha(), window.ceiling));
        }

        /// The same as after<false>(), kept out of the functions for a tree that is watched: flattened, each would hold
        /// the whole loop several times.
        [[gnu::noinline]] Score unseen(Position& position, Player player, const Move& move, Frame& frame, Score alpha,
                                       Score beta) {
            return after<false>(position, player, move, frame, alpha, beta);
        }

        /// The same as after(), and the tree that is watched hears of it.
        Score shown(Position& position, Player player, const Move& move, Frame& frame, Score alpha, Score beta) {
            if (!watched->enter(player, move, frame.ply, budget.nodes()))
                return unseen(position, player, move, frame, alpha, beta);
            const Score score = after<true>(position, player, move, frame, alpha, beta);
            watched->leave(score, detail::kind_within(score, alpha, beta), budget.nodes());
            return score;
        }

        /// The score, for `player`, of making `move`: exact between alpha and beta, else a bound. `frame` belongs to
        /// the position that the move leads to. Leaves end here, without another call.
        template <bool Watched>
        [[gnu::always_inline]] inline Score after(Position& position, Player player, const Move& move, Frame& frame,
                                                  Score alpha, Score beta) {
            Step<G, S> step(game, position, move);
            Position& next = step.position();
            if (!budget.spend_node()) return Score{};
            if (const auto outcome = game.outcome(next)) {
                frame.line.clear();
                if constexpr (Watched) watched->note(Fate::End);
                return ends.score(*outcome, player, frame.ply);
            }
            const Player mover = game.player_to_move(next);
            if constexpr (RepeatingGame<G>) {
                if (line_of_play.applies() && line_of_play.place_before(game, next, mover, frame.ply) >= 0) {
                    frame.line.clear();
                    if constexpr (Watched) watched->note(Fate::Repetition);
                    return player == decider ? repetition : -repetition;
                }
            }
            if (&frame == horizon_frame) {
                cut_by_depth = true;
                if constexpr (Watched) watched->note(Fate::Horizon);
                // A game's own comparison with the mover folds.
                const Score score = evaluation_by(evaluator, game, next, mover);
                return mover == player ? score : -score;
            }
            const bool same = mover == player;
            if constexpr (Watched)
                return same ? visit_watched(next, mover, frame, alpha, beta)
                            : -visit_watched(next, mover, frame, -beta, -alpha);
            else
                return same ? visit(next, mover, frame, alpha, beta) : -visit(next, mover, frame, -beta, -alpha);
        }

        /// The score of a position before the horizon for `player`, whose turn it is. Flattened, so that the functions
        /// of the game become part of the loop.
        [[gnu::flatten]] Score visit(Handed position, Player player, Frame& frame, Score alpha, Score beta) {
            return visit_each<false>(position, player, frame, alpha, beta);
        }
        [[gnu::noinline]] Score visit_watched(Handed position, Player player, Frame& frame, Score alpha, Score beta) {
            return visit_each<true>(position, player, frame, alpha, beta);
        }

        template <bool Watched>
        Score visit_each(Position& position, Player player, Frame& frame, Score alpha, Score beta) {
            Frame& next_frame = *(&frame + 1);  // prepare() made one for every ply down to the horizon
            ++inner_nodes;
            frame.line.clear();
            Score best = Score::lowest();
            if constexpr (RepeatingGame<G>)
                if (line_of_play.applies()) line_of_play.put(game, next_frame.ply - 1, position, player);
            // Takes the score of a move into account; false when it refutes the position.
            const auto go_on_after = [&](const Move& move, Score score) {
                best = std::max(best, score);
                if (score <= alpha) return true;
                alpha = score;
                if (alpha >= beta) {
                    ++budget.cutoffs;
                    return false;
                }
                frame.set_line(move, next_frame.line);
                return true;
            };
            if constexpr (AsksLastPly<G> && !Watched) {
                if (&next_frame == horizon_frame && evaluator == nullptr) {
                    HorizonPly last{player, ends, next_frame.ply, alpha, beta, budget.left()};
                    last.repetition = player == decider ? repetition : -repetition;
                    if ((!line_of_play.applies() || line_of_play.tell(last)) && game.last_ply(position, last)) {
                        budget.spend_nodes(last.nodes);
                        cut_by_depth = cut_by_depth || last.horizon;
                        budget.cutoffs += last.cut ? 1 : 0;
                        if (last.improved && !last.cut) frame.line.push_back(move_of(last));
                        return last.best;
                    }
                }
            }
            bool visited = false;
            if constexpr (VisitingGame<G> && !Watched) {
                if (visits) {
                    visited = true;
                    game.visit_moves(position, [&](const Move& move) {
                        return go_on_after(move, after<false>(position, player, move, next_frame, alpha, beta));
                    });
                    if (best == Score::lowest()) throw_no_move();
                }
            }
            if (!visited) visit_list<Watched>(position, player, frame, next_frame, alpha, beta, go_on_after);
            return best;
        }

        static Move move_of(const HorizonPly& last) {
            Move move;
            move.number = last.move;
            return move;
        }

        template <bool Watched, class GoOnAfter>
        [[gnu::always_inline]] inline void visit_list(Position& position, Player player, Frame& frame,
                                                      Frame& next_frame, Score& alpha, Score beta,
                                                      const GoOnAfter& go_on_after) {
            frame.moves.clear();
            game.generate_moves(position, frame.moves);
            if (frame.moves.empty()) throw_no_move();
            if constexpr (Watched) watched->note_moves(frame.moves.size(), 0);
            for (const Move& move : frame.moves) {
                Score score;
                if constexpr (Watched)
                    score = frame.ply < watched->plies() ? shown(position, player, move, next_frame, alpha, beta)
                                                         : unseen(position, player, move, next_frame, alpha, beta);
                else
                    score = after<false>(position, player, move, next_frame, alpha, beta);
                if (go_on_after(move, score)) continue;
                if constexpr (Watched)
                    watched->note_moves(frame.moves.size(), static_cast<std::size_t>(frame.moves.end() - &move - 1));
                break;
            }
        }
    };

    Tree tree_;
    std::shared_ptr<const Evaluator<G>> evaluator_;
};

template <class G>
AlphaBeta(const G&) -> AlphaBeta<G>;

}  // namespace arvek
