#pragma once
// GameResult: what a match keeps of one game, whatever the game is.

#include <cstdint>
#include <map>
#include <string>

namespace arvek {

enum class MatchWinner : std::uint8_t { A, Nobody, B };

struct GameResult {
    int number = 0;       ///< from 0
    bool a_first = true;  ///< whether A was Player::First
    MatchWinner winner = MatchWinner::Nobody;
    bool finished = true;  ///< false: cut off at the longest length, which counts as a draw
    std::uint64_t plies = 0;
    std::uint64_t course = 0;   ///< a hash of who moved first and of all that was played
    std::uint64_t moves_a = 0;  ///< decisions
    std::uint64_t moves_b = 0;
    double seconds_a = 0.0;  ///< thinking
    double seconds_b = 0.0;
    std::map<std::string, std::uint64_t> chosen_a{};  ///< how often each rule or reason chose A's move
    std::map<std::string, std::uint64_t> chosen_b{};

    friend bool operator==(const GameResult&, const GameResult&) = default;
};

}  // namespace arvek
