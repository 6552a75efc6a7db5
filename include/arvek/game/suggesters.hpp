#pragma once
// Ability: suggesters. Buys choosing by what stands out, for games with far more moves than are worth a thought.
//
//     std::span<const arvek::Suggester<MyGame>> suggesters() const;
//
// What the span shows must outlive the game: a static array, or a member of the game.
//
// A suggester looks at a position and proposes a few moves for one reason, each with an urgency in the game's own units
// (more than 0) and what it saw.
//
//     {"take", "takes a rival's piece off", [](const MyGame& game, const MyGame::Position& now, auto& proposals) {
//          for (...) proposals.add(move, 6.0, "takes the Runner off");
//      }},

#include <concepts>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/game.hpp"

namespace arvek {

/// A move that is suggested.
template <class Move>
struct Proposal {
    Move move{};           ///< which
    double urgency = 0.0;  ///< how much it matters, 0 or more
    std::string note;      ///< what was seen: "takes the Runner off"
};

/// Where suggesters put what they propose. A move may be proposed several times.
template <class Move>
class Proposals {
   public:
    /// Suggests a move; `note` says why, in a few words.
    void add(const Move& move, double urgency, std::string note) { all_.push_back({move, urgency, std::move(note)}); }
    const std::vector<Proposal<Move>>& all() const { return all_; }  ///< what was suggested
    /// Forgets them.
    void clear() { all_.clear(); }

   private:
    std::vector<Proposal<Move>> all_;
};

/// A function that proposes moves, and its reason.
template <class G>
struct Suggester {
    const char* reason = "";  ///< a short name, unique in the game: "take"
    const char* doc = "";     ///< what it looks for, for whoever writes temperaments
    /// Adds to the proposals what it suggests in a position.
    void (*suggest)(const G&, const typename G::Position&, Proposals<typename G::Move>&) = nullptr;
};

template <class G>
concept SuggestingGame = Game<G> && requires(const G& game) {
    { game.suggesters() } -> std::same_as<std::span<const Suggester<G>>>;
};

}  // namespace arvek
