#pragma once
// All abilities of games in one place: which functions make one, what it buys, and whether a game has it.
//
//     if (arvek::offers(game, arvek::Ability::Hash)) ...
//     for (const auto& entry : arvek::ability_table()) std::puts(entry.name);

#include <span>

#include "arvek/game/ability.hpp"
#include "arvek/game/acting.hpp"
#include "arvek/game/board.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/equivalence.hpp"
#include "arvek/game/evaluation.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/level_change.hpp"
#include "arvek/game/move_count.hpp"
#include "arvek/game/null_move.hpp"
#include "arvek/game/ordering.hpp"
#include "arvek/game/patterns.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/playing_out.hpp"
#include "arvek/game/preference.hpp"
#include "arvek/game/quantities.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/salience.hpp"
#include "arvek/game/scale.hpp"
#include "arvek/game/sufficient_moves.hpp"
#include "arvek/game/suggesters.hpp"
#include "arvek/game/take_back.hpp"
#include "arvek/game/text.hpp"
#include "arvek/game/view.hpp"
#include "arvek/game/view_text.hpp"
#include "arvek/game/visiting_moves.hpp"

namespace arvek {

/// An ability and what there is to say about it.
struct AbilityInfo {
    Ability ability;        ///< which
    const char* name;       ///< "evaluation"
    const char* functions;  ///< what the game adds, as it is declared; two functions with "; " between
    const char* buys;       ///< what comes of it
    const char* header;     ///< "evaluation.hpp", under arvek/game/
};

/// Every ability, in the order of the enumeration.
std::span<const AbilityInfo> ability_table();
/// The row of one ability.
const AbilityInfo& ability_info(Ability ability);

/// Whether the functions of an ability are there.
template <class G>
constexpr bool has_functions_of(Ability ability) {
    switch (ability) {
        case Ability::Players: return CountedPlayersGame<G>;
        case Ability::Evaluation: return EvaluatedGame<G>;
        case Ability::Hash: return HashedGame<G>;
        case Ability::Equivalence: return EquivalenceGame<G>;
        case Ability::TakeBack: return ReversibleGame<G>;
        case Ability::OrderHint: return HintingGame<G>;
        case Ability::ForcingMoves: return ForcingGame<G>;
        case Ability::QuietMoves: return StagedGame<G>;
        case Ability::MoveCount: return CountingGame<G>;
        case Ability::NullMove: return NullMoveGame<G>;
        case Ability::Repetition: return RepeatingGame<G>;
        case Ability::RepetitionKey: return KeyedRepetitionGame<G>;
        case Ability::MostPayoff: return CappedGame<G>;
        case Ability::PayoffBounds: return BoundedGame<G>;
        case Ability::SufficientMoves: return SufficingGame<G>;
        case Ability::Visiting: return VisitingGame<G>;
        case Ability::Chance: return ListedChanceGame<G>;
        case Ability::DrawnEvents: return DrawnChanceGame<G>;
        case Ability::Views: return ViewedGame<G>;
        case Ability::ViewText: return ViewTextGame<G>;
        case Ability::RandomMove: return RandomMoveGame<G>;
        case Ability::PlayOut: return PlayOutGame<G>;
        case Ability::Scale: return ScaledGame<G>;
        case Ability::Text: return TextGame<G>;
        case Ability::ReadMove: return ReadsMoves<G>;
        case Ability::Coordinates: return CoordinatesGame<G>;
        case Ability::Drawing: return DrawnGame<G>;
        case Ability::Board: return BoardGame<G>;
        case Ability::PlayerName: return NamesPlayers<G>;
        case Ability::Preference: return PreferringGame<G>;
        case Ability::Salience: return SalientGame<G>;
        case Ability::LevelChange: return ChangesLevels<G>;
        case Ability::Quantities: return MeasuredGame<G>;
        case Ability::Patterns: return PatternedGame<G>;
        case Ability::Acting: return ActingGame<G>;
        case Ability::Suggesters: return SuggestingGame<G>;
    }
    return false;
}

/// Whether the game has the ability.
template <Game G>
constexpr bool offers(const G& game, Ability ability) {
    if (!has_functions_of<G>(ability)) return false;
    if constexpr (AnswersAtRunTime<G>)
        return game.offers(ability);
    else
        return true;
}

}  // namespace arvek
