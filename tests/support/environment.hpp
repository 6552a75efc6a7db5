#pragma once
// What whoever runs the tests by hand asks of them.

#include <cstdint>
#include <cstdlib>

namespace testing_support {

/// The number that the variable of the environment is set to, or else `otherwise`.
inline std::uint64_t number_from(const char* name, std::uint64_t otherwise) {
    const char* text = std::getenv(name);
    return text != nullptr ? std::strtoull(text, nullptr, 10) : otherwise;
}

}  // namespace testing_support
