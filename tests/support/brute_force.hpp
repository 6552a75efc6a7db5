#pragma once
// The value of a position by plain recursion over the game, sharing nothing with the library's searches.

#include <arvek/game/evaluation.hpp>

#include <algorithm>

namespace testing_support {

template <class G>
arvek::Score brute_force(const G& game, const typename G::Position& position, arvek::Player viewer, int depth,
                         int ply = 0) {
    if (const auto outcome = game.outcome(position)) return arvek::Score::proven(outcome->payoff(viewer), ply);
    if (depth == 0) return arvek::evaluation_of(game, position, viewer);
    arvek::MoveList<typename G::Move> moves;
    game.generate_moves(position, moves);
    const bool own = game.player_to_move(position) == viewer;
    arvek::Score best = own ? arvek::Score::lowest() : arvek::Score::highest();
    for (const auto& move : moves) {
        auto after = position;
        game.play(after, move);
        const arvek::Score score = brute_force(game, after, viewer, depth - 1, ply + 1);
        best = own ? std::max(best, score) : std::min(best, score);
    }
    return best;
}

/// The position after up to `plies` random moves from the start, not finished; the start itself if play ends too soon.
template <class G>
typename G::Position random_position(const G& game, int plies, arvek::Random& random) {
    auto position = game.initial_position();
    for (int ply = 0; ply < plies; ++ply) {
        arvek::MoveList<typename G::Move> moves;
        game.generate_moves(position, moves);
        auto after = position;
        game.play(after, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        if (game.outcome(after)) break;
        position = after;
    }
    return position;
}

}  // namespace testing_support
