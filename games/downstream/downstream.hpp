#pragma once
// Downstream: a race by dice, for two to four. One of the Basin Games of the Lowmere Waterway.
//
// Each side has `boats` on the bank, cell 0, of a stream with cells 1 to `length`. A die with `die` faces is rolled,
// then the mover moves one own boat that is not home forward by the number rolled; a boat that passes `length` is home.
// Cells divisible by `mooring` are moorings, where all lie side by side in safety (0: there are none). Landing on
// another cell sends all boats of rivals there back to the bank. A roll of the highest face gives the same side another
// roll after its move. First with all boats home wins: with n sides n - 1 to the winner, -1 to each other.
//
// Moves: the cell that the boat leaves, such as "0" or "7"; events: "roll-3".
// Positions: the cells of each side's boats in rising order, 'h' for home, sides apart by '/', the side to move, the
// number rolled or '?': "0,0/3,h A ?".

#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include <arvek/game/board.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

namespace waterway {

class Downstream {
   public:
    static constexpr std::size_t most_boats = 4;

    struct Parameters {
        int players = 2;
        int boats = 2;
        int length = 12;
        int die = 4;
        int mooring = 5;
    };

    struct Position {
        /// Of each side, in rising order; length + 1 is home. Boats that the game does not have are on the bank.
        std::array<std::array<std::uint8_t, most_boats>, arvek::max_players> cells{};
        std::uint8_t to_move = 0;
        std::uint8_t roll = 0;  ///< 0: still to be rolled

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        static constexpr std::uint8_t first_roll = 64;

        std::uint8_t number = 0;  ///< the cell that the boat leaves; from first_roll on a roll of so much more

        bool rolls() const { return number >= first_roll; }
        friend bool operator==(const Move&, const Move&) = default;
    };

    /// Throws arvek::InputError for parameters out of range.
    explicit Downstream(const Parameters& parameters);
    Downstream() : Downstream(Parameters{}) {}

    int players() const { return parameters_.players; }
    arvek::Payoff most_payoff() const { return parameters_.players - 1; }

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& position) const {
        return static_cast<arvek::Player>(position.to_move);
    }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        const auto& own = position.cells[position.to_move];
        for (std::size_t i = boats_; i-- > 0;)
            if (own[i] <= parameters_.length && (i == 0 || own[i - 1] != own[i])) moves.push_back({own[i]});
    }
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const {
        for (std::size_t side = 0; side < sides_; ++side)
            if (position.cells[side][0] > parameters_.length) return won_[side];
        return std::nullopt;
    }

    bool chance_is_next(const Position& position) const { return position.roll == 0; }
    void generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const;

    /// Cells that the player's boats have come, times the number of rivals, less those of all rivals.
    arvek::Score evaluate(const Position& position, arvek::Player player) const;

    /// Measured against the exact values of the default game.
    double units_per_doubling() const { return 6 * (parameters_.players - 1); }

    std::uint64_t hash(const Position& position) const;

    /// Sends rivals back, then goes home, then lands on a mooring.
    int preference(const Position& position, const Move& move) const;

    std::span<const arvek::Quantity<Downstream>> quantities() const;
    std::span<const arvek::Suggester<Downstream>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// The stream with the boats of each side in a line of its own.
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    bool is_mooring(int cell) const { return parameters_.mooring > 0 && cell % parameters_.mooring == 0; }
    int home() const { return parameters_.length + 1; }
    int landing(const Position& position, const Move& move) const;
    int boats_on(const Position& position, std::size_t side, int cell) const;
    int cells_come(const Position& position, std::size_t side) const;
    int sent_back(const Position& position, const Move& move) const;
    /// Boats of rivals that one roll could bring to the cell, which is not safe.
    int chasers(const Position& position, int cell) const;

    Parameters parameters_;
    std::size_t sides_, boats_;
    std::array<std::optional<arvek::Outcome>, arvek::max_players> won_{};
};

}  // namespace waterway
