#pragma once
// Punts: two of them go up and down a row of posts, by one, or not at all; each may once go by two, as long as it was not
// moved. Whose punt comes to the last post wins; if both stay in a row, nobody does. What is broken in it shows only some
// plies apart.

#include <array>
#include <arvek/game/abilities.hpp>
#include <climits>
#include <string_view>
#include <utility>

namespace zoo {

struct Punts {
    std::string_view broken{};
    static inline bool forgets_who_moved = false;  ///< in operator==, which has no game to ask

    struct Position {
        signed char at[2] = {0, 0};
        bool was_moved[2] = {false, false};
        unsigned char mover = 0, stays = 0;
        signed char left_behind = -1;  ///< the post that a punt went past by two: the other one may go there at once

        friend bool operator==(const Position& a, const Position& b) {
            const bool same = a.at[0] == b.at[0] && a.at[1] == b.at[1] && a.mover == b.mover && a.stays == b.stays &&
                              a.left_behind == b.left_behind;
            return same &&
                   (forgets_who_moved || (a.was_moved[0] == b.was_moved[0] && a.was_moved[1] == b.was_moved[1]));
        }
    };
    using Move = int;  ///< by how much; 100 and more: to the post that a player left behind
    static constexpr int posts = 12;

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& p) const { return static_cast<arvek::Player>(p.mover); }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        for (const int by : {0, 1, -1, 2, 3, 4, 5, 6})
            if (p.at[p.mover] + by >= 0 && p.at[p.mover] + by <= posts && (by < 2 || !p.was_moved[p.mover]))
                moves.push_back(by);
        if (p.left_behind >= 0) moves.push_back(100 + p.left_behind);
    }
    template <class P>
    void play(P& given, const Move& move) const {
        P copy = given;
        P& p = broken == "a copy is played in" ? copy : given;
        const signed char from = p.at[p.mover];
        p.at[p.mover] = move >= 100 ? static_cast<signed char>(move % 20) : static_cast<signed char>(from + move);
        p.left_behind = move == 2 ? static_cast<signed char>(20 * p.mover + from + 1) : static_cast<signed char>(-1);
        p.stays = static_cast<unsigned char>(move == 0 ? p.stays + 1 : 0);
        p.was_moved[p.mover] = p.was_moved[p.mover] || move != 0;
        p.mover = 1 - p.mover;
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        for (int i = 0; i < 2; ++i)
            if (p.at[i] == posts) return arvek::Outcome::win(static_cast<arvek::Player>(i));
        if (p.stays >= 3) return arvek::Outcome::draw();
        return std::nullopt;
    }
    std::uint64_t hash(const Position& p) const {
        const auto part = [](auto value) { return static_cast<std::uint64_t>(value + 1); };
        const std::uint64_t moved = forgets_who_moved ? 0 : part(p.was_moved[0]) * 4 + part(p.was_moved[1]);
        return arvek::hash_of_words(
            {part(p.at[0]), part(p.at[1]), moved,
             broken == "a hash without the mover after nothing" && p.stays == 0 && p.at[0] == 1 ? 0 : part(p.mover),
             broken == "a hash without the stays" ? 0 : part(p.stays), part(p.left_behind)});
    }
    int order_hint(const Position& p, const Move& move) const {
        return broken == "a hint that overflows" && p.at[0] > 3 ? INT_MIN + move : move;
    }
    void play_nothing(Position& p) const {
        p.mover = 1 - p.mover;
        p.stays = 0;
        if (broken != "nothing keeps what was left behind") p.left_behind = -1;
    }
    bool nothing_is_sound(const Position&) const { return true; }
    int draw_at_occurrence() const { return 3; }
};

inline constexpr std::array punts_faults{
    std::pair{"a copy is played in", "progress"},
    std::pair{"a hash without the mover after nothing", "null move"},
    std::pair{"a hash without the stays", "hash"},
    std::pair{"a hint that overflows", "ordering"},
    std::pair{"nothing keeps what was left behind", "null move"},
};

}  // namespace zoo
