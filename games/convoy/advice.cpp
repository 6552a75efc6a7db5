// What rules, suggestions and features may ask about Convoy.

#include <algorithm>

#include "convoy/convoy.hpp"

namespace waterway {

using Game = Convoy;
using Position = Convoy::Position;
using Move = Convoy::Move;
using arvek::QuantityOf;

namespace {

std::size_t side_to_move(const Position& position) { return static_cast<std::size_t>(position.to_move); }

/// The strength of a side's boats in the lane of the move; 0 for waiting.
int strength_in_lane(const Position& position, const Move& move, std::size_t side) {
    if (move.waits()) return 0;
    int sum = 0;
    for (const auto& boat : position.lanes[move.lane])
        if (boat.there() && boat.side == side) sum += boat.strength;
    return sum;
}

/// What the lane would take from the rival's wall, less from the own, if nobody sent another boat.
int balance_of_lane(const Game& game, const Position& position, const Move& move) {
    if (move.waits()) return 0;
    const int balance = game.on_the_way(position.lanes[move.lane]);
    return side_to_move(position) == 0 ? balance : -balance;
}

/// The same once the move's boat is in the lane.
int balance_after(const Game& game, const Position& position, const Move& move) {
    Position after = position;
    auto& lane = after.lanes[move.lane];
    const std::size_t side = side_to_move(position);
    const auto cell = side == 0 ? 0 : static_cast<std::size_t>(game.parameters().length - 1);
    lane[cell] = {static_cast<std::uint8_t>(Convoy::whole_strength(move.kind)), move.kind,
                  static_cast<std::uint8_t>(side), move.kind == Convoy::Kind::Tug};
    return balance_of_lane(game, after, move);
}

/// Cells from the nearest rival's boat in the move's lane to the own wharf; the whole length where there is none.
int rival_distance(const Game& game, const Position& position, const Move& move) {
    const int length = game.parameters().length;
    if (move.waits()) return length;
    const std::size_t side = side_to_move(position);
    for (int steps = 0; steps < length; ++steps) {
        const auto cell = static_cast<std::size_t>(side == 0 ? steps : length - 1 - steps);
        const auto& boat = position.lanes[move.lane][cell];
        if (boat.there() && boat.side != side) return steps;
    }
    return length;
}

const arvek::Quantity<Game> all_quantities[] = {
    {"tick", "ticks", "so far; after 200 the higher wall wins", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.tick); }},
    {"own purse", "coins", "of the side to move", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.purses[side_to_move(now)]); }},
    {"rival purse", "coins", "of the other side", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) {
         return static_cast<double>(now.purses[1 - side_to_move(now)]);
     }},
    {"purse room", "coins", "that still go into the own purse, which holds 12", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) {
         return static_cast<double>(Convoy::fullest_purse - now.purses[side_to_move(now)]);
     },
     0, 12},
    {"own wall", "points", "left of 12", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.walls[side_to_move(now)]); }},
    {"rival wall", "points", "left of 12", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) {
         return static_cast<double>(now.walls[1 - side_to_move(now)]);
     }},
    {"cost", "coins", "of the boat; 0 for waiting", QuantityOf::Action,
     [](const Game&, const Position&, const Move& move) {
         return move.waits() ? 0.0 : static_cast<double>(Convoy::cost(move.kind));
     }},
    {"strength", "points", "of the boat; 0 for waiting", QuantityOf::Action,
     [](const Game&, const Position&, const Move& move) {
         return move.waits() ? 0.0 : static_cast<double>(Convoy::whole_strength(move.kind));
     }},
    {"rivals in lane", "points", "strength of the rival's boats in the lane", QuantityOf::Target,
     [](const Game&, const Position& now, const Move& move) {
         return static_cast<double>(strength_in_lane(now, move, 1 - side_to_move(now)));
     }},
    {"own in lane", "points", "strength of the own boats in the lane", QuantityOf::Target,
     [](const Game&, const Position& now, const Move& move) {
         return static_cast<double>(strength_in_lane(now, move, side_to_move(now)));
     }},
    {"lane balance", "points", "what the lane would take from the rival's wall, less from the own", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(balance_of_lane(game, now, move));
     }},
    {"rival distance", "cells", "from the nearest rival's boat in the lane to the own wharf", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(rival_distance(game, now, move));
     }},
};

using Proposals = arvek::Proposals<Move>;

template <class Each>
void each_boat(const Game& game, const Position& now, Each each) {
    arvek::MoveList<Move> moves;
    game.generate_moves(now, moves);
    for (const Move& move : moves)
        if (!move.waits()) each(move);
}

std::string lane_text(const Move& move) { return "lane " + std::to_string(move.lane + 1); }

const arvek::Suggester<Game> all_suggesters[] = {
    {"stop", "keeps a rival's boats from the own wall",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_boat(game, now, [&](const Move& move) {
             const int before = std::min(0, balance_of_lane(game, now, move));
             if (before == 0) return;
             const int saved = std::min(0, balance_after(game, now, move)) - before;
             const double urgency = 3.0 * saved - Convoy::cost(move.kind);
             if (saved > 0 && urgency > 0) proposals.add(move, urgency, "stops what comes in " + lane_text(move));
         });
     }},
    {"raid", "sends a boat that would reach the rival's wall",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_boat(game, now, [&](const Move& move) {
             const int won =
                 std::max(0, balance_after(game, now, move)) - std::max(0, balance_of_lane(game, now, move));
             const double urgency = 1.6 * won - 0.8 * Convoy::cost(move.kind);
             if (won > 0 && urgency > 0) proposals.add(move, urgency, lane_text(move) + " is open");
         });
     }},
    {"save", "waits for a fuller purse",
     [](const Game&, const Position& now, Proposals& proposals) {
         const int purse = now.purses[side_to_move(now)];
         if (purse < Convoy::fullest_purse)
             proposals.add(Move{}, 0.15 * (Convoy::fullest_purse - purse), "the purse fills");
     }},
};

}  // namespace

arvek::ActNames Convoy::act_names() const { return {{"the wharf"}, {"wait", "skiff", "barge", "tug"}, {"send"}}; }

arvek::Act Convoy::act(const Position&, const Move& move) const {
    if (move.waits()) return {0, 0, 0};
    return {0, static_cast<std::uint16_t>(1 + static_cast<int>(move.kind)), 1};
}

double Convoy::salience(const Position& position, const Move& move) const {
    constexpr int near = 5;
    if (move.waits()) return 0.75;
    return rival_distance(*this, position, move) <= near ? 0.8 : 0.4;
}

std::span<const arvek::Quantity<Convoy>> Convoy::quantities() const { return all_quantities; }
std::span<const arvek::Suggester<Convoy>> Convoy::suggesters() const { return all_suggesters; }

}  // namespace waterway
