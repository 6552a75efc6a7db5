#pragma once
// A ladder of levels as a plot: ratings with their intervals, and scores against random moves.

#include <string>
#include <vector>

#include "arvek/arena/ratings.hpp"

namespace arvek {

struct LadderPlot {
    struct Rung {
        int level = 1;
        Rating rating{};
        double score_against_random = 0.0;  ///< 0 to 1
    };

    std::string title;
    std::string unit_note;  ///< what the ratings count from
    std::vector<Rung> rungs;
};

/// Throws InputError for an ending other than .svg and .png, and where gnuplot, which draws it, is not there.
void check_plot_name(const std::string& path);
/// Writes the file whole or not at all. Throws as check_plot_name() does, and when it can not be written.
void write_ladder_plot(const std::string& path, const LadderPlot& plot);

}  // namespace arvek
