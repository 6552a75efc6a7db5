#include "arvek/session/tree_report.hpp"

#include <queue>

namespace arvek {

namespace detail {

std::vector<bool> nodes_to_show(const std::vector<TreeShape>& nodes, std::size_t most) {
    std::vector<bool> shown(nodes.size(), false);
    std::vector<std::vector<std::size_t>> children(nodes.size());
    for (std::size_t i = 1; i < nodes.size(); ++i) children[static_cast<std::size_t>(nodes[i].parent)].push_back(i);

    struct Candidate {
        bool on_line;
        double weight;
        std::size_t node;

        bool operator<(const Candidate& other) const {
            if (on_line != other.on_line) return other.on_line;
            if (weight != other.weight) return weight < other.weight;
            return node > other.node;
        }
    };
    // First moves matter more than their size says, and the answers on the chosen line too.
    constexpr double first_move_weight = 100.0, line_weight = 20.0;
    std::priority_queue<Candidate> candidates;
    if (!nodes.empty()) candidates.push({true, 0.0, 0});
    for (std::size_t count = 0; count < most && !candidates.empty(); ++count) {
        const std::size_t node = candidates.top().node;
        candidates.pop();
        shown[node] = true;
        for (const std::size_t child : children[node]) {
            double weight = static_cast<double>(nodes[child].positions);
            if (node == 0)
                weight *= first_move_weight;
            else if (nodes[node].on_line)
                weight *= line_weight;
            candidates.push({nodes[child].on_line, weight, child});
        }
    }
    return shown;
}

}  // namespace detail

}  // namespace arvek
