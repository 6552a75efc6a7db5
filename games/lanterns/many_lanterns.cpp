#include "lanterns/many_lanterns.hpp"

#include <algorithm>
#include <bit>

#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr std::string_view letters = "TAPS";

Lanterns::Parameters for_two(Lanterns::Parameters parameters) {
    if (parameters.players < 2 || parameters.players > 4)
        throw InputError("players", std::to_string(parameters.players) + " is out of range", "2 to 4");
    parameters.players = 2;
    return parameters;
}

}  // namespace

ManyLanterns::ManyLanterns(const Parameters& parameters)
    : parameters_(parameters), two_(for_two(parameters)), sides_(static_cast<std::size_t>(parameters.players)) {
    const int columns = parameters.columns, rows = parameters.rows, line = parameters.line;
    for (int column = 0; column < columns; ++column)
        for (int row = 0; row < rows; ++row) {
            const int hook = column * rows + row;
            all_ |= Hooks{1} << hook;
            hook_order_.push_back(static_cast<std::uint8_t>(hook));
            constexpr int steps[4][2] = {{1, 0}, {0, 1}, {1, 1}, {1, -1}};
            for (const auto& [right, up] : steps) {
                const int end_column = column + (line - 1) * right, end_row = row + (line - 1) * up;
                if (end_column >= columns || end_row >= rows || end_row < 0) continue;
                Hooks hooks = 0;
                for (int i = 0; i < line; ++i) hooks |= Hooks{1} << ((column + i * right) * rows + row + i * up);
                lines_.push_back(hooks);
            }
        }
    std::stable_sort(hook_order_.begin(), hook_order_.end(), [&](std::uint8_t a, std::uint8_t b) {
        return two_.preference({}, {a}) > two_.preference({}, {b});
    });
}

std::optional<arvek::Outcome> ManyLanterns::outcome(const Position& position) const {
    const std::size_t last = (position.to_move + sides_ - 1) % sides_;
    if (has_line(position.lanterns[last])) {
        std::array<arvek::Payoff, arvek::max_players> payoffs{};
        for (std::size_t side = 0; side < sides_; ++side)
            payoffs[side] = side == last ? static_cast<arvek::Payoff>(sides_) - 1 : -1;
        return arvek::Outcome::of_payoffs(payoffs);
    }
    if (position.taken() == all_) return arvek::Outcome::draw();
    return std::nullopt;
}

int ManyLanterns::promise(const Position& position, std::size_t side) const {
    const Hooks own = position.lanterns[side], others = position.taken() & ~own;
    int sum = 0;
    for (const Hooks line : lines_) {
        if ((line & others) != 0) continue;
        const int lacking = parameters_.line - std::popcount(line & own);
        sum += lacking == 1 ? 8 : lacking == 2 ? 2 : 0;
    }
    return sum;
}

arvek::Score ManyLanterns::evaluate(const Position& position, Player player) const {
    int all = 0, own = 0;
    for (std::size_t side = 0; side < sides_; ++side) {
        const int promised = promise(position, side);
        all += promised;
        if (side == arvek::index_of(player)) own = promised;
    }
    return arvek::Score::estimate(own * static_cast<int>(sides_) - all);
}

std::uint64_t ManyLanterns::hash(const Position& position) const {
    return arvek::hash_of_words(
        {position.lanterns[0], position.lanterns[1], position.lanterns[2], position.lanterns[3], position.to_move});
}

int ManyLanterns::order_hint(const Position& position, const Move& move) const {
    const Hooks hook = Hooks{1} << move.hook;
    if (has_line(position.lanterns[position.to_move] | hook)) return 100;
    for (std::size_t side = 0; side < sides_; ++side)
        if (side != position.to_move && has_line(position.lanterns[side] | hook)) return 10;
    return 0;
}

int ManyLanterns::preference(const Position&, const Move& move) const { return two_.preference({}, {move.hook}); }

std::string ManyLanterns::player_name(Player player) const {
    constexpr const char* names[] = {"Teal", "Amber", "Plum", "Slate"};
    return names[arvek::index_of(player)];
}

std::string ManyLanterns::position_text(const Position& position) const {
    std::string text;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        for (int column = 0; column < parameters_.columns; ++column) {
            char letter = '.';
            for (std::size_t side = 0; side < sides_; ++side)
                if ((position.lanterns[side] >> (column * parameters_.rows + row) & 1) != 0) letter = letters[side];
            text += letter;
        }
        text += row > 0 ? '/' : ' ';
    }
    return text + letters[position.to_move];
}

ManyLanterns::Position ManyLanterns::read_position(std::string_view text) const {
    arvek::TextReader in(text, std::to_string(parameters_.rows) + " rows of " + std::to_string(parameters_.columns) +
                                   " hooks with / between, a space and the player to move, such as '" +
                                   position_text(initial_position()) + "'");
    const std::string lanterns = "." + std::string(letters.substr(0, sides_));
    Position position;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        const std::string name = "row " + std::to_string(row + 1);
        for (int column = 0; column < parameters_.columns; ++column) {
            if (in.at_end() || in.next() == '/' || in.next() == ' ')
                in.fail(name + " has only " + std::to_string(column) + " hooks", in.whole());
            if (const std::size_t letter = in.one_of(lanterns, "lantern"); letter > 0)
                position.lanterns[letter - 1] |= Hooks{1} << (column * parameters_.rows + row);
        }
        in.take(row > 0 ? '/' : ' ', name);
    }
    position.to_move = in.one_of(letters.substr(0, sides_), "player");
    in.finish("the player to move");
    const int hung = std::popcount(position.taken());
    for (std::size_t side = 0; side < sides_; ++side) {
        const int due = (hung + static_cast<int>(sides_ - 1 - side)) / static_cast<int>(sides_);
        if (std::popcount(position.lanterns[side]) != due)
            in.fail_as_such(player_name(static_cast<Player>(side)) + " has " +
                                std::to_string(std::popcount(position.lanterns[side])) + " of " + std::to_string(hung) +
                                " lanterns",
                            std::to_string(due) + ", as the sides take turns");
        if (side != (position.to_move + sides_ - 1) % sides_ && has_line(position.lanterns[side]))
            in.fail_as_such(player_name(static_cast<Player>(side)) + " has a line already and play went on",
                            "a line only of the side that moved last");
    }
    if (position.to_move != static_cast<std::size_t>(hung) % sides_)
        in.fail_as_such("it is not the turn of " + player_name(static_cast<Player>(position.to_move)),
                        player_name(static_cast<Player>(static_cast<std::size_t>(hung) % sides_)));
    if (parameters_.drop) {
        const Hooks taken = position.taken();
        for (const std::uint8_t hook : hook_order_)
            if ((taken >> hook & 1) != 0 && hook % parameters_.rows != 0 && (taken >> (hook - 1) & 1) == 0)
                in.fail_as_such("a lantern hangs over a free hook", "lanterns that have slid down, since drop is true");
    }
    return position;
}

std::string ManyLanterns::drawing(const Position& position) const {
    const std::string edge = "    +" + std::string(static_cast<std::size_t>(3 * parameters_.columns), '-') + "+\n";
    Hooks winning = 0;
    for (const Hooks lanterns : position.lanterns)
        for (const Hooks line : lines_)
            if ((lanterns & line) == line) winning |= line;
    const std::string rows = position_text(position);
    std::string text = edge;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        const std::string number = std::to_string(row + 1);
        text += std::string(3 - number.size(), ' ') + number + " |";
        for (int column = 0; column < parameters_.columns; ++column) {
            const char letter =
                rows[static_cast<std::size_t>((parameters_.rows - 1 - row) * (parameters_.columns + 1) + column)];
            const bool bright = (winning >> (column * parameters_.rows + row) & 1) != 0;
            text += {bright ? '[' : ' ', letter, bright ? ']' : ' '};
        }
        text += "|\n";
    }
    text += edge + "     ";
    for (int column = 0; column < parameters_.columns; ++column) text += {' ', static_cast<char>('a' + column), ' '};
    while (text.back() == ' ') text.pop_back();
    return text + '\n';
}

}  // namespace waterway
