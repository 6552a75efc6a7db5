#include "arvek/search/detail/root.hpp"

#include <cstdlib>
#include <numeric>
#include <utility>

#include "arvek/game/random.hpp"
#include "arvek/search/detail/aspiration.hpp"
#include "arvek/search/limits.hpp"

namespace arvek::detail {

namespace {

using Ranked = std::vector<RankedPlace>;

class RootSearch {
   public:
    RootSearch(RootTree& tree, Budget& budget, const RootQuestion& question)
        : tree_(tree), budget_(budget), question_(question), order_(question.moves) {
        std::iota(order_.begin(), order_.end(), 0u);
        // Where equals are not told apart by score, the order decides, and the seed decides the order.
        if (question.learns_order && question.ranking == Ranking::Best) Random(question.seed).shuffle(order_);
    }

    RootAnswer decide(const Limits& limits) {
        StoppedBy stopped_by = StoppedBy::Depth;
        int finished_depth = 0;
        const bool one_depth = limits.depth && !limits.nodes && !limits.seconds && !question_.deepens;
        const int deepest = limits.depth.value_or(max_depth);
        Ranked best = unsearched();
        for (int depth = one_depth ? deepest : std::min(1, deepest);; ++depth) {
            Ranked ranked = search(depth);
            if (budget_.stopped()) {
                stopped_by = budget_.reason();
                if (finished_depth == 0 && !ranked.empty())
                    best = std::move(ranked);
                else if (question_.learns_order)
                    take_over_better(best, ranked);
                break;
            }
            best = std::move(ranked);
            finished_depth = depth;
            if (question_.tells) tree_.tell(with_counters(best, depth, StoppedBy::Depth));
            if (question_.learns_order)
                std::transform(best.begin(), best.end(), order_.begin(), [](const auto& entry) { return entry.place; });
            if (depth > 0 && (!tree_.reached_horizon() || nothing_is_better(best.front()))) {
                stopped_by = StoppedBy::End;
                // Nothing is better than the best, so the others were not looked at as deep as was asked for.
                if (depth < deepest && tree_.reached_horizon())
                    std::for_each(best.begin() + 1, best.end(), [&](RankedPlace& entry) { make_shallow(entry); });
                break;
            }
            if (depth >= deepest) break;
        }
        return answer(std::move(best), finished_depth, stopped_by);
    }

   private:
    Ranked unsearched() const {
        Ranked ranked;
        ranked.reserve(order_.size());
        for (const std::uint32_t place : order_) ranked.push_back({place, question_.evaluation});
        return ranked;
    }

    /// A depth that was not finished began with the best move so far. Where it found a better one, what it searched comes
    /// first, and the rest, which is known at the last depth alone, behind that.
    void take_over_better(Ranked& best, Ranked& unfinished) {
        const std::uint32_t favourite = best.front().place;
        const auto before = std::find_if(unfinished.begin(), unfinished.end(),
                                         [&](const auto& entry) { return entry.place == favourite; });
        if (before == unfinished.end() || before->kind == ScoreKind::Estimate) return;
        const RankedPlace better = unfinished.front();
        if (better.kind != ScoreKind::Exact || better.score <= before->score) return;
        std::erase_if(unfinished, [](const auto& entry) { return entry.kind == ScoreKind::Estimate; });
        for (RankedPlace entry : best) {
            const bool is_deeper = std::any_of(unfinished.begin(), unfinished.end(),
                                               [&](const auto& other) { return other.place == entry.place; });
            if (is_deeper) continue;
            make_shallow(entry);
            unfinished.push_back(entry);
        }
        best = std::move(unfinished);
        front_is_deeper_ = true;
    }

    /// Of a move that was not looked at as deep as the best: what is proven holds all the same.
    /// Where margins count, who wins more may yet win less.
    void make_shallow(RankedPlace& entry) const {
        const bool holds = entry.kind == ScoreKind::Exact && entry.score.is_proven() &&
                           (!question_.margins || std::abs(entry.score.payoff()) >= question_.most_payoff);
        if (!holds) entry.kind = ScoreKind::Shallow;
    }

    /// Whether the move wins at once by as much as the game ever pays, as far as the game tells.
    bool nothing_is_better(const RankedPlace& entry) const {
        return entry.kind == ScoreKind::Exact && entry.score.is_proven_win() &&
               (!question_.margins || entry.score.payoff() >= question_.most_payoff);
    }

    RootAnswer answer(Ranked ranked, int finished_depth, StoppedBy stopped_by) const {
        if (question_.ranking != Ranking::Best && !front_is_deeper_) {
            const auto equals = std::count_if(ranked.begin(), ranked.end(), [&](const auto& entry) {
                return entry.score == ranked.front().score && entry.kind == ranked.front().kind;
            });
            const auto pick = Random(question_.seed).below(static_cast<std::uint64_t>(equals));
            std::swap(ranked.front(), ranked[static_cast<std::size_t>(pick)]);
        }
        return with_counters(std::move(ranked), finished_depth, stopped_by);
    }

    RootAnswer with_counters(Ranked ranked, int finished_depth, StoppedBy stopped_by) const {
        RootAnswer answer{std::move(ranked), {}};
        static_cast<Counters&>(answer.stats) = budget_.counters();
        answer.stats.depth = finished_depth;
        answer.stats.seconds = budget_.seconds();
        answer.stats.stopped_by = stopped_by;
        return answer;
    }

    /// Every first move searched to `depth`; when the budget runs out, those that were finished come first.
    Ranked search(int depth) {
        if (!budget_.spend_node()) return {};
        tree_.prepare(depth);
        if (depth == 0) {
            ++budget_.leaves;
            return unsearched();
        }
        constexpr int least_depth_to_aspire = 4;
        aspiration_.begin(question_.aspires && question_.ranking != Ranking::All && depth >= least_depth_to_aspire);
        for (;;) {
            tree_.begin_watching();
            Ranked ranked = search_within(aspiration_.floor(), aspiration_.ceiling());
            if (budget_.stopped() || ranked.empty()) return ranked;
            if (!aspiration_.holds(ranked.front().score)) continue;
            tree_.finish_watching(depth, static_cast<int>(ranked.size()));
            return ranked;
        }
    }

    Ranked search_within(Score floor, Score ceiling) {
        Ranked ranked = unsearched();
        std::size_t searched = 0;
        Score best = Score::lowest();
        for (; searched < ranked.size(); ++searched) {
            RankedPlace& entry = ranked[searched];
            const FirstMoveScore found = tree_.search_move(entry.place, {best, floor, ceiling, question_.ranking});
            if (budget_.stopped()) break;
            entry.score = found.score;
            entry.kind = found.kind;
            entry.line = tree_.keep_line();
            best = std::max(best, found.score);
            if (best >= ceiling) {
                ++searched;
                break;
            }
        }
        if (searched == 0) return {};
        // The best first, of those that were searched; the others stay behind them.
        std::stable_sort(
            ranked.begin(), ranked.begin() + static_cast<std::ptrdiff_t>(searched),
            [](const auto& a, const auto& b) { return a.score != b.score ? a.score > b.score : a.kind < b.kind; });
        return ranked;
    }

    RootTree& tree_;
    Budget& budget_;
    const RootQuestion& question_;
    std::vector<std::uint32_t> order_;
    Aspiration aspiration_;
    bool front_is_deeper_ = false;  ///< the first move was scored by a depth that was not finished
};

}  // namespace

RootAnswer decide_at_root(RootTree& tree, Budget& budget, const RootQuestion& question, const Limits& limits) {
    return RootSearch(tree, budget, question).decide(limits);
}

}  // namespace arvek::detail
