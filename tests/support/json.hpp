#pragma once
// JSON in tests: the reader is compiled once.

#include <nlohmann/json.hpp>
#include <string_view>

namespace testing_support {

/// Throws nlohmann::json::parse_error.
nlohmann::json parsed(std::string_view text);

}  // namespace testing_support
