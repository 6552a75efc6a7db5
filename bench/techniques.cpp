// What each technique of the standard search contributes, in nodes: counted, not timed, so the same on every machine.
//
// On the positions of positions.txt (twenty of each game), the standard search to a fixed depth as it is, with each
// technique switched off (or on, if it is off by default), and plain alpha-beta. The figures are geometric means over
// the positions, as multiples of the nodes of the search as it is.

#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/standard.hpp>
#include <cstdio>
#include <string>
#include <vector>

#include "lanterns/lanterns.hpp"
#include "shipped_positions.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

template <class G>
void measure(const char* name, const G& game, const std::vector<std::string>& texts, int depth) {
    using Row = std::pair<std::string, std::vector<double>>;
    std::vector<Row> rows;
    const auto nodes_of = [&](const arvek::Techniques& techniques) {
        std::vector<double> nodes;
        for (const std::string& text : texts)
            nodes.push_back(static_cast<double>(arvek::Standard<G>(game, {.techniques = techniques})
                                                    .decide(game.read_position(text), {.depth = depth})
                                                    .stats.nodes));
        return nodes;
    };
    const std::vector<double> base = nodes_of({});
    rows.emplace_back("plain alpha-beta", std::vector<double>{});
    for (const std::string& text : texts)
        rows.back().second.push_back(static_cast<double>(
            arvek::AlphaBeta<G>(game).decide(game.read_position(text), {.depth = depth}).stats.nodes));
    for (const std::string& technique : arvek::technique_names()) {
        arvek::Techniques changed;
        bool* value = arvek::technique_named(changed, technique);
        *value = !*value;
        rows.emplace_back((*value ? "with " : "without ") + technique, nodes_of(changed));
    }
    double sum = 0;
    for (const double nodes : base) sum += nodes;
    std::printf("\n%s, %zu positions to depth %d: %.0f nodes a position\n", name, texts.size(), depth,
                sum / static_cast<double>(base.size()));
    for (const auto& [label, nodes] : rows) {
        bench::GeometricMean times;
        for (std::size_t i = 0; i < base.size(); ++i) times.add(nodes[i] / base[i]);
        std::printf("  %-20s %7.2f times the nodes\n", label.c_str(), times.value());
    }
}

}  // namespace

int main() {
    const auto positions = bench::shipped_positions();
    measure("Lanterns 6 x 5, dropping", waterway::Lanterns({6, 5, 4, true}), positions.at("lanterns"), 10);
    measure("Sluice", waterway::Sluice(), positions.at("sluice"), 10);
    measure("Windlass", waterway::Windlass(), positions.at("windlass"), 8);
    return 0;
}
