#include "files.hpp"

#include <filesystem>
#include <fstream>
#include <system_error>

#include "arvek/game/input_error.hpp"
#include "arvek/picture/tree_picture.hpp"

namespace arvek {

namespace detail {

std::string shell_quoted(const std::string& text) {
    std::string quoted = "'";
    for (const char letter : text) quoted += letter == '\'' ? std::string("'\\''") : std::string(1, letter);
    return quoted + "'";
}

void throw_not_written(const std::string& path) {
    throw InputError(path, "the file can not be written", "a file in a folder that is there and may be written to");
}

void require_folder_of(const std::string& path) {
    const std::filesystem::path folder = std::filesystem::path(path).parent_path();
    std::error_code error;
    if (!folder.empty() && !std::filesystem::is_directory(folder, error)) throw_not_written(path);
}

void replace_file(const std::string& by, const std::string& path) {
    std::error_code error;
    std::filesystem::rename(by, path, error);
    if (!error) return;
    std::filesystem::remove(by, error);
    throw_not_written(path);
}

}  // namespace detail

// What is written goes beside the file first, so that it is replaced whole or not at all.

void detail::write_beside(const std::string& beside, const std::string& path, const std::string& text) {
    std::ofstream out(beside, std::ios::binary);
    out << text;
    out.close();
    if (out) return;
    std::error_code error;
    std::filesystem::remove(beside, error);
    throw_not_written(path);
}

void write_file(const std::string& path, const std::string& text) {
    const std::string beside = path + ".unfinished";
    detail::write_beside(beside, path, text);
    detail::replace_file(beside, path);
}

}  // namespace arvek
