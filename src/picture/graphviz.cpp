// Files of pictures, drawn by Graphviz.

#include <cstdlib>
#include <filesystem>
#include <system_error>

#include "arvek/game/input_error.hpp"
#include "arvek/picture/tree_picture.hpp"
#include "files.hpp"

namespace arvek {

using detail::replace_file, detail::shell_quoted, detail::throw_not_written, detail::write_beside;

namespace {

std::string ending_of(const std::string& path) { return std::filesystem::path(path).extension().string(); }

}  // namespace

void check_picture_name(const std::string& path) {
    detail::require_folder_of(path);
    const std::string ending = ending_of(path);
    if (ending != ".dot" && ending != ".svg" && ending != ".png")
        throw InputError(path, "a picture can not be written to a name with this ending", ".svg, .png, .dot or .json");
    if (ending != ".dot" && std::system("command -v dot >/dev/null 2>&1") != 0)
        throw InputError(path, "Graphviz's program dot, which draws it, is not there",
                         "Graphviz installed, or a name that ends in .dot or .json");
}

void write_tree_picture(const std::string& path, const TreePicture& picture) {
    check_picture_name(path);
    const std::string ending = ending_of(path);
    if (ending == ".dot") {
        write_file(path, tree_as_dot(picture));
        return;
    }
    const std::string text = path + ".unfinished.dot", drawn = path + ".unfinished";
    write_beside(text, path, tree_as_dot(picture));
    const std::string command =
        "dot -T" + ending.substr(1) + " -o " + shell_quoted(drawn) + " " + shell_quoted(text) + " 2>/dev/null";
    const bool done = std::system(command.c_str()) == 0;
    std::error_code error;
    std::filesystem::remove(text, error);
    if (done) {
        replace_file(drawn, path);
    } else {
        std::filesystem::remove(drawn, error);
        throw_not_written(path);
    }
}

}  // namespace arvek
