#include "convoy/convoy.hpp"

#include <algorithm>
#include <sstream>

#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr std::string_view kind_letters = "SBT";
constexpr std::array kinds{Convoy::Kind::Skiff, Convoy::Kind::Barge, Convoy::Kind::Tug};

/// Takes what a meeting costs off a boat that meets `strength`.
void meet(Convoy::Boat& boat, int strength) {
    if (boat.fresh)
        boat.fresh = false;
    else
        boat.strength = static_cast<std::uint8_t>(std::max(0, boat.strength - strength));
    if (!boat.there()) boat = {};
}

}  // namespace

Convoy::Convoy(const Parameters& parameters) : parameters_(parameters) {
    const auto require = [](const char* name, int value, int least, int most) {
        if (value < least || value > most)
            throw InputError(name, std::to_string(value) + " is out of range",
                             std::to_string(least) + " to " + std::to_string(most));
    };
    require("lanes", parameters.lanes, 1, most_lanes);
    require("length", parameters.length, 6, most_length);
}

const char* Convoy::kind_name(Kind kind) {
    constexpr std::array names{"skiff", "barge", "tug"};
    return names[static_cast<std::size_t>(kind)];
}

void Convoy::generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    const auto side = static_cast<std::size_t>(position.to_move);
    for (std::size_t lane = 0; lane < lanes(); ++lane) {
        if (position.closed[side][lane] > 0 || position.lanes[lane][side == 0 ? 0 : length() - 1].there()) continue;
        for (const Kind kind : kinds)
            if (position.purses[side] >= cost(kind)) moves.push_back({static_cast<std::uint8_t>(lane), kind});
    }
    moves.push_back({});
}

void Convoy::play(Position& position, const Move& move) const {
    const auto side = static_cast<std::size_t>(position.to_move);
    if (!move.waits()) {
        position.purses[side] = static_cast<std::int8_t>(position.purses[side] - cost(move.kind));
        position.closed[side][move.lane] = lane_closed_ticks;
        position.lanes[move.lane][side == 0 ? 0 : length() - 1] = {static_cast<std::uint8_t>(whole_strength(move.kind)),
                                                                   move.kind, static_cast<std::uint8_t>(side),
                                                                   move.kind == Kind::Tug};
    }
    position.to_move = arvek::rival_of(position.to_move);
    if (side == 1) end_tick(position);
}

void Convoy::end_tick(Position& position) const {
    for (std::size_t lane = 0; lane < lanes(); ++lane)
        for (const int step : {0, 1}) advance(position.lanes[lane], position.walls, step);
    for (std::size_t side = 0; side < 2; ++side) {
        position.purses[side] = static_cast<std::int8_t>(std::min(fullest_purse, position.purses[side] + income));
        position.walls[side] = std::max<std::int8_t>(position.walls[side], 0);
        for (std::size_t lane = 0; lane < lanes(); ++lane)
            if (position.closed[side][lane] > 0) --position.closed[side][lane];
    }
    ++position.tick;
}

void Convoy::advance(Lane& lane, std::array<std::int8_t, 2>& walls, int step) const {
    const int last = parameters_.length - 1;
    const auto at = [&](int cell) -> Boat& { return lane[static_cast<std::size_t>(cell)]; };
    const auto moves = [&](const Boat& boat) { return boat.there() && (step == 0 || boat.kind == Kind::Skiff); };
    // Rivals never pass each other, so all of Teal's boats are below all of Amber's and only the foremost can meet.
    int teal = -1, amber = -1;
    for (int cell = 0; cell <= last; ++cell) {
        if (!at(cell).there()) continue;
        if (at(cell).side == 0) teal = cell;
        if (at(cell).side == 1 && amber < 0) amber = cell;
    }
    int met_teal = -1, met_amber = -1;  // cells of boats that have met and do not move again
    if (teal >= 0 && amber >= 0) {
        Boat &first = at(teal), &second = at(amber);
        const bool first_moves = moves(first), second_moves = moves(second);
        const int gap = amber - teal - 1;
        if ((first_moves ? 1 : 0) + (second_moves ? 1 : 0) > gap) {
            const int first_strength = first.strength, second_strength = second.strength;
            meet(first, second_strength);
            meet(second, first_strength);
            met_teal = teal;
            met_amber = amber;
            if (first.there() && !second.there() && first_moves) {
                std::swap(at(teal + 1), first);
                met_teal = teal + 1;
            } else if (second.there() && !first.there() && second_moves) {
                std::swap(at(amber - 1), second);
                met_amber = amber - 1;
            }
        }
    }
    for (int cell = last; cell >= 0; --cell) {
        Boat& boat = at(cell);
        if (!moves(boat) || boat.side != 0 || cell == met_teal) continue;
        if (cell == last) {
            walls[1] = static_cast<std::int8_t>(walls[1] - boat.strength);
            boat = {};
        } else if (!at(cell + 1).there()) {
            std::swap(at(cell + 1), boat);
        }
    }
    for (int cell = 0; cell <= last; ++cell) {
        Boat& boat = at(cell);
        if (!moves(boat) || boat.side != 1 || cell == met_amber) continue;
        if (cell == 0) {
            walls[0] = static_cast<std::int8_t>(walls[0] - boat.strength);
            boat = {};
        } else if (!at(cell - 1).there()) {
            std::swap(at(cell - 1), boat);
        }
    }
}

std::optional<arvek::Outcome> Convoy::outcome(const Position& position) const {
    const auto [teal, amber] = position.walls;
    if (teal > 0 && amber > 0 && position.tick < last_tick) return std::nullopt;
    return arvek::Outcome::margin_of_first(teal > amber ? 1 : teal < amber ? -1 : 0);
}

int Convoy::on_the_way(const Lane& lane) const {
    Lane later = lane;
    std::array<std::int8_t, 2> walls{0, 0};
    // Rivals come nearer with every step, and one of them is gone after two meetings at the most.
    for (;;) {
        int sums[2] = {0, 0};
        for (std::size_t cell = 0; cell < length(); ++cell) sums[later[cell].side] += later[cell].strength;
        if (sums[0] == 0 || sums[1] == 0) return walls[0] + sums[0] - walls[1] - sums[1];
        for (const int step : {0, 1}) advance(later, walls, step);
    }
}

arvek::Score Convoy::evaluate(const Position& position, Player player) const {
    constexpr int of_wall = 20, of_way = 18, of_purse = 14;
    int balance =
        of_wall * (position.walls[0] - position.walls[1]) + of_purse * (position.purses[0] - position.purses[1]);
    for (std::size_t lane = 0; lane < lanes(); ++lane) balance += of_way * on_the_way(position.lanes[lane]);
    return arvek::Score::estimate(player == Player::First ? balance : -balance);
}

std::uint64_t Convoy::hash(const Position& position) const {
    std::uint64_t sum = arvek::hash_of_words(
        {static_cast<std::uint64_t>(position.tick) << 40 | static_cast<std::uint64_t>(position.to_move) << 32 |
         static_cast<std::uint64_t>(position.walls[0]) << 24 | static_cast<std::uint64_t>(position.walls[1]) << 16 |
         static_cast<std::uint64_t>(position.purses[0]) << 8 | static_cast<std::uint64_t>(position.purses[1])});
    for (std::size_t lane = 0; lane < lanes(); ++lane) {
        sum += arvek::mix_bits(1ull << 48 | lane << 16 | std::uint64_t{position.closed[0][lane]} << 8 |
                               position.closed[1][lane]);
        for (std::size_t cell = 0; cell < length(); ++cell) {
            const Boat& boat = position.lanes[lane][cell];
            if (boat.there())
                sum += arvek::mix_bits(1ull << 49 | lane << 32 | cell << 24 | std::uint64_t{boat.strength} << 16 |
                                       static_cast<std::uint64_t>(boat.kind) << 8 | std::uint64_t{boat.side} << 1 |
                                       (boat.fresh ? 1u : 0u));
        }
    }
    return sum;
}

int Convoy::preference(const Position& position, const Move& move) const {
    constexpr int waiting = 4;
    if (move.waits()) return waiting;
    const auto side = static_cast<std::uint8_t>(position.to_move);
    int lacking = 0;
    for (const Boat& boat : position.lanes[move.lane]) lacking += boat.side == side ? -boat.strength : boat.strength;
    // A Tug goes through whatever is in a lane; anything else only answers what is stronger than a Skiff.
    const int strength = whole_strength(move.kind);
    if (move.kind == Kind::Tug) return 3 * waiting - std::max(0, -lacking);
    return lacking > 1 ? waiting + std::min(lacking, strength) : 0;
}

std::string Convoy::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

std::string Convoy::move_text(const Position&, const Move& move) const {
    if (move.waits()) return "wait";
    return std::string(kind_name(move.kind)) + "-" + std::to_string(move.lane + 1);
}

std::string Convoy::position_text(const Position& position) const {
    std::string text;
    for (std::size_t lane = 0; lane < lanes(); ++lane) {
        if (lane > 0) text += '/';
        for (std::size_t cell = 0; cell < length(); ++cell) {
            const Boat& boat = position.lanes[lane][cell];
            if (!boat.there()) {
                text += '.';
                continue;
            }
            const char letter = kind_letters[static_cast<std::size_t>(boat.kind)];
            text += boat.side == 0 ? letter : static_cast<char>(letter - 'A' + 'a');
            if (boat.kind == Kind::Tug && !boat.fresh) text += '!';
            if (boat.strength != whole_strength(boat.kind)) text += std::to_string(boat.strength);
        }
    }
    const auto pair = [](const auto& values) { return std::to_string(values[0]) + ":" + std::to_string(values[1]); };
    text += (position.to_move == Player::First ? " T " : " A ") + std::to_string(position.tick) + " " +
            pair(position.walls) + " " + pair(position.purses) + " ";
    for (std::size_t side = 0; side < 2; ++side) {
        if (side > 0) text += ':';
        for (std::size_t lane = 0; lane < lanes(); ++lane) text += std::to_string(position.closed[side][lane]);
    }
    return text;
}

Convoy::Position Convoy::read_position(std::string_view text) const {
    arvek::TextReader in(text, "such as '" + position_text(initial_position()) + "'");
    Position position;
    for (std::size_t lane = 0; lane < lanes(); ++lane) {
        if (lane > 0) in.take('/', "lane " + std::to_string(lane));
        bool amber_seen = false;
        for (std::size_t cell = 0; cell < length(); ++cell) {
            if (in.pass_if('.')) continue;
            const char letter = in.next();
            const bool amber = letter >= 'a' && letter <= 'z';
            const auto kind = kind_letters.find(amber ? static_cast<char>(letter - 'a' + 'A') : letter);
            if (letter == '\0' || kind == std::string_view::npos)
                in.fail(in.here() + " is no boat; lane " + std::to_string(lane + 1) + " has " +
                            std::to_string(length()) + " cells",
                        "., S B T for Teal or s b t for Amber");
            if (!amber && amber_seen)
                in.fail("a boat of Teal's stands beyond one of Amber's, which it cannot have passed",
                        "Teal's boats before Amber's");
            amber_seen = amber_seen || amber;
            in.pass();
            Boat boat{static_cast<std::uint8_t>(whole_strength(kinds[kind])), kinds[kind],
                      static_cast<std::uint8_t>(amber ? 1 : 0), kinds[kind] == Kind::Tug};
            if (in.next() == '!') {
                if (boat.kind != Kind::Tug) in.fail("only a Tug is marked with '!'", "no '!'");
                boat.fresh = false;
                in.pass();
            }
            if (in.next() >= '0' && in.next() <= '9') {
                if (in.next() < '1' || in.next() >= '0' + boat.strength || boat.fresh)
                    in.fail(
                        std::string("a ") + kind_name(boat.kind) + " cannot have the strength " + in.next() + " here",
                        boat.fresh ? "'!' before the strength: a Tug loses none at its first meeting"
                                   : "less than " + std::to_string(boat.strength) + ", or no number");
                boat.strength = static_cast<std::uint8_t>(in.pass() - '0');
            }
            position.lanes[lane][cell] = boat;
        }
    }
    in.take(' ', "the lanes");
    position.to_move = in.one_of("TA", "player") == 0 ? Player::First : Player::Second;
    in.take(' ', "the player");
    position.tick = static_cast<std::uint8_t>(in.number("number of ticks", 0, last_tick));
    in.take(' ', "the ticks");
    for (std::size_t side = 0; side < 2; ++side) {
        if (side > 0) in.take(':', "Teal's wall");
        position.walls[side] = static_cast<std::int8_t>(in.number("number for a wall", 0, whole_wall));
    }
    in.take(' ', "the walls");
    for (std::size_t side = 0; side < 2; ++side) {
        if (side > 0) in.take(':', "Teal's purse");
        position.purses[side] = static_cast<std::int8_t>(in.number("number for a purse", 0, fullest_purse));
    }
    in.take(' ', "the purses");
    for (std::size_t side = 0; side < 2; ++side) {
        if (side > 0) in.take(':', "Teal's closed lanes");
        for (std::size_t lane = 0; lane < lanes(); ++lane) {
            if (in.next() < '0' || in.next() > '0' + lane_closed_ticks)
                in.fail(in.here() + " is no number of ticks that a lane is closed",
                        "0 to " + std::to_string(lane_closed_ticks) + " for each lane");
            position.closed[side][lane] = static_cast<std::uint8_t>(in.pass() - '0');
        }
    }
    in.finish("the closed lanes");
    return position;
}

std::string Convoy::drawing(const Position& position) const {
    std::ostringstream out;
    const auto bar = [](int wall) { return std::string(static_cast<std::size_t>(wall), '|'); };
    for (std::size_t lane = 0; lane < lanes(); ++lane) {
        out << "  " << lane + 1 << "  "
            << (position.closed[0][lane] > 0 ? std::to_string(position.closed[0][lane]) : " ") << "[";
        for (std::size_t cell = 0; cell < length(); ++cell) {
            const Boat& boat = position.lanes[lane][cell];
            if (boat.there())
                out << (boat.side == 0 ? " T" : " A") << kind_letters[static_cast<std::size_t>(boat.kind)]
                    << int{boat.strength};
            else
                out << "  . ";
        }
        out << " ]" << (position.closed[1][lane] > 0 ? std::to_string(position.closed[1][lane]) : "") << "\n";
    }
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
        out << "  " << (side == 0 ? "Teal  wall " : "Amber wall ") << (position.walls[side] < 10 ? " " : "")
            << int{position.walls[side]} << " " << bar(position.walls[side])
            << std::string(static_cast<std::size_t>(whole_wall - position.walls[side]), '.') << "  purse "
            << int{position.purses[side]} << "\n";
    out << "  Tick " << int{position.tick} << " of " << last_tick
        << ". TB3: Teal's Barge of strength 3; a number beside a lane: ticks it is closed to that side.\n";
    return out.str();
}

}  // namespace waterway
