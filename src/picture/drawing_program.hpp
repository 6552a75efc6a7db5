#pragma once
// Programs that draw: started with a list of arguments, without a shell; what they draw and where to are data that they
// read from and write to open files.

#include <string>
#include <string_view>
#include <vector>

#include "arvek/arena/files.hpp"

namespace arvek::detail {

/// Whether a program of that name can be found.
bool has_program(const std::string& name);

/// Runs `program arguments...` with `input` as its standard input and `output` as its standard output. False when it
/// could not be run or did not end well.
bool draw_with(const std::string& program, const std::vector<std::string>& arguments, std::string_view input,
               const OutputFile& output);

}  // namespace arvek::detail
