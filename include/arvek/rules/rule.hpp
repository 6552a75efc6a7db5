#pragma once
// Rule: one entry of an ordered list of rules. See rule_list.hpp for the usual ones and for a whole list.
//
// A rule is asked with the moves that are still to choose from. It answers with those it is for, or with none, and says
// why either way. Write one of your own when prefer() in rule_list.hpp does not do:
//
//     arvek::Rule<MyGame> keep_the_gate{"keep the gate", [](const arvek::Situation<MyGame>& now) {
//         arvek::RuleAnswer<int> answer;
//         for (int move : now.moves) if (guards_gate(now.position, move)) answer.moves.push_back(move);
//         answer.why = answer.moves.empty() ? "no move guards the gate" : "guards the gate";
//         return answer;
//     }};

#include <cstdint>
#include <functional>
#include <string>
#include <vector>

#include "arvek/game/acting.hpp"
#include "arvek/game/game.hpp"
#include "arvek/rules/memory.hpp"

namespace arvek {

/// What a rule may look at.
template <Game G>
struct Situation {
    const G& game;                               ///< the rules
    const typename G::Position& position;        ///< where it stands
    Player player;                               ///< whose move it is
    const std::vector<typename G::Move>& moves;  ///< what is still to choose from, at least one
    const std::vector<Act>* acts = nullptr;      ///< of each of them, where the game has acts
    const GameMemory* memory = nullptr;          ///< what the player remembers of the game, if it does
    std::uint64_t seed = 0;                      ///< of the decision
    std::uint64_t game_seed = 0;                 ///< the same all game long
    bool explains = true;                        ///< whether texts are wanted; else `why` and notes may stay empty
};

/// Something that a rule found out about a move.
template <class Move>
struct MoveNote {
    Move move{};       ///< which
    std::string text;  ///< in a few words
};

/// What a rule answers when it is asked.
template <class Move>
struct RuleAnswer {
    std::vector<Move> moves;              ///< what the rule is for; none: the rule does not apply
    std::string why;                      ///< why it applies, or why it does not
    std::vector<MoveNote<Move>> notes{};  ///< what it found out about single moves
    std::uint64_t positions_seen = 0;     ///< positions it looked at
};

/// One entry of an ordered list of rules.
template <Game G>
struct Rule {
    std::string name;                                                      ///< unique in the list
    std::function<RuleAnswer<typename G::Move>(const Situation<G>&)> ask;  ///< which moves it is for
    /// Whether the rule also chooses among the moves that an earlier rule is for.
    bool settles_ties = false;
    std::vector<StateChange> changes{};  ///< of the player's own states, when it is carried out
    std::string lot{};        ///< of neighbours in one lot that apply, one is drawn by weight; empty: it is in none
    double weight = 1.0;      ///< in its lot, more than 0
    bool asks_deeds = false;  ///< whether it asks what was done earlier in the game
};

}  // namespace arvek
