#pragma once
// GameTable: a game as one table of functions over bytes. The one form in which the library meets a game at run time:
// whatever is compiled once (searches, solvers, rules, checks, sessions) asks it, by way of AnyGame (any_game.hpp).
//
//     const std::shared_ptr<const arvek::GameTable> table = arvek::table_of(MyGame{});     // game/any_game.hpp
//     const arvek::AnyPosition start = table->initial_position(*table);
//     table->player_to_move(*table, start.data());
//
// Functions of abilities that the game does not offer are not asked. A function is given the table first, and positions
// as the bytes of the game's own type.

#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <tuple>
#include <vector>

#include "arvek/game/abilities.hpp"
#include "arvek/game/any_move.hpp"
#include "arvek/game/any_value.hpp"
#include "arvek/game/kernels.hpp"

namespace arvek {

class AnyGame;
struct GameTable;

/// What is next in a position, all that a search asks after every move.
struct Turn {
    Player mover = Player::First;  ///< where a player is to move
    bool is_over = false;          ///< whether the game is over
    bool is_chance = false;        ///< whether chance is next
};

/// A position of a game whose type is gone.
class AnyPosition : public AnyValue {
   public:
    using AnyValue::AnyValue;

    Turn turn{};  ///< for who searches: what is next there; as the others leave it, it means nothing
};

/// What a player sees: a view, or the position of a game in which all is in sight.
using AnyView = AnyValue;

/// A quantity of a game whose type is gone.
template <>
struct Quantity<AnyGame> {
    const char* name = "";                 ///< as rules and profiles name it
    const char* unit = "";                 ///< what it is counted in; may be empty
    const char* doc = "";                  ///< what it means
    QuantityOf of = QuantityOf::Position;  ///< what it is a number of
    /// The function, for any game.
    struct Value {
        int place = -1;  ///< among the game's quantities; -1: none

        /// The number, of a position or of a move in it.
        double operator()(const AnyGame& game, const AnyPosition& position, const AnyMove& move) const;
        /// Whether there is none.
        friend bool operator==(const Value& one, std::nullptr_t) { return one.place < 0; }
    } value{};                    ///< what it is in a position
    double least = -without_end;  ///< the least that it can be
    double most = without_end;    ///< the most that it can be
};

/// A suggester of a game whose type is gone.
template <>
struct Suggester<AnyGame> {
    const char* reason = "";  ///< why a move is suggested, in a word
    const char* doc = "";     ///< what it means
    /// The function, for any game.
    struct Suggest {
        int place = -1;  ///< its place among those of the game; -1: none

        /// Adds to the proposals what the game suggests in a position.
        void operator()(const AnyGame& game, const AnyPosition& position, Proposals<AnyMove>& proposals) const;
    } suggest{};  ///< what proposes
};

/// Calls back once a move; the other side of visit_moves().
struct MoveVisitor {
    bool (*call)(void* state, const AnyMove& move);  ///< false: no more moves are wanted
    void* state;                                     ///< what it is given
};

/// The functions of a game, by pointer. See game/game.hpp and the headers of the abilities for what each does.
struct GameTable {
    using At = const void*;  ///< where the bytes of a position are

    std::shared_ptr<const void> owner{};  ///< what keeps the game alive
    const void* game = nullptr;           ///< the game of a type of its own
    const void* state = nullptr;          ///< what a table has besides that is not made of a game alone
    std::uint64_t abilities = 0;          ///< a bit for each

    /// @{
    /// The five, and a copy of the game.
    std::shared_ptr<const GameTable> (*another)(const GameTable&) = nullptr;
    AnyPosition (*initial_position)(const GameTable&) = nullptr;
    Player (*player_to_move)(const GameTable&, At) = nullptr;
    void (*generate_moves)(const GameTable&, At, MoveList<AnyMove>&) = nullptr;
    void (*play)(const GameTable&, void*, AnyMove) = nullptr;
    std::optional<Outcome> (*outcome)(const GameTable&, At) = nullptr;
    /// @}
    /// @{
    /// Of abilities.
    int (*players)(const GameTable&) = nullptr;
    Score (*evaluate)(const GameTable&, At, Player) = nullptr;
    std::uint64_t (*hash)(const GameTable&, At) = nullptr;
    std::uint64_t (*equivalence_hash)(const GameTable&, At) = nullptr;
    std::shared_ptr<void> (*play_reversibly)(const GameTable&, void*, AnyMove) = nullptr;
    void (*take_back)(const GameTable&, void*, AnyMove, const void*) = nullptr;
    int (*order_hint)(const GameTable&, At, AnyMove) = nullptr;
    void (*generate_forcing_moves)(const GameTable&, At, MoveList<AnyMove>&) = nullptr;
    void (*generate_quiet_moves)(const GameTable&, At, MoveList<AnyMove>&) = nullptr;
    int (*count_moves)(const GameTable&, At) = nullptr;
    void (*play_nothing)(const GameTable&, void*) = nullptr;
    bool (*nothing_is_sound)(const GameTable&, At) = nullptr;
    int (*draw_at_occurrence)(const GameTable&) = nullptr;
    std::uint64_t (*repetition_key)(const GameTable&, At) = nullptr;
    Payoff (*most_payoff)(const GameTable&) = nullptr;
    PayoffBounds (*payoff_bounds)(const GameTable&, At, Player) = nullptr;
    void (*generate_sufficient_moves)(const GameTable&, At, MoveList<AnyMove>&) = nullptr;
    void (*visit_moves)(const GameTable&, At, const MoveVisitor&) = nullptr;
    bool (*chance_is_next)(const GameTable&, At) = nullptr;
    void (*generate_events)(const GameTable&, At, MoveList<Event<AnyMove>>&) = nullptr;
    AnyMove (*draw_event)(const GameTable&, At, Random&) = nullptr;
    AnyView (*view)(const GameTable&, At, Player) = nullptr;
    AnyPosition (*sample)(const GameTable&, const AnyView&, Random&) = nullptr;
    std::string (*view_text)(const GameTable&, const AnyView&) = nullptr;
    AnyMove (*random_move)(const GameTable&, At, Random&) = nullptr;
    Outcome (*play_out)(const GameTable&, void*, Random&) = nullptr;
    double (*units_per_doubling)(const GameTable&) = nullptr;
    std::string (*position_text)(const GameTable&, At) = nullptr;
    AnyPosition (*read_position)(const GameTable&, std::string_view) = nullptr;
    std::string (*move_text)(const GameTable&, At, AnyMove) = nullptr;
    AnyMove (*read_move)(const GameTable&, At, std::string_view) = nullptr;
    std::string (*coordinates)(const GameTable&, At, AnyMove) = nullptr;
    std::string (*drawing)(const GameTable&, At) = nullptr;
    Board (*board)(const GameTable&, At, Player) = nullptr;
    std::string (*player_name)(const GameTable&, Player) = nullptr;
    double (*salience)(const GameTable&, At, AnyMove) = nullptr;
    LevelChange (*level_change)(const GameTable&, int) = nullptr;
    int (*preference)(const GameTable&, At, AnyMove) = nullptr;
    double (*quantity)(const GameTable&, int, At, AnyMove) = nullptr;
    void (*suggest)(const GameTable&, int, At, Proposals<AnyMove>&) = nullptr;
    std::vector<Pattern> (*patterns)(const GameTable&) = nullptr;
    void (*read_patterns)(const GameTable&, At, Player, std::span<std::uint16_t>) = nullptr;
    ActNames (*act_names)(const GameTable&) = nullptr;
    Act (*act)(const GameTable&, At, AnyMove) = nullptr;
    std::uint64_t (*move_key)(const GameTable&, At, AnyMove, std::size_t) = nullptr;
    /// @}
    std::vector<Quantity<AnyGame>> quantities{};   ///< of the ability
    std::vector<Suggester<AnyGame>> suggesters{};  ///< of the ability

    /// @{
    /// Several of these in one call, for the loops of searches. Those above say all that they do, and
    /// add_kernels() makes the first of them out of those above; the others may be null.
    Turn (*turn)(const GameTable&, At) = nullptr;
    Turn (*play_on)(const GameTable&, void*, AnyMove) = nullptr;
    /// `to`: as AnyValue::prepare_like() gives it.
    Turn (*play_into)(const GameTable&, At from, void* to, AnyMove) = nullptr;
    /// Alike for positions that are the same for the rule of repetition; different for others too only where `mark_tells`.
    std::uint64_t (*repetition_mark)(const GameTable&, At) = nullptr;
    bool mark_tells = false;
    AnyMove (*drawn_event)(const GameTable&, At, Random&) = nullptr;
    /// The position after a move, one by one: whether the game is over, and how, or else its evaluation for the player.
    bool (*leaf)(const GameTable&, At, AnyMove, Player, Score& evaluation, Outcome& end) = nullptr;
    bool (*last_ply)(const GameTable&, At, HorizonPly&) = nullptr;
    CountedPly (*count_ply)(const GameTable&, At) = nullptr;
    int (*play_out_plies)(const GameTable&, void*, Random&, int most, Outcome& end, bool& is_over) = nullptr;
    /// @}

    /// Whether the game has the ability.
    bool offers(Ability ability) const { return (abilities & bit_of(ability)) != 0; }
};

namespace detail {

/// The functions of a game, by name: what notes them or passes them on goes through this list.
inline constexpr auto table_functions = std::tuple{
    std::pair{"initial_position", &GameTable::initial_position},
    std::pair{"player_to_move", &GameTable::player_to_move},
    std::pair{"generate_moves", &GameTable::generate_moves},
    std::pair{"play", &GameTable::play},
    std::pair{"outcome", &GameTable::outcome},
    std::pair{"players", &GameTable::players},
    std::pair{"evaluate", &GameTable::evaluate},
    std::pair{"hash", &GameTable::hash},
    std::pair{"equivalence_hash", &GameTable::equivalence_hash},
    std::pair{"play_reversibly", &GameTable::play_reversibly},
    std::pair{"take_back", &GameTable::take_back},
    std::pair{"order_hint", &GameTable::order_hint},
    std::pair{"generate_forcing_moves", &GameTable::generate_forcing_moves},
    std::pair{"generate_quiet_moves", &GameTable::generate_quiet_moves},
    std::pair{"count_moves", &GameTable::count_moves},
    std::pair{"play_nothing", &GameTable::play_nothing},
    std::pair{"nothing_is_sound", &GameTable::nothing_is_sound},
    std::pair{"draw_at_occurrence", &GameTable::draw_at_occurrence},
    std::pair{"repetition_key", &GameTable::repetition_key},
    std::pair{"most_payoff", &GameTable::most_payoff},
    std::pair{"payoff_bounds", &GameTable::payoff_bounds},
    std::pair{"generate_sufficient_moves", &GameTable::generate_sufficient_moves},
    std::pair{"visit_moves", &GameTable::visit_moves},
    std::pair{"chance_is_next", &GameTable::chance_is_next},
    std::pair{"generate_events", &GameTable::generate_events},
    std::pair{"draw_event", &GameTable::draw_event},
    std::pair{"view", &GameTable::view},
    std::pair{"sample", &GameTable::sample},
    std::pair{"view_text", &GameTable::view_text},
    std::pair{"random_move", &GameTable::random_move},
    std::pair{"play_out", &GameTable::play_out},
    std::pair{"units_per_doubling", &GameTable::units_per_doubling},
    std::pair{"position_text", &GameTable::position_text},
    std::pair{"read_position", &GameTable::read_position},
    std::pair{"move_text", &GameTable::move_text},
    std::pair{"read_move", &GameTable::read_move},
    std::pair{"coordinates", &GameTable::coordinates},
    std::pair{"drawing", &GameTable::drawing},
    std::pair{"board", &GameTable::board},
    std::pair{"player_name", &GameTable::player_name},
    std::pair{"salience", &GameTable::salience},
    std::pair{"level_change", &GameTable::level_change},
    std::pair{"preference", &GameTable::preference},
    std::pair{"quantity", &GameTable::quantity},
    std::pair{"suggest", &GameTable::suggest},
    std::pair{"patterns", &GameTable::patterns},
    std::pair{"read_patterns", &GameTable::read_patterns},
    std::pair{"act_names", &GameTable::act_names},
    std::pair{"act", &GameTable::act},
    std::pair{"move_key", &GameTable::move_key},
};

/// Makes the kernels that a table must have out of its other functions, and takes away those that it need not have.
void add_kernels(GameTable& table);

}  // namespace detail

}  // namespace arvek
