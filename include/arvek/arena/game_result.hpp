#pragma once
// GameResult: what a match keeps of one game, whatever the game is.

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <string_view>

#include "arvek/game/outcome.hpp"

namespace arvek {

enum class MatchWinner : std::uint8_t {
    A,       ///< the one opponent
    Nobody,  ///< several had as much
    B        ///< the other, or one of the others
};

/// What a game of a match came to its end by.
enum class EndedBy : std::uint8_t {
    Rules,        ///< the game's own outcome
    Repetition,   ///< the repetition rule: a draw
    CutOff,       ///< the longest length: counts as a draw
    IllegalMove,  ///< a side played a move that is not legal, and lost
    Exception,    ///< a side threw an exception, and lost
    Time,         ///< a side took much longer than it may, and lost
    BrokenRules   ///< the game itself broke its contract: nobody's fault, and the game does not count
};

/// "rules", "repetition", "cut off", "illegal move", "exception", "time", "broken rules".
const char* name_of(EndedBy end);
/// The way back; nothing for another text.
std::optional<EndedBy> ended_by_named(std::string_view name);

struct GameResult {
    int number = 0;                            ///< from 0
    bool a_first = true;                       ///< whether A was Player::First; in a game for one, whether A played it
    int seat_a = 0;                            ///< of A; B had the others
    MatchWinner winner = MatchWinner::Nobody;  ///< who had the largest payoff, if that was only one
    Payoff payoff_a = 0;                       ///< of A; in a game for one, of whoever played it
    /// 0 to 1: how often A had more than another seat, half for as much. In a game for one it is the pair that tells.
    double points_a = 0.5;
    EndedBy ended_by = EndedBy::Rules;                ///< what ended it
    std::string fault{};                              ///< what was wrong, where the game ended by a fault
    std::uint64_t plies = 0;                          ///< moves and events, the opening included
    std::uint64_t course = 0;                         ///< a hash of who moved first and of all that was played
    std::uint64_t moves_a = 0;                        ///< decisions
    std::uint64_t moves_b = 0;                        ///< decisions
    double seconds_a = 0.0;                           ///< thinking
    double seconds_b = 0.0;                           ///< thinking
    std::map<std::string, std::uint64_t> chosen_a{};  ///< how often each rule or reason chose A's move
    std::map<std::string, std::uint64_t> chosen_b{};  ///< how often each rule or reason chose B's move

    /// Whether a side lost by a fault of its own.
    bool is_lost_by_fault() const {
        return ended_by == EndedBy::IllegalMove || ended_by == EndedBy::Exception || ended_by == EndedBy::Time;
    }
    friend bool operator==(const GameResult&, const GameResult&) = default;
};

}  // namespace arvek
