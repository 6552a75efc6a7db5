// Files of pictures, drawn by Graphviz.

#include <filesystem>

#include "arvek/game/input_error.hpp"
#include "arvek/picture/tree_picture.hpp"
#include "drawing_program.hpp"

namespace arvek {

namespace {

std::string checked_ending(const std::string& path) {
    const std::string ending = std::filesystem::path(path).extension().string();
    if (ending != ".dot" && ending != ".svg" && ending != ".png")
        throw InputError(path, "a picture cannot be written to a name with this ending", ".svg, .png, .dot or .json");
    if (ending != ".dot" && !detail::has_program("dot"))
        throw InputError(path, "Graphviz's program dot, which draws it, is not there",
                         "Graphviz installed, or a name that ends in .dot or .json");
    return ending;
}

}  // namespace

struct TreePictureFile::Parts {
    std::string ending;
    OutputFile file;
};

TreePictureFile::TreePictureFile(const std::string& path) {
    std::string ending = checked_ending(path);
    parts_ = std::unique_ptr<Parts>(new Parts{std::move(ending), OutputFile(path)});
}

TreePictureFile::~TreePictureFile() = default;

void TreePictureFile::write(const TreeReport& report) {
    OutputFile& file = parts_->file;
    if (parts_->ending == ".dot")
        file.write(tree_as_dot(report));
    else if (!detail::draw_with("dot", {"-T" + parts_->ending.substr(1)}, tree_as_dot(report), file))
        throw InputError(file.path(), "Graphviz's program dot could not draw it",
                         "a smaller tree, or room on the disk");
    file.commit();
}

void write_tree_picture(const std::string& path, const TreeReport& report) { TreePictureFile(path).write(report); }

}  // namespace arvek
