// What each technique of the standard search contributes, in nodes and in time.
//
// On twenty positions of each game, the standard search to a fixed depth as it is, with each technique switched off (or
// on, if it is off by default), and plain alpha-beta. Nodes are counted, so they are the same on every machine: geometric
// means over the positions, as multiples of those of the search as it is. Time is that of all positions together, of each
// the fastest of several runs by turns, as a multiple in the same way.

#include <algorithm>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/standard.hpp>
#include <chrono>
#include <cstdio>
#include <functional>
#include <string>
#include <vector>

#include "chess/chess.hpp"
#include "convoy/convoy.hpp"
#include "floats.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "shipped_positions.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

double seconds() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

/// One way to search: what it is called, and how many nodes it takes at a position to a depth.
template <class Position>
struct Way {
    std::string name;
    std::function<std::uint64_t(const Position&, int depth)> nodes;
};

/// The search as it is, with each technique switched off, or on, and plain alpha-beta.
template <class G>
std::vector<Way<typename G::Position>> ways_of(const G& game) {
    using Position = typename G::Position;
    std::vector<Way<Position>> ways;
    const auto add = [&](const std::string& label, const arvek::Techniques& techniques) {
        auto search = std::make_shared<arvek::Standard<G>>(game, arvek::StandardOptions{.techniques = techniques});
        ways.push_back({label, [search](const Position& position, int depth) {
                            return search->decide(position, {.depth = depth}).stats.nodes;
                        }});
    };
    add("as it is", {});
    for (const std::string& technique : arvek::technique_names()) {
        arvek::Techniques changed;
        bool* value = arvek::technique_named(changed, technique);
        *value = !*value;
        add((*value ? "with " : "without ") + technique, changed);
    }
    auto plain = std::make_shared<arvek::AlphaBeta<G>>(game);
    ways.push_back({"plain alpha-beta", [plain](const Position& position, int depth) {
                        return plain->decide(position, {.depth = depth}).stats.nodes;
                    }});
    return ways;
}

template <class G>
void measure(const char* name, const G& game, const std::vector<typename G::Position>& positions, int depth) {
    using Position = typename G::Position;
    const auto ways = ways_of(game);
    constexpr int runs = 3;
    std::vector<std::vector<double>> nodes(ways.size()), times(ways.size());
    for (const Position& position : positions) {
        for (auto& of_way : times) of_way.push_back(1e9);
        for (int run = 0; run < runs; ++run)
            for (std::size_t i = 0; i < ways.size(); ++i) {
                // Plain alpha-beta takes long, and is not far from its time at once.
                if (run > 0 && i + 1 == ways.size()) continue;
                const double before = seconds();
                const auto visited = static_cast<double>(ways[i].nodes(position, depth));
                times[i].back() = std::min(times[i].back(), seconds() - before);
                if (run == 0) nodes[i].push_back(visited);
            }
    }
    const auto sum = [](const std::vector<double>& of_positions) {
        double all = 0;
        for (const double each : of_positions) all += each;
        return all;
    };
    std::printf("\n%s, %zu positions to depth %d: %.0f nodes and %.2f ms a position\n", name, positions.size(), depth,
                sum(nodes[0]) / static_cast<double>(positions.size()),
                1e3 * sum(times[0]) / static_cast<double>(positions.size()));
    for (std::size_t i = 1; i < ways.size(); ++i) {
        bench::GeometricMean ratio;
        for (std::size_t at = 0; at < positions.size(); ++at) ratio.add(nodes[i][at] / nodes[0][at]);
        if (nodes[i] == nodes[0]) continue;  // the game has nothing for it
        std::printf("  %-20s %7.2f times the nodes, %6.2f times the time\n", ways[i].name.c_str(), ratio.value(),
                    sum(times[i]) / sum(times[0]));
    }
}

/// The nodes of one position at each depth from 1 on.
template <class G>
void measure_by_depth(const char* name, const G& game, const typename G::Position& position, int most) {
    std::printf("\n%s\n  %-20s", name, "depth");
    for (int depth = 1; depth <= most; ++depth) std::printf(" %9d", depth);
    for (const auto& way : ways_of(game)) {
        std::printf("\n  %-20s", way.name.c_str());
        for (int depth = 1; depth <= most; ++depth)
            std::printf(" %9llu", static_cast<unsigned long long>(way.nodes(position, depth)));
    }
    std::printf("\n");
}

}  // namespace

int main() {
    using bench::read_positions;
    const auto shipped = bench::shipped_positions();
    const waterway::Lanterns dropping({6, 5, 4, true});
    measure("Lanterns 6 x 5, dropping", dropping, read_positions(dropping, shipped.at("lanterns")), 10);
    const waterway::Sluice sluice;
    measure("Sluice", sluice, read_positions(sluice, shipped.at("sluice")), 10);
    const waterway::Windlass windlass;
    measure("Windlass", windlass, read_positions(windlass, shipped.at("windlass")), 8);
    const bench::Floats floats;
    measure("Floats 8 x 8", floats, bench::played_positions(floats), 6);
    const waterway::Convoy convoy;
    measure("Convoy", convoy, read_positions(convoy, shipped.at("convoy")), 7);
    const waterway::Nightwatch nightwatch;
    measure("Nightwatch", nightwatch, read_positions(nightwatch, shipped.at("nightwatch")), 3);
    const waterway::Chess chess;
    measure("Chess", chess, bench::played_positions(chess), 6);
    measure_by_depth("Chess, the pawn that tempts (demo/chess/tempting.epd)", chess,
                     chess.read_position("6k1/1ppp1ppp/4b3/8/8/3B4/PPPK1PPP/8 b - - 0 1"), 8);
    return 0;
}
