#pragma once

#include <cstdint>

namespace arvek::detail {

/// The nearest integer.
inline std::int64_t rounded(double value) { return static_cast<std::int64_t>(value + (value < 0 ? -0.5 : 0.5)); }

}  // namespace arvek::detail
