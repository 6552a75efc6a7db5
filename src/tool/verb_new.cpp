// The verb that begins a project for a game of one's own.

#include <algorithm>
#include <array>
#include <filesystem>
#include <ostream>
#include <string_view>

#include "arvek/arena/files.hpp"
#include "arvek/session/plain_text.hpp"
#include "arvek/version.hpp"
#include "embedded_file.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

namespace fs = std::filesystem;

/// Words of C++, names that the project uses itself, and targets that CMake keeps for itself.
constexpr std::string_view taken =
    " auto bool case char class const default delete do double enum false float for if int namespace new return struct "
    "switch template this throw true try union using void while "
    "arvek game main move parameters position test tests "
    "all clean edit_cache help install list_install_components package package_source rebuild_cache ";

void require_name(const std::string& where, const std::string& name) {
    constexpr std::size_t longest = 40;
    const bool is_plain = !name.empty() && name.size() <= longest && name[0] >= 'a' && name[0] <= 'z' &&
                          std::all_of(name.begin(), name.end(), [](char each) {
                              return (each >= 'a' && each <= 'z') || (each >= '0' && each <= '9') || each == '_';
                          });
    if (!is_plain)
        throw InputError(
            where, in_quotes(name) + " cannot be the name of a game",
            "small letters, digits and '_', a letter first, at most 40, such as my_game; --name gives another");
    if (taken.find(" " + name + " ") != std::string_view::npos)
        throw InputError(where, in_quotes(name) + " has a meaning of its own in C++, in CMake or in the project",
                         "another name; --name gives it");
}

/// "my_game" as "MyGame".
std::string type_name(const std::string& name) {
    std::string type;
    bool begins = true;
    for (const char each : name) {
        if (each != '_') type += begins && each >= 'a' && each <= 'z' ? static_cast<char>(each - 'a' + 'A') : each;
        begins = each == '_';
    }
    return type;
}

std::string replaced(std::string_view content, const std::string& name) {
    const std::array<std::pair<std::string, std::string>, 3> words{
        {{"@NAME@", name},
         {"@TYPE@", type_name(name)},
         {"@VERSION@", std::to_string(ARVEK_VERSION_MAJOR) + "." + std::to_string(ARVEK_VERSION_MINOR)}}};
    std::string text(content);
    for (const auto& [word, by] : words)
        for (auto at = text.find(word); at != std::string::npos; at = text.find(word, at + by.size()))
            text.replace(at, word.size(), by);
    return text;
}

}  // namespace

int run_new(const Tool&, const Arguments& arguments, const Console& console) {
    const fs::path folder = arguments.folder;
    std::error_code problem;
    if (fs::exists(folder, problem) && !(fs::is_directory(folder, problem) && fs::is_empty(folder, problem)))
        throw InputError("new", in_quotes(plain_line(folder.string())) + " is there already and not an empty folder",
                         "a folder that is to be made");
    const fs::path last = folder.has_filename() ? folder.filename() : folder.parent_path().filename();
    const std::string name = arguments.name.value_or(last.string());
    require_name(arguments.name ? "--name" : "new", name);
    fs::create_directories(folder, problem);
    if (problem)
        throw InputError("new", in_quotes(plain_line(folder.string())) + " cannot be made: " + problem.message(),
                         "a folder where you may write");
    for (const EmbeddedFile& file : new_project_files()) {
        const std::string path = file.path == "gitignore" ? ".gitignore" : std::string(file.path);
        OutputFile out((folder / path).string());
        out.write(replaced(file.content, name));
        out.commit();
    }
    const std::string shown = plain_line(folder.string());
    console.out
        << "A project for the game " << name << " is in " << shown << ". It works as it stands:\n\n"
        << "  cmake -S " << shown << " -B " << shown << "/build && cmake --build " << shown << "/build\n"
        << "  " << shown << "/build/" << name << " play " << name << "\n\n"
        << "README.md there says what else. The rules are game.hpp; keep 'check' silent while you change them.\n";
    return 0;
}

}  // namespace arvek::tool
