#pragma once

#include <fstream>
#include <string>

namespace testing_support {

/// MiB of memory that this process has in use.
inline long resident_mebibytes() {
    std::ifstream file("/proc/self/status");
    std::string word;
    while (file >> word && word != "VmRSS:") {
    }
    long kilobytes = 0;
    file >> kilobytes;
    return kilobytes / 1'024;
}

}  // namespace testing_support
