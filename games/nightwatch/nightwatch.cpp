#include "nightwatch/nightwatch.hpp"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <sstream>

#include <arvek/arena/files.hpp>
#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

#include "default_data.hpp"

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr std::string_view kind_letters = "WRVH";

struct Direction {
    int columns, rows;
};

/// The four along rows and columns first.
constexpr std::array<Direction, 8> directions{{{0, 1}, {1, 0}, {0, -1}, {-1, 0}, {1, 1}, {1, -1}, {-1, -1}, {-1, 1}}};
constexpr std::size_t straight = 4;

constexpr std::size_t longest_map_file = 100'000;

std::string letter_for(char kind, int side) {
    return std::string(1, side == 0 ? kind : static_cast<char>(std::tolower(static_cast<unsigned char>(kind))));
}

std::string shown(char letter) {
    const auto byte = static_cast<unsigned char>(letter);
    return byte < 0x20 || byte >= 0x7f ? "a character that cannot be shown" : "'" + std::string(1, letter) + "'";
}

}  // namespace

/// Which piece stands where.
struct Nightwatch::Occupied {
    explicit Occupied(const Nightwatch& game, const Position& position) : game_(game) {
        standing_.fill(0);
        for (std::size_t i = 0; i < position.count; ++i)
            standing_[position.pieces[i].cell] = static_cast<std::uint8_t>(i + 1);
    }
    /// Inside the map, and neither wall nor piece.
    bool free(int column, int row) const {
        if (!game_.inside(column, row)) return false;
        const Cell cell = game_.cell_at(column, row);
        return !game_.is_wall(cell) && standing_[cell] == 0;
    }
    /// The number of the piece there, or -1.
    int piece(int column, int row) const {
        return game_.inside(column, row) ? standing_[game_.cell_at(column, row)] - 1 : -1;
    }
    void put(Cell cell, int piece) { standing_[cell] = static_cast<std::uint8_t>(piece + 1); }

   private:
    const Nightwatch& game_;
    std::array<std::uint8_t, most_columns * most_rows> standing_;
};

std::string_view Nightwatch::coal_yard() { return data::coal_yard; }

NightwatchMap Nightwatch::read_map(std::string_view text, std::string_view source) {
    NightwatchMap map;
    int line_number = 0, first_row_line = 0;
    const auto fail = [&](std::size_t column, const std::string& problem, const std::string& expected) {
        throw InputError("line " + std::to_string(line_number) + " of " + std::string(source), column, problem,
                         expected);
    };
    if (text.size() > longest_map_file)
        throw InputError(source, "the file is larger than " + std::to_string(longest_map_file) + " bytes", "a map");
    std::array<int, 2> wardens{}, pieces{};
    bool ended = false;
    while (!text.empty()) {
        ++line_number;
        const auto end = text.find('\n');
        std::string_view line = text.substr(0, end);
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
        if (line.empty()) {
            ended = !map.rows.empty();
            continue;
        }
        if (line.front() == ';') continue;
        constexpr std::string_view title = "title:";
        if (line.substr(0, title.size()) == title) {
            if (!map.rows.empty()) fail(1, "the title comes after the map", "the title before it");
            if (!map.title.empty()) fail(1, "there is a title already", "one title");
            line.remove_prefix(std::min(line.find_first_not_of(' ', title.size()), line.size()));
            if (line.empty()) fail(title.size() + 1, "the title is empty", "a name after 'title:'");
            for (const char letter : line)
                if (static_cast<unsigned char>(letter) < 0x20)
                    fail(title.size() + 1, "the title has a control character", "plain text");
            map.title = line;
            continue;
        }
        if (ended) fail(1, "there are more rows after an empty line", "one map, its rows together");
        if (line.size() > most_columns)
            fail(most_columns + 1, "the row has " + std::to_string(line.size()) + " cells",
                 "at most " + std::to_string(most_columns));
        if (!map.rows.empty() && line.size() != map.rows.front().size())
            fail(std::min(line.size(), map.rows.front().size()) + 1,
                 "the row has " + std::to_string(line.size()) + " cells, and the one in line " +
                     std::to_string(first_row_line) + " has " + std::to_string(map.rows.front().size()),
                 "rows of one length");
        if (map.rows.size() == most_rows)
            fail(1, "there are more than " + std::to_string(most_rows) + " rows", "at most that many");
        if (map.rows.empty()) first_row_line = line_number;
        for (std::size_t i = 0; i < line.size(); ++i) {
            if (line[i] == '#' || line[i] == '.') continue;
            const int side = std::islower(static_cast<unsigned char>(line[i])) != 0 ? 1 : 0;
            const auto kind = kind_letters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(line[i]))));
            if (kind == std::string_view::npos)
                fail(i + 1, shown(line[i]) + " is nothing on a map", "#, ., W R V H for Teal or w r v h for Amber");
            const auto at = static_cast<std::size_t>(side);
            if (kind == 0 && ++wardens[at] > 1)
                fail(i + 1, std::string(side == 0 ? "Teal" : "Amber") + " has a Warden already", "one Warden each");
            if (++pieces[at] > static_cast<int>(most_pieces) / 2)
                fail(i + 1, std::string(side == 0 ? "Teal" : "Amber") + " has more than 20 pieces", "at most 20 each");
        }
        map.rows.emplace_back(line);
    }
    if (map.rows.empty()) throw InputError(source, "there is no map in it", "rows of #, ., W R V H and w r v h");
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
        if (wardens[side] == 0)
            throw InputError(source, std::string(side == 0 ? "Teal" : "Amber") + " has no Warden",
                             side == 0 ? "one W" : "one w");
    if (map.title.empty()) map.title = "a map without a title";
    return map;
}

Nightwatch::Nightwatch(const Parameters& parameters)
    : Nightwatch(FromMap{}, parameters.map.empty() ? read_map(data::coal_yard, "the Coal Yard")
                                                   : read_map(arvek::read_text_file(parameters.map), parameters.map)) {}

Nightwatch::Nightwatch(FromMap, const NightwatchMap& map)
    : columns_(static_cast<int>(map.rows.front().size())), rows_(static_cast<int>(map.rows.size())), title_(map.title) {
    walls_.resize(static_cast<std::size_t>(columns_ * rows_));
    for (int cell = 0; cell < columns_ * rows_; ++cell) {
        column_of_[static_cast<std::size_t>(cell)] = static_cast<std::uint8_t>(cell % columns_);
        row_of_[static_cast<std::size_t>(cell)] = static_cast<std::uint8_t>(cell / columns_);
    }
    std::string text;
    for (int row = rows_ - 1; row >= 0; --row) {
        const std::string& cells = map.rows[static_cast<std::size_t>(rows_ - 1 - row)];
        for (int column = 0; column < columns_; ++column)
            walls_[cell_at(column, row)] = cells[static_cast<std::size_t>(column)] == '#' ? 1 : 0;
        text += cells + (row > 0 ? "/" : "");
    }
    initial_ = read_position(text + " T 0");
    squares_.resize(walls_.size());
    for (int cell = 0; cell < columns_ * rows_; ++cell)
        for (int at = 0; at < 25; ++at) {
            const int column = cell % columns_ + at % 5 - 2, row = cell / columns_ + at / 5 - 2;
            const bool free = inside(column, row) && walls_[cell_at(column, row)] == 0;
            squares_[static_cast<std::size_t>(cell)][static_cast<std::size_t>(at)] = free ? 0 : 25;
        }
    for (const Image image : {Image::Mirrored, Image::Turned}) {
        image_ = image;
        bool alike = true;
        for (int cell = 0; cell < columns_ * rows_; ++cell)
            alike = alike && walls_[static_cast<std::size_t>(cell)] == walls_[seen_by_amber(static_cast<Cell>(cell))];
        if (alike) return;
    }
    image_ = Image::Same;
}

const char* Nightwatch::kind_name(Kind kind) {
    constexpr std::array names{"Warden", "Runner", "Vaulter", "Hook"};
    return names[static_cast<std::size_t>(kind)];
}

int Nightwatch::distance(Cell a, Cell b) const {
    return std::max(std::abs(column_of(a) - column_of(b)), std::abs(row_of(a) - row_of(b)));
}

const Nightwatch::Piece* Nightwatch::warden_of(const Position& position, int side) {
    for (const Piece& piece : position)
        if (piece.side == side && piece.kind == Kind::Warden) return &piece;
    return nullptr;
}

void Nightwatch::generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    Occupied board(*this, position);
    const auto side = static_cast<std::uint8_t>(position.to_move);
    for (std::size_t i = 0; i < position.count; ++i) {
        const Piece& piece = position.pieces[i];
        if (piece.side != side) continue;
        const int column = column_of(piece.cell), row = row_of(piece.cell);
        const auto add = [&](int to_column, int to_row) {
            moves.push_back({piece.cell, cell_at(to_column, to_row), no_cell});
        };
        const std::size_t ways = piece.kind == Kind::Runner || piece.kind == Kind::Hook ? straight : directions.size();
        for (std::size_t way = 0; way < ways; ++way) {
            const auto [across, up] = directions[way];
            const int reach = piece.kind == Kind::Runner ? 4 : piece.kind == Kind::Vaulter ? 3 : 1;
            for (int step = 1; step <= reach; ++step) {
                const int to_column = column + step * across, to_row = row + step * up;
                if (!board.free(to_column, to_row)) break;
                if (piece.kind == Kind::Vaulter && step < 2) continue;
                add(to_column, to_row);
                if (piece.kind != Kind::Hook) continue;
                // The cell that the Hook has left is free now.
                board.put(piece.cell, -1);
                for (std::size_t pull = 0; pull < straight; ++pull) {
                    const auto [pull_across, pull_up] = directions[pull];
                    if (!board.free(to_column + pull_across, to_row + pull_up)) continue;
                    const int pulled_column = to_column + 2 * pull_across, pulled_row = to_row + 2 * pull_up;
                    const int pulled = board.piece(pulled_column, pulled_row);
                    if (pulled < 0 || position.pieces[static_cast<std::size_t>(pulled)].side == side) continue;
                    moves.push_back({piece.cell, cell_at(to_column, to_row), cell_at(pulled_column, pulled_row)});
                }
                board.put(piece.cell, static_cast<int>(i));
            }
        }
    }
    moves.push_back({});
}

void Nightwatch::play(Position& position, const Move& move) const {
    const Player mover = position.to_move;
    position.to_move = arvek::rival_of(mover);
    ++position.quiet;
    if (move.passes()) return;
    const auto standing_at = [&](Cell cell) -> Piece& {
        return *std::find_if(position.pieces.begin(), position.pieces.begin() + position.count,
                             [&](const Piece& piece) { return piece.cell == cell; });
    };
    standing_at(move.from).cell = move.to;
    if (move.pulled != no_cell) standing_at(move.pulled).cell = static_cast<Cell>((move.to + move.pulled) / 2);

    const auto side = static_cast<std::uint8_t>(mover);
    bool removed = false;
    for (std::size_t i = 0; i < position.count; ++i) {
        Piece& rival = position.pieces[i];
        if (rival.side == side || !are_neighbours(rival.cell, move.to)) continue;
        int hits = 0;
        for (const Piece& own : position)
            if (own.side == side && are_neighbours(own.cell, rival.cell)) ++hits;
        const int taken = rival.hits + hits;
        rival.hits = static_cast<std::uint8_t>(taken);
        removed = removed || taken >= hits_to_remove(rival.kind);
    }
    const auto last = position.pieces.begin() + position.count;
    if (removed) {
        const auto kept = std::remove_if(position.pieces.begin(), last,
                                         [](const Piece& piece) { return piece.hits >= hits_to_remove(piece.kind); });
        std::fill(kept, last, Piece{});
        position.count = static_cast<std::uint8_t>(kept - position.pieces.begin());
        position.quiet = 0;
    }
    // Nearly in order already: at most two have moved.
    for (std::size_t i = 1; i < position.count; ++i)
        for (std::size_t j = i; j > 0 && position.pieces[j].cell < position.pieces[j - 1].cell; --j)
            std::swap(position.pieces[j], position.pieces[j - 1]);
}

std::optional<arvek::Outcome> Nightwatch::outcome(const Position& position) const {
    for (const int side : {0, 1})
        if (warden_of(position, side) == nullptr)
            return arvek::Outcome::win(side == 0 ? Player::Second : Player::First);
    if (position.quiet >= quiet_moves_to_draw) return arvek::Outcome::draw();
    return std::nullopt;
}

int Nightwatch::strength(const Piece& piece) const {
    constexpr std::array worth{300, 90, 100, 110};
    return worth[static_cast<std::size_t>(piece.kind)] - 30 * piece.hits;
}

arvek::Score Nightwatch::evaluate(const Position& position, Player player) const {
    const std::array wardens{warden_of(position, 0), warden_of(position, 1)};
    int balance = 0;
    for (const Piece& piece : position) {
        const auto rival = static_cast<std::size_t>(1 - piece.side);
        const int away = distance(piece.cell, wardens[rival]->cell);
        const int value = strength(piece) + (piece.kind == Kind::Warden ? 0 : std::max(0, 24 - 3 * away));
        balance += piece.side == 0 ? value : -value;
    }
    return arvek::Score::estimate(player == Player::First ? balance : -balance);
}

std::uint64_t Nightwatch::hash(const Position& position) const {
    std::uint64_t sum =
        arvek::mix_bits(std::uint64_t{position.quiet} << 1 | static_cast<std::uint64_t>(position.to_move));
    for (const Piece& piece : position)
        sum += arvek::mix_bits(std::uint64_t{piece.cell} << 32 | std::uint64_t{piece.hits} << 16 |
                               std::uint64_t{piece.side} << 8 | static_cast<std::uint64_t>(piece.kind) | 1ull << 60);
    return sum;
}

int Nightwatch::order_hint(const Position& position, const Move& move) const {
    if (move.passes()) return -100;
    const int side = static_cast<int>(position.to_move);
    const auto nearer_to = [&](const Piece& warden) {
        return distance(move.from, warden.cell) - distance(move.to, warden.cell);
    };
    const auto is_hit = [&](const Piece& piece) { return piece.side != side && are_neighbours(piece.cell, move.to); };
    if (move.pulled == no_cell && std::none_of(position.begin(), position.end(), is_hit))
        return nearer_to(*warden_of(position, 1 - side));
    Position after = position;
    play(after, move);
    const Piece* warden = warden_of(after, 1 - side);
    if (warden == nullptr) return 10'000;
    const auto rest = [&](const Position& at) {
        int sum = 0;
        for (const Piece& piece : at)
            if (piece.side != side) sum += strength(piece);
        return sum;
    };
    return rest(position) - rest(after) + nearer_to(*warden);
}

std::string Nightwatch::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

std::string Nightwatch::cell_text(Cell cell) const {
    const int column = column_of(cell);
    std::string text;
    if (column >= 26) text += static_cast<char>('a' + column / 26 - 1);
    text += static_cast<char>('a' + column % 26);
    return text + std::to_string(row_of(cell) + 1);
}

std::string Nightwatch::position_text(const Position& position) const {
    std::string text;
    for (int row = rows_ - 1; row >= 0; --row) {
        for (int column = 0; column < columns_; ++column) {
            const Cell cell = cell_at(column, row);
            const auto piece =
                std::find_if(position.begin(), position.end(), [&](const Piece& p) { return p.cell == cell; });
            if (piece == position.end()) {
                text += is_wall(cell) ? '#' : '.';
            } else {
                text += letter_for(kind_letters[static_cast<std::size_t>(piece->kind)], piece->side);
                if (piece->hits > 0) text += std::to_string(piece->hits);
            }
        }
        if (row > 0) text += '/';
    }
    return text + (position.to_move == Player::First ? " T " : " A ") + std::to_string(position.quiet);
}

Nightwatch::Position Nightwatch::read_position(std::string_view text) const {
    arvek::TextReader in(text, std::to_string(rows_) + " rows of " + std::to_string(columns_) +
                                   " cells from the top with / between, T or A, and the moves since the last removal");
    Position position;
    std::array<int, 2> wardens{}, pieces{};
    for (int row = rows_ - 1; row >= 0; --row) {
        for (int column = 0; column < columns_; ++column) {
            const Cell cell = cell_at(column, row);
            if (in.at_end() || in.next() == '/' || in.next() == ' ')
                in.fail("row " + std::to_string(row + 1) + " ends after " + std::to_string(column) + " cells",
                        in.whole());
            const char letter = in.next();
            if (letter == '#' || letter == '.') {
                if ((letter == '#') != is_wall(cell))
                    in.fail(cell_text(cell) + (is_wall(cell) ? " is a wall on this map" : " is no wall on this map"),
                            is_wall(cell) ? "#" : ". or a piece");
                in.pass();
                continue;
            }
            const auto kind = kind_letters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(letter))));
            if (kind == std::string_view::npos)
                in.fail(in.here() + " is no piece", "#, ., W R V H for Teal or w r v h for Amber");
            if (is_wall(cell)) in.fail(cell_text(cell) + " is a wall on this map", "#");
            const auto side = static_cast<std::size_t>(std::islower(static_cast<unsigned char>(letter)) != 0 ? 1 : 0);
            if (kind == 0 && ++wardens[side] > 1)
                in.fail(std::string(side == 0 ? "Teal" : "Amber") + " has a Warden already", "one Warden each at most");
            if (++pieces[side] > static_cast<int>(most_pieces) / 2)
                in.fail(std::string(side == 0 ? "Teal" : "Amber") + " has more than 20 pieces", "at most 20 each");
            Piece piece{cell, static_cast<Kind>(kind), 0, static_cast<std::uint8_t>(side), 0};
            in.pass();
            if (in.next() >= '0' && in.next() <= '9') {
                const int most = hits_to_remove(piece.kind) - 1;
                if (in.next() < '1' || in.next() > '0' + most)
                    in.fail(std::string("a ") + kind_name(piece.kind) + " on the map cannot have taken " +
                                std::string(1, in.next()) + " hits",
                            "1 to " + std::to_string(most) + ", or no number");
                piece.hits = static_cast<std::uint8_t>(in.pass() - '0');
            }
            position.pieces[position.count++] = piece;
        }
        if (row > 0) in.take('/', "row " + std::to_string(row + 1));
    }
    if (wardens[0] + wardens[1] == 0) in.fail("neither side has a Warden", "a Warden of one side at least");
    in.take(' ', "the map");
    position.to_move = in.one_of("TA", "player") == 0 ? Player::First : Player::Second;
    in.take(' ', "the player");
    position.quiet =
        static_cast<std::uint8_t>(in.number("number of moves since the last removal", 0, quiet_moves_to_draw));
    in.finish("the number of moves");
    std::sort(position.pieces.begin(), position.pieces.begin() + position.count,
              [](const Piece& a, const Piece& b) { return a.cell < b.cell; });
    for (std::uint8_t i = 0; i < position.count; ++i) position.pieces[i].number = i;
    return position;
}

std::string Nightwatch::move_text(const Position&, const Move& move) const {
    if (move.passes()) return "pass";
    return cell_text(move.from) + "-" + cell_text(move.to) +
           (move.pulled == no_cell ? "" : "+" + cell_text(move.pulled));
}

std::string Nightwatch::drawing(const Position& position) const {
    std::ostringstream out;
    out << "     ";
    for (int column = 0; column < columns_; ++column) {
        std::string name = cell_text(cell_at(column, 0));
        name.pop_back();  // the row
        out << name << std::string(4 - name.size(), ' ');
    }
    out << "\n";
    for (int row = rows_ - 1; row >= 0; --row) {
        out << (row < 9 ? "  " : " ") << row + 1 << "  ";
        for (int column = 0; column < columns_; ++column) {
            const Cell cell = cell_at(column, row);
            const auto piece =
                std::find_if(position.begin(), position.end(), [&](const Piece& p) { return p.cell == cell; });
            std::string text = is_wall(cell) ? "##" : ".";
            if (piece != position.end()) {
                text = std::string(piece->side == 0 ? "T" : "A") + kind_letters[static_cast<std::size_t>(piece->kind)];
                if (piece->hits > 0) text += std::to_string(piece->hits);
            }
            out << text << (column + 1 < columns_ ? std::string(4 - text.size(), ' ') : "");
        }
        out << "\n";
    }
    out << "  " << title_ << "; " << int{position.quiet} << (position.quiet == 1 ? " move" : " moves")
        << " without a removal, a draw at " << quiet_moves_to_draw << ". TR1: Teal's Runner, 1 hit taken.\n";
    return out.str();
}

}  // namespace waterway
