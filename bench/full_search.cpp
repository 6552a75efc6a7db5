// The standard search against one written by hand for the game, in one run: nodes, time a node, and time to a depth.
//
// Both go deeper ply by ply over the game's own functions, with a table of 16 MiB, and judge at the horizon without
// quiescence. They take turns on twenty positions of each game, and of each position the fastest of several runs counts.
// Values that differ are counted: a table may answer from a line that was searched
// deeper than asked, and not the same lines in both.

#include <algorithm>
#include <arvek/search/standard.hpp>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <string>
#include <vector>

#include "floats.hpp"
#include "hand_written_search.hpp"
#include "lanterns/lanterns.hpp"
#include "shipped_positions.hpp"
#include "sluice/sluice.hpp"

namespace {

double seconds() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

struct Sums {
    double nodes = 0, seconds = 0;
};

constexpr int runs = 7;

template <class ByHand, class G>
void measure(const char* name, const G& game, const std::vector<typename G::Position>& positions,
             std::initializer_list<int> depths) {
    ByHand by_hand(game);
    arvek::Techniques techniques;
    techniques.quiescence = false;
    arvek::Standard<G> standard(game, {.techniques = techniques});
    for (const int depth : depths) {
        Sums ours, theirs;
        int differing = 0;
        for (const auto& position : positions) {
            double our_least = 1e9, their_least = 1e9, our_nodes = 0, their_nodes = 0;
            for (int run = 0; run < runs; ++run) {
                double before = seconds();
                const int value = by_hand.solve(position, depth);
                their_least = std::min(their_least, seconds() - before);
                their_nodes = static_cast<double>(by_hand.nodes());
                before = seconds();
                const auto decision = standard.decide(position, {.depth = depth}, {.ranking = arvek::Ranking::Best});
                our_least = std::min(our_least, seconds() - before);
                our_nodes = static_cast<double>(decision.stats.nodes);
                if (run == 0 && decision.ranked.front().score.number() != value) ++differing;
            }
            ours.nodes += our_nodes;
            theirs.nodes += their_nodes;
            ours.seconds += our_least;
            theirs.seconds += their_least;
        }
        std::printf(
            "  %-26s depth %2d: nodes %9.0f / %9.0f = %.3f, ns a node %5.1f / %5.1f = %.3f, time %.3f, %d values "
            "differ\n",
            name, depth, ours.nodes, theirs.nodes, ours.nodes / theirs.nodes, ours.seconds / ours.nodes * 1e9,
            theirs.seconds / theirs.nodes * 1e9, ours.seconds / ours.nodes / (theirs.seconds / theirs.nodes),
            ours.seconds / theirs.seconds, differing);
    }
}

}  // namespace

int main() {
    using waterway::Lanterns, waterway::Sluice, bench::Floats, bench::HandWrittenSearch;
    const auto shipped = bench::shipped_positions();
    std::printf("\nThe standard search / one written by hand, to a depth:\n");
    const Lanterns lanterns({6, 5, 4, true});
    const Sluice sluice;
    const Floats floats;
    measure<HandWrittenSearch<Lanterns, 64, false>>(
        "Lanterns 6 x 5, dropping", lanterns, bench::read_positions(lanterns, shipped.at("lanterns")), {8, 10, 12});
    measure<HandWrittenSearch<Sluice, 64, false>>("Sluice", sluice, bench::read_positions(sluice, shipped.at("sluice")),
                                                  {8, 10, 12});
    measure<HandWrittenSearch<Floats, 64, true>>("Floats 8 x 8", floats, bench::played_positions(floats), {6, 8});
    return 0;
}
