#pragma once
// The tree of the standard search: see search/standard.hpp. Each technique has a header of its own next to this one.

#include <algorithm>
#include <array>
#include <optional>
#include <vector>

#include "arvek/game/equivalence.hpp"
#include "arvek/game/null_move.hpp"
#include "arvek/game/ordering.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/frames.hpp"
#include "arvek/search/detail/line_of_play.hpp"
#include "arvek/search/detail/move_picker.hpp"
#include "arvek/search/detail/null_move.hpp"
#include "arvek/search/detail/quiescence.hpp"
#include "arvek/search/detail/scout.hpp"
#include "arvek/search/detail/work_in_hand.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/techniques.hpp"
#include "arvek/search/transposition_table.hpp"

namespace arvek::detail {

template <Game G, Stepping S>
struct StandardTree {
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Frame = StandardFrame<Move>;

    static constexpr bool repeats = RepeatingGame<G>;
    static constexpr int no_rest = 1'000'000'000;

    const G& game;
    Techniques use;
    const Evaluator<G>* evaluator;
    TranspositionTable* table;
    StandardMemory<Move>& memory;
    Budget& budget;
    EndScores ends;
    SearchedTree<Move>* watched;
    WorkInHand* shared;  ///< of several threads; null for one
    LineOfPlay<G> line_of_play{};
    Score repetition;  ///< what a draw by it counts for the decider
    Player decider = Player::First;
    int earliest_rest = no_rest;  ///< the earliest place of the line that a draw by repetition below rests on
    bool cut_by_depth = false;    ///< whether a line below was
    int depth_asked = 0;

    StandardTree(const G& game_searched, const Techniques& techniques, const Evaluator<G>* evaluator_used,
                 TranspositionTable* table_used, StandardMemory<Move>& memory_used, Budget& budget_used,
                 const SearchRequest<Move>& request, WorkInHand* work_shared)
        : game(game_searched),
          use(techniques),
          evaluator(evaluator_used),
          table(table_used),
          memory(memory_used),
          budget(budget_used),
          ends(request.margins),
          watched(request.tree),
          shared(work_shared),
          repetition(request.repetition) {
        memory.forget();
        use.hint = use.hint && HintingGame<G> && wants_used<Ability::OrderHint>(game);
        use.quiescence = use.quiescence && ForcingGame<G> && wants_used<Ability::ForcingMoves>(game);
        use.stages = use.stages && StagedGame<G> && wants_used<Ability::ForcingMoves>(game) &&
                     wants_used<Ability::QuietMoves>(game);
        use.null_move = use.null_move && NullMoveGame<G> && wants_used<Ability::NullMove>(game);
    }

    bool reached_horizon() const { return cut_by_depth; }
    const MoveList<Move>& line() const { return memory.frames[1].line; }

    void prepare(int depth) {
        provide_frames(memory.frames, depth + (use.quiescence ? quiescence_plies : 0) + 1);
        if constexpr (repeats) line_of_play.prepare(depth + 1);
        cut_by_depth = false;
        depth_asked = depth;
    }

    FirstMoveScore search_move(Position& position, Player player, const Move& move, const RootWindow& window) {
        decider = player;
        const Score alpha = window.alpha();
        const bool narrows =
            use.pvs && window.ranking != Ranking::All && window.best > Score::lowest() && alpha > Score::lowest();
        const auto search = [&](int depth, Score ceiling) {
            return watched == nullptr ? after<false>(position, player, move, memory.frames[1], depth, alpha, ceiling)
                                      : shown(position, player, move, memory.frames[1], depth, alpha, ceiling);
        };
        return window.judged(scout(narrows, false, depth_asked, narrows ? 1 : 0, alpha, window.ceiling, search, [] {}));
    }

    /// The same as after(), and the tree that is watched hears of it.
    Score shown(Position& position, Player player, const Move& move, Frame& frame, int depth, Score alpha, Score beta) {
        if (!watched->enter(player, move, frame.ply, budget.nodes()))
            return after<false>(position, player, move, frame, depth, alpha, beta);
        const Score score = after<true>(position, player, move, frame, depth, alpha, beta);
        watched->leave(score, kind_within(score, alpha, beta), budget.nodes());
        return score;
    }

    /// The score, for `player`, of making `move`, with `depth` plies left after it. `frame` belongs to the position
    /// that the move leads to.
    template <bool Watched>
    Score after(Position& position, Player player, const Move& move, Frame& frame, int depth, Score alpha, Score beta) {
        return stepped<Watched, false>(position, player, move, frame, depth, alpha, beta);
    }

    /// after(), where `Last` says that no plies are left, in the caller's own code.
    template <bool Watched, bool Last>
    [[gnu::always_inline]] Score stepped(Position& position, Player player, const Move& move, Frame& frame, int depth,
                                         Score alpha, Score beta) {
        Step<G, S> step(game, position, move);
        Position& next = step.position();
        if (!budget.spend_node()) return Score{};
        frame.line.clear();
        // The table is asked for its place early, so that it is there by the time it is wanted.
        const std::uint64_t hash = Last ? 0 : hash_for_table(next, depth);
        if (const auto outcome = game.outcome(next)) {
            ++budget.leaves;
            if constexpr (Watched) watched->note(Fate::End);
            return ends.score(*outcome, player, frame.ply);
        }
        const Player mover = game.player_to_move(next);
        if constexpr (repeats) {
            if (line_of_play.applies()) {
                if (const int place = line_of_play.place_before(game, next, mover, frame.ply); place >= 0) {
                    ++budget.leaves;
                    earliest_rest = std::min(earliest_rest, place);
                    if constexpr (Watched) watched->note(Fate::Repetition);
                    return player == decider ? repetition : -repetition;
                }
            }
        }
        if (Last || depth <= 0) return at_horizon<Watched>(next, player, mover, frame, alpha, beta);
        if constexpr (repeats)
            if (line_of_play.applies()) line_of_play.put(game, frame.ply, next, mover);
        return mover == player ? visit<Watched>(next, hash, mover, &move, frame, depth, alpha, beta)
                               : -visit<Watched>(next, hash, mover, &move, frame, depth, -beta, -alpha);
    }

    /// The score of a position for `player`, whose turn it is, with `depth` plies left, at least 1. After a null move
    /// `previous` is null and `depth` may be 0, which then looks at its moves all the same.
    template <bool Watched>
    Score visit(Position& position, std::uint64_t hash, Player player, const Move* previous, Frame& frame, int depth,
                Score alpha, Score beta) {
        if (!Watched && depth == 1 && leaves_are_plain())
            return visit_last(position, player, previous, frame, alpha, beta);
        const Score alpha_before = alpha;
        std::uint16_t table_move = TableEntry::no_move;
        const bool tabled = is_for_table(depth);
        if constexpr (HashedGame<G>) {
            if (tabled) {
                TableEntry entry;
                if (table->look_up(hash, entry)) {
                    table_move = entry.move;
                    const Score score = entry.score.seen_from_earlier(frame.ply);
                    if (use.table_scores && entry.depth >= depth && answers(entry.bound, score, alpha, beta)) {
                        ++budget.table_hits;
                        if (entry.depth < TableEntry::complete_depth) cut_by_depth = true;
                        if constexpr (Watched) watched->note(Fate::Table);
                        return score;
                    }
                }
            }
        }
        // What is found below about depth and about repetition decides what the value may be used for.
        const bool cut_outside = std::exchange(cut_by_depth, false);
        const int rest_outside = std::exchange(earliest_rest, no_rest);

        Frame& next_frame = *(&frame + 1);  // prepare() made enough of them
        if constexpr (NullMoveGame<G>) {
            if (use.null_move && previous != nullptr) {
                if (good_without_moving(position, player, next_frame, depth, beta)) {
                    cut_by_depth = true;
                    earliest_rest = std::min(rest_outside, earliest_rest);
                    return beta;
                }
                if (budget.stopped()) return Score{};
            }
        }

        MovePicker<G> picker(game, use, memory, position, player, previous, frame, table_move, depth);
        // A leaf has its score at once, so there is nothing to test first, unless forcing moves go on from it.
        const bool tests_first = use.pvs && (depth > 1 || use.quiescence);
        Score best = Score::lowest();
        std::size_t best_index = TableEntry::no_move;
        std::size_t tried = 0;
        const auto show_moves = [&] {
            if constexpr (Watched) {
                const std::size_t count = picker.count_all();
                watched->note_moves(count, count - tried);
            }
        };
        for (std::size_t i = 0; picker.bring(i); ++i) {
            ++tried;
            const bool shares = shared != nullptr && i > 0 && depth >= WorkInHand::least_depth;
            if (shares) defer_what_is_in_hand(*shared, frame.order, i, hash);
            const std::size_t index = frame.order.index_at(i);
            const std::uint64_t name = shares ? WorkInHand::name_of(hash, index) : 0;
            if (shares) shared->take(name);
            const Move& move = frame.moves[index];
            const auto search = [&](int depth_left, Score ceiling) {
                if constexpr (Watched)
                    if (frame.ply < watched->plies())
                        return shown(position, player, move, next_frame, depth_left, alpha, ceiling);
                return after<false>(position, player, move, next_frame, depth_left, alpha, ceiling);
            };
            const Score score =
                scout(tests_first, use.reductions, depth, i, alpha, beta, search, [&] { cut_by_depth = true; });
            if (shares) shared->put_down(name);
            if (budget.stopped()) {
                show_moves();
                return best;
            }
            if (score <= best) continue;
            best = score;
            best_index = index;
            if (score <= alpha) continue;
            alpha = score;
            if (alpha >= beta) {
                ++budget.cutoffs;
                picker.remember_cutoff(i);
                break;
            }
            frame.set_line(move, next_frame.line);
        }

        show_moves();
        // A value that rests on a draw by repetition with a position before this one holds on this way here alone.
        const bool path_dependent = repeats && earliest_rest < line_of_play.place_of(frame.ply);
        if constexpr (HashedGame<G>) {
            if (tabled && !path_dependent) {
                const Bound bound = best >= beta ? Bound::Lower : best > alpha_before ? Bound::Exact : Bound::Upper;
                table->store(hash, {best.seen_from_earlier(-frame.ply),
                                    cut_by_depth ? std::min(depth, max_depth) : TableEntry::complete_depth, bound,
                                    static_cast<std::uint16_t>(std::min<std::size_t>(
                                        best > alpha_before ? best_index : table_move, TableEntry::no_move))});
            }
        }
        cut_by_depth = cut_by_depth || cut_outside;
        earliest_rest = std::min(rest_outside, path_dependent ? earliest_rest : no_rest);
        return best;
    }

   private:
    /// Whether what comes after the last ply has its score at once.
    bool leaves_are_plain() const {
        if constexpr (repeats)
            if (line_of_play.applies()) return false;
        return !use.quiescence && evaluator == nullptr;
    }

    /// The score of a leaf that is plain.
    [[gnu::always_inline]] Score leaf_after(Position& position, Player player, const Move& move, Frame& frame,
                                            Score alpha, Score beta) {
        if constexpr (requires { game.has_leaf(); }) {
            if (game.has_leaf()) [[likely]] {
                if (!budget.spend_node()) return Score{};
                frame.line.clear();
                ++budget.leaves;
                Score evaluation;
                Outcome end = Outcome::draw();
                if (game.leaf(position, move, player, evaluation, end)) return ends.score(end, player, frame.ply);
                cut_by_depth = true;
                return evaluation;
            }
        }
        return stepped<false, true>(position, player, move, frame, 0, alpha, beta);
    }

    /// visit() with one ply left, where leaves are plain: no table, nothing to test first, nothing in hand.
    Score visit_last(Position& position, Player player, const Move* previous, Frame& frame, Score alpha, Score beta) {
        Frame& next_frame = *(&frame + 1);
        MovePicker<G> picker(game, use, memory, position, player, previous, frame, TableEntry::no_move, 1);
        Score best = Score::lowest();
        for (std::size_t i = 0; picker.bring(i); ++i) {
            const Move& move = picker.move_at(i);
            const Score score = leaf_after(position, player, move, next_frame, alpha, beta);
            if (budget.stopped()) return best;
            if (score <= best) continue;
            best = score;
            if (score <= alpha) continue;
            alpha = score;
            if (alpha >= beta) {
                ++budget.cutoffs;
                picker.remember_cutoff(i);
                break;
            }
            frame.set_line(move, next_frame.line);
        }
        return best;
    }

    /// On the last ply a look into the table, mostly of memory that no cache holds, takes longer than the leaves that it
    /// spares, unless those are judged by something slower than the game's own evaluation.
    bool is_for_table(int depth) const { return table != nullptr && (depth > 1 || evaluator != nullptr); }

    std::uint64_t hash_for_table(const Position& position, int depth) const {
        if constexpr (HashedGame<G>) {
            if (!is_for_table(depth)) return 0;
            const std::uint64_t hash = table_hash(game, position);
            table->prefetch(hash);
            return hash;
        }
        return 0;
    }

    static bool answers(Bound bound, Score score, Score alpha, Score beta) {
        return bound == Bound::Exact || (bound == Bound::Lower && score >= beta) ||
               (bound == Bound::Upper && score <= alpha);
    }

    /// The score, for `player`, of a position that is looked at no further, but for forcing moves.
    template <bool Watched>
    Score at_horizon(Position& position, Player player, Player mover, Frame& frame, Score alpha, Score beta) {
        cut_by_depth = true;
        if constexpr (Watched) watched->note(Fate::Horizon);
        if constexpr (ForcingGame<G>) {
            if (use.quiescence) {
                const Quiescence<G, S> quiet{game, evaluator, budget, ends, use.hint};
                return mover == player ? quiet.score(position, mover, frame, quiescence_plies, alpha, beta)
                                       : -quiet.score(position, mover, frame, quiescence_plies, -beta, -alpha);
            }
        }
        ++budget.leaves;
        return evaluation_by(evaluator, game, position, player);
    }

    bool good_without_moving(const Position& position, Player player, Frame& next_frame, int depth,
                             Score beta) requires NullMoveGame<G> {
        if (!null_move_is_promising(depth, evaluation_by(evaluator, game, position, player), beta) ||
            !game.nothing_is_sound(position))
            return false;
        Position next = position;
        game.play_nothing(next);
        if (!budget.spend_node() || game.outcome(next) || game.player_to_move(next) == player) return false;
        if constexpr (repeats)
            if (line_of_play.applies()) line_of_play.put(game, next_frame.ply, next, game.player_to_move(next));
        next_frame.line.clear();
        const Score score =
            -visit<false>(next, hash_for_table(next, depth - 1 - null_move_reduction), rival_of(player), nullptr,
                          next_frame, depth - 1 - null_move_reduction, -beta, -beta.just_below());
        return !budget.stopped() && score >= beta;
    }
};

}  // namespace arvek::detail
