#pragma once
// Lock Keys: a game with three bugs, of the kind that everyone writes once. `broken_game check lock_keys` finds them.
//
// A ring of seven hooks on a lock gate. In turn each side hangs a key on a free hook, but not next to one of its own.
// Who cannot hang a key loses.

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include <arvek/game/game.hpp>
#include <arvek/game/input_error.hpp>

struct LockKeys {
    static constexpr int hooks = 7;

    struct Position {
        std::string keys = std::string(hooks, '.');
        arvek::Player to_move = arvek::Player::First;
        bool operator==(const Position&) const = default;
    };
    using Move = int;

    static char letter_of(arvek::Player player) { return player == arvek::Player::First ? 'T' : 'A'; }
    bool may_hang(const Position& p, int hook) const {
        const auto at = [&](int i) { return p.keys[static_cast<std::size_t>((i + hooks) % hooks)]; };
        return at(hook) == '.' && at(hook - 1) != letter_of(p.to_move) && at(hook + 1) != letter_of(p.to_move);
    }

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& p) const { return p.to_move; }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        for (int hook = 0; hook < hooks; ++hook)
            if (may_hang(p, hook)) moves.push_back(hook);
    }
    void play(Position& p, const Move& hook) const {
        p.keys[static_cast<std::size_t>(hook)] = letter_of(p.to_move);
        p.to_move = arvek::rival_of(p.to_move);
    }
    // Bug 1: the game is taken to end when the ring is full, but a side can be stuck long before.
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.keys.find('.') != std::string::npos) return std::nullopt;
        return arvek::Outcome::win(arvek::rival_of(p.to_move));
    }
    // Bug 2: whose turn it is does not count.
    std::uint64_t hash(const Position& p) const {
        std::uint64_t hash = 0;
        for (const char key : p.keys) hash = hash * 3 + (key == '.' ? 0u : 1u);
        return hash;
    }

    std::string position_text(const Position& p) const { return p.keys + " " + letter_of(p.to_move); }
    Position read_position(std::string_view text) const {
        if (text.size() != hooks + 2) throw arvek::InputError("position", "the length is wrong", "such as '.T.A... T'");
        return {std::string(text.substr(0, hooks)), text.back() == 'T' ? arvek::Player::First : arvek::Player::Second};
    }
    // Bug 3: hooks 1 and 2 are written the same.
    std::string move_text(const Position&, const Move& hook) const { return std::to_string(hook == 2 ? 1 : hook); }
};
