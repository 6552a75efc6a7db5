// What rules and suggestions may ask about Sluice.

#include <algorithm>

#include "each_move.hpp"
#include "sluice/sluice.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Sluice;
using Position = Sluice::Position;
using Move = Sluice::Move;
using Proposals = arvek::Proposals<Move>;

/// By how many stored buckets the player leads.
int lead(const Game& game, const Position& position, arvek::Player player) {
    return static_cast<int>(game.evaluate(position, player).number());
}

/// What the mover gains on the rival with one move.
int gain(const Game& game, const Position& now, const Move& move) {
    Position after = now;
    game.play(after, move);
    return lead(game, after, now.to_move) - lead(game, now, now.to_move);
}

/// The most that the player to move can gain with one move; 0 where the game is over.
int most_gain(const Game& game, const Position& now) {
    if (game.outcome(now)) return 0;
    int most = 0;
    game.visit_moves(now, [&](const Move& move) {
        most = std::max(most, gain(game, now, move));
        return true;
    });
    return most;
}

/// What the rival can gain next, if it is next.
int at_risk(const Game& game, const Position& now, const Move& move) {
    Position after = now;
    game.play(after, move);
    return after.to_move == now.to_move ? 0 : most_gain(game, after);
}

bool moves_again(const Game& game, const Position& now, const Move& move) {
    Position after = now;
    game.play(after, move);
    return after.to_move == now.to_move && !game.outcome(after);
}

}  // namespace

namespace {

/// Buckets in a basin that are told apart, and a lead either way.
constexpr int most_told = 15, most_lead = 24;

}  // namespace

std::vector<arvek::Pattern> Sluice::patterns() const {
    std::vector<arvek::Pattern> patterns;
    constexpr int told = most_told + 1;
    std::vector<std::uint16_t> opposite, behind;
    for (int way = 0; way < told * told; ++way)
        opposite.push_back(static_cast<std::uint16_t>(way % told * told + way / told));
    for (int lead = 0; lead <= 2 * most_lead; ++lead)
        behind.push_back(static_cast<std::uint16_t>(2 * most_lead - lead));
    for (int basin = 1; basin <= basins_; ++basin)
        patterns.push_back(
            {"basin " + std::to_string(basin) + " and the opposite", told * told, opposite, basins_ - basin});
    patterns.push_back({"lead", 2 * most_lead + 1, behind});
    return patterns;
}

void Sluice::read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const {
    const int own = first_basin(player), others = first_basin(arvek::rival_of(player));
    for (int basin = 0; basin < basins_; ++basin) {
        const int here = std::min<int>(position.places[at(own + basin)], most_told);
        const int opposite = std::min<int>(position.places[at(others + basins_ - 1 - basin)], most_told);
        ways[at(basin)] = static_cast<std::uint16_t>(here * (most_told + 1) + opposite);
    }
    const int lead = player == arvek::Player::First ? lead_of_first(position) : -lead_of_first(position);
    ways[at(basins_)] = static_cast<std::uint16_t>(std::clamp(lead, -most_lead, most_lead) + most_lead);
}

std::span<const arvek::Quantity<Sluice>> Sluice::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"lead", "buckets", "that the side to move has stored more than the rival", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(lead(game, now, now.to_move));
         },
         -288, 288},
        {"own water", "buckets", "in the own basins", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.water_of(now, now.to_move));
         },
         0, 288},
        {"rival water", "buckets", "in the rival's basins", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return static_cast<double>(game.water_of(now, arvek::rival_of(now.to_move)));
         },
         0, 288},
        {"poured", "buckets", "in the basin that is poured out", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(now.places[at(game.first_basin(now.to_move) + move.basin)]);
         },
         0, 288},
        {"gained", "buckets", "by which the lead grows at once", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(gain(game, now, move));
         },
         -288, 288},
        {"moves again", "0 or 1", "whether the same side is to move then", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return moves_again(game, now, move) ? 1.0 : 0.0;
         }},
        {"at risk", "buckets", "the most that the rival can gain with the next move", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(at_risk(game, now, move));
         },
         0, 288},
    };
    return all;
}

std::span<const arvek::Suggester<Sluice>> Sluice::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"store", "gains on the rival at once",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const int gained = gain(game, now, move);
                 if (gained > 0) proposals.add(move, gained, "gains " + std::to_string(gained));
             });
         }},
        {"again", "moves again",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (moves_again(game, now, move)) proposals.add(move, 2.0, "moves again");
             });
         }},
        {"save", "leaves the rival less to gain",
         [](const Game& game, const Position& now, Proposals& proposals) {
             int most = 0;
             each_move(game, now, [&](const Move& move) { most = std::max(most, at_risk(game, now, move)); });
             each_move(game, now, [&](const Move& move) {
                 const int risk = at_risk(game, now, move);
                 if (risk < most)
                     proposals.add(move, 0.8 * (most - risk),
                                   "leaves " + std::to_string(risk) + " to gain, not " + std::to_string(most));
             });
         }},
    };
    return all;
}

}  // namespace waterway
