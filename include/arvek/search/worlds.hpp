#pragma once
// Worlds: for hidden hands, many worlds drawn from what is seen, each searched as if all were in sight, and the move that is
// best in the mean.
//
//     arvek::Worlds<MyGame> search(game, {.worlds = 40});
//     auto decision = search.decide(view, {.seconds = 0.1, .clock = arvek::steady_seconds});
//
// Strong where hands matter and hiding them does not. It fails where they do: in each world it plays as if it would know
// that world later too (fusing of strategies), so it puts off what a guess would settle and sees no worth in finding out;
// and it takes rivals to see its own hand (non-locality), so it never bluffs. Each world is searched by ManyPlayers: max^n,
// which for two is minimax. Source: Levy (1989), "The Million Pound Bridge Program"; Frank, Basin (1998), "Search in Games
// with Incomplete Information" (where it fails). One object serves one thread at a time.

#include <memory>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/search/detail/opened.hpp"
#include "arvek/search/many_players.hpp"

namespace arvek {

/// How many worlds are looked at, and how.
struct WorldsOptions {
    int worlds = 30;                  ///< 1 or more
    std::size_t table_mebibytes = 4;  ///< of the search of a world
};

/// Throws InputError for an option out of range.
void check_options(const WorldsOptions& options);

/// Searches many worlds that may lie behind a view.
template <ViewedGame G>
class Worlds {
    static_assert(game_is_complete<G>());

   public:
    using View = typename G::View;
    using Move = typename G::Move;

    /// Throws InputError for an option out of range, and for events that cannot be listed.
    explicit Worlds(const G& game, const WorldsOptions& options = {})
        : game_(game),
          options_((check_options(options), options)),
          opened_(game),
          search_(opened_, {.table_mebibytes = options.table_mebibytes}) {}

    /// The best move in the mean of the worlds; limits of nodes and time are shared out among them, a depth holds in each.
    /// Scores are expected payoffs, and none is proven. Throws InputError as MonteCarlo does.
    Decision<Move> decide(const View& view, const Limits& limits = {}, const SearchRequest<Move>& request = {});

   private:
    Decision<Move> ranked(Decision<Move> decision, const std::vector<Move>& legal, const std::vector<double>& sums,
                          int searched, std::uint64_t seed) const {
        std::vector<double> means(sums);
        for (double& mean : means) mean /= std::max(searched, 1);
        const std::vector<std::uint32_t> order = detail::best_first(means, seed, decision.scores_per_point);
        for (const std::uint32_t place : order) {
            auto& entry = decision.ranked.emplace_back();
            entry.move = legal[place];
            entry.line = {entry.move};
            entry.score = Score::estimate(detail::rounded(means[place] * decision.scores_per_point));
        }
        decision.move = decision.ranked.front().move;
        decision.has_scores = true;
        decision.searched_by = "worlds";
        return decision;
    }

    G game_;
    WorldsOptions options_;
    detail::Opened<G> opened_;
    ManyPlayers<detail::Opened<G>> search_;
};

// Not inline, so that `extern template` keeps it from being made once more.
template <ViewedGame G>
auto Worlds<G>::decide(const View& view, const Limits& limits, const SearchRequest<Move>& request) -> Decision<Move> {
    check_limits(limits);
    const std::vector<Move> legal = detail::first_moves(game_, stand_in(game_, view), request);
    const double started = limits.clock.seconds_or_0();
    std::vector<double> sums(legal.size(), 0.0);
    Decision<Move> decision;
    decision.stats.stopped_by = StoppedBy::End;
    int searched = 0;
    Random random(request.seed);
    std::uint64_t nodes_left = limits.nodes.value_or(0);
    for (int world = 0; world < options_.worlds && legal.size() > 1; ++world) {
        Limits own = limits;
        const int left = options_.worlds - world;
        if (limits.nodes) own.nodes = std::max<std::uint64_t>(nodes_left / static_cast<std::uint64_t>(left), 1);
        if (limits.seconds) {
            const double rest = *limits.seconds - (limits.clock.seconds() - started);
            if (rest <= 0) {
                decision.stats.stopped_by = StoppedBy::Time;
                break;
            }
            own.seconds = rest / left;
        }
        if (limits.nodes && nodes_left == 0) {
            decision.stats.stopped_by = StoppedBy::Nodes;
            break;
        }
        SearchRequest<Move> asked;
        asked.seed = random.next();
        asked.ranking = Ranking::All;
        asked.only = legal;
        asked.margins = request.margins;
        const auto found = search_.decide(game_.sample(view, random), own, asked);
        nodes_left -= std::min(nodes_left, found.stats.nodes);
        decision.stats += found.stats;
        decision.stats.depth = world == 0 ? found.stats.depth : std::min(decision.stats.depth, found.stats.depth);
        if (found.stats.stopped_by != StoppedBy::End) decision.stats.stopped_by = found.stats.stopped_by;
        if (found.stats.depth > 0) {  // else nothing was finished, and nothing is known of the world
            for (const auto& entry : found.ranked)
                for (std::size_t i = 0; i < legal.size(); ++i)
                    if (legal[i] == entry.move) sums[i] += entry.score.number() / found.scores_per_point;
            ++searched;
            if (request.progress != nullptr) (*request.progress)(ranked(decision, legal, sums, searched, request.seed));
        }
        if (limits.stop.stop_requested()) {
            decision.stats.stopped_by = StoppedBy::Stop;
            break;
        }
    }
    decision.stats.seconds = limits.clock.seconds_or_0() - started;
    return ranked(std::move(decision), legal, sums, searched, request.seed);
}

}  // namespace arvek
