#pragma once
// What the searches share: going deeper within the limits, ranking the first moves, choosing among equals.

#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/evaluation.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "arvek/search/detail/aspiration.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// The working memory of one ply.
template <class Move>
struct PlyFrame {
    MoveList<Move> moves;
    MoveList<Move> line;  ///< what is expected from this ply on
    int ply = 0;

    void set_line(const Move& move, const MoveList<Move>& rest) {
        line.clear();
        if constexpr (std::is_trivially_copyable_v<Move> && std::is_trivially_destructible_v<Move>) {
            line.append_at_most(rest.size() + 1, [&](Move* end) {
                *end++ = move;
                for (const Move& next : rest) *end++ = next;
                return end;
            });
        } else {
            line.push_back(move);
            line.append(rest.begin(), rest.end());
        }
    }
};

/// Frames for the root and `depth` plies after it.
template <class Frame>
void provide_frames(std::vector<Frame>& frames, int depth) {
    const auto wanted = static_cast<std::size_t>(depth) + 1;
    if (frames.size() < wanted) frames.resize(wanted);
    for (std::size_t ply = 0; ply < frames.size(); ++ply) frames[ply].ply = static_cast<int>(ply);
}

/// What the end of a game is worth, as the request asks.
class Ends {
   public:
    explicit Ends(bool margins) : most_(margins ? largest_payoff : 1) {}

    Score score(const Outcome& outcome, Player player, int ply) const {
        return Score::proven(std::clamp(outcome.payoff(player), -most_, most_), ply);
    }

   private:
    Payoff most_;
};

/// What a score is that was searched between alpha and beta.
inline ScoreKind kind_within(Score score, Score alpha, Score beta) {
    return score >= beta ? ScoreKind::Lower : score > alpha ? ScoreKind::Exact : ScoreKind::Upper;
}

/// The score of one first move, as a tree search found it.
struct FirstMoveScore {
    Score score;
    ScoreKind kind = ScoreKind::Exact;
};

/// What is asked about one first move.
struct RootWindow {
    Score best;     ///< of the moves before it
    Score floor;    ///< only scores above this matter
    Score ceiling;  ///< and below this
    Ranking ranking = Ranking::Equals;

    /// Scores up to here are bounds, above it they are exact.
    Score alpha() const {
        if (ranking == Ranking::All) return floor;
        return std::max(floor, ranking == Ranking::Best ? best : best.just_below());
    }
    FirstMoveScore judged(Score score) const { return {score, kind_within(score, alpha(), ceiling)}; }
};

/// The first moves and what is known of them: the part of deciding that is the same whatever searches.
template <Game G>
class FirstMoves {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Ranked = std::vector<RankedMove<Move>>;

    FirstMoves(const G& game, const Position& position, const SearchRequest<Move>& request, bool order_decides)
        : game_(game), position_(position), request_(request) {
        const MoveList<Move> legal = moves_to_choose_from(game, position);
        player_ = game.player_to_move(position);
        if (request.only.empty()) {
            moves_.assign(legal.begin(), legal.end());
        } else {
            for (const Move& move : request.only) {
                if (!legal.contains(move)) throw InputError("moves to choose from", "not all of them are legal");
                moves_.push_back(move);
            }
        }
        // Where equals are not told apart by score, the order decides, and the seed decides the order.
        if (order_decides && request.ranking == Ranking::Best) Random(request.seed).shuffle(moves_);
    }

   protected:
    Ranked unsearched() const {
        const Score evaluation = evaluation_of(game_, position_, player_);
        Ranked ranked;
        ranked.reserve(moves_.size());
        for (const Move& move : moves_) ranked.push_back({move, evaluation, ScoreKind::Estimate, {move}, {}});
        return ranked;
    }

    /// The best first, of the first `searched`; the others stay behind them.
    static void sort(Ranked& ranked, std::size_t searched) {
        std::stable_sort(
            ranked.begin(), ranked.begin() + static_cast<std::ptrdiff_t>(searched),
            [](const auto& a, const auto& b) { return a.score != b.score ? a.score > b.score : a.kind < b.kind; });
    }

    /// The next depth begins with the moves that this one liked.
    void order_as(const Ranked& ranked) {
        std::transform(ranked.begin(), ranked.end(), moves_.begin(), [](const auto& entry) { return entry.move; });
    }

    /// A depth that was not finished began with the best move so far. What it found to be better than that comes first.
    void take_over_better(Ranked& best, Ranked& unfinished) {
        const auto same = [&](const auto& entry) { return entry.move == best.front().move; };
        const auto before = std::find_if(unfinished.begin(), unfinished.end(), same);
        if (before == unfinished.end() || before->kind == ScoreKind::Estimate) return;
        RankedMove<Move>& better = unfinished.front();
        if (better.kind != ScoreKind::Exact || better.score <= before->score) return;
        std::erase_if(best, [&](const auto& entry) { return entry.move == better.move; });
        best.insert(best.begin(), std::move(better));
        front_is_deeper_ = true;
    }

    /// Whether the move wins at once by as much as the game ever pays, as far as the game tells.
    bool nothing_is_better(const RankedMove<Move>& entry) const {
        if (!request_.margins) return entry.kind == ScoreKind::Exact && entry.score.is_proven_win();
        if constexpr (CappedGame<G>)
            return entry.kind == ScoreKind::Exact && entry.score.is_proven_win() &&
                   entry.score.payoff() >= G::most_payoff;
        else
            return false;
    }

    Decision<Move> decision(Ranked ranked, const Budget& budget, int finished_depth, StoppedBy stopped_by) const {
        if (request_.ranking != Ranking::Best && !front_is_deeper_) {
            const auto equals = std::count_if(ranked.begin(), ranked.end(), [&](const auto& entry) {
                return entry.score == ranked.front().score && entry.kind == ranked.front().kind;
            });
            const auto pick = Random(request_.seed).below(static_cast<std::uint64_t>(equals));
            std::swap(ranked.front(), ranked[static_cast<std::size_t>(pick)]);
        }
        Decision<Move> decision;
        decision.move = ranked.front().move;
        decision.ranked = std::move(ranked);
        static_cast<Counters&>(decision.stats) = budget.counters();
        decision.stats.depth = finished_depth;
        decision.stats.seconds = budget.seconds();
        decision.stats.stopped_by = stopped_by;
        decision.has_scores = true;
        return decision;
    }

    const G& game_;
    Position position_;
    SearchRequest<Move> request_;
    Player player_;
    std::vector<Move> moves_;
    bool front_is_deeper_ = false;  ///< the first move was scored by a depth that was not finished
};

/// Decides at `position` with a tree search. `Tree` offers:
///     static constexpr bool learns_order;         whether each depth begins with the moves that the last one liked
///     bool aspires() const;                       whether to begin with a window around the last depth's value
///     void prepare(int depth);                    before each search to a depth
///     FirstMoveScore search_move(position, player, move, window);     one first move
///     const MoveList<Move>& line() const;         what follows that move
///     bool reached_horizon() const;               whether a line was cut off by depth since prepare()
template <Game G, class Tree>
class RootSearch : private FirstMoves<G> {
    using Base = FirstMoves<G>;
    using typename Base::Ranked;

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    RootSearch(const G& game, Tree& tree, Budget& budget, const Position& position, const SearchRequest<Move>& request)
        : Base(game, position, request, Tree::learns_order), tree_(tree), budget_(budget) {}

    Decision<Move> decide(const Limits& limits) {
        StoppedBy stopped_by = StoppedBy::Depth;
        int finished_depth = 0;
        const bool one_depth = limits.depth && !limits.nodes && !limits.seconds;
        const int deepest = limits.depth.value_or(max_depth);
        Ranked best = this->unsearched();
        for (int depth = one_depth ? deepest : std::min(1, deepest);; ++depth) {
            Ranked ranked = search(depth);
            if (budget_.stopped()) {
                stopped_by = budget_.reason();
                if (finished_depth == 0 && !ranked.empty())
                    best = std::move(ranked);
                else if (Tree::learns_order)
                    this->take_over_better(best, ranked);
                break;
            }
            best = std::move(ranked);
            finished_depth = depth;
            if (Tree::learns_order) this->order_as(best);
            if (depth > 0 && (!tree_.reached_horizon() || this->nothing_is_better(best.front()))) {
                stopped_by = StoppedBy::End;
                break;
            }
            if (depth >= deepest) break;
        }
        return this->decision(std::move(best), budget_, finished_depth, stopped_by);
    }

   private:
    /// Every move of the root searched to `depth`; when the budget runs out, those that were finished come first.
    Ranked search(int depth) {
        if (!budget_.spend_node()) return {};
        tree_.prepare(depth);
        if (depth == 0) {
            ++budget_.leaves;
            return this->unsearched();
        }
        SearchedTree<Move>* const watched = this->request_.tree;
        aspiration_.begin(tree_.aspires() && this->request_.ranking != Ranking::All && depth > 3);
        for (;;) {
            if (watched != nullptr) watched->begin(this->player_);
            Ranked ranked = search_within(aspiration_.floor(), aspiration_.ceiling());
            if (budget_.stopped() || ranked.empty()) return ranked;
            if (!aspiration_.holds(ranked.front().score)) continue;
            if (watched != nullptr) watched->finish(depth, static_cast<int>(ranked.size()));
            return ranked;
        }
    }

    Ranked search_within(Score floor, Score ceiling) {
        Ranked ranked = this->unsearched();
        std::size_t searched = 0;
        Score best = Score::lowest();
        for (; searched < ranked.size(); ++searched) {
            RankedMove<Move>& entry = ranked[searched];
            const FirstMoveScore found = tree_.search_move(this->position_, this->player_, entry.move,
                                                           {best, floor, ceiling, this->request_.ranking});
            if (budget_.stopped()) break;
            entry.score = found.score;
            entry.kind = found.kind;
            entry.line.insert(entry.line.end(), tree_.line().begin(), tree_.line().end());
            best = std::max(best, found.score);
            if (best >= ceiling) {
                ++searched;
                break;
            }
        }
        if (searched == 0) return {};
        this->sort(ranked, searched);
        return ranked;
    }

    Tree& tree_;
    Budget& budget_;
    Aspiration aspiration_;
};

}  // namespace arvek::detail
