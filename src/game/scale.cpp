#include "arvek/game/scale.hpp"

#include <algorithm>
#include <cmath>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

void require_above_0(const char* what, double value) {
    if (!(value > 0) || !std::isfinite(value))
        throw InputError(what, std::to_string(value) + " is out of range", "a number above 0");
}

}  // namespace

double scores_per_point(double largest) { return std::exp2(std::floor(std::log2(9e8 / largest))); }

Scale Scale::odds(double units_per_doubling, Payoff most) {
    require_above_0("units per doubling", units_per_doubling);
    require_above_0("largest payoff", most);
    return {true, units_per_doubling, static_cast<double>(most)};
}

Scale Scale::linear(double units_per_point, double most) {
    require_above_0("units per point", units_per_point);
    require_above_0("largest payoff", most);
    return {false, units_per_point, most};
}

double Scale::payoff_of(std::int64_t units) const {
    const double in_units = static_cast<double>(units) / units_;
    if (!odds_) return std::clamp(in_units, -most_, most_);
    return most_ * (2.0 / (1.0 + std::exp2(-in_units)) - 1.0);
}

}  // namespace arvek
