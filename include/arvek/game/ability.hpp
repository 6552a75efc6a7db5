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
    Players,          ///< players()
    Evaluation,       ///< evaluate()
    Hash,             ///< hash()
    Equivalence,      ///< equivalence_hash()
    TakeBack,         ///< play_reversibly() and take_back()
    OrderHint,        ///< order_hint()
    ForcingMoves,     ///< generate_forcing_moves()
    QuietMoves,       ///< generate_quiet_moves()
    MoveCount,        ///< count_moves()
    NullMove,         ///< play_nothing()
    Repetition,       ///< draw_at_occurrence()
    RepetitionKey,    ///< repetition_key()
    MostPayoff,       ///< most_payoff()
    PayoffBounds,     ///< payoff_bounds()
    SufficientMoves,  ///< generate_sufficient_moves()
    Visiting,         ///< visit_moves()
    Chance,           ///< chance_is_next() and generate_events()
    DrawnEvents,      ///< chance_is_next() and draw_event()
    Views,            ///< view() and sample()
    ViewText,         ///< view_text()
    RandomMove,       ///< random_move()
    PlayOut,          ///< play_out()
    Scale,            ///< units_per_doubling()
    Text,             ///< position_text(), read_position() and move_text()
    ReadMove,         ///< read_move()
    Coordinates,      ///< coordinates()
    Drawing,          ///< drawing()
    Board,            ///< board()
    PlayerName,       ///< player_name()
    Preference,       ///< preference()
    Salience,         ///< salience()
    LevelChange,      ///< level_change()
    Quantities,       ///< quantities()
    Patterns,         ///< patterns() and read_patterns()
    Acting,           ///< act_names() and act()
    Suggesters        ///< suggesters()
};

/// Its bit in a set of abilities.
constexpr std::uint64_t bit_of(Ability ability) { return std::uint64_t{1} << static_cast<unsigned>(ability); }

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
