#pragma once
// All that a game answers about one position, so that it can be asked again: later, of a copy, of another object of the
// game, in another thread, of an equal position.

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/game/any_game.hpp"

namespace arvek::detail {

/// What one function answered.
struct Answer {
    const char* function = "";
    const char* about = "";  ///< the name of a quantity or a reason, or nothing
    std::string text;        ///< alike for equal answers, and different for different ones
};

struct Answers {
    std::vector<Answer> all;
};

/// Asks every function that the game offers, also about each of so many moves and what comes after them. What
/// throws is an answer too. Functions that draw are given the same random numbers. `only`: nothing but what that function
/// answers, unless it is empty.
Answers answers_of(const AnyGame& game, const AnyPosition& position, std::size_t moves = 40,
                   std::string_view only = {});

struct Disagreement {
    std::string function;
    std::string one, other;
};

/// The first answer that is not the same. Answers that only say how a position is told from others (hashes, texts) come
/// last.
std::optional<Disagreement> disagreement(const Answers& one, const Answers& other);

/// Both answers, for a message.
std::string said_by(const Disagreement& disagreement);

}  // namespace arvek::detail
