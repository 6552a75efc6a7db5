#pragma once
// Ability: chance. For dice, decks and hit rolls: who moves next may be chance.
//
//     bool chance_is_next(const Position&) const;
//     void generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>&) const;
//     Move draw_event(const Position&, arvek::Random&) const;     // where they are too many to list, or quicker drawn
//
// An event is played like a move, and has a text like one. Where chance is next, generate_events() appends every event
// that can happen, each with its probability, above 0 and summing to 1, and draw_event() draws one of the same;
// generate_moves() and player_to_move() are not asked there, and the game is not over. One of the two is enough, but what
// weighs events by their probability (expectation, exact solving) needs the list. Whoever runs a game draws the events:
// a match, the tool, or
//
//     arvek::Random random(seed);
//     arvek::settle_chance(game, position, random);      // until it is a player's turn, or the game is over
//
// An opponent never sees what will be drawn.

#include <concepts>

#include "arvek/game/ability.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/random.hpp"

namespace arvek {

/// One thing that chance can do.
template <class Move>
struct Event {
    Move move{};               ///< what play() is given
    double probability = 0.0;  ///< above 0, at most 1

    friend bool operator==(const Event&, const Event&) = default;
};

namespace detail {

/// Has the whole of drawn_event() as a function of its own.
template <class G>
concept DrawsAtOnce = requires(const G& game, const typename G::Position& position, Random& random) {
    { game.drawn_event(position, random) } -> std::same_as<typename G::Move>;
};

template <class G>
concept HasChanceIsNext = Game<G> && requires(const G& game, const typename G::Position& position) {
    { game.chance_is_next(position) } -> std::same_as<bool>;
};

}  // namespace detail

/// Events can be listed.
template <class G>
concept ListedChanceGame = detail::HasChanceIsNext<G> &&
    requires(const G& game, const typename G::Position& position, MoveList<Event<typename G::Move>>& events) {
    { game.generate_events(position, events) } -> std::same_as<void>;
};

/// Events can be drawn without a list.
template <class G>
concept DrawnChanceGame = detail::HasChanceIsNext<G> &&
    requires(const G& game, const typename G::Position& position, Random& random) {
    { game.draw_event(position, random) } -> std::same_as<typename G::Move>;
};

template <class G>
concept ChanceGame = ListedChanceGame<G> || DrawnChanceGame<G>;

/// False only where the compiler can tell that the game is one of chance.
template <Game G>
consteval bool may_be_without_chance() {
    return !ChanceGame<G> || AnswersAtRunTime<G>;
}

/// Whether chance may ever move in the game.
template <Game G>
constexpr bool has_chance(const G& game) {
    if constexpr (ChanceGame<G>) {
        return wants_used<Ability::Chance>(game) || wants_used<Ability::DrawnEvents>(game);
    } else {
        (void)game;
        return false;
    }
}

/// Whether chance moves next. Requires: the game is not over.
template <Game G>
bool chance_is_next(const G& game, const typename G::Position& position) {
    if constexpr (ChanceGame<G>) {
        if (has_chance(game)) return game.chance_is_next(position);
    }
    return false;
}

/// Whether the events can be listed, with their probabilities.
template <Game G>
constexpr bool lists_events(const G& game) {
    if constexpr (ListedChanceGame<G>) return wants_used<Ability::Chance>(game);
    (void)game;
    return false;
}

/// The events that can happen next, nothing where they cannot be listed. Requires: chance is next.
template <Game G>
void list_events(const G& game, const typename G::Position& position, MoveList<Event<typename G::Move>>& events) {
    if constexpr (ListedChanceGame<G>)
        if (lists_events(game)) game.generate_events(position, events);
}

/// What can happen next: the legal moves of the player to move, or the events of chance. Requires: the game is not
/// over.
template <Game G>
void generate_what_is_next(const G& game, const typename G::Position& position, MoveList<typename G::Move>& moves) {
    if constexpr (ChanceGame<G>) {
        if (chance_is_next(game, position)) {
            MoveList<Event<typename G::Move>> events;
            list_events(game, position, events);
            for (const auto& event : events) moves.push_back(event.move);
            return;
        }
    }
    game.generate_moves(position, moves);
}

namespace detail {

/// One of the events, each as likely as its probability says. Requires: there is one.
template <class Move>
Move one_of(const MoveList<Event<Move>>& events, Random& random) {
    double left = random.unit();
    for (const auto& event : events) {
        if (left < event.probability) return event.move;
        left -= event.probability;
    }
    return events[events.size() - 1].move;  // what rounding left over
}

}  // namespace detail

/// One of the events, each as likely as its probability says. Requires: chance is next, and there is an event.
template <Game G>
typename G::Move drawn_event(const G& game, const typename G::Position& position, Random& random) {
    if constexpr (!ChanceGame<G>) return {};
    if constexpr (detail::DrawsAtOnce<G>) return game.drawn_event(position, random);
    if constexpr (DrawnChanceGame<G>)
        if (wants_used<Ability::DrawnEvents>(game)) return game.draw_event(position, random);
    MoveList<Event<typename G::Move>> events;
    list_events(game, position, events);
    return detail::one_of(events, random);
}

/// Plays drawn events until a player is to move or the game is over, and calls `seen(event)` after each.
template <Game G, class Seen>
void settle_chance(const G& game, typename G::Position& position, Random& random, Seen seen) {
    if constexpr (ChanceGame<G>) {
        while (!game.outcome(position) && chance_is_next(game, position)) {
            const auto event = drawn_event(game, position, random);
            game.play(position, event);
            seen(event);
        }
    }
}

/// Draws and plays events until a player is to move or the game is over.
template <Game G>
void settle_chance(const G& game, typename G::Position& position, Random& random) {
    settle_chance(game, position, random, [](const auto&) {});
}

}  // namespace arvek
