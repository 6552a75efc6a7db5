#pragma once
// Ability: what a game may offer beyond the five functions, by name. abilities.hpp has the table of all of them.
//
// An ability is there when its functions are. A game that only learns at run time what it can do (rules that come from
// a script, say) declares all functions and one more, which is asked first:
//
//     bool offers(arvek::Ability ability) const { return ability != arvek::Ability::Evaluation; }

#include <concepts>
#include <cstdint>

namespace arvek {

/// What a game may offer beyond the five functions. abilities.hpp says what each buys.
enum class Ability : std::uint8_t {
    Players,
    Evaluation,
    Hash,
    Equivalence,
    TakeBack,
    OrderHint,
    ForcingMoves,
    QuietMoves,
    MoveCount,
    NullMove,
    Repetition,
    RepetitionKey,
    MostPayoff,
    PayoffBounds,
    SufficientMoves,
    Visiting,
    Chance,
    DrawnEvents,
    Views,
    ViewText,
    RandomMove,
    PlayOut,
    Scale,
    Text,
    ReadMove,
    Coordinates,
    Drawing,
    Board,
    PlayerName,
    Preference,
    Salience,
    LevelChange,
    Quantities,
    Patterns,
    Acting,
    Suggesters
};

template <class G>
concept AnswersAtRunTime = requires(const G& game, Ability ability) {
    { game.offers(ability) } -> std::same_as<bool>;
};

/// Of an ability whose functions are there: whether the game wants them used.
template <Ability A, class G>
constexpr bool wants_used(const G& game) {
    if constexpr (AnswersAtRunTime<G>) {
        return game.offers(A);
    } else {
        (void)game;
        return true;
    }
}

/// Throws the InputError for an ability that is asked for and that the game does not offer.
[[noreturn]] void throw_not_offered(Ability ability);

}  // namespace arvek
