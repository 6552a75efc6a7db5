// What rules and suggestions may ask about Downstream.

#include <algorithm>

#include "downstream/downstream.hpp"
#include "each_move.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Downstream;
using Position = Downstream::Position;
using Move = Downstream::Move;
using Proposals = arvek::Proposals<Move>;

}  // namespace

int Downstream::landing(const Position& position, const Move& move) const {
    return std::min(move.number + position.roll, home());
}

int Downstream::boats_on(const Position& position, std::size_t side, int cell) const {
    const auto& cells = position.cells[side];
    return static_cast<int>(std::count(cells.begin(), cells.begin() + static_cast<std::ptrdiff_t>(boats_), cell));
}

int Downstream::cells_come(const Position& position, std::size_t side) const {
    int come = 0;
    for (std::size_t boat = 0; boat < boats_; ++boat) come += position.cells[side][boat];
    return come;
}

int Downstream::sent_back(const Position& position, const Move& move) const {
    const int cell = landing(position, move);
    if (cell == home() || is_mooring(cell)) return 0;
    int boats = 0;
    for (std::size_t side = 0; side < sides_; ++side)
        if (side != position.to_move) boats += boats_on(position, side, cell);
    return boats;
}

int Downstream::chasers(const Position& position, int cell) const {
    if (cell == 0 || cell == home() || is_mooring(cell)) return 0;
    int boats = 0;
    for (std::size_t side = 0; side < sides_; ++side)
        for (int back = 1; side != position.to_move && back <= std::min(parameters_.die, cell); ++back)
            boats += boats_on(position, side, cell - back);
    return boats;
}

std::span<const arvek::Quantity<Downstream>> Downstream::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"roll", "cells", "that were rolled", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.roll); }, 0, 6},
        {"own home", "boats", "of the side to move that are home", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.boats_on(now, now.to_move, game.home()));
         },
         0, most_boats},
        {"rival home", "boats", "that are home, of the rival that has most", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             int most = 0;
             for (std::size_t side = 0; side < game.sides_; ++side)
                 if (side != now.to_move) most = std::max(most, game.boats_on(now, side, game.home()));
             return static_cast<double>(most);
         },
         0, most_boats},
        {"lead", "cells", "that the own boats have come more than those of the best rival", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             int best = 0;
             for (std::size_t side = 0; side < game.sides_; ++side)
                 if (side != now.to_move) best = std::max(best, game.cells_come(now, side));
             return static_cast<double>(game.cells_come(now, now.to_move) - best);
         },
         -124, 124},
        {"from", "cells", "from the bank to where the boat lies", QuantityOf::Action,
         [](const Game&, const Position&, const Move& move) { return static_cast<double>(move.number); }, 0, 30},
        {"gets home", "0 or 1", "whether the boat gets home", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return game.landing(now, move) == game.home() ? 1.0 : 0.0;
         },
         0, 1},
        {"moors", "0 or 1", "whether the boat lands on a mooring", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             const int cell = game.landing(now, move);
             return cell != game.home() && game.is_mooring(cell) ? 1.0 : 0.0;
         },
         0, 1},
        {"sends back", "boats", "of rivals that go back to the bank", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.sent_back(now, move));
         },
         0, most_boats},
        {"chased from", "boats", "of rivals that one roll could bring to where the boat lies", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.chasers(now, move.number));
         },
         0, 3 * most_boats},
        {"chased to", "boats", "of rivals that one roll could bring to where the boat lands", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.chasers(now, game.landing(now, move)));
         },
         0, 3 * most_boats},
    };
    return all;
}

std::span<const arvek::Suggester<Downstream>> Downstream::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"home", "brings a boat home",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (game.landing(now, move) == game.home()) proposals.add(move, 6.0, "gets home");
             });
         }},
        {"send back", "sends rivals back to the bank",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const int boats = game.sent_back(now, move);
                 const int cell = game.landing(now, move);
                 if (boats > 0)
                     proposals.add(move, boats * cell,
                                   "sends " + std::to_string(boats) + " back from cell " + std::to_string(cell));
             });
         }},
        {"moor", "lands on a mooring",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const int cell = game.landing(now, move);
                 if (cell != game.home() && game.is_mooring(cell)) proposals.add(move, 3.0, "is safe on a mooring");
             });
         }},
        {"flee", "leaves a cell that rivals can reach",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const int fewer = game.chasers(now, move.number) - game.chasers(now, game.landing(now, move));
                 if (fewer > 0) proposals.add(move, fewer * move.number / 4.0, "gets out of reach");
             });
         }},
        {"hurry", "moves the boat that is farthest on",
         [](const Game& game, const Position& now, Proposals& proposals) {
             int farthest = 0;
             each_move(game, now, [&](const Move& move) { farthest = std::max<int>(farthest, move.number); });
             each_move(game, now, [&](const Move& move) {
                 if (move.number == farthest) proposals.add(move, 1.0, "is the farthest on");
             });
         }},
        {"gather", "moves the boat that is farthest behind",
         [](const Game& game, const Position& now, Proposals& proposals) {
             int last = game.home();
             each_move(game, now, [&](const Move& move) { last = std::min<int>(last, move.number); });
             each_move(game, now, [&](const Move& move) {
                 if (move.number == last) proposals.add(move, 1.0, "is the farthest behind");
             });
         }},
    };
    return all;
}

}  // namespace waterway
