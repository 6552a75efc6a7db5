#pragma once
// AnyGame: any game behind one type. A model of Game itself, which learns its abilities at run time.
//
//     const arvek::AnyGame any(MyGame{});
//     auto position = any.initial_position();
//
// What is not the inner loop of a search works with AnyGame and is compiled once, in the library: rules, levels,
// profiles, matches, checks, sessions. A step costs a call through a pointer, some three times that of the game's own
// type, so searches are made for the type. Positions and moves of one AnyGame mean nothing to another.

#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/abilities.hpp"
#include "arvek/game/any_value.hpp"
#include "arvek/game/move_key.hpp"

namespace arvek {

class AnyGame;

using AnyPosition = AnyValue<48>;
using AnyMove = AnyValue<16>;
/// What a player sees: a view, or the position of a game in which all is in sight.
using AnyView = AnyValue<64>;

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
    } value{};                                                ///< what it is in a position
    double least = -std::numeric_limits<double>::infinity();  ///< the least that it can be
    double most = std::numeric_limits<double>::infinity();    ///< the most that it can be
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

namespace detail {

/// Calls back once a move; the other side of visit_moves().
struct MoveVisitor {
    bool (*call)(void* state, const AnyMove& move);
    void* state;
};

/// The functions of a game, by pointer. See the headers of the abilities.
class GameModel {
   public:
    virtual ~GameModel() = default;

    virtual bool offers(Ability ability) const = 0;
    virtual const void* game() const = 0;
    /// Of a copy of the game.
    virtual std::shared_ptr<const GameModel> another() const = 0;
    virtual AnyPosition initial_position() const = 0;
    virtual Player player_to_move(const AnyPosition&) const = 0;
    virtual void generate_moves(const AnyPosition&, MoveList<AnyMove>&) const = 0;
    virtual void play(AnyPosition&, const AnyMove&) const = 0;
    virtual std::optional<Outcome> outcome(const AnyPosition&) const = 0;

    virtual int players() const = 0;
    virtual Score evaluate(const AnyPosition&, Player) const = 0;
    virtual std::uint64_t hash(const AnyPosition&) const = 0;
    virtual std::uint64_t equivalence_hash(const AnyPosition&) const = 0;
    virtual std::shared_ptr<void> play_reversibly(AnyPosition&, const AnyMove&) const = 0;
    virtual void take_back(AnyPosition&, const AnyMove&, const void* undo) const = 0;
    virtual int order_hint(const AnyPosition&, const AnyMove&) const = 0;
    virtual void generate_forcing_moves(const AnyPosition&, MoveList<AnyMove>&) const = 0;
    virtual void generate_quiet_moves(const AnyPosition&, MoveList<AnyMove>&) const = 0;
    virtual int count_moves(const AnyPosition&) const = 0;
    virtual std::string coordinates(const AnyPosition&, const AnyMove&) const = 0;
    virtual void play_nothing(AnyPosition&) const = 0;
    virtual bool nothing_is_sound(const AnyPosition&) const = 0;
    virtual int draw_at_occurrence() const = 0;
    virtual std::uint64_t repetition_key(const AnyPosition&) const = 0;
    virtual Payoff most_payoff() const = 0;
    virtual PayoffBounds payoff_bounds(const AnyPosition&, Player) const = 0;
    virtual void generate_sufficient_moves(const AnyPosition&, MoveList<AnyMove>&) const = 0;
    virtual void visit_moves(const AnyPosition&, const MoveVisitor&) const = 0;
    virtual bool chance_is_next(const AnyPosition&) const = 0;
    virtual void generate_events(const AnyPosition&, MoveList<Event<AnyMove>>&) const = 0;
    virtual AnyMove draw_event(const AnyPosition&, Random&) const = 0;
    virtual AnyView view(const AnyPosition&, Player) const = 0;
    virtual AnyPosition sample(const AnyView&, Random&) const = 0;
    virtual std::string view_text(const AnyView&) const = 0;
    virtual AnyMove random_move(const AnyPosition&, Random&) const = 0;
    virtual Outcome play_out(AnyPosition&, Random&) const = 0;
    virtual double units_per_doubling() const = 0;
    virtual std::string position_text(const AnyPosition&) const = 0;
    virtual AnyPosition read_position(std::string_view) const = 0;
    virtual std::string move_text(const AnyPosition&, const AnyMove&) const = 0;
    virtual AnyMove read_move(const AnyPosition&, std::string_view) const = 0;
    virtual std::string drawing(const AnyPosition&) const = 0;
    virtual Board board(const AnyPosition&, Player viewer) const = 0;
    virtual std::string player_name(Player) const = 0;
    virtual double salience(const AnyPosition&, const AnyMove&) const = 0;
    virtual LevelChange level_change(int level) const = 0;
    virtual int preference(const AnyPosition&, const AnyMove&) const = 0;
    virtual double quantity(int place, const AnyPosition&, const AnyMove&) const = 0;
    virtual void suggest(int place, const AnyPosition&, Proposals<AnyMove>&) const = 0;
    virtual std::vector<Pattern> patterns() const = 0;
    virtual void read_patterns(const AnyPosition&, Player, std::span<std::uint16_t> ways) const = 0;
    virtual ActNames act_names() const = 0;
    virtual Act act(const AnyPosition&, const AnyMove&) const = 0;
    virtual std::uint64_t move_key(const AnyPosition&, const AnyMove&, std::size_t place) const = 0;

    std::vector<Quantity<AnyGame>> quantities{};
    std::vector<Suggester<AnyGame>> suggesters{};
};

}  // namespace detail

/// Any game behind one type, itself a model of Game.
class AnyGame {
   public:
    using Position = AnyPosition;
    using Move = AnyMove;
    using View = AnyView;

    /// A copy of the game, its type forgotten.
    template <class G>
    requires(!std::is_same_v<G, AnyGame>) && Game<G> explicit AnyGame(G game);

    /// By functions that somebody else holds; not null.
    explicit AnyGame(std::shared_ptr<const detail::GameModel> model) : model_(std::move(model)) {}

    /// Of a copy of the game; copies of an AnyGame ask the same one.
    AnyGame another() const { return AnyGame(model_->another()); }

    /// Requires: it was made of a G.
    template <class G>
    const G& get() const {
        return *static_cast<const G*>(model_->game());
    }

    /// @{
    /// As the game has it, for positions and moves of its own type behind AnyPosition and AnyMove; game/game.hpp and
    /// the headers of the abilities say what each is for. Requires, where it is of an ability, that the game has that.
    bool offers(Ability ability) const { return model_->offers(ability); }

    Position initial_position() const { return model_->initial_position(); }
    Player player_to_move(const Position& position) const { return model_->player_to_move(position); }
    void generate_moves(const Position& position, MoveList<Move>& moves) const {
        model_->generate_moves(position, moves);
    }
    void play(Position& position, const Move& move) const { model_->play(position, move); }
    std::optional<Outcome> outcome(const Position& position) const { return model_->outcome(position); }

    // The abilities; each requires that the game offers it.
    int players() const { return model_->players(); }
    Score evaluate(const Position& position, Player player) const { return model_->evaluate(position, player); }
    std::uint64_t hash(const Position& position) const { return model_->hash(position); }
    std::uint64_t equivalence_hash(const Position& position) const { return model_->equivalence_hash(position); }
    std::shared_ptr<void> play_reversibly(Position& position, const Move& move) const {
        return model_->play_reversibly(position, move);
    }
    void take_back(Position& position, const Move& move, const std::shared_ptr<void>& undo) const {
        model_->take_back(position, move, undo.get());
    }
    int order_hint(const Position& position, const Move& move) const { return model_->order_hint(position, move); }
    void generate_forcing_moves(const Position& position, MoveList<Move>& moves) const {
        model_->generate_forcing_moves(position, moves);
    }
    void generate_quiet_moves(const Position& position, MoveList<Move>& moves) const {
        model_->generate_quiet_moves(position, moves);
    }
    int count_moves(const Position& position) const { return model_->count_moves(position); }
    std::string coordinates(const Position& position, const Move& move) const {
        return model_->coordinates(position, move);
    }
    void play_nothing(Position& position) const { model_->play_nothing(position); }
    bool nothing_is_sound(const Position& position) const { return model_->nothing_is_sound(position); }
    int draw_at_occurrence() const { return model_->draw_at_occurrence(); }
    std::uint64_t repetition_key(const Position& position) const { return model_->repetition_key(position); }
    Payoff most_payoff() const { return model_->most_payoff(); }
    PayoffBounds payoff_bounds(const Position& position, Player player) const {
        return model_->payoff_bounds(position, player);
    }
    void generate_sufficient_moves(const Position& position, MoveList<Move>& moves) const {
        model_->generate_sufficient_moves(position, moves);
    }
    template <class Visit>
    void visit_moves(const Position& position, Visit visit) const {
        model_->visit_moves(
            position,
            {[](void* state, const Move& move) -> bool { return (*static_cast<Visit*>(state))(move); }, &visit});
    }
    bool chance_is_next(const Position& position) const { return model_->chance_is_next(position); }
    void generate_events(const Position& position, MoveList<Event<Move>>& events) const {
        model_->generate_events(position, events);
    }
    Move draw_event(const Position& position, Random& random) const { return model_->draw_event(position, random); }
    /// Of a game in which all is in sight: the position, and back.
    View view(const Position& position, Player player) const { return model_->view(position, player); }
    Position sample(const View& view, Random& random) const { return model_->sample(view, random); }
    std::string view_text(const View& view) const { return model_->view_text(view); }
    Move random_move(const Position& position, Random& random) const { return model_->random_move(position, random); }
    Outcome play_out(Position& position, Random& random) const { return model_->play_out(position, random); }
    double units_per_doubling() const { return model_->units_per_doubling(); }
    /// @}
    /// A game without texts has no text for a position; a move then has a number or "a move".
    std::string position_text(const Position& position) const { return model_->position_text(position); }
    /// @{
    /// As the game has it, for positions and moves of its own type behind AnyPosition and AnyMove.
    Position read_position(std::string_view text) const { return model_->read_position(text); }
    std::string move_text(const Position& position, const Move& move) const {
        return model_->move_text(position, move);
    }
    Move read_move(const Position& position, std::string_view text) const { return model_->read_move(position, text); }
    std::string drawing(const Position& position) const { return model_->drawing(position); }
    Board board(const Position& position, Player viewer) const { return model_->board(position, viewer); }
    std::string player_name(Player player) const { return model_->player_name(player); }
    double salience(const Position& position, const Move& move) const { return model_->salience(position, move); }
    LevelChange level_change(int level) const { return model_->level_change(level); }
    int preference(const Position& position, const Move& move) const { return model_->preference(position, move); }
    std::span<const Quantity<AnyGame>> quantities() const { return model_->quantities; }
    std::span<const Suggester<AnyGame>> suggesters() const { return model_->suggesters; }
    std::vector<Pattern> patterns() const { return model_->patterns(); }
    void read_patterns(const Position& position, Player player, std::span<std::uint16_t> ways) const {
        model_->read_patterns(position, player, ways);
    }
    ActNames act_names() const { return model_->act_names(); }
    Act act(const Position& position, const Move& move) const { return model_->act(position, move); }
    std::uint64_t move_key(const Position& position, const Move& move, std::size_t place) const {
        return model_->move_key(position, move, place);
    }
    /// @}

    /// What is behind it.
    const detail::GameModel& model() const { return *model_; }
    /// The same, shared.
    const std::shared_ptr<const detail::GameModel>& shared_model() const { return model_; }

   private:
    std::shared_ptr<const detail::GameModel> model_;
};

inline double Quantity<AnyGame>::Value::operator()(const AnyGame& game, const AnyPosition& position,
                                                   const AnyMove& move) const {
    return game.model().quantity(place, position, move);
}
inline void Suggester<AnyGame>::Suggest::operator()(const AnyGame& game, const AnyPosition& position,
                                                    Proposals<AnyMove>& proposals) const {
    game.model().suggest(place, position, proposals);
}

}  // namespace arvek

#include "arvek/game/detail/model_of.hpp"
