// Plots, drawn by gnuplot.

#include <cstdlib>
#include <filesystem>
#include <iomanip>
#include <sstream>
#include <system_error>

#include "arvek/game/input_error.hpp"
#include "arvek/picture/ladder_plot.hpp"
#include "arvek/picture/tree_picture.hpp"
#include "files.hpp"

namespace arvek {

namespace {

/// A text between double quotes as gnuplot reads it, with nothing in it that means more than itself.
std::string gnuplot_quoted(const std::string& text) {
    std::string quoted = "\"";
    for (const char letter : text) {
        if (static_cast<unsigned char>(letter) < 0x20) continue;
        if (letter == '"' || letter == '\\') quoted += '\\';
        quoted += letter;
    }
    return quoted + "\"";
}

std::string script_of(const LadderPlot& plot, const std::string& ending, const std::string& output) {
    std::ostringstream script;
    script << std::fixed << std::setprecision(3);
    script << "set encoding utf8\n"
           << (ending == ".svg" ? "set terminal svg size 1280,800 font 'DejaVu Sans,18' background '#ffffff'\n"
                                : "set terminal pngcairo size 1280,800 font 'DejaVu Sans,15' background '#ffffff'\n")
           << "set output " << gnuplot_quoted(output) << "\n"
           << "set title " << gnuplot_quoted(plot.title) << " noenhanced\n"
           << "set xlabel 'level'\nset ylabel " << gnuplot_quoted("rating (" + plot.unit_note + ")") << " noenhanced\n"
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

}  // namespace

void check_plot_name(const std::string& path) {
    const std::string ending = std::filesystem::path(path).extension().string();
    if (ending != ".svg" && ending != ".png")
        throw InputError(path, "a plot can not be written to a name with this ending", ".svg or .png");
    detail::require_folder_of(path);
    if (std::system("command -v gnuplot >/dev/null 2>&1") != 0)
        throw InputError(path, "the program gnuplot, which draws it, is not there", "gnuplot installed, or no plot");
}

void write_ladder_plot(const std::string& path, const LadderPlot& plot) {
    check_plot_name(path);
    const std::string text = path + ".unfinished.gnuplot", drawn = path + ".unfinished";
    detail::write_beside(text, path, script_of(plot, std::filesystem::path(path).extension().string(), drawn));
    const bool done = std::system(("gnuplot " + detail::shell_quoted(text) + " 2>/dev/null").c_str()) == 0;
    std::error_code error;
    std::filesystem::remove(text, error);
    if (done) {
        detail::replace_file(drawn, path);
    } else {
        std::filesystem::remove(drawn, error);
        detail::throw_not_written(path);
    }
}

}  // namespace arvek
