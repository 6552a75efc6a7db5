#pragma once
// Two statements of the same rules against each other. What is wrong and agrees with itself, such as a direction that
// both the moves and the end of the game forget, shows only here.
//
//     struct SlowQuayside {                                             // as plain as can be, never mind how slow
//         using Position = MyGame::Position;
//         Position read_position(std::string_view text) const;          // the texts are those of the game
//         std::optional<arvek::Outcome> outcome(const Position&) const;
//     };
//
// check_against(Quayside{}, SlowQuayside{}) then gives a report, as check_rules() does.
//
// The reference is any object with read_position() and some of the other functions of a game: generate_moves() with
// move_text(), outcome(), player_to_move(), play() with position_text(). What it does not have is not compared. Both are
// related by texts alone. A whole game without read_position() will do as well: it is played along from its start.

#include <algorithm>
#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/move_list.hpp"
#include "arvek/lab/check_report.hpp"

namespace arvek {

/// What a reference can tell; what it cannot is empty. Each is told a position by its text and by the moves that lead
/// there from the start, as texts.
struct Reference {
    /// Texts of moves.
    using Moves = std::vector<std::string>;

    /// Those of a position that the moves lead to; the order says nothing.
    std::function<Moves(const std::string& position, const Moves& moves)> legal_moves{};
    /// Nothing while play goes on.
    std::function<std::optional<Outcome>(const std::string& position, const Moves& moves)> outcome{};
    std::function<Player(const std::string& position, const Moves& moves)> player_to_move{};  ///< whose turn it is
    /// The text of the position after a move.
    std::function<std::string(const std::string& position, const Moves& moves, const std::string& move)> after{};
};

namespace detail {

template <class R>
concept ListsMoveTexts = requires(const R& reference, const typename R::Position& position,
                                  const typename R::Move& move, MoveList<typename R::Move>& moves) {
    reference.generate_moves(position, moves);
    reference.move_text(position, move);
};
template <class R>
concept PlaysToTexts = requires(const R& reference, typename R::Position& position, const typename R::Move& move) {
    reference.play(position, move);
    reference.position_text(position);
};

/// Where a reference stands: read from the text, or played along.
template <class R>
typename R::Position reference_position(const R& reference, const std::string& text, const Reference::Moves& moves) {
    if constexpr (requires { reference.read_position(std::string_view(text)); }) {
        (void)moves;
        return reference.read_position(text);
    } else {
        (void)text;
        auto position = reference.initial_position();
        for (const std::string& text_of_move : moves) {
            MoveList<typename R::Move> list;
            generate_what_is_next(reference, position, list);
            const auto found = std::find_if(list.begin(), list.end(), [&](const auto& move) {
                return reference.move_text(position, move) == text_of_move;
            });
            if (found == list.end()) throw InputError("move", "the reference has no move '" + text_of_move + "'");
            reference.play(position, *found);
        }
        return position;
    }
}

}  // namespace detail

/// The reference that an object is.
template <class R>
Reference reference_of(R object) {
    using Position = typename R::Position;
    using Moves = Reference::Moves;
    constexpr bool reads = requires(const R& r, std::string_view text) { r.read_position(text); };
    static_assert(reads || Game<R>, "a reference needs read_position(), or to be a whole game");
    Reference reference;
    const auto at = [object](const std::string& text, const Moves& moves) {
        return detail::reference_position(object, text, moves);
    };
    if constexpr (requires(const R& r, const Position& p) { r.outcome(p); })
        reference.outcome = [object, at](const std::string& text, const Moves& moves) {
            return object.outcome(at(text, moves));
        };
    if constexpr (requires(const R& r, const Position& p) { r.player_to_move(p); })
        reference.player_to_move = [object, at](const std::string& text, const Moves& moves) {
            return object.player_to_move(at(text, moves));
        };
    if constexpr (detail::ListsMoveTexts<R>) {
        reference.legal_moves = [object, at](const std::string& text, const Moves& moves) {
            const Position position = at(text, moves);
            MoveList<typename R::Move> list;
            object.generate_moves(position, list);
            Moves texts;
            for (const auto& move : list) texts.push_back(object.move_text(position, move));
            return texts;
        };
        if constexpr (detail::PlaysToTexts<R>)
            reference.after = [object, at](const std::string& text, const Moves& moves, const std::string& move) {
                Position position = at(text, moves);
                MoveList<typename R::Move> list;
                object.generate_moves(position, list);
                for (const auto& each : list)
                    if (object.move_text(position, each) == move) {
                        object.play(position, each);
                        return object.position_text(position);
                    }
                throw InputError("move", "the reference has no move '" + move + "'");
            };
    }
    return reference;
}

/// The shortest play that is found in which a game and a reference part: law "reference". The game needs texts. Throws
/// InputError for an option out of its range, and for a game without texts; what either throws is a fault.
CheckReport check_game_against(const AnyGame& game, const Reference& reference, const CheckOptions& options = {});

/// The same for a game of a type of its own.
template <Game G, class R>
CheckReport check_against(const G& game, const R& reference, const CheckOptions& options = {}) {
    return check_game_against(AnyGame(game), reference_of(reference), options);
}

}  // namespace arvek
