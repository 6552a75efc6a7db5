#pragma once
// Minimax: looks at every line to the depth. The obviously correct reference for every other search, and the measure of
// what pruning saves. For play take AlphaBeta, which finds the same values with far fewer nodes.
//
//     arvek::Minimax<MyGame> search(game);
//     auto decision = search.decide(position, {.depth = 4});
//
// Scores are seen by the player who decides throughout: at that player's turns the largest counts, at the rival's the
// smallest, whoever moved before. Source: Shannon (1950), "Programming a Computer for Playing Chess", type A strategy.
// One object serves one thread at a time.

#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/detail/root.hpp"

namespace arvek {

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G>
class Minimax : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

template <Game G>
class Minimax<G> {
    static_assert(detail::game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit Minimax(const G& game) : game_(game) {}

    /// The best move within the limits, every legal move ranked with its exact value at that depth.
    /// Throws InputError for limits out of range and for a finished position.
    Decision<Move> decide(const Position& position, const Limits& limits = {},
                          const SearchRequest<Move>& request = {}) {
        check_limits(limits);
        detail::Budget budget(limits);
        Tree tree{game_, budget, detail::Ends(request.margins), request.tree, Player::First, {}};
        return detail::RootSearch<G, Tree>(game_, tree, budget, position, request).decide(limits);
    }

   private:
    struct Tree {
        const G& game;
        detail::Budget& budget;
        detail::Ends ends;
        SearchedTree<Move>* watched;
        Player decider;
        std::vector<detail::PlyFrame<Move>> frames;
        int depth_asked = 0;
        bool horizon = false;

        static constexpr bool learns_order = false;
        bool aspires() const { return false; }
        void prepare(int depth) {
            depth_asked = depth;
            detail::provide_frames(frames, depth);
            horizon = false;
        }
        bool reached_horizon() const { return horizon; }
        const MoveList<Move>& line() const { return frames[1].line; }

        detail::FirstMoveScore search_move(const Position& position, Player player, const Move& move,
                                           const detail::RootWindow&) {
            decider = player;
            return {after(position, player, move, depth_asked - 1, 1), ScoreKind::Exact};
        }

        Score after(const Position& position, Player player, const Move& move, int depth, int ply) {
            Position next = position;
            game.play(next, move);
            if (watched == nullptr || ply > watched->plies() || !watched->enter(player, move, ply, budget.nodes()))
                return visit(next, depth, ply, false);
            const Score score = visit(next, depth, ply, true);
            watched->leave(player == decider ? score : -score, ScoreKind::Exact, budget.nodes());
            return score;
        }

        Score visit(const Position& position, int depth, int ply, bool shown) {
            if (!budget.spend_node()) return {};
            auto& frame = frames[static_cast<std::size_t>(ply)];
            frame.line.clear();
            if (const auto outcome = game.outcome(position)) {
                ++budget.leaves;
                if (shown) watched->note(Fate::End);
                return ends.score(*outcome, decider, ply);
            }
            if (depth == 0) {
                ++budget.leaves;
                horizon = true;
                if (shown) watched->note(Fate::Horizon);
                return evaluation_of(game, position, decider);
            }
            frame.moves.clear();
            game.generate_moves(position, frame.moves);
            if (frame.moves.empty()) detail::throw_no_move();
            if (shown) watched->note_moves(frame.moves.size(), 0);
            const Player player = game.player_to_move(position);
            const bool largest = player == decider;
            Score best = largest ? Score::lowest() : Score::highest();
            for (const Move& move : frame.moves) {
                const Score score = after(position, player, move, depth - 1, ply + 1);
                if (budget.stopped()) return best;
                if (largest ? score > best : score < best) {
                    best = score;
                    frame.set_line(move, frames[static_cast<std::size_t>(ply) + 1].line);
                }
            }
            return best;
        }
    };

    G game_;
};

template <class G>
Minimax(const G&) -> Minimax<G>;

}  // namespace arvek
