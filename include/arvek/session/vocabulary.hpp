#pragma once
// The words of a game: everything that a profile may name, with its meaning and its value where the game stands.

#include <cstdint>
#include <string>
#include <vector>

#include "arvek/session/report.hpp"

namespace arvek {

/// Everything that a profile of a game may name.
struct VocabularyReport {
    /// A quantity.
    struct Number {
        std::string name, unit, of, meaning;  ///< as the game says
        double least = 0, most = 0;           ///< of its range; infinite where the game does not say
        double least_now = 0, most_now = 0;   ///< over the legal moves; alike for a number of the position
    };
    /// A suggestion of the game.
    struct Suggestion {
        std::string reason, meaning;   ///< as the game says
        std::vector<std::string> now;  ///< what it proposes: "b2-b4: takes the Runner off, 6"
    };
    /// An actor, an action, a kind or a target.
    struct Name {
        std::string name;         ///< as profiles say it
        std::uint64_t moves = 0;  ///< legal moves that it fits now
    };

    bool is_a_turn = false;                             ///< whether a player is to move, so that there is a "now"
    std::string to_move;                                ///< whose turn it is
    std::vector<Number> numbers;                        ///< the quantities
    std::vector<Name> actors, actions, kinds, targets;  ///< whom and what acts are made of
    std::vector<Suggestion> suggestions;                ///< what the game suggests
    std::vector<std::string> ready_rules;               ///< that the game can have
    std::vector<std::string> moves;                     ///< legal now
    std::vector<std::vector<double>> values;            ///< of each number, by move
};

}  // namespace arvek
