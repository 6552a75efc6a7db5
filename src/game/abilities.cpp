#include "arvek/game/abilities.hpp"

#include <array>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

std::span<const AbilityInfo> ability_table() {
    static constexpr std::array<AbilityInfo, 36> table{{
        {Ability::Players, "players", "int players() const", "games for one, three or four", "players.hpp"},
        {Ability::Evaluation, "evaluation", "Score evaluate(const Position&, Player) const",
         "look-ahead that knows more than wins and losses", "evaluation.hpp"},
        {Ability::Hash, "hash", "std::uint64_t hash(const Position&) const",
         "a transposition table, exact solving, counting each position once", "hashing.hpp"},
        {Ability::Equivalence, "equivalence", "std::uint64_t equivalence_hash(const Position&) const",
         "mirror images and the like searched once", "equivalence.hpp"},
        {Ability::TakeBack, "take-back",
         "Undo play_reversibly(Position&, const Move&) const; void take_back(Position&, const Move&, const Undo&) "
         "const",
         "search without copying large positions", "take_back.hpp"},
        {Ability::OrderHint, "order hint", "int order_hint(const Position&, const Move&) const", "better pruning",
         "ordering.hpp"},
        {Ability::ForcingMoves, "forcing moves", "void generate_forcing_moves(const Position&, MoveList<Move>&) const",
         "quiescence: nothing is judged in the middle of an exchange", "ordering.hpp"},
        {Ability::QuietMoves, "quiet moves", "void generate_quiet_moves(const Position&, MoveList<Move>&) const",
         "a standard search that does not generate quiet moves where a forcing one cuts off", "ordering.hpp"},
        {Ability::MoveCount, "move count", "int count_moves(const Position&) const",
         "quicker counting of move sequences", "move_count.hpp"},
        {Ability::NullMove, "null move",
         "void play_nothing(Position&) const; bool nothing_is_sound(const Position&) const",
         "deeper search where the right to move is always worth something", "null_move.hpp"},
        {Ability::Repetition, "repetition", "int draw_at_occurrence() const",
         "endless play handled, in matches, search and solving", "repetition.hpp"},
        {Ability::RepetitionKey, "repetition key", "std::uint64_t repetition_key(const Position&) const",
         "repetition in a game whose positions count moves", "repetition.hpp"},
        {Ability::MostPayoff, "most payoff", "Payoff most_payoff() const",
         "searches that stop at a win which nothing can be better than", "payoff_bounds.hpp"},
        {Ability::PayoffBounds, "payoff bounds", "PayoffBounds payoff_bounds(const Position&, Player) const",
         "exact solving with far fewer positions", "payoff_bounds.hpp"},
        {Ability::SufficientMoves, "sufficient moves",
         "void generate_sufficient_moves(const Position&, MoveList<Move>&) const",
         "exact solving that looks at few moves", "sufficient_moves.hpp"},
        {Ability::Visiting, "visiting", "template <class Visit> void visit_moves(const Position&, Visit) const",
         "alpha-beta that generates no move after a cutoff", "visiting_moves.hpp"},
        {Ability::Chance, "chance",
         "bool chance_is_next(const Position&) const; void generate_events(const Position&, MoveList<Event<Move>>&) "
         "const",
         "dice, decks and hit rolls", "chance.hpp"},
        {Ability::DrawnEvents, "drawn events",
         "bool chance_is_next(const Position&) const; Move draw_event(const Position&, Random&) const",
         "chance with too many events to list", "chance.hpp"},
        {Ability::Views, "views",
         "View view(const Position&, Player) const; Position sample(const View&, Random&) const",
         "hidden hands; opponents that cannot peek", "view.hpp"},
        {Ability::ViewText, "view text", "std::string view_text(const View&) const",
         "what one player sees as people read it", "view_text.hpp"},
        {Ability::RandomMove, "random move", "Move random_move(const Position&, Random&) const",
         "quicker Monte Carlo search", "playing_out.hpp"},
        {Ability::PlayOut, "play out", "Outcome play_out(Position&, Random&) const", "quicker Monte Carlo search",
         "playing_out.hpp"},
        {Ability::Scale, "scale", "double units_per_doubling() const", "estimates and luck weighed together",
         "scale.hpp"},
        {Ability::Text, "text",
         "std::string position_text(const Position&) const; Position read_position(std::string_view) const; "
         "std::string move_text(const Position&, const Move&) const",
         "the command-line tool, messages, records, opening books", "text.hpp"},
        {Ability::ReadMove, "read move", "Move read_move(const Position&, std::string_view) const",
         "moves read in other forms too, and a better explanation of wrong ones", "text.hpp"},
        {Ability::Coordinates, "coordinates", "std::string coordinates(const Position&, const Move&) const",
         "talking with programs that speak an open protocol", "text.hpp"},
        {Ability::Drawing, "drawing", "std::string drawing(const Position&) const", "a position that people can read",
         "text.hpp"},
        {Ability::Board, "board", "Board board(const Position&, Player viewer) const",
         "a board to look at and click on, in a browser", "board.hpp"},
        {Ability::PlayerName, "player name", "std::string player_name(Player) const", "sides with names of your own",
         "text.hpp"},
        {Ability::Preference, "preference", "int preference(const Position&, const Move&) const",
         "sensible play by rules, without any evaluation", "preference.hpp"},
        {Ability::Salience, "salience", "double salience(const Position&, const Move&) const",
         "lower levels that overlook what people overlook", "salience.hpp"},
        {Ability::LevelChange, "level change", "arvek::LevelChange level_change(int level) const",
         "a ladder of levels that fits the game", "level_change.hpp"},
        {Ability::Quantities, "quantities", "std::span<const Quantity<MyGame>> quantities() const",
         "rules and features written as data", "quantities.hpp"},
        {Ability::Patterns, "patterns",
         "std::vector<Pattern> patterns() const; void read_patterns(const Position&, Player, std::span<std::uint16_t> "
         "ways) const",
         "evaluations that are learned from play", "patterns.hpp"},
        {Ability::Acting, "acting", "ActNames act_names() const; Act act(const Position&, const Move&) const",
         "rules about who acts, and about actions by name", "acting.hpp"},
        {Ability::Suggesters, "suggesters", "std::span<const Suggester<MyGame>> suggesters() const",
         "choosing by what stands out, with a temperament", "suggesters.hpp"},
    }};
    return table;
}

const AbilityInfo& ability_info(Ability ability) { return ability_table()[static_cast<std::size_t>(ability)]; }

void throw_not_offered(Ability ability) {
    const AbilityInfo& info = ability_info(ability);
    throw InputError(info.name, "the game does not offer it", info.functions);
}

}  // namespace arvek
