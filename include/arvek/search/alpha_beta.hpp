#pragma once
// AlphaBeta: the same values as Minimax, without looking at lines that can no longer matter.
//
//     arvek::AlphaBeta<MyGame> search(game);
//     auto decision = search.decide(position, {.depth = 6}, {.seed = 7});
//     for (const auto& entry : decision.ranked) ...     // move, score, exact or bound, line
//
// Fail-soft: a score outside the window is still the tightest bound that was proven. The order in which a game
// generates its moves decides how much is pruned: likely good moves first. Sources: Knuth, Moore (1975), "An Analysis
// of Alpha-Beta Pruning"; Fishburn (1983), "Another Optimization of Alpha-Beta Search" (fail-soft). One object serves
// one thread at a time.

#include "arvek/game/visiting_moves.hpp"
#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/detail/root.hpp"

namespace arvek {

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G, Stepping S = Stepping::Automatic>
class AlphaBeta : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

template <Game G, Stepping S>
class AlphaBeta<G, S> {
    static_assert(detail::game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit AlphaBeta(const G& game) : tree_{game} {}

    /// The best move within the limits, the legal moves ranked as `request.ranking` asks.
    /// Throws InputError for limits out of range and for a finished position.
    Decision<Move> decide(const Position& position, const Limits& limits = {},
                          const SearchRequest<Move>& request = {}) {
        check_limits(limits);
        tree_.budget = detail::Budget(limits);
        tree_.ends = detail::Ends(request.margins);
        tree_.watched = request.tree;
        tree_.inner_nodes = 0;
        auto decision = detail::RootSearch<G, Tree>(tree_.game, tree_, tree_.budget, position, request).decide(limits);
        decision.stats.leaves = decision.stats.nodes - tree_.inner_nodes;
        return decision;
    }

   private:
    using Frame = detail::PlyFrame<Move>;
    /// A position that fits a register is handed on in one.
    using Handed = std::conditional_t<!takes_back<G, S>() && std::is_trivially_copyable_v<Position> &&
                                          sizeof(Position) <= sizeof(std::uint64_t),
                                      Position, Position&>;

    /// What the nodes of a search share, all of it at hand by one pointer.
    struct Tree {
        G game;
        detail::Budget budget{};
        std::vector<Frame> frames{};
        detail::Ends ends{true};
        SearchedTree<Move>* watched = nullptr;
        const Frame* horizon = nullptr;
        bool horizon_reached = false;
        std::uint64_t inner_nodes = 0;  ///< every other node is a leaf: fewer to count

        static constexpr bool learns_order = false;
        bool aspires() const { return false; }
        void prepare(int depth) {
            detail::provide_frames(frames, depth);
            frames[static_cast<std::size_t>(depth)].line.clear();  // and never has one
            horizon = &frames[static_cast<std::size_t>(depth)];
            horizon_reached = false;
            inner_nodes += depth > 0 ? 1 : 0;  // the root
        }
        bool reached_horizon() const { return horizon_reached; }
        const MoveList<Move>& line() const { return frames[1].line; }

        detail::FirstMoveScore search_move(Position& position, Player player, const Move& move,
                                           const detail::RootWindow& window) {
            return window.judged(watched == nullptr
                                     ? after<false>(position, player, move, frames[1], window.alpha(), window.ceiling)
                                     : shown(position, player, move, frames[1], window.alpha(), window.ceiling));
        }

        /// The same as after(), and the tree that is watched hears of it.
        Score shown(Position& position, Player player, const Move& move, Frame& frame, Score alpha, Score beta) {
            if (!watched->enter(player, move, frame.ply, budget.nodes()))
                return after<false>(position, player, move, frame, alpha, beta);
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
            if (&frame == horizon) {
                horizon_reached = true;
                if constexpr (Watched) watched->note(Fate::Horizon);
                const Score score = evaluation_of(game, next, mover);  // a game's own comparison with the mover folds
                return mover == player ? score : -score;
            }
            return mover == player ? visit<Watched>(next, mover, frame, alpha, beta)
                                   : -visit<Watched>(next, mover, frame, -beta, -alpha);
        }

        /// The score of a position before the horizon for `player`, whose turn it is. Flattened, so that the functions
        /// of the game become part of the loop.
        template <bool Watched>
        [[gnu::flatten]] Score visit(Handed position, Player player, Frame& frame, Score alpha, Score beta) {
            Frame& next_frame = *(&frame + 1);  // prepare() made one for every ply down to the horizon
            ++inner_nodes;
            frame.line.clear();
            Score best = Score::lowest();
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
            if constexpr (VisitingGame<G> && !Watched) {
                game.visit_moves(position, [&](const Move& move) {
                    return go_on_after(move, after<false>(position, player, move, next_frame, alpha, beta));
                });
                if (best == Score::lowest()) detail::throw_no_move();
                return best;
            }
            frame.moves.clear();
            game.generate_moves(position, frame.moves);
            if (frame.moves.empty()) detail::throw_no_move();
            if constexpr (Watched) watched->note_moves(frame.moves.size(), 0);
            for (const Move& move : frame.moves) {
                Score score;
                if constexpr (Watched)
                    score = frame.ply < watched->plies()
                                ? shown(position, player, move, next_frame, alpha, beta)
                                : after<false>(position, player, move, next_frame, alpha, beta);
                else
                    score = after<false>(position, player, move, next_frame, alpha, beta);
                if (go_on_after(move, score)) continue;
                if constexpr (Watched)
                    watched->note_moves(frame.moves.size(), static_cast<std::size_t>(frame.moves.end() - &move - 1));
                break;
            }
            return best;
        }
    };

    Tree tree_;
};

template <class G>
AlphaBeta(const G&) -> AlphaBeta<G>;

}  // namespace arvek
