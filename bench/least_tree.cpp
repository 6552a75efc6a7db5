// How close pruning comes to what is possible: leaves of alpha-beta against the fewest that any order of the moves
// could leave, on the positions of positions.txt. Counted, not timed.
//
// The value v of a position is proven by leaves that show "at least v" (one good enough move where the player decides,
// every move of the rival) and by leaves that show "at most v" (the other way round). The two sets share one leaf. The
// fewest for each are found by going through the whole tree: least = at_least + at_most - 1; for a tree where every
// position has b moves this is the b^(d/2) + b^(d/2) - 1 of Knuth and Moore (1975).
//
// How the search is to come close: the order of the moves (what the depth before found, by the table, the game's hint,
// killers, history and replies) puts the move that cuts off first. The table's scores are not used, as they would spare
// leaves that the tree has. What remains above 1 is first moves that do not cut off, and ones that do but are not the
// cheapest that would.

#include <algorithm>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/standard.hpp>
#include <cstdio>
#include <limits>
#include <string>
#include <vector>

#include "lanterns/lanterns.hpp"
#include "shipped_positions.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

constexpr double impossible = std::numeric_limits<double>::infinity();

struct Proof {
    double at_least = impossible;
    double at_most = impossible;
};

/// The fewest leaves that prove the position to be worth at least, and at most, `value` to `viewer`.
template <class G>
Proof fewest(const G& game, const typename G::Position& position, arvek::Player viewer, arvek::Score value, int depth,
             int ply) {
    const auto outcome = game.outcome(position);
    if (outcome || depth == 0) {
        const arvek::Score score =
            outcome ? arvek::Score::proven(outcome->payoff(viewer), ply) : arvek::evaluation_of(game, position, viewer);
        return {score >= value ? 1 : impossible, score <= value ? 1 : impossible};
    }
    const bool own = game.player_to_move(position) == viewer;
    Proof proof{own ? impossible : 0.0, own ? 0.0 : impossible};
    for (const auto& move : arvek::legal_moves(game, position)) {
        auto after = position;
        game.play(after, move);
        const Proof child = fewest(game, after, viewer, value, depth - 1, ply + 1);
        if (own) {
            proof.at_least = std::min(proof.at_least, child.at_least);
            proof.at_most += child.at_most;
        } else {
            proof.at_least += child.at_least;
            proof.at_most = std::min(proof.at_most, child.at_most);
        }
    }
    return proof;
}

template <class G>
void measure(const char* name, const G& game, const std::vector<std::string>& texts, int depth) {
    bench::GeometricMean plain_ratio, ordered_ratio, minimal;
    arvek::Techniques ordering_alone;
    ordering_alone.table_scores = ordering_alone.quiescence = ordering_alone.aspiration = false;
    for (const std::string& text : texts) {
        const auto position = game.read_position(text);
        arvek::AlphaBeta<G> plain(game);
        arvek::Standard<G> ordered(game, {.techniques = ordering_alone});
        const auto request = arvek::SearchRequest<typename G::Move>{.ranking = arvek::Ranking::Best};
        const auto decision = plain.decide(position, {.depth = depth}, request);
        // What the last depth alone cost: the search to it less the search to the one before.
        const auto leaves = ordered.decide(position, {.depth = depth}, request).stats.leaves -
                            ordered.decide(position, {.depth = depth - 1}, request).stats.leaves;
        const arvek::Score value = decision.ranked.front().score;
        const Proof proof = fewest(game, position, game.player_to_move(position), value, depth, 0);
        const double least = proof.at_least + proof.at_most - 1;
        // A search that saw the end sooner has no last depth.
        if (least < 20 || leaves == 0 || decision.stats.depth < depth) continue;
        minimal.add(least);
        plain_ratio.add(static_cast<double>(decision.stats.leaves) / least);
        ordered_ratio.add(static_cast<double>(leaves) / least);
    }
    std::printf("  %-26s depth %d, least %6.0f leaves: plain %.2f times, with its ordering %.2f times\n", name, depth,
                minimal.value(), plain_ratio.value(), ordered_ratio.value());
}

}  // namespace

int main() {
    const auto positions = bench::shipped_positions();
    std::printf("\nLeaves of alpha-beta against the least possible (aim: 1.3 times):\n");
    measure("Lanterns 6 x 5, dropping", waterway::Lanterns({6, 5, 4, true}), positions.at("lanterns"), 7);
    measure("Sluice", waterway::Sluice(), positions.at("sluice"), 7);
    measure("Windlass", waterway::Windlass(), positions.at("windlass"), 5);
    return 0;
}
