#pragma once
// Places that are empty, own or the rival's, read as the digits of one number.

#include <cstdint>
#include <vector>

namespace waterway {

inline int ways_of_places(int places) {
    int ways = 1;
    for (int i = 0; i < places; ++i) ways *= 3;
    return ways;
}

/// For each such number the one that the rival sees: own and the rival's change places.
inline std::vector<std::uint16_t> places_to_the_rival(int places) {
    std::vector<std::uint16_t> seen;
    for (int way = 0; way < ways_of_places(places); ++way) {
        int other = 0;
        for (int rest = way, digit = 1; rest > 0; rest /= 3, digit *= 3)
            other += rest % 3 == 0 ? 0 : (3 - rest % 3) * digit;
        seen.push_back(static_cast<std::uint16_t>(other));
    }
    return seen;
}

}  // namespace waterway
