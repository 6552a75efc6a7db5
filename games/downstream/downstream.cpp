#include "downstream/downstream.hpp"

#include <algorithm>
#include <cstring>

#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr std::string_view letters = "TAPS";

}  // namespace

Downstream::Downstream(const Parameters& parameters)
    : parameters_(parameters),
      sides_(static_cast<std::size_t>(parameters.players)),
      boats_(static_cast<std::size_t>(parameters.boats)) {
    const auto require = [](const char* name, int value, int least, int most) {
        if (value < least || value > most)
            throw InputError(name, std::to_string(value) + " is out of range",
                             std::to_string(least) + " to " + std::to_string(most));
    };
    require("players", parameters.players, 2, 4);
    require("boats", parameters.boats, 1, 4);
    require("length", parameters.length, 4, 30);
    require("die", parameters.die, 2, 6);
    require("mooring", parameters.mooring, 0, 10);
    for (std::size_t winner = 0; winner < sides_; ++winner) {
        std::array<arvek::Payoff, arvek::max_players> payoffs{};
        for (std::size_t side = 0; side < sides_; ++side) payoffs[side] = side == winner ? parameters.players - 1 : -1;
        won_[winner] = arvek::Outcome::of_payoffs(payoffs);
    }
}

void Downstream::play(Position& position, const Move& move) const {
    if (move.rolls()) {
        position.roll = static_cast<std::uint8_t>(move.number - Move::first_roll);
        return;
    }
    auto& own = position.cells[position.to_move];
    std::size_t boat = boats_ - 1;  // the last of those that lie there, so that the order needs least mending
    while (own[boat] != move.number) --boat;
    const int cell = landing(position, move);
    for (; boat + 1 < boats_ && own[boat + 1] < cell; ++boat) own[boat] = own[boat + 1];
    own[boat] = static_cast<std::uint8_t>(cell);
    if (cell < home() && !is_mooring(cell))
        for (std::size_t side = 0; side < sides_; ++side) {
            if (side == position.to_move) continue;
            auto& cells = position.cells[side];
            const auto end = cells.begin() + static_cast<std::ptrdiff_t>(boats_);
            const auto [first, last] = std::equal_range(cells.begin(), end, static_cast<std::uint8_t>(cell));
            if (first == last) continue;
            std::fill(first, last, std::uint8_t{0});
            std::rotate(cells.begin(), first, last);
        }
    if (position.roll != parameters_.die)
        position.to_move = static_cast<std::uint8_t>((position.to_move + 1u) % sides_);
    position.roll = 0;
}

void Downstream::generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>& events) const {
    for (int face = 1; face <= parameters_.die; ++face)
        events.push_back({{static_cast<std::uint8_t>(Move::first_roll + face)}, 1.0 / parameters_.die});
}

arvek::Score Downstream::evaluate(const Position& position, Player player) const {
    int own = 0, all = 0;
    for (std::size_t side = 0; side < sides_; ++side) {
        const int come = cells_come(position, side);
        all += come;
        if (side == arvek::index_of(player)) own = come;
    }
    return arvek::Score::estimate(own * (parameters_.players - 1) - (all - own));
}

std::uint64_t Downstream::hash(const Position& position) const {
    std::uint64_t words[3] = {0, 0, position.to_move | static_cast<std::uint64_t>(position.roll) << 8};
    std::memcpy(words, position.cells.data(), 16);
    return arvek::hash_of_words({words[0], words[1], words[2]});
}

int Downstream::preference(const Position& position, const Move& move) const {
    const int cell = landing(position, move);
    if (cell == home()) return 1;
    const int sent = sent_back(position, move) * cell;
    return sent > 0 ? 1 + sent : 0;
}

std::string Downstream::player_name(Player player) const {
    constexpr const char* names[] = {"Teal", "Amber", "Plum", "Slate"};
    return names[arvek::index_of(player)];
}

std::string Downstream::position_text(const Position& position) const {
    std::string text;
    for (std::size_t side = 0; side < sides_; ++side) {
        if (side > 0) text += '/';
        for (std::size_t boat = 0; boat < boats_; ++boat) {
            const int cell = position.cells[side][boat];
            text += (boat > 0 ? "," : "") + (cell == home() ? std::string("h") : std::to_string(cell));
        }
    }
    text += std::string(" ") + letters[position.to_move] + " ";
    return text + (position.roll == 0 ? std::string("?") : std::to_string(position.roll));
}

Downstream::Position Downstream::read_position(std::string_view text) const {
    arvek::TextReader in(text, "the cells of " + std::to_string(boats_) + (boats_ == 1 ? " boat" : " boats") +
                                   " of each side, / between the sides, the side to move and the number rolled or ?, "
                                   "such as '" +
                                   position_text(initial_position()) + "'");
    Position position;
    std::size_t home_sides = 0;
    for (std::size_t side = 0; side < sides_; ++side) {
        if (side > 0) in.take('/', "the boats of a side");
        auto& cells = position.cells[side];
        for (std::size_t boat = 0; boat < boats_; ++boat) {
            if (boat > 0) in.take(',', "a boat");
            const int cell = in.pass_if('h') ? home() : in.number("cell", 0, parameters_.length);
            if (boat > 0 && cell < cells[boat - 1])
                in.fail_as_such("boat " + std::to_string(boat + 1) + " of " + player_name(static_cast<Player>(side)) +
                                    " lies behind the one before it",
                                "the boats of a side in rising order");
            cells[boat] = static_cast<std::uint8_t>(cell);
        }
        home_sides += cells[0] == home() ? 1 : 0;
    }
    if (home_sides > 1) in.fail_as_such("more than one side has all boats home", "at most one: the game ends with it");
    in.take(' ', "the boats");
    position.to_move = static_cast<std::uint8_t>(in.one_of(letters.substr(0, sides_), "side"));
    in.take(' ', "the side to move");
    if (!in.pass_if('?')) position.roll = static_cast<std::uint8_t>(in.number("number rolled", 1, parameters_.die));
    in.finish("the number rolled");
    for (int cell = 1; cell <= parameters_.length; ++cell) {
        if (is_mooring(cell)) continue;
        std::size_t sides_there = 0;
        for (std::size_t side = 0; side < sides_; ++side) {
            const auto& cells = position.cells[side];
            sides_there += std::find(cells.begin(), cells.begin() + static_cast<std::ptrdiff_t>(boats_), cell) !=
                                   cells.begin() + static_cast<std::ptrdiff_t>(boats_)
                               ? 1
                               : 0;
        }
        if (sides_there > 1)
            in.fail_as_such("boats of two sides lie on cell " + std::to_string(cell) + ", which is no mooring",
                            "boats of several sides on a mooring, on the bank or home alone");
    }
    return position;
}

std::string Downstream::move_text(const Position&, const Move& move) const {
    return move.rolls() ? "roll-" + std::to_string(move.number - Move::first_roll) : std::to_string(move.number);
}

std::string Downstream::drawing(const Position& position) const {
    std::string drawing = "       ";
    for (int cell = 0; cell <= home(); ++cell) {
        const std::string number = cell == 0 ? "bank" : cell == home() ? "home" : std::to_string(cell);
        drawing += std::string(cell == 0 || cell == home() ? 1 : 3 - number.size(), ' ') + number;
    }
    drawing += '\n';
    for (std::size_t side = 0; side < sides_; ++side) {
        const std::string name = player_name(static_cast<Player>(side));
        drawing += (side == position.to_move ? "> " : "  ") + name + std::string(5 - name.size(), ' ');
        for (int cell = 0; cell <= home(); ++cell) {
            const auto lie = std::count(position.cells[side].begin(),
                                        position.cells[side].begin() + static_cast<std::ptrdiff_t>(boats_), cell);
            const std::string shown = lie > 1    ? std::to_string(lie) + letters[side]
                                      : lie == 1 ? std::string(1, letters[side])
                                      : is_mooring(cell) && cell > 0 && cell < home() ? "="
                                                                                      : ".";
            drawing += std::string((cell == 0 || cell == home() ? 5 : 3) - shown.size(), ' ') + shown;
        }
        drawing += '\n';
    }
    if (!outcome(position))
        drawing += position.roll == 0 ? "  the die is still to be rolled\n"
                                      : "  rolled: " + std::to_string(position.roll) + "\n";
    return drawing + "  '=' is a mooring\n";
}

}  // namespace waterway
