#include <unistd.h>

#include <array>
#include <filesystem>
#include <ostream>
#include <sstream>

#include "arvek/session/plain_text.hpp"
#include "position_file.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

namespace fs = std::filesystem;

/// The tour shipped with the tool: in the current folder, or installed beside the program.
std::string shipped_tour() {
    const fs::path here = fs::path("demo") / "tour.toml";
    std::error_code problem;
    if (fs::exists(here, problem)) return here.string();
    const fs::path program = fs::read_symlink("/proc/self/exe", problem);
    const fs::path installed = program.parent_path().parent_path() / "share" / "arvek" / "demo" / "tour.toml";
    if (!problem && fs::exists(installed, problem)) return installed.string();
    throw InputError("demo", "the shipped tour is neither at " + here.string() + " nor at " + installed.string(),
                     "to be run from the folder that holds demo/, or a tour: demo FILE.toml");
}

/// A command line for people to read and to repeat.
std::string typed(const std::string& program, const std::vector<std::string>& arguments) {
    std::string text = program;
    constexpr const char* plain = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_=+,./:@%";
    for (const std::string& argument : arguments) {
        text += ' ';
        if (!argument.empty() && argument.find_first_not_of(plain) == std::string::npos) {
            text += argument;
            continue;
        }
        text += shell_text(plain_line(argument));
    }
    return text;
}

}  // namespace

int run_demo(const Tool& tool, const Arguments& arguments, const Console& console) {
    const std::string path = arguments.tour.empty() ? shipped_tour() : arguments.tour;
    const std::vector<TourStep> tour = read_tour(path);
    const fs::path folder = fs::path(path).parent_path();
    const bool json = arguments.format == "json";
    if (json) throw InputError("--format", "a tour is for people", "text");
    const Paint paint(console.colour);
    int number = 0;
    for (const TourStep& step : tour) {
        console.out << paint.strong(std::to_string(++number) + ". " + plain_line(step.title)) << "\n";
        if (!step.say.empty()) console.out << plain_lines(step.say) << (step.say.back() == '\n' ? "" : "\n");
        for (std::vector<std::string> command : step.run) {
            // Files are named as seen from the tour's folder.
            for (std::string& argument : command)
                if (names_toml_file(argument) && fs::exists(folder / argument)) argument = (folder / argument).string();
            console.out << "\n" << paint.faint("$ " + typed(tool.program(), command)) << "\n" << std::flush;
            if (!command.empty() && command.front() == "demo")
                throw InputError(path, "step " + std::to_string(number) + " runs a tour inside a tour", "another verb");
            std::istringstream typing(step.type);
            Console inner{typing, console.out, console.err, console.colour, false, false, false};
            if (const int status = tool.run(command, inner); status != 0) {
                console.err << tool.program() << " demo: step " << number << " of " << path << " ended with status "
                            << status << "\n";
                return status;
            }
        }
        console.out << "\n";
    }
    return 0;
}

}  // namespace arvek::tool
