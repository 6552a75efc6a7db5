// What rules and suggestions may ask about Wager: what the side to move sees, and nothing else.

#include <algorithm>

#include "each_move.hpp"
#include "wager/wager.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Wager;
using Position = Wager::Position;
using Move = Wager::Move;
using Deed = Wager::Deed;
using Proposals = arvek::Proposals<Move>;

bool dares(const Move& move) { return move.deed == Deed::Bet || move.deed == Deed::Call; }

}  // namespace

int Wager::own_card(const Position& position) const { return position.cards[count(position) % 2]; }

std::span<const arvek::Quantity<Wager>> Wager::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"own card", "", "of the side to move", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) { return static_cast<double>(game.own_card(now)); }, 0,
         255},
        {"chance of the higher card", "0 to 1", "as far as the own card tells", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.own_card(now) - 1) / (game.parameters_.cards - 1);
         },
         0, 1},
        {"faces a bet", "0 or 1", "whether the rival has bet", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) {
             const std::size_t done = count(now);
             return done > 0 && now.done[done - 1] == Deed::Bet ? 1.0 : 0.0;
         },
         0, 1},
        {"dares", "0 or 1", "whether the move puts in another 1", QuantityOf::Action,
         [](const Game&, const Position&, const Move& move) { return dares(move) ? 1.0 : 0.0; }, 0, 1},
    };
    return all;
}

std::span<const arvek::Suggester<Wager>> Wager::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"trust the card", "bets and calls with what is probably the higher card",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const double chance = static_cast<double>(game.own_card(now) - 1) / (game.parameters_.cards - 1);
             each_move(game, now, [&](const Move& move) {
                 if (dares(move) && chance > 0)
                     proposals.add(move, 2.0 * chance, "it holds card " + std::to_string(game.own_card(now)));
             });
         }},
        {"keep out", "folds and checks",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (!dares(move)) proposals.add(move, 1.0, "puts in no more");
             });
         }},
        {"bluff", "bets with the lowest card",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (move.deed == Deed::Bet && game.own_card(now) == 1) proposals.add(move, 1.5, "looks like more");
             });
         }},
    };
    return all;
}

}  // namespace waterway
