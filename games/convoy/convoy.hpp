#pragma once
// Convoy: sending boats from a purse as time ticks. One of the Basin Games of the Lowmere Waterway.
//
// Two wharves face each other over `lanes` of `length` cells. Each tick first Teal, then Amber, either waits or sends
// one boat into the first cell of a lane where that cell is free, and pays for it: Skiff (cost 2, strength 1, speed 2),
// Barge (4, 3, 1) or Tug (6, 5, 1, and its first meeting costs it nothing). The same side may not send into the same
// lane twice within three ticks. Both purses begin at 3, have 1 more each tick, and hold 12 at most.
//
// Then all boats advance cell by cell, Skiffs a second time; a boat waits behind one of its own. Two rivals that would
// stand in one cell or pass each other meet: each takes the other's strength off, and one that is left alone goes on
// into the cell. A boat that reaches the far end takes its strength from that wharf's wall, which is 12. A wall at 0
// loses, both at once draw; after 200 ticks the higher wall wins.
//
// Moves: "wait", or kind and lane, "skiff-3".
// Positions: the lanes from the first, '/' between, each from Teal's end: '.', S B T Teal's and s b t Amber's boats
// with
// "!" for a Tug that has met a rival and the strength if it is not whole; the player to move; the ticks so far; then
// for Teal and Amber the walls, the purses, and how many ticks each lane is still closed to them: "S...../..T!2.. T 7
// 12:10 3:4 02:00".

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include <arvek/game/acting.hpp>
#include <arvek/game/board.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

namespace waterway {

class Convoy {
   public:
    static constexpr std::size_t most_lanes = 8, most_length = 20;
    static constexpr int whole_wall = 12, fullest_purse = 12, first_purse = 3, income = 1, lane_closed_ticks = 3;
    static constexpr int last_tick = 200;

    struct Parameters {
        int lanes = 4;
        int length = 10;
    };

    enum class Kind : std::uint8_t { Skiff, Barge, Tug };

    struct Boat {
        std::uint8_t strength = 0;  ///< left; 0: there is no boat
        Kind kind = Kind::Skiff;
        std::uint8_t side = 0;  ///< 0 Teal, 1 Amber
        bool fresh = false;     ///< a Tug that has met no rival

        bool there() const { return strength > 0; }

        friend bool operator==(const Boat&, const Boat&) = default;
    };

    using Lane = std::array<Boat, most_length>;  ///< from Teal's end

    struct Position {
        std::array<Lane, most_lanes> lanes{};
        std::array<std::array<std::uint8_t, most_lanes>, 2> closed{};  ///< ticks, by side and lane
        std::array<std::int8_t, 2> walls{whole_wall, whole_wall};
        std::array<std::int8_t, 2> purses{first_purse, first_purse};
        std::uint8_t tick = 0;
        arvek::Player to_move = arvek::Player::First;

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        static constexpr std::uint8_t waiting = 255;

        std::uint8_t lane = waiting;
        Kind kind = Kind::Skiff;

        bool waits() const { return lane == waiting; }

        friend bool operator==(const Move&, const Move&) = default;
    };

    arvek::Payoff most_payoff() const { return 1; }

    /// Throws arvek::InputError for parameters out of range.
    explicit Convoy(const Parameters& parameters);
    Convoy() : Convoy(Parameters{}) {}

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& position) const { return position.to_move; }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const;

    /// The walls, what the boats on the way would take from them if nobody sent another, and the purses.
    arvek::Score evaluate(const Position& position, arvek::Player player) const;
    std::uint64_t hash(const Position& position) const;
    /// Saves for a Tug and sends it where least of its own side is; till then answers a lane only against more than a
    /// Skiff.
    int preference(const Position& position, const Move& move) const;

    // What rules, suggestions and features may ask: see advice.cpp for each of them.
    arvek::ActNames act_names() const;
    arvek::Act act(const Position& position, const Move& move) const;
    /// Waiting stands out, and so does a lane in which something comes near.
    double salience(const Position& position, const Move& move) const;
    std::span<const arvek::Quantity<Convoy>> quantities() const;
    std::span<const arvek::Suggester<Convoy>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// The lanes with Teal's wharf at the left; a boat is the side's letter, the kind and the strength left: "TB3".
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }
    static int cost(Kind kind) { return 2 + 2 * static_cast<int>(kind); }
    static int whole_strength(Kind kind) { return 1 + 2 * static_cast<int>(kind); }
    /// "skiff", "barge" or "tug".
    static const char* kind_name(Kind kind);
    /// What the boats of the lane would take from Amber's wall, less what they would take from Teal's.
    int on_the_way(const Lane& lane) const;

   private:
    std::size_t lanes() const { return static_cast<std::size_t>(parameters_.lanes); }
    std::size_t length() const { return static_cast<std::size_t>(parameters_.length); }
    /// One cell further for every boat that moves in this step of a tick: all of them in the first, Skiffs in the
    /// second.
    void advance(Lane& lane, std::array<std::int8_t, 2>& walls, int step) const;
    void end_tick(Position& position) const;

    Parameters parameters_;
};

}  // namespace waterway
