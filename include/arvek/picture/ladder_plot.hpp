#pragma once
// A ladder of levels as a plot: ratings with their intervals, and scores against random moves.

#include <memory>
#include <optional>
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

/// The file of a plot that is still to be drawn. It is opened at once, so that what cannot be written is known before
/// the games; it appears under its name when it is complete, or not at all.
class LadderPlotFile {
   public:
    /// Throws InputError for an ending other than .svg and .png, where the file cannot be written, and where gnuplot,
    /// which draws it, is not there.
    explicit LadderPlotFile(const std::string& path);
    ~LadderPlotFile();
    LadderPlotFile(const LadderPlotFile&) = delete;
    LadderPlotFile& operator=(const LadderPlotFile&) = delete;

    /// Throws InputError when it cannot be drawn; an earlier file of that name then stays as it was.
    void write(const LadderPlot& plot);

   private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

}  // namespace arvek
