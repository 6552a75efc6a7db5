#pragma once
// @TYPE@: yours to change. As it stands, casks lie on a wharf; in turn each side takes one, two or three; whoever takes
// the last wins.

#include <optional>
#include <string>
#include <string_view>

#include <arvek/game/board.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/text_reader.hpp>

struct @TYPE@ {
    /// What can be set from outside: `--set casks=30`.
    struct Parameters {
        int casks = 21;
    };
    /// All that matters of how it stands; small, copyable, comparable.
    struct Position {
        int casks = 0;
        arvek::Player to_move = arvek::Player::First;
        bool operator==(const Position&) const = default;
    };
    /// One choice of one player.
    struct Move {
        int taken = 1;
        bool operator==(const Move&) const = default;
    };
    Parameters parameters;

    // The five functions that make it a game.
    Position initial_position() const { return {parameters.casks, arvek::Player::First}; }
    arvek::Player player_to_move(const Position& position) const { return position.to_move; }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        for (int taken = 1; taken <= 3 && taken <= position.casks; ++taken) moves.push_back({taken});
    }
    void play(Position& position, const Move& move) const {
        position.casks -= move.taken;
        position.to_move = arvek::rival_of(position.to_move);
    }
    std::optional<arvek::Outcome> outcome(const Position& position) const {
        if (position.casks > 0) return std::nullopt;
        return arvek::Outcome::win(arvek::rival_of(position.to_move));
    }

    // More, each for something: an evaluation looks ahead less far than to the end, a hash remembers positions.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        const bool good = position.casks % 4 != 0;  // for the player to move
        return arvek::Score::estimate(good == (player == position.to_move) ? 10 : -10);
    }
    std::uint64_t hash(const Position& position) const {
        return arvek::hash_of_words({static_cast<std::uint64_t>(position.casks), static_cast<std::uint64_t>(position.to_move)});
    }

    // Texts, for the command line and for records.
    std::string position_text(const Position& position) const {
        return std::to_string(position.casks) + (position.to_move == arvek::Player::First ? " T" : " A");
    }
    Position read_position(std::string_view text) const {
        arvek::TextReader in(text, "the casks and the side to move, such as '21 T'");
        Position position;
        position.casks = in.number("casks", 0, parameters.casks);
        in.take(' ', "the casks");
        position.to_move = in.one_of("TA", "side") == 0 ? arvek::Player::First : arvek::Player::Second;
        in.finish("the side to move");
        return position;
    }
    std::string move_text(const Position&, const Move& move) const { return std::to_string(move.taken); }
    std::string player_name(arvek::Player player) const { return player == arvek::Player::First ? "Teal" : "Amber"; }
    std::string drawing(const Position& position) const {
        return "  " + std::string(static_cast<std::size_t>(position.casks), 'o') + "\n";
    }

    // The board of the workbench: a click on a cask takes it and those behind it.
    arvek::Board board(const Position& position, arvek::Player) const {
        arvek::Board board;
        for (int i = 0; i < position.casks; ++i) {
            arvek::BoardCell cask;
            cask.x = i % 8;
            cask.y = i / 8;
            cask.round = true;
            const int taken = position.casks - i;
            if (taken <= 3) cask.name = std::to_string(taken);
            board.cells.push_back(cask);
        }
        if (board.cells.empty()) board.cells.push_back(arvek::board_label(0, 0, "no cask is left", 4));
        return board;
    }
};
