#pragma once
// Two barges each on a ring of five locks with a basin in its middle; a turn moves one of them along a channel into an
// empty place. Who cannot move loses; a position that comes back a third time is a draw.

#include <array>
#include <stdexcept>
#include <string>
#include <string_view>

#include <arvek/game/abilities.hpp>
#include <arvek/game/random.hpp>
#include <arvek/game/text.hpp>

namespace zoo {

using namespace arvek;

struct Locks {
    static constexpr int places = 6, middle = 5;
    struct Position {
        std::array<std::int8_t, places> at{};  // 0 empty, 1 or 2: whose
        Player to_move = Player::First;
        std::int16_t turns = 0;  // only kept by faults
        friend bool operator==(const Position& a, const Position& b) { return a.at == b.at && a.to_move == b.to_move; }
    };
    struct Move {
        std::int8_t from = 0, to = 0;
        friend bool operator==(const Move&, const Move&) = default;
    };
    using Undo = Position;

    std::string_view broken;
    bool is(std::string_view fault) const { return broken == fault; }

    static bool joined(int a, int b) {
        if (a == b) return false;
        if (a == middle || b == middle) return true;
        return (a + 1) % 5 == b || (b + 1) % 5 == a;
    }
    Position initial_position() const {
        Position p;
        p.at = {1, 1, 2, 2, 0, 0};
        return p;
    }
    Player player_to_move(const Position& p) const { return p.to_move; }
    static std::int8_t mark_of(Player player) { return player == Player::First ? 1 : 2; }
    void moves_of(const Position& p, MoveList<Move>& moves) const {
        for (int from = 0; from < places; ++from)
            for (int to = 0; to < places; ++to) {
                if (p.at[static_cast<std::size_t>(from)] != mark_of(p.to_move) || !joined(from, to)) continue;
                if (is("a barge may take a place") ? p.at[static_cast<std::size_t>(to)] == mark_of(p.to_move)
                                                   : p.at[static_cast<std::size_t>(to)] != 0)
                    continue;
                // From the first lock nobody may enter the middle at once; so there is a way to be shut in.
                if (to == middle && from % 2 == 0) continue;
                moves.push_back({static_cast<std::int8_t>(from), static_cast<std::int8_t>(to)});
            }
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        moves_of(p, moves);
        if (is("an old move stays") && p.turns > 30 && moves.size() > 1) moves.push_back(moves[0]);
        if (is("fewer moves when tired") && p.turns > 12 && moves.size() > 1) {
            MoveList<Move> first;
            first.push_back(moves[0]);
            moves = first;
        }
    }
    void play(Position& p, const Move& move) const {
        if (is("a jump into the middle throws") && move.to == middle && p.at[0] == 2 && p.at[1] == 2)
            throw std::logic_error("full");
        p.at[static_cast<std::size_t>(move.to)] = p.at[static_cast<std::size_t>(move.from)];
        p.at[static_cast<std::size_t>(move.from)] = 0;
        if (is("a barge is left behind") && move.from == middle && move.to == 4) p.at[middle] = mark_of(p.to_move);
        ++p.turns;
        p.to_move = rival_of(p.to_move);
    }
    Undo play_reversibly(Position& p, const Move& move) const {
        const Undo undo = p;
        play(p, move);
        return undo;
    }
    void take_back(Position& p, const Move& move, const Undo& undo) const {
        const Position now = p;
        p = undo;
        if (is("two barges when taken back") && move.to == middle && move.from == 3) p.at[middle] = now.at[middle];
    }
    std::optional<Outcome> outcome(const Position& p) const {
        MoveList<Move> moves;
        moves_of(p, moves);
        if (moves.empty() && !is("shut in is not over"))
            return Outcome::win(is("shut in wins") ? p.to_move : rival_of(p.to_move));
        if (is("over after long play") && p.turns > 40) return Outcome::draw();
        return std::nullopt;
    }
    int draw_at_occurrence() const { return is("no draw by repetition") ? 0 : is("a draw at once") ? 1 : 3; }
    std::uint64_t repetition_key(const Position& p) const {
        Position q = p;
        if (is("a key that forgets the mover")) q.to_move = Player::First;
        if (is("a key that forgets two locks")) q.at[3] = q.at[4] = 0;
        std::uint64_t all = static_cast<std::uint64_t>(q.to_move);
        for (const auto at : q.at) all = all * 3 + static_cast<std::uint64_t>(at);
        if (is("a key of the turns")) all = all * 64 + static_cast<std::uint64_t>(p.turns);
        return mix_bits(all);
    }
    PayoffBounds payoff_bounds(const Position& p, Player player) const {
        MoveList<Move> moves;
        moves_of(p, moves);
        if (is("bounds by the middle") && p.at[middle] == mark_of(player) && p.to_move == player) return {1, 1};
        if (is("few moves lose") && moves.size() == 1 && player == p.to_move) return {-1, -1};
        return {-1, 1};
    }
    void generate_sufficient_moves(const Position& p, MoveList<Move>& moves) const {
        generate_moves(p, moves);
        if (!is("the middle is enough")) return;
        MoveList<Move> some;
        for (const Move& move : moves)
            if (move.to == middle) some.push_back(move);
        if (!some.empty()) moves = some;
    }
    Score evaluate(const Position& p, Player player) const {
        MoveList<Move> own, rival;
        Position q = p;
        q.to_move = player;
        moves_of(q, own);
        q.to_move = rival_of(player);
        moves_of(q, rival);
        if (is("an evaluation that grows old") && p.turns > 20)
            return Score::estimate(player == Player::First ? 1 : -1);
        return Score::estimate(static_cast<int>(own.size()) - static_cast<int>(rival.size()));
    }
    std::uint64_t hash(const Position& p) const {
        std::uint64_t all = static_cast<std::uint64_t>(p.to_move);
        for (int i = 0; i < places; ++i) {
            if (is("a hash without two locks") && (i == 3 || i == 4)) continue;
            const bool alike = is("a hash that does not tell whose") && i >= 3;
            all = all * 3 + static_cast<std::uint64_t>(alike ? p.at[static_cast<std::size_t>(i)] != 0
                                                             : p.at[static_cast<std::size_t>(i)]);
        }
        if (is("a hash of the turns")) all = all * 64 + static_cast<std::uint64_t>(p.turns);
        return mix_bits(all);
    }
    std::uint64_t equivalence_hash(const Position& p) const {
        Position q = p;
        // The ring read the other way round, about its third lock, which keeps odd and even as they are.
        std::swap(q.at[0], q.at[4]);
        std::swap(q.at[1], q.at[3]);
        if (is("a ring turned by one")) {
            q = p;
            for (int i = 0; i < 5; ++i) q.at[static_cast<std::size_t>(i)] = p.at[static_cast<std::size_t>((i + 1) % 5)];
        }
        return std::min(hash(p), hash(q));
    }
    std::string position_text(const Position& p) const {
        std::string text;
        for (const auto at : p.at) text += at == 0 ? '.' : at == 1 ? 't' : 'a';
        return text + (p.to_move == Player::First ? " t" : " a");
    }
    Position read_position(std::string_view text) const {
        const auto refuse = [] { throw InputError("position", "it is not a ring", "ttaa.. t"); };
        if (text.size() != 8 || text[6] != ' ' || (text[7] != 't' && text[7] != 'a')) refuse();
        Position p;
        for (std::size_t i = 0; i < places; ++i) {
            if (text[i] != '.' && text[i] != 't' && text[i] != 'a') refuse();
            p.at[i] = text[i] == '.' ? 0 : text[i] == 't' ? 1 : 2;
        }
        if (is("the middle is read as empty") && p.at[0] == 0 && p.at[1] == 0) p.at[middle] = 0;
        p.to_move = text[7] == 't' ? Player::First : Player::Second;
        return p;
    }
    std::string move_text(const Position&, const Move& move) const {
        return std::to_string(is("moves told apart by their end alone") ? 0 : move.from) + "-" +
               std::to_string(move.to);
    }
};

inline constexpr std::array locks_faults{
    std::pair{"an old move stays", "duplicate move"},
    std::pair{"fewer moves when tired", "equality"},
    std::pair{"a jump into the middle throws", "exception"},
    std::pair{"two barges when taken back", "take-back"},
    std::pair{"shut in is not over", "no move"},
    std::pair{"over after long play", "equality"},
    std::pair{"no draw by repetition", "endless play"},
    std::pair{"a draw at once", "repetition"},
    std::pair{"a key that forgets the mover", "repetition"},
    std::pair{"a key that forgets two locks", "repetition"},
    std::pair{"a key of the turns", "repetition"},
    std::pair{"bounds by the middle", "payoff bounds"},
    std::pair{"few moves lose", "payoff bounds"},
    std::pair{"the middle is enough", "sufficient moves"},
    std::pair{"an evaluation that grows old", "equality"},
    std::pair{"a hash without two locks", "hash"},
    std::pair{"a hash that does not tell whose", "hash"},
    std::pair{"a hash of the turns", "hash"},
    std::pair{"a ring turned by one", "equivalence"},
    std::pair{"the middle is read as empty", "position text"},
    std::pair{"moves told apart by their end alone", "move text"},
};
/// Consistent and wrong.
inline constexpr std::array locks_wrong_rules{"shut in wins", "a barge may take a place", "a barge is left behind"};

}  // namespace zoo
