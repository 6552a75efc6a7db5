#pragma once
// Quayside: a game of your own, complete. A row of crates stands on the quay. In turn each side loads one from either
// end; the heavier load wins, by its margin.

#include <array>
#include <cstdio>
#include <optional>
#include <string>
#include <string_view>

#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/input_error.hpp>

struct Quayside {
    struct Parameters {
        int crates = 8;
    };
    struct Position {
        int left = 0, right = 0;  // the crates still there: from left to right - 1
        std::array<int, 2> load{};
        arvek::Player to_move = arvek::Player::First;
        bool operator==(const Position&) const = default;
    };
    enum class Move { Left, Right };

    static constexpr std::array<int, 12> weights{3, 7, 2, 9, 4, 6, 8, 1, 5, 3, 9, 2};
    Parameters parameters;

    // The five functions that make it a game.
    Position initial_position() const { return {0, parameters.crates}; }
    arvek::Player player_to_move(const Position& p) const { return p.to_move; }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        moves.push_back(Move::Left);
        if (p.right - p.left > 1) moves.push_back(Move::Right);
    }
    void play(Position& p, const Move& move) const {
        const int crate = move == Move::Left ? p.left++ : --p.right;
        p.load[arvek::index_of(p.to_move)] += weights[static_cast<std::size_t>(crate)];
        p.to_move = arvek::rival_of(p.to_move);
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (p.left < p.right) return std::nullopt;
        return arvek::Outcome::margin_of_first(p.load[0] - p.load[1]);
    }

    // An evaluation, for looking ahead less far than to the end.
    arvek::Score evaluate(const Position& p, arvek::Player player) const {
        return arvek::Score::estimate(p.load[arvek::index_of(player)] -
                                      p.load[arvek::index_of(arvek::rival_of(player))]);
    }

    // Texts, for the command line.
    std::string position_text(const Position& p) const {
        return std::to_string(p.left) + "-" + std::to_string(p.right) + " " + std::to_string(p.load[0]) + ":" +
               std::to_string(p.load[1]) + (p.to_move == arvek::Player::First ? " T" : " A");
    }
    Position read_position(std::string_view text) const {
        Position p;
        char side = 0;
        if (std::sscanf(std::string(text).c_str(), "%2d-%2d %3d:%3d %c", &p.left, &p.right, &p.load[0], &p.load[1],
                        &side) != 5 ||
            p.left < 0 || p.left > p.right || p.right > parameters.crates || (side != 'T' && side != 'A'))
            throw arvek::InputError("position", "'" + std::string(text) + "' is none", "such as '0-8 0:0 T'");
        p.to_move = side == 'T' ? arvek::Player::First : arvek::Player::Second;
        return p;
    }
    std::string move_text(const Position&, const Move& move) const { return move == Move::Left ? "left" : "right"; }
    std::string player_name(arvek::Player player) const { return player == arvek::Player::First ? "Teal" : "Amber"; }
    std::string drawing(const Position& p) const {
        std::string text = "   quay:";
        for (int i = p.left; i < p.right; ++i)
            text += " [" + std::to_string(weights[static_cast<std::size_t>(i)]) + "]";
        return text + "\n   Teal has loaded " + std::to_string(p.load[0]) + ", Amber " + std::to_string(p.load[1]);
    }
};
