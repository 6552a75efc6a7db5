#pragma once
// GameMemory: what a player that goes by rules remembers of a game: numbers that rules set and ask, what everybody did,
// and which rule chose each of its own moves.
//
//     arvek::RuleList<MyGame> rules;
//     rules.state({{"furious", 0.0, true}, {"phase", 1.0}});
//     arvek::GameMemory memory = rules.new_memory();
//     auto decision = rules.decide(game, position, seed, {}, &memory);
//     rules.remember(memory, decision);                         // once its move was played
//     rules.saw(memory, arvek::Player::Second, arvek::Act{});   // any move, where rules ask what was done
//
// It belongs to one game. Who takes a move back goes back to a copy.

#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/game/acting.hpp"
#include "arvek/game/decision.hpp"
#include "arvek/game/player.hpp"

namespace arvek {

/// A number of the player's own that lasts from turn to turn.
struct StateInfo {
    std::string name;         ///< unique in the list
    double first = 0.0;       ///< at the start of a game; 0 or 1 of a boolean
    bool is_boolean = false;  ///< whether it is said as true or false
};

/// What somebody did.
struct Deed {
    Player player = Player::First;  ///< who
    Act act{};                      ///< what
};

/// What a player that goes by rules remembers of a game.
struct GameMemory {
    std::vector<double> state{};       ///< of each StateInfo, in order
    std::vector<Deed> deeds{};         ///< of all players, oldest first
    std::vector<std::string> fired{};  ///< what chose each of its own decisions (Decision::chosen_by), oldest first

    /// Which of its own decisions it is about to take, from 1.
    double turn() const { return static_cast<double>(fired.size() + turns_before) + 1.0; }

    std::size_t turns_before = 0;  ///< its own turns that it knows nothing of, as the game was entered in the middle
};

/// What a rule does to a state when it is carried out.
struct StateChange {
    /// Whether the state becomes the number, or so much more.
    enum class Kind : std::uint8_t { Set, Add };

    std::string state;      ///< by name
    Kind kind = Kind::Set;  ///< what is done to it
    double number = 0.0;    ///< what it is set to, or what is added
    bool to_turn = false;   ///< the number of the turn instead of `number`
};

/// "true", "false" or a number.
std::string state_text(const StateInfo& info, double value);
/// "furious=true phase=2": the states of a memory. The way back: read_state().
std::string state_text(const std::vector<StateInfo>& infos, const GameMemory& memory);
/// Sets what a text such as "phase=2 turn=31" says; the rest stays. Throws InputError for a name that is no state and a
/// value that is none.
void read_state(std::string_view text, const std::vector<StateInfo>& infos, GameMemory& memory);

}  // namespace arvek
