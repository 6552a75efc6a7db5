// What rules and suggestions may ask about Stowage.

#include <algorithm>
#include <cstdlib>

#include "each_move.hpp"
#include "stowage/stowage.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Stowage;
using Position = Stowage::Position;
using Move = Stowage::Move;
using Proposals = arvek::Proposals<Move>;

}  // namespace

int Stowage::hoists(const Position& position, const Move& move) const {
    int hoisted = 0;
    for (const Placing& placing : placings_[move.kind])
        if (placing.cell == move.cell) (void)stow(position.filled, placing.cells, hoisted);
    return hoisted;
}

int Stowage::edges(Cells filled) const {
    int rough = 0;
    for (int column = 0; column < parameters_.columns; ++column) {
        const Cells cells = filled >> (column * parameters_.rows) & column_mask_;
        rough += count((cells ^ (cells >> 1)) & (column_mask_ >> 1));
        if (column > 0) rough += count(cells ^ (filled >> ((column - 1) * parameters_.rows) & column_mask_));
    }
    return rough;
}

int Stowage::fullest_column(Cells filled) const {
    int most = 0;
    for (int column = 0; column < parameters_.columns; ++column)
        most = std::max(most, count(filled & column_cells(column)));
    return most;
}

std::span<const arvek::Quantity<Stowage>> Stowage::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"score", "points", "so far", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.score); }, 0},
        {"lots left", "lots", "that are not wholly stowed", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.parameters_.lots - now.stowed);
         },
         0, 200},
        {"filled", "0 to 1", "share of the hold that is filled", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(count(now.filled)) / (game.parameters_.rows * game.parameters_.columns);
         },
         0, 1},
        {"fullest column", "cells", "that are filled in it", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.fullest_column(now.filled));
         },
         0, 9},
        {"crate", "cells", "of the crate", QuantityOf::Action,
         [](const Game& game, const Position&, const Move& move) {
             return static_cast<double>(count(game.placings_[move.kind].front().cells));
         },
         2, 4},
        {"hoists", "columns", "that are hoisted out", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.hoists(now, move));
         },
         0, 4},
        {"edges after", "edges", "between filled and free cells, where little fits", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.edges(after(game, now, move).filled));
         },
         0, 180},
        {"tilt after", "cells", "by which one half is fuller than the other", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(std::abs(game.tilt_of(after(game, now, move).filled)));
         },
         0, 50},
        {"fullest after", "cells", "that are filled in the fullest column", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.fullest_column(after(game, now, move).filled));
         },
         0, 9},
    };
    return all;
}

std::span<const arvek::Suggester<Stowage>> Stowage::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"hoist", "fills a column, better several",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (const int columns = game.hoists(now, move); columns > 0)
                     proposals.add(move, 10.0 * columns * columns, "hoists " + std::to_string(columns));
             });
         }},
        {"fit", "leaves few edges where little fits",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const int before = game.edges(now.filled);
             each_move(game, now, [&](const Move& move) {
                 const int more = game.edges(after(game, now, move).filled) - before;
                 if (more <= 4) proposals.add(move, 5.0 - more, std::to_string(more) + " edges more");
             });
         }},
        {"fill", "makes a column nearly full",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const int before = game.fullest_column(now.filled);
             each_move(game, now, [&](const Move& move) {
                 const int most = game.fullest_column(after(game, now, move).filled);
                 if (most > before) proposals.add(move, most, std::to_string(most) + " in a column");
             });
         }},
        {"level", "brings the halves level",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const int before = std::abs(game.tilt_of(now.filled));
             each_move(game, now, [&](const Move& move) {
                 const int less = before - std::abs(game.tilt_of(after(game, now, move).filled));
                 if (less > 0) proposals.add(move, less, "the halves are nearer to level");
             });
         }},
    };
    return all;
}

}  // namespace waterway
