// What rules and suggestions may ask about Lanterns for three and four.

#include <algorithm>
#include <bit>

#include "each_move.hpp"
#include "lanterns/many_lanterns.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = ManyLanterns;
using Position = ManyLanterns::Position;
using Move = ManyLanterns::Move;
using Hooks = ManyLanterns::Hooks;
using Proposals = arvek::Proposals<Move>;

Hooks hook(const Move& move) { return Hooks{1} << move.hook; }

}  // namespace

int ManyLanterns::longest_open_line(Hooks own, Hooks others) const {
    int longest = 0;
    for (const Hooks line : lines_)
        if ((line & others) == 0) longest = std::max(longest, std::popcount(line & own));
    return longest;
}

int ManyLanterns::threats_of(Hooks own, Hooks taken) const {
    Hooks threats = 0;
    for (const Hooks line : lines_) {
        const Hooks lacking = line & ~own;
        if (!std::has_single_bit(lacking) || (lacking & taken) != 0) continue;
        const int at = std::countr_zero(lacking);
        if (!parameters_.drop || at % parameters_.rows == 0 || (taken >> (at - 1) & 1) != 0) threats |= lacking;
    }
    return std::popcount(threats);
}

int ManyLanterns::rival_threats(const Position& position, Hooks taken) const {
    int threats = 0;
    for (std::size_t side = 0; side < sides_; ++side)
        if (side != position.to_move) threats += threats_of(position.lanterns[side], taken);
    return threats;
}

std::span<const arvek::Quantity<ManyLanterns>> ManyLanterns::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"lanterns so far", "lanterns", "of all sides", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(std::popcount(now.taken())); },
         0, 64},
        {"rival threats", "hooks", "where a rival could finish a line, of all rivals together", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.rival_threats(now, now.taken()));
         },
         0, 192},
        {"next rival threats", "hooks", "where the side that is next could finish a line", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.threats_of(now.lanterns[(now.to_move + 1) % game.sides_], now.taken()));
         },
         0, 64},
        {"own line", "lanterns", "in the longest own line that is still open, with this lantern", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             const Hooks own = now.lanterns[now.to_move];
             return static_cast<double>(game.longest_open_line(own | hook(move), now.taken() & ~own));
         },
         0, 8},
        {"threats made", "hooks", "where the next own lantern would finish a line", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(
                 game.threats_of(now.lanterns[now.to_move] | hook(move), now.taken() | hook(move)));
         },
         0, 64},
        {"threats left", "hooks", "where rivals could finish a line behind this lantern", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.rival_threats(now, now.taken() | hook(move)));
         },
         0, 192},
        {"from the middle", "hooks", "steps from the middle of the frame", QuantityOf::Action,
         [](const Game& game, const Position&, const Move& move) { return game.two_.steps_from_middle(move); }, 0, 6},
    };
    return all;
}

std::span<const arvek::Suggester<ManyLanterns>> ManyLanterns::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"finish", "finishes a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (game.has_line(now.lanterns[now.to_move] | hook(move)))
                     proposals.add(move, 100.0, "finishes a line");
             });
         }},
        {"stop", "takes a hook where a rival would finish a line, the next one's first",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 for (std::size_t ahead = 1; ahead < game.sides_; ++ahead)
                     if (game.has_line(now.lanterns[(now.to_move + ahead) % game.sides_] | hook(move))) {
                         proposals.add(move, ahead == 1 ? 50.0 : 12.0,
                                       ahead == 1 ? "stops who is next" : "stops a line");
                         return;
                     }
             });
         }},
        {"threaten", "threatens to finish a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const int threats = game.threats_of(now.lanterns[now.to_move] | hook(move), now.taken() | hook(move));
                 if (threats > 0)
                     proposals.add(move, threats > 1 ? 20.0 : 5.0,
                                   threats > 1 ? "threatens twice" : "threatens a line");
             });
         }},
        {"extend", "adds to an open line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const Hooks own = now.lanterns[now.to_move], others = now.taken() & ~own;
             const int before = game.longest_open_line(own, others);
             each_move(game, now, [&](const Move& move) {
                 const int longest = game.longest_open_line(own | hook(move), others);
                 if (longest > before)
                     proposals.add(move, longest,
                                   "makes " + std::to_string(longest) + " of " + std::to_string(game.parameters_.line) +
                                       " in an open line");
             });
         }},
        {"middle", "hangs near the middle",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const double steps = game.two_.steps_from_middle(move);
                 if (steps < 1.5) proposals.add(move, 1.0 - steps / 2.0, "near the middle");
             });
         }},
    };
    return all;
}

}  // namespace waterway
