#pragma once
// Minimax: looks at every line to the depth. The obviously correct reference for every other search, and the measure of
// what pruning saves. For play take AlphaBeta, which finds the same values with far fewer nodes.
//
//     arvek::Minimax<MyGame> search(game);
//     auto decision = search.decide(position, {.depth = 4});
//
// Scores are seen by the player who decides throughout: at that player's turns the largest counts, at the rival's the
// smallest, whoever moved before. Where positions repeat (game/repetition.hpp), one that comes back counts as a draw.
// Source: Shannon (1950), "Programming a Computer for Playing Chess", type A strategy. One object serves one thread at
// a time.

#include <memory>
#include <span>
#include <utility>
#include <vector>

#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/line_of_play.hpp"
#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek {

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G>
class Minimax : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

/// The search itself, for a type that is a game.
template <Game G>
class Minimax<G> {
    static_assert(game_can_be_searched<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for a game that is not one of two players.
    explicit Minimax(const G& game, std::shared_ptr<const Evaluator<G>> evaluator = nullptr)
        : game_(game), evaluator_(std::move(evaluator)) {
        require_searchable(game_, "minimax");
    }

    /// The best move within the limits, every legal move ranked with its exact value at that depth.
    /// `earlier`: the positions of the game before this one, for the repetition rule. Throws InputError for limits out
    /// of range and for a finished position.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {}) {
        check_limits(limits);
        detail::Budget budget(limits);
        Tree tree{game_,
                  evaluator_.get(),
                  budget,
                  EndScores(request.margins),
                  request.tree,
                  request.repetition,
                  Player::First,
                  {},
                  {}};
        if constexpr (RepeatingGame<G>) tree.line_of_play.begin(game_, earlier, position);
        return detail::decide_by_tree(game_, tree, budget, position, limits, request, {}, evaluator_.get());
    }

   private:
    struct Tree {
        const G& game;
        const Evaluator<G>* evaluator;
        detail::Budget& budget;
        EndScores ends;
        SearchedTree<Move>* watched;
        Score repetition;  ///< for the decider
        Player decider;
        std::vector<detail::PlyFrame<Move>> frames;
        detail::LineOfPlay<G> line_of_play;
        int depth_asked = 0;
        bool cut_by_depth = false;

        void prepare(int depth) {
            depth_asked = depth;
            detail::provide_frames(frames, depth);
            if constexpr (RepeatingGame<G>) line_of_play.prepare(depth);
            cut_by_depth = false;
        }
        bool reached_horizon() const { return cut_by_depth; }
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
            if constexpr (RepeatingGame<G>) {
                if (line_of_play.applies() &&
                    line_of_play.place_before(game, position, game.player_to_move(position), ply) >= 0) {
                    ++budget.leaves;
                    if (shown) watched->note(Fate::Repetition);
                    return repetition;
                }
            }
            if (depth == 0) {
                ++budget.leaves;
                cut_by_depth = true;
                if (shown) watched->note(Fate::Horizon);
                return evaluation_by(evaluator, game, position, decider);
            }
            frame.moves.clear();
            game.generate_moves(position, frame.moves);
            if (frame.moves.empty()) throw_no_move();
            if (shown) watched->note_moves(frame.moves.size(), 0);
            const Player player = game.player_to_move(position);
            const bool largest = player == decider;
            Score best = largest ? Score::lowest() : Score::highest();
            if constexpr (RepeatingGame<G>)
                if (line_of_play.applies()) line_of_play.put(game, ply, position, player);
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
    std::shared_ptr<const Evaluator<G>> evaluator_;
};

template <class G>
Minimax(const G&) -> Minimax<G>;

}  // namespace arvek
