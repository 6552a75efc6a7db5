#pragma once
// The drawing of a searched tree: session/tree_report.hpp says what is in it.

#include <memory>
#include <string>

#include "arvek/session/tree_report.hpp"

namespace arvek {

/// The tree in the language of Graphviz.
std::string tree_as_dot(const TreeReport& report);

/// A file of a picture that is still to be drawn. It is opened at once, so that what cannot be written is known before
/// the search; it appears under its name when it is complete, or not at all.
class TreePictureFile {
   public:
    /// Throws InputError unless the name ends in .svg, .png or .dot, the file can be written, and for the first two
    /// Graphviz's program dot is there.
    explicit TreePictureFile(const std::string& path);
    ~TreePictureFile();
    TreePictureFile(const TreePictureFile&) = delete;
    TreePictureFile& operator=(const TreePictureFile&) = delete;

    /// Throws InputError when it cannot be drawn; an earlier file of that name then stays as it was.
    void write(const TreeReport& report);

   private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

/// Both at once.
void write_tree_picture(const std::string& path, const TreeReport& report);

}  // namespace arvek
