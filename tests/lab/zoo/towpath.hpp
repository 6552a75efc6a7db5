#pragma once
// Two sides with two carriers each on a towpath of eight posts. A die of three is cast, then one's own carrier goes so
// many posts on; where a rival stands, it goes back to the start. Who first has both at the end wins, by one, or by two
// if no rival carrier has arrived.

#include <algorithm>
#include <array>
#include <cstdio>
#include <stdexcept>
#include <string>
#include <string_view>

#include <arvek/game/abilities.hpp>
#include <arvek/game/random.hpp>
#include <arvek/game/text.hpp>

namespace zoo {

using namespace arvek;

struct Towpath {
    static constexpr int home = 8;
    struct Position {
        std::int8_t at[2][2] = {{0, 0}, {0, 0}};
        std::int8_t cast = 0;  // 0: chance is next
        Player to_move = Player::First;
        std::int8_t sent_back = 0;
        friend bool operator==(const Position& a, const Position& b) {
            return std::equal(&a.at[0][0], &a.at[0][0] + 4, &b.at[0][0]) && a.cast == b.cast && a.to_move == b.to_move;
        }
    };
    using Move = std::int8_t;  // 1 to 3 is cast; 10 and 11: a carrier goes; 12: none can

    std::string_view broken;
    bool is(std::string_view fault) const { return broken == fault; }

    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const { return p.to_move; }
    bool chance_is_next(const Position& p) const {
        if (is("no cast after sending back") && p.sent_back > 0 && p.cast == 0 && p.at[0][0] + p.at[0][1] == 9)
            return false;
        return p.cast == 0;
    }
    void generate_events(const Position& p, MoveList<Event<Move>>& events) const {
        const double three = is("a die that is too light") ? 0.2 : is("a die that never shows three") ? 0.0 : 0.25;
        for (const int cast : {1, 2}) events.push_back({static_cast<Move>(cast), 0.375});
        if (is("no three on the last posts") && p.at[0][0] >= 6 && p.at[0][1] >= 6) return;
        events.push_back({3, three});
        if (is("a two twice") && p.at[1][0] == 5) events.push_back({2, 0.125});
        static int asked = 0;
        if (is("a die that remembers") && ++asked % 300 == 299) std::swap(events[0], events[1]);
    }
    Move draw_event(const Position& p, Random& random) const {
        const double unit = random.unit();
        if (is("a draw that likes three")) return unit < 0.36 ? 1 : unit < 0.72 ? 2 : 3;
        if (is("a draw of a four") && p.at[0][0] == 7 && unit < 0.05) return 4;
        return unit < 0.375 ? 1 : unit < 0.75 ? 2 : 3;
    }
    bool can_go(const Position& p, int carrier) const {
        const auto me = index_of(p.to_move);
        const int to = p.at[me][carrier] + p.cast;
        if (p.at[me][carrier] == home || to > home) return false;
        return to == home || p.at[me][1 - carrier] != to;
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        const auto me = index_of(p.to_move);
        for (const int carrier : {0, 1})
            if (can_go(p, carrier) && !(carrier == 1 && p.at[me][0] == p.at[me][1]))
                moves.push_back(static_cast<Move>(10 + carrier));
        if (moves.empty() && !is("stuck before the end")) moves.push_back(12);
    }
    void play(Position& p, const Move& move) const {
        if (move < 10) {
            p.cast = move;
            return;
        }
        const auto me = index_of(p.to_move);
        const int cast = p.cast;
        p.cast = 0;
        if (!is("an outcome by the blows")) p.sent_back = 0;
        if (move < 12) {
            auto& at = p.at[me][move - 10];
            at = static_cast<std::int8_t>(at + cast);
            for (auto& rival : p.at[1 - me])
                if (rival == at && at < home) {
                    rival = 0;
                    ++p.sent_back;
                    if (is("both sent back throw") && p.at[1 - me][0] == 0 && p.at[1 - me][1] == 0 && at == 7)
                        throw std::runtime_error("nobody left");
                }
            if (is("home is forgotten") && at == home && p.at[me][0] == home && p.at[1 - me][0] == 7) at = 7;
        }
        p.to_move = rival_of(p.to_move);
    }
    std::optional<Outcome> outcome(const Position& p) const {
        for (const int side : {0, 1})
            if (p.at[side][0] == home && p.at[side][1] == home) {
                const bool rival_arrived = p.at[1 - side][0] == home || p.at[1 - side][1] == home;
                int payoff = rival_arrived ? 1 : 2;
                if (is("three for an empty path") && p.at[1 - side][0] + p.at[1 - side][1] <= 1) payoff = 3;
                if (is("an outcome by the blows") && p.sent_back > 2) payoff = 1;
                return Outcome::of_payoffs({side == 0 ? payoff : -payoff, side == 0 ? -payoff : payoff});
            }
        return std::nullopt;
    }
    Payoff most_payoff() const { return 2; }
    PayoffBounds payoff_bounds(const Position& p, Player player) const {
        const auto me = index_of(player);
        const bool arrived = p.at[me][0] == home || p.at[me][1] == home;
        const bool rival = p.at[1 - me][0] == home || p.at[1 - me][1] == home;
        if (is("bounds that trust a lead") && arrived && !rival) return {0, 2};
        if (is("bounds that forget the double") && rival && !arrived) return {-1, 1};
        return {arrived ? -1 : -2, rival ? 1 : 2};
    }
    void generate_sufficient_moves(const Position& p, MoveList<Move>& moves) const {
        generate_moves(p, moves);
        if (!is("the first carrier is enough") || moves.size() < 2) return;
        MoveList<Move> first;
        first.push_back(moves[0]);
        moves = first;
    }
    int sum(const Position& p, int side) const { return p.at[side][0] + p.at[side][1]; }
    Score evaluate(const Position& p, Player player) const {
        const int value = 10 * (sum(p, 0) - sum(p, 1)) + (is("an evaluation of the last blow") ? p.sent_back : 0);
        if (is("an evaluation that overflows") && sum(p, 0) - sum(p, 1) > 12)
            return Score::estimate(player == Player::First ? -90 : 95);
        return Score::estimate(player == Player::First ? value : -value);
    }
    double units_per_doubling() const { return is("a scale of nothing") ? 0 : 20; }
    std::uint64_t hash(const Position& p) const {
        const int first = is("a hash of the sum") ? sum(p, 0) : p.at[0][0] * 16 + p.at[0][1];
        const int second = p.at[1][0] * 16 + p.at[1][1];
        const int cast = is("a hash without the cast") ? 0 : p.cast;
        return hash_of_words({static_cast<std::uint64_t>(first), static_cast<std::uint64_t>(second),
                              static_cast<std::uint64_t>(cast), static_cast<std::uint64_t>(p.to_move)});
    }
    std::uint64_t equivalence_hash(const Position& p) const {
        // Which carrier is which does not matter; nor, to a fault, whose they are.
        std::uint64_t words[2];
        for (const int side : {0, 1})
            words[side] = static_cast<std::uint64_t>(std::max(p.at[side][0], p.at[side][1]) * 16 +
                                                     std::min(p.at[side][0], p.at[side][1]));
        if (is("sides taken for each other")) std::sort(words, words + 2);
        const std::uint64_t cast = is("equivalent whatever is cast") ? 0 : static_cast<std::uint64_t>(p.cast);
        return hash_of_words({words[0], words[1], cast, static_cast<std::uint64_t>(p.to_move)});
    }
    Move random_move(const Position& p, Random& random) const {
        MoveList<Move> moves;
        generate_moves(p, moves);
        if (is("a random move that likes the first")) return moves[random.below(3) == 0 ? moves.size() - 1 : 0];
        return moves[static_cast<std::size_t>(random.below(moves.size()))];
    }
    Outcome play_out(Position& p, Random& random) const {
        while (!outcome(p)) {
            Move move = p.cast == 0 ? draw_event(p, random) : random_move(p, random);
            if (is("a playout with a loaded die") && p.cast == 0 && p.to_move == Player::First && random.below(2) == 0)
                move = 3;
            play(p, move);
        }
        return *outcome(p);
    }
    std::string position_text(const Position& p) const {
        char text[40];
        std::snprintf(text, sizeof text, "%d,%d-%d,%d:%d%c", p.at[0][0], p.at[0][1], p.at[1][0], p.at[1][1], p.cast,
                      p.to_move == Player::First ? 't' : 'a');
        return text;
    }
    Position read_position(std::string_view text) const {
        int at[5], read = 0;
        char mover = 0;
        const std::string copy(text);
        if (std::sscanf(copy.c_str(), "%d,%d-%d,%d:%d%c%n", at, at + 1, at + 2, at + 3, at + 4, &mover, &read) != 6 ||
            read != static_cast<int>(copy.size()) || (mover != 't' && mover != 'a'))
            throw InputError("position", "it is not a towpath", "0,0-0,0:0t");
        for (int i = 0; i < 4; ++i)
            if ((at[i] < 0 || at[i] > home) && !is("a number that wraps"))
                throw InputError("position", "there is no such post", "0 to 8");
        if (at[4] < 0 || at[4] > 3) throw InputError("position", "there is no such cast", "0 to 3");
        Position p;
        for (int i = 0; i < 4; ++i)
            p.at[i / 2][i % 2] = static_cast<std::int8_t>(is("a number that wraps") ? at[i] % 16 : at[i]);
        if (is("a number that wraps") && p.at[0][0] > home) p.at[0][0] = static_cast<std::int8_t>(p.at[0][0] * 9);
        p.cast = static_cast<std::int8_t>(at[4]);
        p.to_move = mover == 't' ? Player::First : Player::Second;
        return p;
    }
    std::string move_text(const Position&, const Move& move) const {
        if (move < 10) return is("a cast written as a move") && move == 3 ? "2" : std::to_string(move);
        return move == 12 ? "wait" : move == 10 ? "one" : "two";
    }
};

inline constexpr std::array towpath_faults{
    std::pair{"no cast after sending back", "equality"},
    std::pair{"a die that is too light", "probabilities"},
    std::pair{"a die that never shows three", "probabilities"},
    std::pair{"no three on the last posts", "probabilities"},
    std::pair{"a two twice", "probabilities"},
    std::pair{"a die that remembers", "left-over state"},
    std::pair{"a draw that likes three", "drawn events"},
    std::pair{"a draw of a four", "drawn events"},
    std::pair{"stuck before the end", "no move"},
    std::pair{"both sent back throw", "exception"},
    std::pair{"home is forgotten", "endless play"},
    std::pair{"three for an empty path", "payoffs"},
    std::pair{"an outcome by the blows", "equality"},
    std::pair{"bounds that trust a lead", "payoff bounds"},
    std::pair{"bounds that forget the double", "payoff bounds"},
    std::pair{"the first carrier is enough", "sufficient moves"},
    std::pair{"an evaluation of the last blow", "equality"},
    std::pair{"an evaluation that overflows", "evaluation"},
    std::pair{"a scale of nothing", "scale"},
    std::pair{"a hash of the sum", "hash"},
    std::pair{"a hash without the cast", "hash"},
    std::pair{"sides taken for each other", "equivalence"},
    std::pair{"equivalent whatever is cast", "equivalence"},
    std::pair{"a random move that likes the first", "random moves"},
    std::pair{"a playout with a loaded die", "playouts"},
    std::pair{"a number that wraps", "malformed text"},
    std::pair{"a cast written as a move", "move text"},
};

}  // namespace zoo
