// Weights of the evaluation from a file.

#include "chess/weights.hpp"

#include <vector>

#include <arvek/game/data_file.hpp>

namespace waterway::chess {

Weights read_weights(std::string_view text, std::string_view source) {
    constexpr std::int64_t most = 10'000;
    const arvek::DataFile file(text, source);
    std::vector<std::string> names;
    for (const WeightName& entry : weight_names()) names.emplace_back(entry.name);
    file.allow_only(file.root(), names);
    Weights weights;
    for (const auto& [key, place, value] : file.root().entries) {
        const std::string what = "'" + key + "'";
        Tapered read;
        if (value.kind == arvek::DataNode::Kind::List) {
            if (value.items.size() != 2)
                file.fail(value, what + " has " + std::to_string(value.items.size()) + " numbers",
                          "two, in the middle of a game and at its end");
            read.middle = static_cast<int>(file.integer(value.items[0], what, -most, most));
            read.end = static_cast<int>(file.integer(value.items[1], what, -most, most));
        } else {
            read.middle = read.end = static_cast<int>(file.integer(value, what, -most, most));
        }
        for (const WeightName& entry : weight_names())
            if (entry.name == key) weights.*entry.weight = read;
    }
    return weights;
}

}  // namespace waterway::chess
