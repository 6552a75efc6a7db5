#include "arvek/search/detail/random_lines.hpp"

#include <cmath>

namespace arvek::detail {

double standard_deviation(double mean, double mean_of_squares) {
    return std::sqrt(std::max(1.0, mean_of_squares - mean * mean));
}

}  // namespace arvek::detail
