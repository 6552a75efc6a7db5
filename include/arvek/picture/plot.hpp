#pragma once
// Plots: a ladder of levels, with ratings, their intervals and scores against random moves; and a score that depends on
// a number.

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "arvek/arena/ratings.hpp"

namespace arvek {

/// A ladder of levels.
struct LadderPlot {
    /// A level of it.
    struct Rung {
        int level = 1;                      ///< which
        Rating rating{};                    ///< as it was measured
        double score_against_random = 0.0;  ///< 0 to 1
    };

    std::string title;        ///< above the picture
    std::string unit_note;    ///< what the ratings count from
    std::vector<Rung> rungs;  ///< from the lowest
};

/// The ratings of a league, one below the other.
struct StandingsPlot {
    /// One of those who stand.
    struct Place {
        std::string name;  ///< as people call it
        Rating rating{};   ///< as it was measured
    };

    std::string title;          ///< above the picture
    std::string unit_note;      ///< what the ratings count from
    std::vector<Place> places;  ///< the strongest first
};

/// The course of several numbers.
struct CoursePlot {
    /// One number.
    struct Course {
        std::string name;            ///< what it is
        std::vector<double> values;  ///< after each step, 0 first
    };

    std::string title, x_label, y_label;  ///< above the picture, and along its sides
    double low = 0.0, high = 100.0;       ///< of all values
    std::vector<Course> courses;          ///< in the order of the legend
};

/// A number that is measured now and then.
struct CurvePlot {
    /// A measurement.
    struct Point {
        double x = 0.0, y = 0.0, low = 0.0, high = 0.0;  ///< where it stands, and the interval that it is in
    };

    std::string title, x_label, y_label;  ///< above the picture, and along its sides
    std::vector<Point> points;            ///< in the order in which they are joined
};

/// The file of a plot that is still to be drawn. It is opened at once, so that what cannot be written is known before
/// the games; it appears under its name when it is complete, or not at all.
class PlotFile {
   public:
    /// Throws InputError for an ending other than .svg and .png, where the file cannot be written, and where gnuplot,
    /// which draws it, is not there.
    explicit PlotFile(const std::string& path);
    ~PlotFile();
    PlotFile(const PlotFile&) = delete;
    PlotFile& operator=(const PlotFile&) = delete;

    /// Throws InputError when it cannot be drawn; an earlier file of that name then stays as it was.
    void write(const LadderPlot& plot);
    /// As write(const LadderPlot&).
    void write(const StandingsPlot& plot);
    /// As write(const LadderPlot&).
    void write(const CoursePlot& plot);
    /// As write(const LadderPlot&).
    void write(const CurvePlot& plot);

   private:
    void draw(const std::string& script);

    struct Parts;
    std::unique_ptr<Parts> parts_;
};

}  // namespace arvek
