#include "arvek/search/limits.hpp"

#include <cmath>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

void check_limits(const Limits& limits) {
    if (limits.depth && (*limits.depth < 0 || *limits.depth > max_depth))
        throw InputError("depth", std::to_string(*limits.depth) + " is out of range",
                         "0 to " + std::to_string(max_depth) + " plies");
    if (limits.nodes && *limits.nodes < 1) throw InputError("nodes", "0 is out of range", "at least 1 node");
    if (limits.playouts && *limits.playouts < 1)
        throw InputError("playouts", "0 is out of range", "at least 1 playout");
    if (limits.seconds && !(*limits.seconds > 0 && std::isfinite(*limits.seconds)))
        throw InputError("time", std::to_string(*limits.seconds) + " is out of range", "more than 0 seconds");
    if (limits.seconds && !limits.clock)
        throw InputError("time", "a time limit needs a clock", "Limits::clock to be set");
}

}  // namespace arvek
