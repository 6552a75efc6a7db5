#pragma once
// Ability: text. Buys the command-line tool, messages and records.
//
//     std::string position_text(const Position&) const;          // one line, everything that tells positions apart
//     Position read_position(std::string_view) const;            // the way back; throws InputError
//     std::string move_text(const Position&, const Move&) const; // no spaces; different for each move of a position
//
// and, each of them optional:
//
//     Move read_move(const Position&, std::string_view) const;   // reads other forms, says what is wrong; InputError
//     std::string coordinates(const Position&, const Move&) const; // as open protocols write it: "e2e4"
//     std::string drawing(const Position&) const;                // some lines for people; else the position's text
//     std::string player_name(arvek::Player) const;              // else "First", "Second", ...
//
// Moves are read back by comparing with the texts of the legal moves; what read_move() makes of another text is taken if
// it is legal. So reading a move cannot give an illegal one.

#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek {

template <class G>
concept TextGame = Game<G> &&
    requires(const G& game, const typename G::Position& position, const typename G::Move& move, std::string_view text) {
    { game.position_text(position) } -> std::same_as<std::string>;
    { game.read_position(text) } -> std::same_as<typename G::Position>;
    { game.move_text(position, move) } -> std::same_as<std::string>;
};

template <class G>
concept ReadsMoves = requires(const G& game, const typename G::Position& position, std::string_view text) {
    { game.read_move(position, text) } -> std::same_as<typename G::Move>;
};

template <class G>
concept CoordinatesGame = requires(const G& game, const typename G::Position& position, const typename G::Move& move) {
    { game.coordinates(position, move) } -> std::same_as<std::string>;
};

template <class G>
concept DrawnGame = requires(const G& game, const typename G::Position& position) {
    { game.drawing(position) } -> std::same_as<std::string>;
};

template <class G>
concept NamesPlayers = requires(const G& game, Player player) {
    { game.player_name(player) } -> std::same_as<std::string>;
};

namespace detail {

/// "First", "Second", "Third" or "Fourth".
std::string plain_player_name(Player player);

/// Throws the InputError for a text that is not one of the legal moves.
[[noreturn]] void throw_not_a_move(std::string_view text, const std::vector<std::string>& legal);

}  // namespace detail

/// A number as short as it can be written: "3", "0.25".
std::string number_text(double number);

/// What people call the player in this game.
template <Game G>
std::string player_name_of(const G& game, Player player) {
    if constexpr (NamesPlayers<G>) {
        if (wants_used<Ability::PlayerName>(game)) return game.player_name(player);
    }
    return detail::plain_player_name(player);
}

/// Some lines that show the position to people; always ends with a new line.
template <TextGame G>
std::string drawing_of(const G& game, const typename G::Position& position) {
    std::string drawing;
    bool drawn = false;
    if constexpr (DrawnGame<G>) {
        drawn = wants_used<Ability::Drawing>(game);
        if (drawn) drawing = game.drawing(position);
    }
    if (!drawn) drawing = game.position_text(position);
    if (drawing.empty() || drawing.back() != '\n') drawing += '\n';
    return drawing;
}

/// What people call a move, in any game: its text, a number, or "a move".
template <Game G>
std::string move_name_of(const G& game, const typename G::Position& position, const typename G::Move& move) {
    if constexpr (TextGame<G>)
        return game.move_text(position, move);
    else if constexpr (std::is_integral_v<typename G::Move>)
        return std::to_string(move);
    else
        return "a move";
}

/// The legal moves of a position, or the events where chance is next; none when the game is over. Throws RulesError
/// when there is none though play goes on.
template <Game G>
MoveList<typename G::Move> legal_moves(const G& game, const typename G::Position& position) {
    MoveList<typename G::Move> moves;
    if (game.outcome(position)) return moves;
    generate_what_is_next(game, position, moves);
    if (moves.empty() && !(chance_is_next(game, position) && !lists_events(game))) throw_no_move();
    return moves;
}

/// The legal moves where a player is to choose one. Throws InputError where the game is over or chance is next, and
/// RulesError as legal_moves() does.
template <Game G>
MoveList<typename G::Move> moves_to_choose_from(const G& game, const typename G::Position& position) {
    MoveList<typename G::Move> moves = legal_moves(game, position);
    if (moves.empty())
        throw InputError("position", "the game is over, so there is nothing to decide",
                         "a position where play goes on");
    if (chance_is_next(game, position))
        throw InputError("position", "chance is next, so there is nothing to decide",
                         "a position where a player is to move");
    require_seat(game, game.player_to_move(position));
    return moves;
}

/// The legal move that `text` stands for. Throws InputError, naming legal moves, when there is none.
template <TextGame G>
typename G::Move move_from_text(const G& game, const typename G::Position& position, std::string_view text) {
    std::vector<std::string> texts;
    const auto legal = legal_moves(game, position);
    for (const auto& move : legal) {
        texts.push_back(game.move_text(position, move));
        if (texts.back() == text) return move;
    }
    if (texts.empty()) throw InputError("move", "the game is over, so nobody may move");
    if constexpr (ReadsMoves<G>) {
        if (wants_used<Ability::ReadMove>(game)) {
            const auto move = game.read_move(position, text);
            if (legal.contains(move)) return move;
        }
    }
    detail::throw_not_a_move(text, texts);
}

}  // namespace arvek
