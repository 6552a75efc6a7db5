#pragma once
// Standard: the search to take for play. Alpha-beta, and whatever else a game's abilities allow.
//
//     arvek::Standard<MyGame> search(game, {.table_mebibytes = 64});
//     auto decision = search.decide(position, {.seconds = 0.5, .clock = arvek::steady_seconds});
//
// It goes deeper ply by ply, whatever the limits. Stopped in the middle of a depth, it keeps the best move of the last
// one it finished, unless the unfinished one has already found a better. What each technique is and what it needs of
// the game: techniques.hpp.
//
// What is guaranteed where positions repeat (game/repetition.hpp): a position met again on the way counts as a draw, in
// the search and against the history passed in. No value that rests on such a draw is ever taken from the table for
// another way to the position. A proven win or loss is therefore proven however the position was reached.
//
// With the table on, a value may come from a line searched deeper than asked; with it off, and without quiescence and
// reductions, values are those of minimax at that depth.
//
// Sources: Marsland, Campbell (1982), "Parallel Search of Strongly Ordered Game Trees" (principal-variation search);
// Slate, Atkin (1977), "Chess 4.5" (deepening, killers); Schaeffer (1989), "The History Heuristic and Alpha-Beta Search
// Enhancements in Practice". One object serves one thread at a time.

#include <optional>
#include <span>

#include "arvek/search/detail/not_a_game.hpp"
#include "arvek/search/detail/standard_tree.hpp"

namespace arvek {

struct StandardOptions {
    Techniques techniques{};
    std::size_t table_mebibytes = 16;  ///< 1 to 1 048 576
    bool keep_table = false;           ///< whether a decision may use what earlier ones left in the table
};

/// What a type that is not a game gets: the compiler's words about what is missing.
template <class G, Stepping S = Stepping::Automatic>
class Standard : public detail::NotAGame<G> {
   public:
    using detail::NotAGame<G>::NotAGame;
};

template <Game G, Stepping S>
class Standard<G, S> {
    static_assert(detail::game_is_complete<G>());

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit Standard(const G& game, const StandardOptions& options = {}) : game_(game), options_(options) {
        if (HashedGame<G> && options.techniques.table) table_.emplace(options.table_mebibytes);
    }

    /// The best move within the limits, the legal moves ranked as `request.ranking` asks. `earlier`: the positions of
    /// the game before this one, for the repetition rule. Throws InputError for limits out of range and a finished
    /// position.
    Decision<Move> decide(const Position& position, const Limits& limits = {}, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {}) {
        check_limits(limits);
        detail::Budget budget(limits);
        memory_.forget();
        if (table_) table_->begin_decision(options_.keep_table);
        Tree tree(game_, options_.techniques, table_ ? &*table_ : nullptr, memory_, frames_, budget);
        if constexpr (RepeatingGame<G>) {
            tree.path.assign(earlier.begin(), earlier.end());
            tree.path.push_back(position);
            tree.root_ply = static_cast<int>(earlier.size());
        }
        Limits deepening = limits;
        if (!deepening.nodes && !deepening.seconds)
            deepening.nodes = UINT64_MAX;  // a depth alone is deepened to as well
        return detail::RootSearch<G, Tree>(game_, tree, budget, position, request).decide(deepening);
    }

   private:
    using Tree = detail::StandardTree<G, S>;

    G game_;
    StandardOptions options_;
    std::optional<TranspositionTable> table_;
    detail::CutoffMemory<Move> memory_;
    std::vector<detail::StandardFrame<Move>> frames_;
};

template <class G>
Standard(const G&) -> Standard<G>;
template <class G>
Standard(const G&, const StandardOptions&) -> Standard<G>;

}  // namespace arvek
