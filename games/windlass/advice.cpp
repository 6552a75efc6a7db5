// What rules and suggestions may ask about Windlass.

#include <algorithm>
#include <bit>

#include "each_move.hpp"
#include "ternary.hpp"
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

std::vector<arvek::Pattern> Windlass::patterns() const {
    const int in_a_row = std::min(5, parameters_.posts);
    std::vector<arvek::Pattern> patterns;
    for (int post = 1; post <= parameters_.posts; ++post)
        patterns.push_back({"hub and posts from " + std::to_string(post), ways_of_places(in_a_row + 1),
                            places_to_the_rival(in_a_row + 1)});
    for (int post = 1; post <= half_; ++post)
        patterns.push_back({"hub and across from " + std::to_string(post), ways_of_places(3), places_to_the_rival(3)});
    const int hands = parameters_.pegs + 1;
    arvek::Pattern in_hand{"pegs in hand", hands * hands};
    for (int way = 0; way < hands * hands; ++way)
        in_hand.rival_ways.push_back(static_cast<std::uint16_t>(way % hands * hands + way / hands));
    patterns.push_back(std::move(in_hand));
    return patterns;
}

void Windlass::read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const {
    const bool moves = player == position.to_move();
    const Places own = moves ? position.own() : position.others(), others = moves ? position.others() : position.own();
    std::array<unsigned, 16> held{};
    for (std::size_t i = 0; i <= static_cast<std::size_t>(parameters_.posts); ++i)
        held[i] = (own >> i & 1) + 2 * (others >> i & 1);
    const auto posts = static_cast<std::size_t>(parameters_.posts), in_a_row = std::min<std::size_t>(5, posts);
    const unsigned hub = held[posts];
    std::size_t pattern = 0;
    for (std::size_t post = 0; post < posts; ++post) {
        unsigned way = hub;
        for (std::size_t i = 0, at = post; i < in_a_row; ++i, at = at + 1 == posts ? 0 : at + 1)
            way = 3 * way + held[at];
        ways[pattern++] = static_cast<std::uint16_t>(way);
    }
    for (std::size_t post = 0; post < static_cast<std::size_t>(half_); ++post)
        ways[pattern++] =
            static_cast<std::uint16_t>(9 * hub + 3 * held[post] + held[post + static_cast<std::size_t>(half_)]);
    const int own_hand = moves ? position.own_hand() : position.others_hand();
    const int others_hand = moves ? position.others_hand() : position.own_hand();
    ways[pattern] = static_cast<std::uint16_t>(own_hand * (parameters_.pegs + 1) + others_hand);
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
