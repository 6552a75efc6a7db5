#pragma once
// Ability: take-back. Buys search without copying positions; worth it when a position is large.
//
//     Undo play_reversibly(Position&, const Move&) const;                  // as play(), and what it takes to undo it
//     void take_back(Position&, const Move&, const Undo&) const;           // restores the position exactly
//
// Undo is any small type of the game's own.

#include <type_traits>
#include <utility>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"

namespace arvek {

template <class G>
concept ReversibleGame = Game<G> &&
    requires(const G& game, typename G::Position& position, const typename G::Move& move) {
    game.take_back(position, move, game.play_reversibly(position, move));
};

/// How a search steps from a position to the next one.
enum class Stepping {
    Automatic,  ///< take-back if the game has it and a position is large or costly to copy; else copying
    Copying,    ///< every move is played on a copy of the position
    TakingBack  ///< the game must be a ReversibleGame
};

/// Positions up to this many bytes are copied rather than taken back, if copying is a plain copy of bytes.
inline constexpr std::size_t cheap_copy_bytes = 64;

/// Whether a search of G takes moves back; a game that answers at run time is always copied.
template <Game G, Stepping S>
constexpr bool takes_back() {
    using Position = typename G::Position;
    if constexpr (S == Stepping::TakingBack) {
        static_assert(ReversibleGame<G>,
                      "Arvek: taking moves back needs  Undo play_reversibly(Position&, const Move&) const;  and  void "
                      "take_back(Position&, const Move&, const Undo&) const;");
        return true;
    }
    return S == Stepping::Automatic && ReversibleGame<G> && !AnswersAtRunTime<G> &&
           !(std::is_trivially_copyable_v<Position> && sizeof(Position) <= cheap_copy_bytes);
}

/// One step of a search: makes a move for as long as it lives.
///
///     Step<G, S> step(game, position, move);
///     ... step.position() ...                   // the position after the move
///
/// `position` must not be used meanwhile; afterwards it is what it was.
template <Game G, Stepping S, bool TakesBack = takes_back<G, S>()>
class Step {
   public:
    /// Plays the move on a copy.
    Step(const G& game, const typename G::Position& position, const typename G::Move& move) : after_(position) {
        game.play(after_, move);
    }

    typename G::Position& position() { return after_; }  ///< where the move leads

   private:
    typename G::Position after_;
};

namespace detail {

/// Copies a position and plays on the copy by one function.
template <class G>
concept PlaysInto = requires(const G& game, const typename G::Position& from, typename G::Position& to,
                             const typename G::Move& move) {
    game.play_into(from, to, move);
};

}  // namespace detail

/// The same by one function of the game.
template <Game G, Stepping S>
requires detail::PlaysInto<G>
class Step<G, S, false> {
   public:
    /// Plays the move.
    [[gnu::always_inline]] Step(const G& game, const typename G::Position& position, const typename G::Move& move) {
        game.play_into(position, after_, move);
    }

    typename G::Position& position() { return after_; }  ///< where the move leads

   private:
    typename G::Position after_;
};

/// The same in the position itself, which is taken back at the end.
template <Game G, Stepping S>
class Step<G, S, true> {
   public:
    /// Plays the move.
    Step(const G& game, typename G::Position& position, const typename G::Move& move)
        : game_(game), position_(position), move_(move), undo_(game.play_reversibly(position, move)) {}
    ~Step() { game_.take_back(position_, move_, undo_); }
    Step(const Step&) = delete;
    Step& operator=(const Step&) = delete;

    typename G::Position& position() { return position_; }  ///< where the move leads

   private:
    using Undo = decltype(std::declval<const G&>().play_reversibly(std::declval<typename G::Position&>(),
                                                                   std::declval<const typename G::Move&>()));

    const G& game_;
    typename G::Position& position_;
    const typename G::Move& move_;
    Undo undo_;
};

}  // namespace arvek
