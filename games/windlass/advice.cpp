// What rules and suggestions may ask about Windlass.

#include <algorithm>
#include <bit>

#include "each_move.hpp"
#include "windlass/windlass.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Windlass;
using Position = Windlass::Position;
using Move = Windlass::Move;
using Proposals = arvek::Proposals<Move>;

}  // namespace

int Windlass::gaps_of(Places pegs, Places free) const {
    int count = 0;
    for (Places left = free; left != 0; left &= left - 1) count += has_line(pegs | lowest(left)) ? 1 : 0;
    return count;
}

int Windlass::slides_of(Places pegs, Places free) const {
    int count = 0;
    for (; pegs != 0; pegs &= pegs - 1)
        count += std::popcount(free & neighbours_[static_cast<std::size_t>(std::countr_zero(pegs))]);
    return count;
}

std::span<const arvek::Quantity<Windlass>> Windlass::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"own hand", "pegs", "that the side to move has still to place", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.own_hand()); }, 0, 5},
        {"own slides", "slides", "that the own pegs could make then, were it to move", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             const Position then = after(game, now, move);
             return static_cast<double>(game.slides_of(then.others(), game.free_places(then)));
         },
         0, 60},
        {"rival slides", "slides", "that the rival's pegs can make then", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             const Position then = after(game, now, move);
             return static_cast<double>(game.slides_of(then.own(), game.free_places(then)));
         },
         0, 60},
        {"own gaps", "places", "that would then finish an own line", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             const Position then = after(game, now, move);
             return static_cast<double>(game.gaps_of(then.others(), game.free_places(then)));
         },
         0, 13},
        {"rival gaps", "places", "that would then finish a line of the rival's", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             const Position then = after(game, now, move);
             return static_cast<double>(game.gaps_of(then.own(), game.free_places(then)));
         },
         0, 13},
        {"on the hub", "0 or 1", "whether an own peg stands on the hub then", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return (after(game, now, move).others() & bit(game.parameters_.posts)) != 0 ? 1.0 : 0.0;
         }},
    };
    return all;
}

std::span<const arvek::Suggester<Windlass>> Windlass::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"line", "makes or prepares a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const Position then = after(game, now, move);
                 const int gaps = game.gaps_of(then.others(), game.free_places(then));
                 if (game.has_line(then.others()))
                     proposals.add(move, 100.0, "makes a line");
                 else if (gaps > 0)
                     proposals.add(move, 3.0 * gaps, "leaves " + std::to_string(gaps) + " to make a line");
             });
         }},
        {"block", "keeps the rival from a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const int before = game.gaps_of(now.others(), game.free_places(now));
             each_move(game, now, [&](const Move& move) {
                 const Position then = after(game, now, move);
                 const int left = game.gaps_of(then.own(), game.free_places(then));
                 if (left < before) proposals.add(move, 10.0 * (before - left), "closes a gap of the rival's");
             });
         }},
        {"hub", "takes the hub, or stays there",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if ((after(game, now, move).others() & bit(game.parameters_.posts)) != 0)
                     proposals.add(move, 2.0, "stands on the hub");
             });
         }},
        {"squeeze", "leaves the rival less room",
         [](const Game& game, const Position& now, Proposals& proposals) {
             if (now.others_hand() > 0) return;
             const int before = game.slides_of(now.others(), game.free_places(now));
             each_move(game, now, [&](const Move& move) {
                 const Position then = after(game, now, move);
                 const int left = game.slides_of(then.own(), game.free_places(then));
                 if (left < before) proposals.add(move, before - left, "leaves " + std::to_string(left) + " slides");
             });
         }},
    };
    return all;
}

}  // namespace waterway
