#pragma once
// Facts: what a designer knows to hold in some positions, written down in TOML and held against the rules.
//
//    [[fact]]
//    about = "a column that is full takes no more"
//    moves = ["b", "b", "b"]              # how to get there; or position = "..."; or neither: the start
//    legal = ["a", "c"]                   # these are legal, perhaps with others
//    not_legal = ["b"]
//
//    [[fact]]
//    about = "three in a row end the game"
//    position = "ttt/aa./... a"
//    payoffs = [1, -1]
//
// And: only = [...] (these are legal and no others), to_move = "a player's name", over = true or false, chance = true
// where chance is next, after = { b = "the text of the position after b" }, sequences = [3, 9, 27] (how many sequences of
// one move, two, three), refused = true (the text is no position).

#include <string>
#include <string_view>
#include <vector>

#include "arvek/game/any_game.hpp"

namespace arvek {

/// A fact that does not hold.
struct FactFault {
    std::string at;     ///< where it is written: "quay.toml, line 3, column 1"
    std::string about;  ///< as it says itself
    std::string what;   ///< what holds instead
};

/// What came of holding facts against the rules.
struct FactsReport {
    int facts = 0;                                 ///< how many there are
    std::vector<FactFault> faults;                 ///< those that do not hold
    bool sound() const { return faults.empty(); }  ///< whether all hold
    /// Some lines for people.
    std::string text() const;
};

/// `source` names the text in messages. Throws InputError, with line and column, for what is no file of facts; a
/// position that cannot be read and a move that cannot be played are facts that do not hold. The game needs texts.
FactsReport check_facts(const AnyGame& game, std::string_view text, std::string_view source);

/// The same for a game of a type of its own.
template <Game G>
FactsReport check_facts(const G& game, std::string_view text, std::string_view source) {
    return check_facts(AnyGame(game), text, source);
}

}  // namespace arvek
