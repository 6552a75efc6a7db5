// What rules and suggestions may ask about Lanterns.

#include <algorithm>
#include <bit>
#include <cstdlib>

#include "each_move.hpp"
#include "lanterns/lanterns.hpp"
#include "ternary.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Lanterns;
using Position = Lanterns::Position;
using Move = Lanterns::Move;
using Proposals = arvek::Proposals<Move>;

Lanterns::Hooks with(const Position& position, const Move& move) {
    return position.own | Lanterns::Hooks{1} << move.hook;
}

}  // namespace

int Lanterns::longest_open_line(Hooks own, Hooks others) const {
    int longest = 0;
    for (const Direction& direction : directions_)
        for (Hooks starts = direction.starts; starts != 0; starts &= starts - 1) {
            int count = 0;
            bool open = true;
            for (int i = 0, hook = std::countr_zero(starts); i < parameters_.line; ++i, hook += direction.step) {
                count += static_cast<int>(own >> hook & 1);
                open = open && (others >> hook & 1) == 0;
            }
            if (open) longest = std::max(longest, count);
        }
    return longest;
}

double Lanterns::steps_from_middle(const Move& move) const {
    const int column = move.hook / parameters_.rows, row = move.hook % parameters_.rows;
    const int across = std::abs(2 * column + 1 - parameters_.columns);
    const int up = parameters_.drop ? 0 : std::abs(2 * row + 1 - parameters_.rows);
    return std::max(across, up) / 2.0;
}

int Lanterns::threats_of(Hooks own, Hooks taken) const {
    return std::popcount(finishing_hooks(own, taken) & reachable_hooks(taken));
}

std::vector<arvek::Pattern> Lanterns::patterns() const {
    std::vector<arvek::Pattern> patterns;
    const auto name_of = [&](int hook) {
        return std::string(1, static_cast<char>('a' + hook / parameters_.rows)) +
               std::to_string(hook % parameters_.rows + 1);
    };
    // Free, within reach of the next lantern or not; own; the rival's.
    for (int hook = 0; hook < hook_count_; ++hook) patterns.push_back({"hook " + name_of(hook), 4, {0, 2, 1, 3}});
    for (const auto& line : lines_)
        patterns.push_back(
            {"line " + name_of(line[0]) + " to " + name_of(line[static_cast<std::size_t>(parameters_.line) - 1]),
             ways_of_places(parameters_.line), places_to_the_rival(parameters_.line)});
    return patterns;
}

void Lanterns::read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const {
    const Hooks own = position.lanterns_of(player), others = position.lanterns_of(arvek::rival_of(player));
    const Hooks reachable = reachable_hooks(position.taken());
    // Behind the last hook there is room for what a line beyond it would read.
    std::array<std::uint8_t, 64 + 8 * 13> held{};
    for (int i = 0; i < hook_count_; ++i) {
        const auto hook = static_cast<std::size_t>(i);
        held[hook] = static_cast<std::uint8_t>((own >> i & 1) + 2 * (others >> i & 1));
        ways[hook] = static_cast<std::uint16_t>(held[hook] + 3 * (reachable >> i & 1));
    }
    std::uint16_t* way = ways.data() + hook_count_;
    const auto length = static_cast<std::size_t>(parameters_.line);
    if (length != 4) {
        for (const auto& line : lines_) {
            unsigned sum = 0;
            for (std::size_t i = 0; i < length; ++i) sum = 3 * sum + held[line[i]];
            *way++ = static_cast<std::uint16_t>(sum);
        }
        return;
    }
    // All lines of a direction at once, also those that do not fit and are left out afterwards.
    std::array<std::uint8_t, 64> sums;
    std::size_t line = 0;
    for (const Direction& direction : directions_) {
        if (direction.starts == 0) continue;
        const std::uint8_t* at = held.data();
        const int step = direction.step;
        for (std::size_t i = 0; i < sums.size(); ++i)
            sums[i] = static_cast<std::uint8_t>(27 * at[i] + 9 * at[i + static_cast<std::size_t>(step)] +
                                                3 * at[i + static_cast<std::size_t>(2 * step)] +
                                                at[i + static_cast<std::size_t>(3 * step)]);
        const std::size_t count = static_cast<std::size_t>(std::popcount(direction.starts));
        for (std::size_t i = 0; i < count; ++i, ++line) way[line] = sums[lines_[line][0]];
    }
}

std::span<const arvek::Quantity<Lanterns>> Lanterns::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"lanterns so far", "lanterns", "of both sides", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(std::popcount(now.taken())); },
         0, 64},
        {"rival threats", "hooks", "where the rival could finish a line at once", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.threats_of(now.others, now.taken()));
         },
         0, 64},
        {"own line", "lanterns", "in the longest own line that is still open, with this lantern", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.longest_open_line(with(now, move), now.others));
         },
         0, 8},
        {"rival line", "lanterns", "in the rival's longest line that stays open behind this lantern",
         QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.longest_open_line(now.others, with(now, move)));
         },
         0, 8},
        {"threats made", "hooks", "where the next own lantern would finish a line", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             const Hooks own = with(now, move);
             return static_cast<double>(game.threats_of(own, own | now.others));
         },
         0, 64},
        {"threats left", "hooks", "where the rival could finish a line next", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.threats_of(now.others, now.taken() | Hooks{1} << move.hook));
         },
         0, 64},
        {"from the middle", "hooks", "steps from the middle of the frame", QuantityOf::Action,
         [](const Game& game, const Position&, const Move& move) { return game.steps_from_middle(move); }, 0, 6},
    };
    return all;
}

std::span<const arvek::Suggester<Lanterns>> Lanterns::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"finish", "finishes a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (game.has_line(with(now, move))) proposals.add(move, 100.0, "finishes a line");
             });
         }},
        {"stop", "takes the hook where the rival would finish a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (game.has_line(now.others | Hooks{1} << move.hook)) proposals.add(move, 50.0, "stops a line");
             });
         }},
        {"threaten", "threatens to finish a line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const Hooks own = with(now, move);
                 const int threats = game.threats_of(own, own | now.others);
                 if (threats > 0)
                     proposals.add(move, threats > 1 ? 20.0 : 5.0,
                                   threats > 1 ? "threatens twice" : "threatens a line");
             });
         }},
        {"extend", "adds to an open line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const int before = game.longest_open_line(now.own, now.others);
             each_move(game, now, [&](const Move& move) {
                 const int after = game.longest_open_line(with(now, move), now.others);
                 if (after > before)
                     proposals.add(move, after,
                                   "makes " + std::to_string(after) + " of " + std::to_string(game.parameters_.line) +
                                       " in an open line");
             });
         }},
        {"cross", "crosses the rival's longest line",
         [](const Game& game, const Position& now, Proposals& proposals) {
             const int before = game.longest_open_line(now.others, now.own);
             each_move(game, now, [&](const Move& move) {
                 const int after = game.longest_open_line(now.others, with(now, move));
                 if (after < before) proposals.add(move, 1.5 * before, "crosses a line of " + std::to_string(before));
             });
         }},
        {"middle", "hangs near the middle",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const double steps = game.steps_from_middle(move);
                 if (steps < 1.5) proposals.add(move, 1.0 - steps / 2.0, "near the middle");
             });
         }},
    };
    return all;
}

}  // namespace waterway
