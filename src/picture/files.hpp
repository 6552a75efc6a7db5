#pragma once
// Files of pictures, and the programs that draw them.

#include <string>

namespace arvek::detail {

/// For a shell: nothing in the text means anything but itself.
std::string shell_quoted(const std::string& text);
[[noreturn]] void throw_not_written(const std::string& path);
/// Moves the file `by` to `path`; throws InputError when that can not be.
void replace_file(const std::string& by, const std::string& path);

}  // namespace arvek::detail
