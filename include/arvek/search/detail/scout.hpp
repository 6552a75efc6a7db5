#pragma once
// Scout: how a later move is searched in principal-variation search. Source: Marsland, Campbell (1982), "Parallel
// Search of Strongly Ordered Game Trees".

#include <cstddef>

#include "arvek/game/score.hpp"
#include "arvek/search/detail/reductions.hpp"

namespace arvek::detail {

/// The score of the `number`-th move of a position with `depth` plies left: first only whether it is better than
/// alpha (where `narrows`), and that perhaps less deep (where `reduces`); then, if it is, how much.
/// `search(depth, beta)` searches the move with that depth and ceiling; `note_reduced()` hears that the answer rests
/// on less than the depth.
template <class Search, class NoteReduced>
Score scout(bool narrows, bool reduces, int depth, std::size_t number, Score alpha, Score beta, const Search& search,
            const NoteReduced& note_reduced) {
    if (number > 0) {
        const Score test = alpha.just_above();
        if (const int less = reduces ? reduction(depth, number) : 0; less > 0) {
            const Score score = search(depth - 1 - less, test);
            if (score <= alpha) {
                note_reduced();
                return score;
            }
        }
        if (narrows && beta > test) {
            const Score score = search(depth - 1, test);
            if (score <= alpha || score >= beta) return score;
        }
    }
    return search(depth - 1, beta);
}

}  // namespace arvek::detail
