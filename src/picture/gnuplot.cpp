// Plots, drawn by gnuplot. Every text that comes from elsewhere is data to it: it stands in a data block, which gnuplot
// does not read as commands nor for substitutions, and the picture goes to standard output, so that no name is passed.

#include <algorithm>
#include <filesystem>
#include <iomanip>
#include <sstream>

#include "arvek/game/input_error.hpp"
#include "arvek/picture/plot.hpp"
#include "drawing_program.hpp"

namespace arvek {

namespace {

constexpr const char* end_of_data = "END";

/// One line of a data block, which never is its end.
std::string data_line(const std::string& text) {
    std::string line;
    for (const char letter : text)
        if (static_cast<unsigned char>(letter) >= 0x20 && letter != 0x7f) line += letter;
    return line == end_of_data || line.empty() ? line + " " : line;
}

std::string head_of(const std::string& ending) {
    return std::string("set encoding utf8\n") +
           (ending == ".svg" ? "set terminal svg size 1280,800 font 'DejaVu Sans,18' background '#ffffff'\n"
                             : "set terminal pngcairo size 1280,800 font 'DejaVu Sans,15' background '#ffffff'\n");
}

std::string script_of(const CurvePlot& plot, const std::string& ending) {
    std::ostringstream script;
    script << std::setprecision(9);
    script << head_of(ending) << "$texts << " << end_of_data << "\n"
           << data_line(plot.title) << "\n"
           << data_line(plot.x_label) << "\n"
           << data_line(plot.y_label) << "\n"
           << end_of_data << "\n"
           << "set title $texts[1] noenhanced\nset xlabel $texts[2] noenhanced\nset ylabel $texts[3] noenhanced\n"
           << "set grid y lt 1 lc rgb '#dddddd'\nset offsets graph 0.05, graph 0.05, graph 0.05, graph 0.05\n"
           << "unset key\n";
    const auto [least, most] = std::minmax_element(plot.points.begin(), plot.points.end(),
                                                   [](const auto& a, const auto& b) { return a.x < b.x; });
    // A little room on both sides, so that the first and the last one can be read.
    if (!plot.points.empty() && least->x < most->x) {
        const double wide = most->x - least->x;
        script << "set xrange [" << least->x - 0.04 * wide << ":" << most->x + 0.08 * wide << "]\n";
    }
    script << "$points << END\n";
    for (const auto& point : plot.points)
        script << point.x << " " << point.y << " " << point.low << " " << point.high << "\n";
    script << "END\n"
           << "plot $points using 1:2:3:4 with yerrorbars lw 2 pt 7 ps 1.5 lc rgb '#006070', \\\n"
           << "  $points using 1:2 with lines lw 2 lc rgb '#006070', \\\n"
           << "  $points using 1:2:(sprintf('  %.1f', $2)) with labels left offset 0,0.8 font ',12' tc rgb '#006070'\n";
    return script.str();
}

std::string script_of(const LadderPlot& plot, const std::string& ending) {
    std::ostringstream script;
    script << std::fixed << std::setprecision(3);
    script << head_of(ending) << "$texts << " << end_of_data << "\n"
           << data_line(plot.title) << "\n"
           << data_line("rating (" + plot.unit_note + ")") << "\n"
           << end_of_data << "\n"
           << "set title $texts[1] noenhanced\nset xlabel 'level'\nset ylabel $texts[2] noenhanced\n"
           << "set y2label 'score against random moves, %'\nset y2tics 0,10,100\nset y2range [0:104]\nset ytics "
              "nomirror\n"
           << "set xrange [0.5:10.5]\nset xtics 1,1,10\nset grid y lt 1 lc rgb '#dddddd'\nset key left top\n"
           << "$rungs << END\n";
    for (const auto& rung : plot.rungs)
        script << rung.level << " " << rung.rating.rating << " " << rung.rating.low << " " << rung.rating.high << " "
               << 100 * rung.score_against_random << "\n";
    script << "END\n"
           << "plot $rungs using 1:5 axes x1y2 with linespoints lw 2 dt 2 pt 4 ps 1.5 lc rgb '#b06000' title 'score "
              "against random moves (right scale)', \\\n"
           << "  $rungs using 1:2:3:4 with yerrorbars lw 2 pt 7 ps 1.5 lc rgb '#006070' title 'rating with its 95 % "
              "interval', \\\n"
           << "  $rungs using 1:2 with lines lw 2 lc rgb '#006070' notitle, \\\n"
           << "  $rungs using ($1+0.12):2:(sprintf('%.0f', $2)) with labels left font ',12' tc rgb '#006070' notitle\n";
    return script.str();
}

std::string script_of(const StandingsPlot& plot, const std::string& ending) {
    std::ostringstream script;
    script << std::fixed << std::setprecision(3);
    const std::size_t count = plot.places.size();
    script << head_of(ending) << "$texts << " << end_of_data << "\n"
           << data_line(plot.title) << "\n"
           << data_line("rating (" + plot.unit_note + "), with its 95 % interval") << "\n";
    for (const auto& place : plot.places) script << data_line(place.name) << "\n";
    script << end_of_data << "\n"
           << "set title $texts[1] noenhanced\nset xlabel $texts[2] noenhanced\nunset key\n"
           << "set yrange [" << count << ".6:0.4]\nset grid x y lt 1 lc rgb '#dddddd'\n"
           << "set offsets graph 0.05, graph 0.08, 0, 0\nset ytics noenhanced\nset ytics ()\n"
           // As a variable a name is data, whatever is in it.
           << "do for [i=1:" << count << "] { set ytics add ($texts[i+2] i) }\n$places << END\n";
    for (std::size_t i = 0; i < count; ++i) {
        const Rating& rating = plot.places[i].rating;
        script << rating.rating << " " << i + 1 << " " << rating.low << " " << rating.high << "\n";
    }
    script << "END\n"
           << "plot $places using 1:2:3:4 with xerrorbars lw 2 pt 7 ps 1.5 lc rgb '#006070', \\\n"
           << "  $places using 1:($2-0.22):(sprintf('%+.0f', $1)) with labels font ',12' tc rgb '#006070'\n";
    return script.str();
}

std::string script_of(const CoursePlot& plot, const std::string& ending) {
    // Told apart by shape and dashes as well as by colour.
    constexpr const char* colours[] = {"#006070", "#b06000", "#6a3d9a", "#2a7f2a", "#a02040", "#4d4d4d"};
    std::ostringstream script;
    script << std::setprecision(9);
    script << head_of(ending) << "$texts << " << end_of_data << "\n"
           << data_line(plot.title) << "\n"
           << data_line(plot.x_label) << "\n"
           << data_line(plot.y_label) << "\n";
    for (const auto& course : plot.courses) script << data_line(course.name) << "\n";
    script << end_of_data << "\n"
           << "set title $texts[1] noenhanced\nset xlabel $texts[2] noenhanced\nset ylabel $texts[3] noenhanced\n"
           << "set grid y lt 1 lc rgb '#dddddd'\nset key below noenhanced\nset yrange ["
           << plot.low - 0.02 * (plot.high - plot.low) << ":" << plot.high + 0.02 * (plot.high - plot.low) << "]\n";
    std::size_t most = 1;
    for (std::size_t i = 0; i < plot.courses.size(); ++i) {
        script << "$course" << i << " << END\n";
        for (std::size_t step = 0; step < plot.courses[i].values.size(); ++step)
            script << step << " " << plot.courses[i].values[step] << "\n";
        script << "END\n";
        most = std::max(most, plot.courses[i].values.size());
    }
    script << "plot ";
    for (std::size_t i = 0; i < plot.courses.size(); ++i)
        script << (i > 0 ? ", \\\n  " : "") << "$course" << i << " using 1:2 with linespoints lw 2 dt " << 1 + i / 6
               << " pt " << 4 + i % 10 << " ps 1 pi " << std::max<std::size_t>(1, most / 12) << " lc rgb '"
               << colours[i % 6] << "' title $texts[" << i + 4 << "]";
    script << "\n";
    return script.str();
}

}  // namespace

struct PlotFile::Parts {
    std::string ending;
    OutputFile file;
};

PlotFile::PlotFile(const std::string& path) {
    std::string ending = std::filesystem::path(path).extension().string();
    if (ending != ".svg" && ending != ".png")
        throw InputError(path, "a plot cannot be written to a name with this ending", ".svg or .png");
    if (!detail::has_program("gnuplot"))
        throw InputError(path, "the program gnuplot, which draws it, is not there", "gnuplot installed, or no plot");
    parts_ = std::unique_ptr<Parts>(new Parts{std::move(ending), OutputFile(path)});
}

PlotFile::~PlotFile() = default;

void PlotFile::write(const LadderPlot& plot) { draw(script_of(plot, parts_->ending)); }
void PlotFile::write(const StandingsPlot& plot) { draw(script_of(plot, parts_->ending)); }
void PlotFile::write(const CoursePlot& plot) { draw(script_of(plot, parts_->ending)); }
void PlotFile::write(const CurvePlot& plot) { draw(script_of(plot, parts_->ending)); }

void PlotFile::draw(const std::string& script) {
    OutputFile& file = parts_->file;
    if (!detail::draw_with("gnuplot", {}, script, file))
        throw InputError(file.path(), "gnuplot could not draw it", "room on the disk");
    file.commit();
}

}  // namespace arvek
