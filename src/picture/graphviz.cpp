// Files of pictures, drawn by Graphviz.

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <system_error>

#include "arvek/game/input_error.hpp"
#include "arvek/picture/tree_picture.hpp"

namespace arvek {

namespace {

/// For a shell: nothing in the text means anything but itself.
std::string shell_quoted(const std::string& text) {
    std::string quoted = "'";
    for (const char letter : text) quoted += letter == '\'' ? std::string("'\\''") : std::string(1, letter);
    return quoted + "'";
}

[[noreturn]] void throw_not_written(const std::string& path) {
    throw InputError(path, "the file can not be written", "a file in a folder that is there and may be written to");
}

void replace_file(const std::string& by, const std::string& path) {
    std::error_code error;
    std::filesystem::rename(by, path, error);
    if (!error) return;
    std::filesystem::remove(by, error);
    throw_not_written(path);
}

std::string ending_of(const std::string& path) { return std::filesystem::path(path).extension().string(); }

}  // namespace

void check_picture_name(const std::string& path) {
    const std::string ending = ending_of(path);
    if (ending != ".dot" && ending != ".svg" && ending != ".png")
        throw InputError(path, "a picture can not be written to a name with this ending", ".svg, .png, .dot or .json");
    if (ending != ".dot" && std::system("command -v dot >/dev/null 2>&1") != 0)
        throw InputError(path, "Graphviz's program dot, which draws it, is not there",
                         "Graphviz installed, or a name that ends in .dot or .json");
}

// What is written goes beside the file first, so that it is replaced whole or not at all.

void write_file(const std::string& path, const std::string& text) {
    const std::string beside = path + ".unfinished";
    std::ofstream out(beside, std::ios::binary);
    out << text;
    out.close();
    if (!out) {
        std::error_code error;
        std::filesystem::remove(beside, error);
        throw_not_written(path);
    }
    replace_file(beside, path);
}

void write_tree_picture(const std::string& path, const TreePicture& picture) {
    check_picture_name(path);
    const std::string ending = ending_of(path);
    if (ending == ".dot") {
        write_file(path, tree_as_dot(picture));
        return;
    }
    const std::string text = path + ".unfinished.dot", drawn = path + ".unfinished";
    write_file(text, tree_as_dot(picture));
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
