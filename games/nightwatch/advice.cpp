// What rules, suggestions and features may ask about Nightwatch.

#include <algorithm>
#include <cstdlib>

#include "nightwatch/nightwatch.hpp"

namespace waterway {

using Game = Nightwatch;
using Position = Nightwatch::Position;
using Move = Nightwatch::Move;
using Kind = Nightwatch::Kind;
using arvek::QuantityOf;

namespace {

constexpr std::array<double, 4> worth_of_kind{30, 5, 6, 4};
constexpr int far_away = 99;

int side_to_move(const Position& position) { return static_cast<int>(position.to_move); }

int pieces_of(const Position& position, int side) {
    return static_cast<int>(
        std::count_if(position.begin(), position.end(), [&](const auto& piece) { return piece.side == side; }));
}

/// Steps from a cell to the nearest piece of a side; far_away where there is none.
int nearest(const Game& game, const Position& position, Nightwatch::Cell cell, int side) {
    int steps = far_away;
    for (const auto& piece : position)
        if (piece.side == side) steps = std::min(steps, game.distance(cell, piece.cell));
    return steps;
}

int steps_to_warden(const Game& game, const Position& position, Nightwatch::Cell cell) {
    const auto* warden = Nightwatch::warden_of(position, 1 - side_to_move(position));
    return warden == nullptr ? 0 : game.distance(cell, warden->cell);
}

/// Of the piece that moves: how many more hits take it off; 0 for a pass.
int hits_left(const Position& position, const Move& move) {
    const auto* piece = move.passes() ? nullptr : Nightwatch::piece_at(position, move.from);
    return piece == nullptr ? 0 : Nightwatch::hits_to_remove(piece->kind) - piece->hits;
}

const arvek::Quantity<Game> all_quantities[] = {
    {"own pieces", "pieces", "on the map, of the side to move", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) {
         return static_cast<double>(pieces_of(now, side_to_move(now)));
     },
     0, 20},
    {"rival pieces", "pieces", "on the map, of the other side", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) {
         return static_cast<double>(pieces_of(now, 1 - side_to_move(now)));
     },
     0, 20},
    {"quiet moves", "moves", "since a piece was last taken off; 120 are a draw", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.quiet); }, 0, 120},
    {"danger to own warden", "steps", "from the own Warden to the nearest rival", QuantityOf::Position,
     [](const Game& game, const Position& now, const Move&) {
         const auto* warden = Nightwatch::warden_of(now, side_to_move(now));
         return static_cast<double>(warden == nullptr ? 0 : nearest(game, now, warden->cell, 1 - side_to_move(now)));
     }},
    {"piece hits left", "hits", "that take off the piece that moves; 0 for a pass", QuantityOf::Actor,
     [](const Game&, const Position& now, const Move& move) { return static_cast<double>(hits_left(now, move)); }, 0,
     3},
    {"piece danger", "steps", "from the piece that moves to the nearest rival, before the move", QuantityOf::Actor,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(move.passes() ? far_away : nearest(game, now, move.from, 1 - side_to_move(now)));
     }},
    {"danger there", "steps", "from where it goes to the nearest rival", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(move.passes() ? far_away : nearest(game, now, move.to, 1 - side_to_move(now)));
     }},
    {"way to warden", "steps", "from where it goes to the rival's Warden", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(move.passes() ? far_away : steps_to_warden(game, now, move.to));
     }},
    {"nearer", "steps", "by which the piece comes nearer to the rival's Warden", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(
             move.passes() ? 0 : steps_to_warden(game, now, move.from) - steps_to_warden(game, now, move.to));
     }},
    {"friends there", "pieces", "of the own side next to where it goes, in a row or column", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(game.next_to(now, move, side_to_move(now)));
     },
     0, 4},
    {"rivals there", "pieces", "of the rival's next to where it goes, in a row or column", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(game.next_to(now, move, 1 - side_to_move(now)));
     },
     0, 4},
    {"side share", "0 to 1", "own pieces of all that are on the map", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) {
         return static_cast<double>(pieces_of(now, side_to_move(now))) / static_cast<double>(now.count);
     }},
    {"hits", "hits", "that the move deals", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(game.effect(now, move).hits);
     },
     0, 16},
    {"removals", "pieces", "that the move takes off", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(game.effect(now, move).removed);
     },
     0, 4},
};

using Proposals = arvek::Proposals<Move>;

template <class Each>
void each_move(const Game& game, const Position& now, Each each) {
    arvek::MoveList<Move> moves;
    game.generate_moves(now, moves);
    for (const Move& move : moves)
        if (!move.passes()) each(move);
}

const arvek::Suggester<Game> all_suggesters[] = {
    {"take", "takes a rival's piece off",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move) {
             const auto effect = game.effect(now, move);
             if (effect.removed > 0)
                 proposals.add(move, 1.5 * worth_of_kind[static_cast<std::size_t>(effect.kind)] * effect.removed,
                               std::string("takes the ") + Nightwatch::kind_name(effect.kind) + " off");
         });
     }},
    {"strike", "deals hits to a rival's piece",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move) {
             const auto effect = game.effect(now, move);
             if (effect.hits > 0)
                 proposals.add(move, 0.3 * worth_of_kind[static_cast<std::size_t>(effect.kind)] * effect.hits,
                               std::string("hits the ") + Nightwatch::kind_name(effect.kind));
         });
     }},
    {"flee", "brings a piece that could be taken off out of reach",
     [](const Game& game, const Position& now, Proposals& proposals) {
         constexpr int reach = 2, safe = 4;
         const int rival = 1 - side_to_move(now);
         each_move(game, now, [&](const Move& move) {
             const auto* piece = Nightwatch::piece_at(now, move.from);
             const int before = nearest(game, now, move.from, rival);
             if (before > reach) return;
             const int after = nearest(game, now, move.to, rival);
             const int left = hits_left(now, move);
             if (after <= before || (left > 1 && piece->kind != Kind::Warden)) return;
             proposals.add(
                 move,
                 0.25 * worth_of_kind[static_cast<std::size_t>(piece->kind)] * (std::min(after, safe) - before) / left,
                 std::string("the ") + Nightwatch::kind_name(piece->kind) + " would be cut off");
         });
     }},
    {"close in", "nears the rival's Warden",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move) {
             const auto* piece = Nightwatch::piece_at(now, move.from);
             const int before = steps_to_warden(game, now, move.from), after = steps_to_warden(game, now, move.to);
             if (after < before && piece->kind != Kind::Warden)
                 proposals.add(move, 0.6 * (before - after) + 2.0 / (1 + after), "nears the Warden");
         });
     }},
    {"guard", "comes back to the own Warden in danger",
     [](const Game& game, const Position& now, Proposals& proposals) {
         constexpr int alarm = 3;
         const int own = side_to_move(now);
         const auto* warden = Nightwatch::warden_of(now, own);
         if (warden == nullptr || nearest(game, now, warden->cell, 1 - own) > alarm) return;
         each_move(game, now, [&](const Move& move) {
             if (move.from == warden->cell) return;
             const int before = game.distance(move.from, warden->cell), after = game.distance(move.to, warden->cell);
             if (after < before) proposals.add(move, 0.8 * (before - after), "stands by the Warden");
         });
     }},
    {"pull", "drags a rival's piece along with a Hook",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move) {
             if (move.pulled == Nightwatch::no_cell) return;
             const auto* piece = Nightwatch::piece_at(now, move.pulled);
             proposals.add(move, 0.2 * worth_of_kind[static_cast<std::size_t>(piece->kind)],
                           std::string("pulls the ") + Nightwatch::kind_name(piece->kind));
         });
     }},
};

enum ActionName : std::uint16_t { pass, go, pull };
enum KindName : std::uint64_t { striking = 1, removing = 2, quiet = 4 };

}  // namespace

const Nightwatch::Piece* Nightwatch::piece_at(const Position& position, Cell cell) {
    const auto at =
        std::find_if(position.begin(), position.end(), [&](const Piece& piece) { return piece.cell == cell; });
    return at == position.end() ? nullptr : at;
}

Nightwatch::Effect Nightwatch::effect(const Position& position, const Move& move) const {
    Effect effect;
    if (move.passes()) return effect;
    const int side = side_to_move(position);
    double worth = -1;
    for (const Piece& rival : position) {
        if (rival.side == side) continue;
        const Cell cell = rival.cell == move.pulled ? static_cast<Cell>((move.to + move.pulled) / 2) : rival.cell;
        if (!are_neighbours(cell, move.to)) continue;
        int hits = 1;
        for (const Piece& own : position)
            if (own.side == side && own.cell != move.from && are_neighbours(own.cell, cell)) ++hits;
        const bool removed = rival.hits + hits >= hits_to_remove(rival.kind);
        effect.hits += hits;
        effect.removed += removed ? 1 : 0;
        effect.removes_warden = effect.removes_warden || (removed && rival.kind == Kind::Warden);
        const double own_worth = worth_of_kind[static_cast<std::size_t>(rival.kind)] + (removed ? 100 : 0);
        if (own_worth > worth) {
            worth = own_worth;
            effect.kind = rival.kind;
        }
    }
    return effect;
}

int Nightwatch::next_to(const Position& position, const Move& move, int side) const {
    if (move.passes()) return 0;
    return static_cast<int>(std::count_if(position.begin(), position.end(), [&](const Piece& piece) {
        return piece.side == side && piece.cell != move.from && are_neighbours(piece.cell, move.to);
    }));
}

arvek::ActNames Nightwatch::act_names() const {
    return {{"Warden", "Runner", "Vaulter", "Hook", "nobody"},
            {"pass", "go", "pull"},
            {"striking", "removing", "quiet"},
            {"Warden", "Runner", "Vaulter", "Hook"}};
}

arvek::Act Nightwatch::act(const Position& position, const Move& move) const {
    if (move.passes()) return arvek::Act{4, pass, quiet};
    const Effect effects = effect(position, move);
    const std::uint64_t kinds = effects.hits == 0 ? quiet : effects.removed > 0 ? striking | removing : striking;
    const Piece& piece = *piece_at(position, move.from);
    arvek::Act act{static_cast<std::uint16_t>(piece.kind), move.pulled == no_cell ? go : pull, kinds};
    if (move.pulled != no_cell) act.target = static_cast<std::uint16_t>(piece_at(position, move.pulled)->kind);
    act.individual = piece.number;
    return act;
}

double Nightwatch::salience(const Position& position, const Move& move) const {
    constexpr int near = 2;
    if (move.passes()) return 0.2;
    const Effect effects = effect(position, move);
    if (effects.removed > 0) return 1.0;
    if (effects.hits > 0) return 0.8;
    const bool is_diagonal = column_of(move.from) != column_of(move.to) && row_of(move.from) != row_of(move.to);
    const bool is_near = nearest(*this, position, move.to, 1 - side_to_move(position)) <= near;
    return 0.15 + (is_near ? 0.35 : 0.0) + (is_diagonal ? 0.0 : 0.15);
}

namespace {

/// Rivals and mates within two steps of a Warden, up to so many of each.
constexpr int most_near = 4;

}  // namespace

std::vector<arvek::Pattern> Nightwatch::patterns() const {
    std::vector<arvek::Pattern> patterns;
    // Empty, or a side, a kind and the hits that it has taken.
    for (int cell = 0; cell < columns_ * rows_; ++cell)
        patterns.push_back({"cell " + cell_text(static_cast<Cell>(cell)), is_wall(static_cast<Cell>(cell)) ? 1 : 25});
    patterns.push_back({"around the own Warden", 3 * (most_near + 1) * (most_near + 1)});
    patterns.push_back({"around the rival's Warden", 3 * (most_near + 1) * (most_near + 1)});
    patterns.push_back({"pieces", 21 * 21});
    patterns.push_back({"quiet moves, by tens", quiet_moves_to_draw / 10 + 1});
    return patterns;
}

void Nightwatch::read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const {
    const auto cells = static_cast<std::size_t>(columns_ * rows_);
    std::fill(ways.begin(), ways.end(), std::uint16_t{0});
    const int own = static_cast<int>(player);
    int counts[2] = {0, 0};
    for (const Piece& piece : position) {
        const int side = piece.side == own ? 0 : 1;
        ways[piece.cell] =
            static_cast<std::uint16_t>(1 + 12 * side + 3 * static_cast<int>(piece.kind) + std::min<int>(piece.hits, 2));
        ++counts[side];
    }
    for (std::size_t whose = 0; whose < 2; ++whose) {
        const int side = whose == 0 ? own : 1 - own;
        const Piece* warden = warden_of(position, side);
        if (warden == nullptr) continue;  // it is over
        int near[2] = {0, 0};
        for (const Piece& piece : position)
            if (&piece != warden && distance(piece.cell, warden->cell) <= 2) ++near[piece.side == side ? 0 : 1];
        ways[cells + whose] = static_cast<std::uint16_t>(
            (std::min<int>(warden->hits, 2) * (most_near + 1) + std::min(near[0], most_near)) * (most_near + 1) +
            std::min(near[1], most_near));
    }
    ways[cells + 2] = static_cast<std::uint16_t>(21 * std::min(counts[0], 20) + std::min(counts[1], 20));
    ways[cells + 3] = static_cast<std::uint16_t>(std::min<int>(position.quiet, quiet_moves_to_draw) / 10);
}

std::span<const arvek::Quantity<Nightwatch>> Nightwatch::quantities() const { return all_quantities; }
std::span<const arvek::Suggester<Nightwatch>> Nightwatch::suggesters() const { return all_suggesters; }

}  // namespace waterway
