#include "lanterns/lanterns.hpp"

#include <algorithm>
#include <cstdlib>
#include <numeric>

#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr int most_hooks = 64;
constexpr std::array<char, 2> letters{'T', 'A'};

void require_range(const char* name, int value, int least, int most) {
    if (value < least || value > most)
        throw InputError(name, std::to_string(value) + " is out of range",
                         std::to_string(least) + " to " + std::to_string(most));
}

char column_letter(int column) { return static_cast<char>('a' + column); }

char letter_at(const Lanterns::Position& position, Lanterns::Hooks hook) {
    if ((position.lanterns_of(Player::First) & hook) != 0) return letters[0];
    return (position.lanterns_of(Player::Second) & hook) != 0 ? letters[1] : '.';
}

std::string quoted(std::string_view text) { return "'" + std::string(text) + "'"; }

}  // namespace

Lanterns::Lanterns(const Parameters& parameters) : parameters_(parameters) {
    require_range("columns", parameters.columns, 1, 12);
    require_range("rows", parameters.rows, 1, 12);
    require_range("line", parameters.line, 2, 8);
    require_range("players", parameters.players, 2, 2);
    hook_count_ = parameters.columns * parameters.rows;
    if (hook_count_ > most_hooks)
        throw InputError("columns, rows",
                         std::to_string(parameters.columns) + " x " + std::to_string(parameters.rows) + " is " +
                             std::to_string(hook_count_) + " hooks",
                         "at most " + std::to_string(most_hooks));
    all_hooks_ = ~Hooks{0} >> (most_hooks - hook_count_);
    column_mask_ = (Hooks{1} << parameters.rows) - 1;
    for (int column = 0; column < parameters.columns; ++column) {
        bottom_hooks_ |= bit_at(column, 0);
        for (int row = 0; row < parameters.rows; ++row)
            (row % 2 == parameters.rows % 2 ? lower_hooks_ : upper_hooks_) |= bit_at(column, row);
    }
    directions_ = {direction_towards(1, 0), direction_towards(0, 1), direction_towards(1, 1), direction_towards(1, -1)};

    for (const Direction& direction : directions_)
        for (Hooks starts = direction.starts; starts != 0; starts &= starts - 1) {
            auto& line = lines_.emplace_back();
            for (int i = 0, hook = std::countr_zero(starts); i < parameters.line; ++i, hook += direction.step)
                line[static_cast<std::size_t>(i)] = static_cast<std::uint8_t>(hook);
        }

    // Mirrored left and right; without drop also up and down, and where the frame is square along the diagonals.
    const int kinds = parameters.drop ? 2 : parameters.columns == parameters.rows ? 8 : 4;
    for (int kind = 1; kind < kinds; ++kind) {
        Image image{};
        for (int hook = 0; hook < hook_count_; ++hook) {
            int column = hook / parameters.rows, row = hook % parameters.rows;
            if ((kind & 1) != 0) column = parameters.columns - 1 - column;
            if ((kind & 2) != 0) row = parameters.rows - 1 - row;
            if ((kind & 4) != 0) std::swap(column, row);
            image[static_cast<std::size_t>(hook)] = static_cast<std::uint8_t>(hook_at(column, row));
        }
        images_.push_back(image);
    }

    const auto hooks = hook_order_.begin();
    std::iota(hooks, hooks + hook_count_, std::uint8_t{0});
    std::stable_sort(hooks, hooks + hook_count_, [&](int a, int b) {
        return distance_from_middle(a / parameters.rows, a % parameters.rows) <
               distance_from_middle(b / parameters.rows, b % parameters.rows);
    });
    const auto columns = column_order_.begin();
    std::iota(columns, columns + parameters.columns, 0);
    std::stable_sort(columns, columns + parameters.columns, [&](int a, int b) {
        return std::abs(2 * a + 1 - parameters.columns) < std::abs(2 * b + 1 - parameters.columns);
    });
}

/// In quarter hooks squared.
int Lanterns::distance_from_middle(int column, int row) const {
    const int across = 2 * column + 1 - parameters_.columns;
    const int up = parameters_.drop ? 0 : 2 * row + 1 - parameters_.rows;
    return across * across + up * up;
}

Lanterns::Direction Lanterns::direction_towards(int columns, int rows) const {
    Direction direction;
    // A line is kept by the hook where its lowest bit lies; it runs towards higher bits.
    direction.step = columns * parameters_.rows + rows;
    const int last = parameters_.line - 1;
    for (int column = 0; column < parameters_.columns; ++column)
        for (int row = 0; row < parameters_.rows; ++row) {
            const int end_column = column + last * columns;
            const int end_row = row + last * rows;
            if (end_column < parameters_.columns && end_row >= 0 && end_row < parameters_.rows)
                direction.starts |= bit_at(column, row);
        }
    int covered = 1;
    for (int& shift : direction.shifts) {
        const int reach = std::min(covered, parameters_.line - covered);
        // A direction in which no line fits keeps shifts of 0: larger ones could pass the width of the word.
        if (direction.starts != 0) shift = reach * direction.step;
        covered += reach;
    }
    if (direction.starts == 0) direction.step = 0;
    for (int i = 0; i < parameters_.line; ++i)
        direction.places[static_cast<std::size_t>(i)] = direction.starts << (i * direction.step);
    return direction;
}

std::array<bool, 2> Lanterns::may_win(const Position& position) const {
    if (parameters_.drop) {
        std::array<bool, 2> open{};
        // There a side cannot take what it likes, so that any line that is open may be finished.
        for (const Direction& direction : directions_) {
            Hooks own = 0, others = 0;
            for (int i = 0, shift = 0; i < parameters_.line; ++i, shift += direction.step) {
                own |= position.own >> shift;
                others |= position.others >> shift;
            }
            open[0] = open[0] || (direction.starts & ~others) != 0;
            open[1] = open[1] || (direction.starts & ~own) != 0;
        }
        return open;
    }
    // A line that lacks n lanterns counts 2^-n, here in sixteenths (more than four like four). The side that only
    // wants to prevent lines can do so if those of its rival count less than 1 before it moves, or 1/2 before the
    // rival does.
    std::array<int, 2> counted{};
    for (const Direction& direction : directions_) {
        std::array<Lacking, 2> sides;
        Hooks own_four = 0, others_four = 0;
        for (int i = 0, shift = 0; i < parameters_.line; ++i, shift += direction.step) {
            own_four |= sides[0].three & ~(position.own >> shift);
            others_four |= sides[1].three & ~(position.others >> shift);
            sides[0].look_at(position.own >> shift);
            sides[1].look_at(position.others >> shift);
        }
        const std::array<Hooks, 2> four{own_four, others_four};
        for (std::size_t side = 0; side < 2; ++side) {
            const Hooks lines = direction.starts & ~sides[1 - side].any;
            counted[side] += 8 * std::popcount(lines & ~sides[side].two) +
                             4 * std::popcount(lines & sides[side].two & ~sides[side].three) +
                             2 * std::popcount(lines & sides[side].three & ~four[side]) +
                             std::popcount(lines & four[side]);
        }
    }
    return {counted[0] >= 8, counted[1] >= 16};
}

Lanterns::Prospects Lanterns::prospects(const Position& position) const {
    const Hooks taken = position.taken();
    const Hooks rival_finishing = finishing_hooks(position.others, taken);
    Prospects found;
    found.reachable = reachable_hooks(taken);
    found.wins = finishing_hooks(position.own, taken) & found.reachable;
    found.threats = rival_finishing & found.reachable;
    found.harmless = found.reachable;
    if (parameters_.drop) found.harmless &= ~((rival_finishing & ~bottom_hooks_) >> 1);
    return found;
}

int Lanterns::most_against_follow_up(const Position& position) const {
    const Hooks empty = all_hooks_ & ~position.taken();
    if (!parameters_.drop || (empty & lower_hooks_) << 1 != (empty & upper_hooks_)) return 1;
    if (has_line(position.own | (empty & lower_hooks_))) return 1;
    return has_line(position.others | (empty & upper_hooks_)) ? -1 : 0;
}

arvek::PayoffBounds Lanterns::payoff_bounds(const Position& position, Player player) const {
    arvek::PayoffBounds bounds{-1, 1};  // of the side to move
    const auto [reachable, wins, threats, harmless] = prospects(position);
    if (wins != 0) {
        bounds.least = 1;
    } else if (threats != 0 ? !std::has_single_bit(threats) || (harmless & threats) == 0 : harmless == 0) {
        bounds.most = -1;
    } else if (!parameters_.drop || 2 * std::popcount(position.taken()) > hook_count_) {
        const auto [own, others] = may_win(position);
        if (!own) bounds.most = 0;
        if (!others) bounds.least = 0;
    }
    if (bounds.least < 1 && bounds.most > -1) bounds.most = std::min(bounds.most, most_against_follow_up(position));
    return player == position.to_move ? bounds : arvek::PayoffBounds{-bounds.most, -bounds.least};
}

void Lanterns::generate_sufficient_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    const auto [reachable, wins, threats, harmless] = prospects(position);
    if (const Hooks forced = wins != 0 ? wins : threats; forced != 0) {
        moves.push_back({static_cast<std::uint8_t>(std::countr_zero(forced))});
        return;
    }
    Hooks chosen = harmless != 0 ? harmless : reachable;
    if (parameters_.drop) {
        for (int i = 0; i < parameters_.columns; ++i) {
            const Hooks column = column_mask_ << column_order_[static_cast<std::size_t>(i)] * parameters_.rows;
            if ((chosen & column) != 0) moves.push_back({static_cast<std::uint8_t>(std::countr_zero(chosen & column))});
        }
        return;
    }
    // Of the hooks where no line can be finished any more one is as good as another.
    Hooks alive = 0;
    for (const Direction& direction : directions_) {
        Hooks own_open = direction.starts, others_open = direction.starts;
        for (int i = 0, shift = 0; i < parameters_.line; ++i, shift += direction.step) {
            own_open &= ~(position.others >> shift);
            others_open &= ~(position.own >> shift);
        }
        for (int i = 0, shift = 0; i < parameters_.line; ++i, shift += direction.step)
            alive |= (own_open | others_open) << shift;
    }
    const Hooks dead = chosen & ~alive;
    chosen = (chosen & alive) | (dead & -dead);
    for (int i = 0; i < hook_count_; ++i) {
        const std::uint8_t hook = hook_order_[static_cast<std::size_t>(i)];
        if ((chosen >> hook & 1) != 0) moves.push_back({hook});
    }
}

arvek::Outcome Lanterns::play_out(Position& position, arvek::Random& random) const {
    const auto pick = [&](std::uint64_t n) { return (random.next() >> 32) * n >> 32; };
    Hooks own = position.own, others = position.others;
    Player mover = position.to_move;
    // Without drop the free hooks stand in a row, and each move takes one at random out of those that are left.
    std::array<std::uint8_t, most_hooks> free;
    std::uint64_t left = 0;
    for (Hooks hooks = all_hooks_ & ~(own | others); hooks != 0; hooks &= hooks - 1)
        free[left++] = static_cast<std::uint8_t>(std::countr_zero(hooks));
    for (; left > 0; --left) {
        std::uint8_t hook = 0;
        if (parameters_.drop) {
            Hooks reachable = reachable_hooks(own | others);
            for (std::uint64_t skip = pick(static_cast<std::uint64_t>(std::popcount(reachable))); skip > 0; --skip)
                reachable &= reachable - 1;
            hook = static_cast<std::uint8_t>(std::countr_zero(reachable));
        } else {
            const std::uint64_t at = pick(left);
            hook = free[at];
            free[at] = free[left - 1];
        }
        own |= Hooks{1} << hook;
        if (has_line(own)) return arvek::Outcome::win(mover);
        std::swap(own, others);
        mover = arvek::rival_of(mover);
    }
    return arvek::Outcome::draw();
}

std::uint64_t Lanterns::equivalence_hash(const Position& position) const {
    const int lanterns = std::popcount(position.taken());
    if (lanterns > (parameters_.drop ? hook_count_ / 2 : hook_count_ / 3)) return hash(position);
    std::uint64_t least = hash(position);
    for (const Image& image : images_) {
        Position seen{0, 0, position.to_move};
        for (Hooks left = position.own; left != 0; left &= left - 1)
            seen.own |= Hooks{1} << image[static_cast<std::size_t>(std::countr_zero(left))];
        for (Hooks left = position.others; left != 0; left &= left - 1)
            seen.others |= Hooks{1} << image[static_cast<std::size_t>(std::countr_zero(left))];
        least = std::min(least, hash(seen));
    }
    return least;
}

Lanterns::Hooks Lanterns::winning_hooks(const Position& position) const {
    Hooks hooks = 0;
    for (const Hooks lanterns : {position.own, position.others})
        for (const Direction& direction : directions_) {
            const Hooks starts = line_starts(direction, lanterns);
            for (int i = 0; i < parameters_.line; ++i) hooks |= starts << (i * direction.step);
        }
    return hooks;
}

int Lanterns::preference(const Position&, const Move& move) const {
    return -distance_from_middle(move.hook / parameters_.rows, move.hook % parameters_.rows);
}

std::string Lanterns::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

std::string Lanterns::position_text(const Position& position) const {
    std::string text;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        for (int column = 0; column < parameters_.columns; ++column) {
            const Hooks hook = bit_at(column, row);
            text += letter_at(position, hook);
        }
        text += row > 0 ? '/' : ' ';
    }
    text += letters[arvek::index_of(position.to_move)];
    return text;
}

Lanterns::Position Lanterns::read_position(std::string_view text) const {
    arvek::TextReader in(text, std::to_string(parameters_.rows) + " rows of " + std::to_string(parameters_.columns) +
                                   " hooks with / between, a space and the player to move, such as " +
                                   quoted(position_text(initial_position())));
    Hooks hooks[3] = {0, 0, 0};  // the last of nobody
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        const std::string name = "row " + std::to_string(row + 1);
        for (int column = 0; column < parameters_.columns; ++column) {
            if (in.at_end() || in.next() == '/' || in.next() == ' ')
                in.fail(name + " has only " + std::to_string(column) + " hooks", in.whole());
            hooks[in.one_of("TA.", "lantern")] |= bit_at(column, row);
        }
        in.take(row > 0 ? '/' : ' ', name);
    }
    const Player to_move = in.one_of("TA", "player") == 0 ? Player::First : Player::Second;
    in.finish("the player to move");

    const int teal = std::popcount(hooks[0]);
    const int amber = std::popcount(hooks[1]);
    const bool teal_moves = to_move == Player::First;
    const Position position{teal_moves ? hooks[0] : hooks[1], teal_moves ? hooks[1] : hooks[0], to_move};
    if (teal != amber + (to_move == Player::Second ? 1 : 0))
        in.fail_as_such("Teal has " + std::to_string(teal) + " lanterns and Amber " + std::to_string(amber) + " with " +
                            player_name(to_move) + " to move",
                        "as many of each when Teal is to move, one more of Teal's when Amber is");
    if (has_line(position.own))
        in.fail_as_such(player_name(to_move) + " has a line already and is still to move",
                        "a line only of the side that moved last");
    if (parameters_.drop) {
        const Hooks taken = position.taken();
        for (int column = 0; column < parameters_.columns; ++column) {
            const Hooks hung = taken >> (column * parameters_.rows) & column_mask_;
            if ((hung & (hung + 1)) != 0)
                in.fail_as_such(std::string("a lantern in column ") + column_letter(column) + " hangs over a free hook",
                                "lanterns that have slid down, since drop is true");
        }
    }
    return position;
}

std::string Lanterns::move_text(const Position&, const Move& move) const {
    std::string text(1, column_letter(move.hook / parameters_.rows));
    if (!parameters_.drop) text += std::to_string(move.hook % parameters_.rows + 1);
    return text;
}

Lanterns::Move Lanterns::read_move(const Position& position, std::string_view text) const {
    const std::string columns = std::string("a to ") + column_letter(parameters_.columns - 1);
    const std::string shape = parameters_.drop ? "a column letter, " + columns
                                               : "a column letter, " + columns + ", and a row number, 1 to " +
                                                     std::to_string(parameters_.rows) + ", such as " + quoted("a1");
    if (text.empty()) throw InputError("move", "the text is empty", shape);
    const int column = text[0] - 'a';
    if (column < 0 || column >= parameters_.columns)
        throw InputError("move", 1, quoted(text) + " does not begin with a column of the frame", shape);
    const Hooks taken = position.taken();
    int row = 0;
    if (parameters_.drop) {
        if (text.size() != 1) throw InputError("move", 2, quoted(text) + " has more than a column", shape);
        row = std::countr_one(taken >> (column * parameters_.rows) & column_mask_);
        if (row >= parameters_.rows)
            throw InputError("move", "column " + std::string(text) + " is full", "a column with a free hook");
    } else {
        for (const char digit : text.substr(1))
            row = digit >= '0' && digit <= '9' && row < 100 ? row * 10 + (digit - '0') : 100;
        if (row < 1 || row > parameters_.rows || text[1] == '0')
            throw InputError("move", 2, quoted(text) + " names no row of the frame", shape);
        --row;
        if ((taken >> hook_at(column, row) & 1) != 0) {
            const Player owner =
                letter_at(position, bit_at(column, row)) == letters[0] ? Player::First : Player::Second;
            throw InputError("move", "hook " + std::string(text) + " already holds a lantern of " + player_name(owner),
                             "a free hook");
        }
    }
    return {static_cast<std::uint8_t>(hook_at(column, row))};
}

std::string Lanterns::drawing(const Position& position) const {
    const std::string edge = "    +" + std::string(static_cast<std::size_t>(3 * parameters_.columns), '-') + "+\n";
    const Hooks winning = winning_hooks(position);
    std::string text = edge;
    for (int row = parameters_.rows - 1; row >= 0; --row) {
        const std::string number = std::to_string(row + 1);
        text += std::string(3 - number.size(), ' ') + number + " |";
        for (int column = 0; column < parameters_.columns; ++column) {
            const Hooks hook = bit_at(column, row);
            const char letter = letter_at(position, hook);
            const bool bright = (winning & hook) != 0;
            text += {bright ? '[' : ' ', letter, bright ? ']' : ' '};
        }
        text += "|\n";
    }
    text += edge + "     ";
    for (int column = 0; column < parameters_.columns; ++column) text += {' ', column_letter(column), ' '};
    while (text.back() == ' ') text.pop_back();
    return text + '\n';
}

}  // namespace waterway
