#pragma once
// Files that are part of the program.

#include <span>
#include <string_view>

namespace arvek::tool {

struct EmbeddedFile {
    std::string_view path;  ///< "style.css"; empty: index.html, the page itself
    std::string_view type;  ///< "text/css"; empty where none is known
    std::string_view content;
};

/// The page of the workbench.
std::span<const EmbeddedFile> workbench_files();
/// A project for a game of one's own, with @NAME@, @TYPE@ and @VERSION@ to be replaced.
std::span<const EmbeddedFile> new_project_files();

}  // namespace arvek::tool
