#include "arvek/arena/steady_clock.hpp"

#include <chrono>

namespace arvek {

double steady_seconds() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

}  // namespace arvek
