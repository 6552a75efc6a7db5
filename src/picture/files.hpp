#pragma once
// Files of pictures, and the programs that draw them.

#include <string>

namespace arvek::detail {

/// For a shell: nothing in the text means anything but itself.
std::string shell_quoted(const std::string& text);
[[noreturn]] void throw_not_written(const std::string& path);
/// Throws InputError unless the folder of the file is there.
void require_folder_of(const std::string& path);
/// Writes `text` to the file `beside`, for `path`, which is what an InputError names.
void write_beside(const std::string& beside, const std::string& path, const std::string& text);
/// Moves the file `by` to `path`; throws InputError when that can not be.
void replace_file(const std::string& by, const std::string& path);

}  // namespace arvek::detail
