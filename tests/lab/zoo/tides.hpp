#pragma once
// Two sides set marks on a small basin; rival marks in a straight line between a new mark and another of the mover's
// turn over. Who cannot turn any must pass; when neither can, whoever has more marks wins by the difference. The position
// keeps a hash up to date as it goes.

#include <array>
#include <bit>
#include <stdexcept>
#include <string>
#include <string_view>

#include <arvek/game/abilities.hpp>
#include <arvek/game/random.hpp>
#include <arvek/game/text.hpp>

namespace zoo {

using namespace arvek;

struct Tides {
    static constexpr int side = 4, cells = side * side;
    struct Position {
        std::uint32_t own[2] = {0, 0};
        Player to_move = Player::First;
        std::uint8_t turned_last = 0;  // only drawn
        std::uint64_t key = 0;
        friend bool operator==(const Position& a, const Position& b) {
            return a.own[0] == b.own[0] && a.own[1] == b.own[1] && a.to_move == b.to_move;
        }
    };
    using Move = std::int8_t;  // a cell; -1 passes
    struct Undo {
        Position before;
    };

    std::string_view broken;
    bool is(std::string_view fault) const { return broken == fault; }

    static std::uint64_t word(int player, int cell) {
        return mix_bits(static_cast<std::uint64_t>(player * 64 + cell + 1));
    }
    std::uint64_t fresh_key(const Position& p) const {
        std::uint64_t key = p.to_move == Player::First ? 0 : mix_bits(777);
        for (int player = 0; player < 2; ++player)
            for (int cell = 0; cell < cells; ++cell)
                if (p.own[player] >> cell & 1u) key ^= word(player, cell);
        return key;
    }
    Position initial_position() const {
        Position p;
        p.own[0] = 1u << 6 | 1u << 9;
        p.own[1] = 1u << 5 | 1u << 10;
        p.key = fresh_key(p);
        return p;
    }
    Player player_to_move(const Position& p) const { return p.to_move; }

    std::uint32_t turned_by(const Position& p, int cell) const {
        const auto me = index_of(p.to_move);
        const std::uint32_t own = p.own[me], rival = p.own[1 - me];
        if ((own | rival) >> cell & 1u) return 0;
        std::uint32_t all = 0;
        for (int dr = -1; dr <= 1; ++dr)
            for (int dc = -1; dc <= 1; ++dc) {
                if (dr == 0 && dc == 0) continue;
                if (is("no turning along a slope") && dr != 0 && dc != 0) continue;
                std::uint32_t line = 0;
                int row = cell / side + dr, column = cell % side + dc;
                while (row >= 0 && row < side && column >= 0 && column < side &&
                       (rival >> (row * side + column) & 1u)) {
                    line |= 1u << (row * side + column);
                    row += dr;
                    column += dc;
                }
                const bool inside = row >= 0 && row < side && column >= 0 && column < side;
                if (inside && (own >> (row * side + column) & 1u)) all |= line;
                if (is("turning against the wall") && !inside && std::popcount(line) == 2) all |= line;
            }
        return all;
    }
    bool can_turn(const Position& p) const {
        for (int cell = 0; cell < cells; ++cell)
            if (turned_by(p, cell)) return true;
        return false;
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        const std::size_t before = moves.size();
        for (int cell = 0; cell < cells; ++cell)
            if (turned_by(p, cell) && !(is("the last corner is forgotten") && cell == 15 && moves.size() > before))
                moves.push_back(static_cast<Move>(cell));
        if (moves.size() == before && !is("no pass")) moves.push_back(-1);
        if (is("a pass at any time") && std::popcount(p.own[0] | p.own[1]) == 13 && moves[moves.size() - 1] != -1)
            moves.push_back(-1);
    }
    template <class Visit>
    void visit_moves(const Position& p, Visit visit) const {
        bool any = false;
        for (int at = 0; at < cells; ++at) {
            const int cell = is("visits from the other end") ? cells - 1 - at : at;
            if (!turned_by(p, cell)) continue;
            any = true;
            if (!visit(static_cast<Move>(cell))) return;
        }
        if (!any && !is("no visit of a pass")) visit(Move{-1});
    }
    void play(Position& p, const Move& move) const {
        const auto me = index_of(p.to_move);
        p.turned_last = 0;
        if (move >= 0) {
            const std::uint32_t turned = turned_by(p, move);
            if (is("a throw when many turn") && std::popcount(turned) >= 4) throw std::length_error("too many");
            p.own[me] |= turned | 1u << move;
            p.own[1 - me] &= ~turned;
            p.turned_last = static_cast<std::uint8_t>(std::popcount(turned));
            p.key ^= word(static_cast<int>(me), move);
            for (int cell = 0; cell < cells; ++cell)
                if (turned >> cell & 1u) {
                    p.key ^= word(static_cast<int>(me), cell);
                    if (!is("a key that forgets what is turned over")) p.key ^= word(1 - static_cast<int>(me), cell);
                }
        }
        if (!(is("a key that forgets the turn after a pass") && move < 0)) p.key ^= mix_bits(777);
        if (is("the mover stays after the last cell") && std::popcount(p.own[0] | p.own[1]) == cells) return;
        p.to_move = rival_of(p.to_move);
    }
    Undo play_reversibly(Position& p, const Move& move) const {
        const Undo undo{p};
        play(p, move);
        if (is("a key left behind when played reversibly")) p.key = undo.before.key;
        return undo;
    }
    void take_back(Position& p, const Move& move, const Undo& undo) const {
        const Position now = p;
        p = undo.before;
        if (is("a key that is not taken back")) p.key = now.key;
        if (is("three turned and two turned back") && std::popcount(now.own[0]) - std::popcount(p.own[0]) == 4)
            p.own[0] |= now.own[0] & (now.own[0] - 1) & ~p.own[0];
        if (is("a corner that stays when taken back") && move == 0) p.own[index_of(p.to_move)] |= 1u;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (is("over when full alone")) {
            if (std::popcount(p.own[0] | p.own[1]) < cells) return std::nullopt;
        } else {
            if (can_turn(p)) return std::nullopt;
            Position other = p;
            other.to_move = rival_of(p.to_move);
            if (!is("over when one cannot turn") && can_turn(other)) return std::nullopt;
        }
        const int more = std::popcount(p.own[0]) - std::popcount(p.own[1]);
        if (is("a shut-out pays what is not said") && (p.own[0] == 0 || p.own[1] == 0))
            return Outcome::of_payoffs({64, -64});
        if (is("a shut-out pays one side") && p.own[1] == 0) return Outcome::of_payoffs({16, -15});
        return Outcome::of_payoffs({more, -more});
    }
    Payoff most_payoff() const { return 16; }
    PayoffBounds payoff_bounds(const Position& p, Player player) const {
        const int empty = cells - std::popcount(p.own[0] | p.own[1]);
        const auto me = index_of(player);
        const int more = std::popcount(p.own[me]) - std::popcount(p.own[1 - me]);
        if (empty == 1 && is("bounds that forget what turns over")) return {more - 1, more + 1};
        if (empty == 2 && is("bounds for the loser")) return {-16, more};
        return {-16, 16};
    }
    void generate_sufficient_moves(const Position& p, MoveList<Move>& moves) const {
        if (is("corners are enough")) {
            for (const int corner : {0, 3, 12, 15})
                if (turned_by(p, corner)) moves.push_back(static_cast<Move>(corner));
            if (!moves.empty()) return;
        }
        generate_moves(p, moves);
    }
    Score evaluate(const Position& p, Player player) const {
        int value = std::popcount(p.own[0]) - std::popcount(p.own[1]);
        if (is("an evaluation of the last turning")) value += p.turned_last;
        if (is("corners for one side alone") && (p.own[0] & 1u))
            return Score::estimate(player == Player::First ? value + 3 : -value);
        return Score::estimate(player == Player::First ? value : -value);
    }
    std::uint64_t hash(const Position& p) const {
        if (is("a hash of what is set alone"))
            return mix_bits((p.own[0] | p.own[1]) * 2u + static_cast<std::uint32_t>(p.to_move));
        return p.key;
    }
    static std::uint32_t turned_round(std::uint32_t marks, int way) {
        std::uint32_t result = 0;
        for (int cell = 0; cell < cells; ++cell) {
            if (!(marks >> cell & 1u)) continue;
            int row = cell / side, column = cell % side;
            if (way & 1) row = side - 1 - row;
            if (way & 2) column = side - 1 - column;
            if (way & 4) std::swap(row, column);
            result |= 1u << (row * side + column);
        }
        return result;
    }
    std::uint64_t equivalence_hash(const Position& p) const {
        std::uint64_t least = UINT64_MAX;
        for (int way = 0; way < 8; ++way) {
            std::uint64_t own = turned_round(p.own[0], way), rival = turned_round(p.own[1], way);
            if (is("a reflection of one side alone") && way == 2) rival = p.own[1];
            if (is("a shift taken for a reflection") && way == 1)
                own = p.own[0] << side & 0xffffu, rival = p.own[1] << side & 0xffffu;
            least = std::min(
                least,
                hash_of_words(
                    {own, rival, is("equivalence without the mover") ? 0u : static_cast<std::uint64_t>(p.to_move)}));
        }
        return least;
    }
    int order_hint(const Position& p, const Move& move) const {
        if (is("a hint of the pass") && move < 0) throw std::out_of_range("shift");
        return move == 0 || move == 3 || move == 12 || move == 15
                   ? 2
                   : std::popcount(turned_by(p, move < 0 ? 0 : move)) > 1;
    }
    void play_nothing(Position& p) const {
        if (!is("no move leaves the mover")) p.to_move = rival_of(p.to_move);
        if (!is("no move leaves the key")) p.key ^= mix_bits(777);
        if (is("no move takes a mark") && std::popcount(p.own[0]) > 5) {
            p.key ^= word(0, std::countr_zero(p.own[0]));
            p.own[0] &= p.own[0] - 1;
        }
    }
    bool nothing_is_sound(const Position&) const {
        return is("no move is always sound") || is("no move leaves the mover") || is("no move leaves the key") ||
               is("no move takes a mark");
    }

    std::string position_text(const Position& p) const {
        std::string text;
        for (int cell = 0; cell < cells; ++cell) {
            if (cell > 0 && cell % side == 0) text += '/';
            text += p.own[0] >> cell & 1u ? 't' : p.own[1] >> cell & 1u ? 'a' : '.';
        }
        const bool full = std::popcount(p.own[0] | p.own[1]) == cells;
        const bool first = p.to_move == Player::First || (full && is("a text without the mover when full"));
        return text + (first ? " t" : " a");
    }
    Position read_position(std::string_view text) const {
        const auto refuse = [] { throw InputError("position", "it is not a basin", "such as ..../.ta./.at./.... t"); };
        Position p;
        int cell = 0;
        std::size_t at = 0;
        for (; at < text.size() && text[at] != ' '; ++at) {
            if (text[at] == '/') continue;
            if (cell == cells && is("a text that runs over")) throw std::out_of_range("cell");
            if (cell == cells) refuse();
            if (text[at] == 't')
                p.own[0] |= 1u << cell;
            else if (text[at] == 'a')
                p.own[1] |= 1u << cell;
            else if (text[at] != '.' && !is("any letter is an empty cell"))
                refuse();
            ++cell;
        }
        if (cell != cells && !is("a text that is cut short")) refuse();
        if (text.size() != at + 2) refuse();
        if (text[at + 1] != 't' && text[at + 1] != 'a') refuse();
        p.to_move = text[at + 1] == 't' ? Player::First : Player::Second;
        p.key = fresh_key(p);
        if (is("a text that is cut short") && cell < cells) p.own[0] |= 1u << 20;
        return p;
    }
    std::string move_text(const Position&, const Move& move) const {
        if (move < 0) return "pass";
        std::string text{static_cast<char>('a' + move % side), static_cast<char>('1' + move / side)};
        if (is("a row written as another") && move == 14) text = "b4";
        return text;
    }
};

inline constexpr std::array tides_faults{
    std::pair{"the last corner is forgotten", "visited moves"},
    std::pair{"no pass", "no move"},
    std::pair{"a pass at any time", "visited moves"},
    std::pair{"visits from the other end", "visited moves"},
    std::pair{"no visit of a pass", "visited moves"},
    std::pair{"a throw when many turn", "exception"},
    std::pair{"a key that forgets what is turned over", "hash"},
    std::pair{"a key that forgets the turn after a pass", "hash"},
    std::pair{"a key left behind when played reversibly", "take-back"},
    std::pair{"a key that is not taken back", "take-back"},
    std::pair{"three turned and two turned back", "take-back"},
    std::pair{"a corner that stays when taken back", "take-back"},
    std::pair{"over when full alone", "endless play"},
    std::pair{"a shut-out pays what is not said", "payoffs"},
    std::pair{"a shut-out pays one side", "payoffs"},
    std::pair{"bounds that forget what turns over", "payoff bounds"},
    std::pair{"bounds for the loser", "payoff bounds"},
    std::pair{"corners are enough", "sufficient moves"},
    std::pair{"an evaluation of the last turning", "equality"},
    std::pair{"corners for one side alone", "evaluation"},
    std::pair{"a hash of what is set alone", "hash"},
    std::pair{"a reflection of one side alone", "equivalence"},
    std::pair{"a shift taken for a reflection", "equivalence"},
    std::pair{"equivalence without the mover", "equivalence"},
    std::pair{"a hint of the pass", "exception"},
    std::pair{"no move leaves the mover", "null move"},
    std::pair{"no move leaves the key", "hash"},
    std::pair{"no move takes a mark", "null move"},
    std::pair{"no move is always sound", "null move"},
    std::pair{"a text without the mover when full", "position text"},
    std::pair{"a text that runs over", "malformed text"},
    std::pair{"a text that is cut short", "malformed text"},
    std::pair{"a row written as another", "move text"},
};
/// Rules that are consistent and wrong: only another statement of them tells.
inline constexpr std::array tides_wrong_rules{"no turning along a slope", "turning against the wall",
                                              "over when one cannot turn"};

}  // namespace zoo
