#pragma once
// What stands behind a profile as files: what it is based on, joined to it, and numbers that are changed by their keys.

#include <optional>
#include <string>
#include <string_view>

#include "arvek/game/data_file.hpp"
#include "arvek/opponent/profile.hpp"

namespace arvek::detail {

/// A profile's file with everything that it is based on, at most `left` files deep. Throws InputError at the place of what
/// is wrong.
DataFile read_with_bases(std::string_view text, const std::string& source, const ReadBase& read_base, int left);

/// The path of a file that another names.
std::string path_beside(const std::string& source, const std::string& name);

/// Sets the number of a key such as "rule.mend a mate.chance"; names may have dots in them. Throws InputError for a key that
/// is not there or is no number.
void set_number(DataNode& root, const std::string& key, double number);

/// The number of a key; nothing where the file leaves it out. Throws as set_number().
std::optional<ProfileNumber> number_at(DataNode root, const std::string& key);

}  // namespace arvek::detail
