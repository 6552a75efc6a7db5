// What each technique of the standard search contributes, in nodes: counted, not timed, so the same on every machine.
//
// On the positions of positions.txt (twenty of each game), the standard search to a fixed depth as it is, with each
// technique switched off (or on, if it is off by default), and plain alpha-beta. The figures are geometric means over
// the positions, as multiples of the nodes of the search as it is.

#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/standard.hpp>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <map>
#include <string>
#include <vector>

#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

using Positions = std::map<std::string, std::vector<std::string>>;

/// Lines of "game position"; lines that begin with # are remarks.
Positions read_positions(const char* path) {
    Positions positions;
    std::ifstream file(path);
    for (std::string line; std::getline(file, line);) {
        const auto space = line.find(' ');
        if (line.empty() || line[0] == '#' || space == std::string::npos) continue;
        positions[line.substr(0, space)].push_back(line.substr(space + 1));
    }
    return positions;
}

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
        double logarithms = 0;
        for (std::size_t i = 0; i < base.size(); ++i) logarithms += std::log(nodes[i] / base[i]);
        std::printf("  %-20s %7.2f times the nodes\n", label.c_str(),
                    std::exp(logarithms / static_cast<double>(base.size())));
    }
}

}  // namespace

int main() {
    const Positions positions = read_positions(ARVEK_POSITIONS);
    for (const char* game : {"lanterns", "sluice", "windlass"})
        if (positions.count(game) == 0 || positions.at(game).size() < 20) {
            std::fprintf(stderr, "%s does not hold twenty positions of %s\n", ARVEK_POSITIONS, game);
            return 2;
        }
    measure("Lanterns 6 x 5, dropping", waterway::Lanterns({6, 5, 4, true}), positions.at("lanterns"), 10);
    measure("Sluice", waterway::Sluice(), positions.at("sluice"), 10);
    measure("Windlass", waterway::Windlass(), positions.at("windlass"), 8);
    return 0;
}
