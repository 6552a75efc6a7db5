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

/// What a cell can hold: nothing, a side's piece of a kind with its hits, or a wall.
constexpr int held_ways = 25, wall_way = 25;

int held(const Nightwatch::Piece& piece, int own_side) {
    return 1 + (piece.side == own_side ? 0 : 12) + 3 * static_cast<int>(piece.kind) + std::min<int>(piece.hits, 2);
}

std::uint16_t held_to_the_rival(int way) {
    return static_cast<std::uint16_t>(way == 0 || way == wall_way ? way : way <= 12 ? way + 12 : way - 12);
}

/// Around a Warden: a square of five cells by five, of which the Warden is the middle.
constexpr int reach = 2, across = 2 * reach + 1, square = across * across;
/// Steps of the nearest piece of a kind to the rival's Warden, up to so many; one more for none.
constexpr int most_steps = 8, steps_ways = most_steps + 2;
constexpr int most_pieces_told = 20, quiet_step = 10;

}  // namespace

std::vector<arvek::Pattern> Nightwatch::patterns() const {
    std::vector<arvek::Pattern> patterns;
    std::vector<std::uint16_t> to_the_rival;
    for (int way = 0; way <= wall_way; ++way) to_the_rival.push_back(held_to_the_rival(way));
    const std::vector<std::uint16_t> without_wall(to_the_rival.begin(), to_the_rival.end() - 1);
    for (int cell = 0; cell < columns_ * rows_; ++cell)
        patterns.push_back({"cell " + cell_text(static_cast<Cell>(cell)), held_ways, without_wall,
                            seen_by_amber(static_cast<Cell>(cell))});
    const int cells = columns_ * rows_;
    for (const bool own : {true, false})
        for (int at = 0; at < square; ++at) {
            int column = at % across, row = at / across;
            if (image_ != Image::Same) row = across - 1 - row;
            if (image_ == Image::Turned) column = across - 1 - column;
            patterns.push_back({std::string("by the ") + (own ? "own" : "rival's") + " Warden, " +
                                    std::to_string(at % across - reach) + " right and " +
                                    std::to_string(at / across - reach) + " up",
                                wall_way + 1, to_the_rival, cells + (own ? square : 0) + row * across + column});
        }
    std::vector<std::uint16_t> same;
    for (int steps = 0; steps < steps_ways; ++steps) same.push_back(static_cast<std::uint16_t>(steps));
    for (const bool own : {true, false})
        for (int kind = 1; kind <= 3; ++kind)
            patterns.push_back({std::string(own ? "own " : "rival's ") + kind_name(static_cast<Kind>(kind)) +
                                    ", steps to the other Warden",
                                steps_ways, same, cells + 2 * square + (own ? 3 : 0) + kind - 1});
    arvek::Pattern pieces{"pieces", (most_pieces_told + 1) * (most_pieces_told + 1)};
    for (int way = 0; way < pieces.ways; ++way)
        pieces.rival_ways.push_back(static_cast<std::uint16_t>(way % (most_pieces_told + 1) * (most_pieces_told + 1) +
                                                               way / (most_pieces_told + 1)));
    patterns.push_back(std::move(pieces));
    arvek::Pattern quiet{"quiet moves, by tens", quiet_moves_to_draw / quiet_step + 1};
    for (int way = 0; way < quiet.ways; ++way) quiet.rival_ways.push_back(static_cast<std::uint16_t>(way));
    patterns.push_back(std::move(quiet));
    return patterns;
}

void Nightwatch::read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const {
    const auto cells = static_cast<std::size_t>(columns_ * rows_);
    std::fill(ways.begin(), ways.end(), std::uint16_t{0});
    const int own = static_cast<int>(player);
    const auto seen = [&](Cell cell) { return own == 0 ? cell : seen_by_amber(cell); };
    const std::array<const Piece*, 2> wardens{warden_of(position, own), warden_of(position, 1 - own)};
    std::uint16_t* const around = ways.data() + cells;
    for (std::size_t whose = 0; whose < 2; ++whose) {
        if (wardens[whose] == nullptr) continue;  // it is over
        const auto& walls = squares_[seen(wardens[whose]->cell)];
        std::copy(walls.begin(), walls.end(), around + whose * square);
    }
    std::uint16_t* const steps = around + 2 * square;
    std::fill(steps, steps + 6, static_cast<std::uint16_t>(most_steps + 1));
    int counts[2] = {0, 0};
    for (const Piece& piece : position) {
        const std::size_t side = piece.side == own ? 0 : 1;
        const Cell cell = seen(piece.cell);
        const auto way = static_cast<std::uint16_t>(held(piece, own));
        ways[cell] = way;
        ++counts[side];
        for (std::size_t whose = 0; whose < 2; ++whose) {
            if (wardens[whose] == nullptr) continue;
            const Cell middle = seen(wardens[whose]->cell);
            const int right = column_of(cell) - column_of(middle), up = row_of(cell) - row_of(middle);
            if (std::abs(right) <= reach && std::abs(up) <= reach)
                around[whose * square + static_cast<std::size_t>((up + reach) * across + right + reach)] = way;
            if (whose == side || piece.kind == Kind::Warden) continue;
            std::uint16_t& nearest = steps[3 * side + static_cast<std::size_t>(piece.kind) - 1];
            nearest = std::min(
                nearest, static_cast<std::uint16_t>(std::min(std::max(std::abs(right), std::abs(up)), most_steps)));
        }
    }
    steps[6] = static_cast<std::uint16_t>((most_pieces_told + 1) * std::min(counts[0], most_pieces_told) +
                                          std::min(counts[1], most_pieces_told));
    steps[7] = static_cast<std::uint16_t>(std::min<int>(position.quiet, quiet_moves_to_draw) / quiet_step);
}

std::span<const arvek::Quantity<Nightwatch>> Nightwatch::quantities() const { return all_quantities; }
std::span<const arvek::Suggester<Nightwatch>> Nightwatch::suggesters() const { return all_suggesters; }

}  // namespace waterway
