#pragma once
// The positions of positions.txt: twenty of each game.

#include <arvek/game/random.hpp>
#include <arvek/game/text.hpp>
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
    for (const char* game : {"lanterns", "sluice", "windlass", "convoy", "nightwatch"})
        if (positions[game].size() < 20) {
            std::fprintf(stderr, "%s does not hold twenty positions of %s\n", ARVEK_POSITIONS, game);
            std::exit(2);
        }
    return positions;
}

template <class G>
std::vector<typename G::Position> read_positions(const G& game, const std::vector<std::string>& texts) {
    std::vector<typename G::Position> positions;
    for (const std::string& text : texts) positions.push_back(game.read_position(text));
    return positions;
}

/// Random play from the start, of 0, 2, 4 ... 38 moves.
template <class G>
std::vector<typename G::Position> played_positions(const G& game) {
    std::vector<typename G::Position> positions;
    arvek::Random random(7);
    for (int plies = 0; plies < 40; plies += 2) {
        auto position = game.initial_position();
        for (int ply = 0; ply < plies; ++ply) {
            const auto moves = arvek::legal_moves(game, position);
            game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
        positions.push_back(position);
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
