#pragma once
// The positions of positions.txt: twenty of each game.

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <map>
#include <string>
#include <vector>

namespace bench {

using Positions = std::map<std::string, std::vector<std::string>>;

/// Lines of "game position"; lines that begin with # are remarks. Ends the program where a game lacks positions.
inline Positions shipped_positions() {
    Positions positions;
    std::ifstream file(ARVEK_POSITIONS);
    for (std::string line; std::getline(file, line);) {
        const auto space = line.find(' ');
        if (line.empty() || line[0] == '#' || space == std::string::npos) continue;
        positions[line.substr(0, space)].push_back(line.substr(space + 1));
    }
    for (const char* game : {"lanterns", "sluice", "windlass"})
        if (positions[game].size() < 20) {
            std::fprintf(stderr, "%s does not hold twenty positions of %s\n", ARVEK_POSITIONS, game);
            std::exit(2);
        }
    return positions;
}

/// Of any number of positive values.
class GeometricMean {
   public:
    void add(double value) {
        logarithms_ += std::log(value);
        ++count_;
    }
    double value() const { return count_ > 0 ? std::exp(logarithms_ / count_) : 0.0; }

   private:
    double logarithms_ = 0.0;
    int count_ = 0;
};

}  // namespace bench
