#pragma once
// A game whose rules are another program, in any language: it is asked over JSON-RPC 2.0, a message a line, and every verb,
// opponent, level, match and check works on it. docs/rpc.md says what the program has to answer: two methods.
//
//   const arvek::OpenGame game = arvek::link::open_rules_program({"python3", "ferry.py"});
//   arvek::Session session(game);
//
// What it answered of a position is remembered, so that a position is asked for once. A thousand or so positions a second
// is what two pipes give; that is enough for play and for finding faults in the rules, not for a deep search.

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/game/ability.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/score.hpp"
#include "arvek/link/child.hpp"
#include "arvek/session/session.hpp"

namespace arvek::link {

/// What the program said of a position.
struct SaidOfPosition;

/// A game whose rules are another program.
class RulesProgram {
   public:
    /// What the program says of a position.
    struct Position {
        std::shared_ptr<const std::string> text{};  ///< null only where nothing was assigned

        friend bool operator==(const Position& a, const Position& b) {
            return a.text == b.text || (a.text && b.text && *a.text == *b.text);
        }
    };
    /// The number of a text; the same text has the same number everywhere.
    struct Move {
        std::uint32_t number = 0;  ///< by which the program knows it

        friend bool operator==(const Move&, const Move&) = default;
    };

    /// How the program is started.
    struct Options {
        std::vector<std::string> command{};  ///< the program and its arguments
        double start_seconds = 30.0;         ///< that it may take until it is ready
        double answer_seconds = 10.0;        ///< that a question about one position may take
    };

    /// Starts the program. Throws ProgramError where it does not answer as it should.
    explicit RulesProgram(Options options);

    /// @{
    /// As the program says; see game/game.hpp and the headers of the abilities. Throws ProgramError when it fails, or
    /// answers with what the protocol does not have.
    bool offers(Ability ability) const;

    Position initial_position() const;
    Player player_to_move(const Position& position) const;
    void generate_moves(const Position& position, MoveList<Move>& moves) const;
    void play(Position& position, const Move& move) const;
    std::optional<Outcome> outcome(const Position& position) const;

    int players() const;
    Score evaluate(const Position& position, Player player) const;
    std::uint64_t hash(const Position& position) const;
    bool chance_is_next(const Position& position) const;
    void generate_events(const Position& position, MoveList<Event<Move>>& events) const;
    int draw_at_occurrence() const;
    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    std::string drawing(const Position& position) const;
    std::string player_name(Player player) const;
    /// @}

    const std::string& name() const;  ///< that it gives the game

   private:
    struct State;

    const SaidOfPosition& look(const Position& position) const;

    std::shared_ptr<State> state_;
};

/// The game with every opponent, solver and counter that it can have. Throws as the constructor does.
OpenGame open_rules_program(std::vector<std::string> command);

}  // namespace arvek::link
