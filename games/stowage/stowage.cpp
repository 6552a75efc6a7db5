#include "stowage/stowage.hpp"

#include <algorithm>

#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;

namespace {

struct Shape {
    const char* name;
    const char* rows;  ///< from the top, '/' between
};

constexpr Shape shapes[Stowage::kinds] = {
    {"I2a", "##"},      {"I2b", "#/#"},      {"I3a", "###"},     {"I3b", "#/#/#"},    {"L3a", "#./##"},
    {"L3b", "##/#."},   {"L3c", "##/.#"},    {"L3d", ".#/##"},   {"O4", "##/##"},     {"L4a", "#./#./##"},
    {"L4b", "###/#.."}, {"L4c", "##/.#/.#"}, {"L4d", "..#/###"}, {"T4a", ".#./###"},  {"T4b", "#./##/#."},
    {"T4c", "###/.#."}, {"T4d", ".#/##/.#"}, {"S4a", ".##/##."}, {"S4b", "#./##/.#"},
};

int kind_named(std::string_view name) {
    for (int kind = 0; kind < Stowage::kinds; ++kind)
        if (name == shapes[kind].name) return kind;
    return -1;
}

std::string kind_names() {
    std::string text;
    for (const Shape& shape : shapes) text += (text.empty() ? "" : " ") + std::string(shape.name);
    return text;
}

}  // namespace

Stowage::Stowage(const Parameters& parameters) : parameters_(parameters) {
    const auto require = [](const char* name, int value, int least, int most) {
        if (value < least || value > most)
            throw InputError(name, std::to_string(value) + " is out of range",
                             std::to_string(least) + " to " + std::to_string(most));
    };
    require("rows", parameters.rows, 3, 10);
    require("columns", parameters.columns, 3, 10);
    require("lot", parameters.lot, 1, 4);
    require("trim", parameters.trim, 4, 50);
    require("lots", parameters.lots, 1, 200);
    const int rows = parameters.rows, columns = parameters.columns;
    column_mask_ = (Cells{1} << rows) - 1;
    for (int column = 0; column < columns; ++column) {
        if (2 * column + 1 < columns) left_ |= column_cells(column);
        if (2 * column + 1 > columns) right_ |= column_cells(column);
    }
    for (std::size_t kind = 0; kind < kinds; ++kind) {
        std::vector<std::string> lines{""};
        for (const char* letter = shapes[kind].rows; *letter != '\0'; ++letter) {
            if (*letter == '/')
                lines.emplace_back();
            else
                lines.back() += *letter;
        }
        const int height = static_cast<int>(lines.size()), width = static_cast<int>(lines.front().size());
        for (int column = 0; column + width <= columns; ++column)
            for (int row = 0; row + height <= rows; ++row) {
                Placing placing{0, static_cast<std::uint8_t>(column * rows + row), 0};
                for (int y = 0; y < height; ++y)
                    for (int x = 0; x < width; ++x)
                        if (lines[static_cast<std::size_t>(height - 1 - y)][static_cast<std::size_t>(x)] == '#')
                            placing.cells |= Cells{1} << ((column + x) * rows + row + y);
                placing.tilt = static_cast<std::int8_t>(tilt_of(placing.cells));
                placings_[kind].push_back(placing);
            }
    }
}

Stowage::Cells Stowage::stow(Cells filled, Cells crate, int& hoisted) const {
    Cells after = filled | crate;
    hoisted = 0;
    for (int column = 0; column < parameters_.columns; ++column) {
        const Cells cells = column_cells(column);
        if ((after & cells) == cells) {
            after &= ~cells;
            ++hoisted;
        }
    }
    return after;
}

bool Stowage::may_lie(Cells filled, const Placing& placing) const {
    if ((filled & placing.cells) != 0) return false;
    int hoisted = 0;
    const int tilt = tilt_of(stow(filled, placing.cells, hoisted));
    return tilt <= parameters_.trim && tilt >= -parameters_.trim;
}

void Stowage::generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    for (std::size_t i = 0; i < position.quay.size(); ++i) {
        if (position.quay[i] == 0 || (i > 0 && position.quay[i] == position.quay[i - 1])) continue;
        const auto kind = static_cast<std::uint8_t>(position.quay[i] - 1);
        for (const Placing& placing : placings_[kind])
            if (may_lie(position.filled, placing)) moves.push_back({kind, placing.cell});
    }
}

bool Stowage::can_stow_any(const Position& position) const {
    for (const std::uint8_t crate : position.quay) {
        if (crate == 0) continue;
        for (const Placing& placing : placings_[crate - 1u])
            if (may_lie(position.filled, placing)) return true;
    }
    return false;
}

void Stowage::play(Position& position, const Move& move) const {
    auto& quay = position.quay;
    if (move.cell == Move::drawn) {
        const auto crate = static_cast<std::uint8_t>(move.kind + 1);
        // Kept in rising order, what is free in front.
        std::size_t at = 0;
        while (at + 1 < quay.size() && quay[at + 1] < crate) quay[at] = quay[at + 1], ++at;
        quay[at] = crate;
        --position.to_draw;
        return;
    }
    Cells crate = 0;
    for (const Placing& placing : placings_[move.kind])
        if (placing.cell == move.cell) crate = placing.cells;
    int hoisted = 0;
    position.filled = stow(position.filled, crate, hoisted);
    position.score += count(crate) + 10 * hoisted * hoisted;
    std::size_t at = 0;
    while (quay[at] != move.kind + 1) ++at;
    for (; at > 0; --at) quay[at] = quay[at - 1];
    quay[0] = 0;
    if (quay.back() != 0) return;
    ++position.stowed;
    if (position.stowed < parameters_.lots) position.to_draw = static_cast<std::uint8_t>(parameters_.lot);
}

std::optional<arvek::Outcome> Stowage::outcome(const Position& position) const {
    if (position.to_draw > 0) return std::nullopt;
    if (position.stowed < parameters_.lots && can_stow_any(position)) return std::nullopt;
    return arvek::Outcome::of_payoffs({std::min(position.score, arvek::largest_payoff), 0, 0, 0});
}

void Stowage::generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>& events) const {
    for (int kind = 0; kind < kinds; ++kind)
        events.push_back({{static_cast<std::uint8_t>(kind), Move::drawn}, 1.0 / kinds});
}

arvek::Score Stowage::evaluate(const Position& position, arvek::Player) const {
    const int rows = parameters_.rows, columns = parameters_.columns;
    const int crates_left = (parameters_.lots - position.stowed) * parameters_.lot;
    int promise = 0;
    for (int column = 0; column < columns; ++column) {
        const int filled = count(position.filled & column_cells(column));
        promise += filled * filled * 20 / (rows * rows);
    }
    const int free = rows * columns - count(position.filled);
    const int tilt = std::abs(tilt_of(position.filled));
    // A crate is worth some 3.6 cells and its share of hoisting, as long as there is room for it.
    const int room = std::min(crates_left * 10, crates_left * free * 10 * 2 / (rows * columns));
    return arvek::Score::estimate(position.score + promise + room - edges(position.filled) * 2 - tilt * tilt / 4);
}

std::uint64_t Stowage::hash(const Position& position) const {
    std::uint64_t quay = position.to_draw;
    for (const std::uint8_t crate : position.quay) quay = quay << 8 | crate;
    return arvek::hash_of_words(
        {static_cast<std::uint64_t>(position.filled), static_cast<std::uint64_t>(position.filled >> 64), quay,
         static_cast<std::uint64_t>(position.stowed) << 32 | static_cast<std::uint32_t>(position.score)});
}

int Stowage::preference(const Position& position, const Move& move) const {
    Position after = position;
    play(after, move);
    return after.score - position.score;
}

std::string Stowage::position_text(const Position& position) const {
    std::string text;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        for (int column = 0; column < parameters_.columns; ++column)
            text += (position.filled >> (column * parameters_.rows + row) & 1) != 0 ? '#' : '.';
        text += row > 0 ? '/' : ' ';
    }
    std::string quay;
    for (const std::uint8_t crate : position.quay)
        if (crate != 0) quay += (quay.empty() ? "" : ",") + std::string(shapes[crate - 1].name);
    for (int i = 0; i < position.to_draw; ++i) quay += quay.empty() ? "?" : ",?";
    text += quay.empty() ? "-" : quay;
    return text + " " + std::to_string(position.stowed) + " " + std::to_string(position.score);
}

Stowage::Position Stowage::read_position(std::string_view text) const {
    arvek::TextReader in(text, std::to_string(parameters_.rows) + " rows of " + std::to_string(parameters_.columns) +
                                   " cells, the crates on the quay, the lots stowed and the score, such as '" +
                                   position_text(initial_position()) + "'");
    Position position;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        for (int column = 0; column < parameters_.columns; ++column)
            if (in.one_of(".#", "cell") == 1) position.filled |= Cells{1} << (column * parameters_.rows + row);
        if (row > 0) in.take('/', "a row");
    }
    in.pass_if('/');
    in.take(' ', "the rows");
    int crates = 0;
    std::array<std::uint8_t, most_lot> quay{};
    if (!in.pass_if('-')) {
        do {
            if (crates + position.to_draw == parameters_.lot)
                in.fail("more than a lot lies on the quay", std::to_string(parameters_.lot) + " crates at the most");
            if (in.pass_if('?')) {
                ++position.to_draw;
                continue;
            }
            if (position.to_draw > 0) in.fail("a crate after one that is still to be drawn", "crates first, then '?'");
            std::string name;
            while (in.next() != ',' && in.next() != ' ' && !in.at_end()) name += in.pass();
            const int kind = kind_named(name);
            if (kind < 0) in.fail_as_such("there is no crate '" + name + "'", "one of " + kind_names());
            quay[static_cast<std::size_t>(crates++)] = static_cast<std::uint8_t>(kind + 1);
        } while (in.pass_if(','));
    }
    std::sort(quay.begin(), quay.end());
    position.quay = quay;
    in.take(' ', "the quay");
    position.stowed = static_cast<std::uint8_t>(in.number("number of lots", 0, parameters_.lots));
    in.take(' ', "the lots stowed");
    position.score = in.number("score", 0, arvek::largest_payoff);
    in.finish("the score");
    if (position.to_draw > 0 && crates + position.to_draw != parameters_.lot)
        in.fail_as_such("a lot is drawn whole before a crate is stowed",
                        std::to_string(parameters_.lot) + " crates and '?' together");
    if (crates == 0 && position.to_draw == 0 && position.stowed < parameters_.lots)
        in.fail_as_such("the quay is empty and lots are still to come", "'?' for each crate that is to be drawn");
    if (crates + position.to_draw > 0 && position.stowed == parameters_.lots)
        in.fail_as_such("crates lie on the quay after the last lot", "-");
    int hoisted = 0;
    if (stow(position.filled, 0, hoisted) != position.filled)
        in.fail_as_such("a column is full", "columns that are hoisted out when they are full");
    if (const int tilt = tilt_of(position.filled); std::abs(tilt) > parameters_.trim)
        in.fail_as_such("the left half has " + std::to_string(tilt) + " cells more than the right",
                        "at most " + std::to_string(parameters_.trim) + " either way");
    return position;
}

const char* Stowage::kind_name(int kind) { return shapes[kind].name; }

std::string Stowage::move_text(const Position&, const Move& move) const {
    if (move.cell == Move::drawn) return std::string("lot-") + shapes[move.kind].name;
    return std::string(shapes[move.kind].name) + "-" + static_cast<char>('a' + move.cell / parameters_.rows) +
           std::to_string(move.cell % parameters_.rows + 1);
}

std::string Stowage::drawing(const Position& position) const {
    const std::string edge = "    +" + std::string(static_cast<std::size_t>(2 * parameters_.columns) + 1, '-') + "+\n";
    std::string text = edge;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        const std::string number = std::to_string(row + 1);
        text += std::string(3 - number.size(), ' ') + number + " | ";
        for (int column = 0; column < parameters_.columns; ++column)
            text += (position.filled >> (column * parameters_.rows + row) & 1) != 0 ? "# " : ". ";
        text += "|\n";
    }
    text += edge + "      ";
    for (int column = 0; column < parameters_.columns; ++column) text += {static_cast<char>('a' + column), ' '};
    text += "\n  quay:";
    for (const std::uint8_t crate : position.quay)
        if (crate != 0) text += std::string(" ") + shapes[crate - 1].name;
    for (int i = 0; i < position.to_draw; ++i) text += " ?";
    return text + "   lots " + std::to_string(position.stowed) + " of " + std::to_string(parameters_.lots) +
           "   score " + std::to_string(position.score) + "   trim " + std::to_string(tilt_of(position.filled)) + "\n";
}

}  // namespace waterway
