#pragma once
// AnyGame: any game behind one type, a handle on its table of functions (table.hpp). A model of Game itself, which learns
// its abilities at run time.
//
//     const arvek::AnyGame any(MyGame{});
//     auto position = any.initial_position();
//
// The library is compiled once, for AnyGame: searches, rules, levels, profiles, matches, checks, sessions. Positions and
// moves of one AnyGame mean nothing to another, unless the one is another() of the other.

#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/abilities.hpp"
#include "arvek/game/detail/table_of.hpp"
#include "arvek/game/move_key.hpp"
#include "arvek/game/table.hpp"

namespace arvek {

/// Any game behind one type, itself a model of Game.
class AnyGame {
   public:
    using Position = AnyPosition;
    using Move = AnyMove;
    using View = AnyView;

    /// A copy of the game, its type forgotten.
    template <class G>
    requires(!std::is_base_of_v<AnyGame, G>) && Game<G> explicit AnyGame(G game) : table_(table_of(std::move(game))) {}

    /// By a table, which is not null.
    explicit AnyGame(std::shared_ptr<const GameTable> table) : table_(std::move(table)) {}

    /// Of a copy of the game; copies of an AnyGame ask the same one.
    AnyGame another() const { return AnyGame(table_->another(*table_)); }

    /// Requires: it was made of a G.
    template <class G>
    const G& get() const {
        return *static_cast<const G*>(table_->game);
    }

    /// @{
    /// As the game has it, for positions and moves of its own type behind AnyPosition and AnyMove; game/game.hpp and
    /// the headers of the abilities say what each is for. Requires, where it is of an ability, that the game has that.
    bool offers(Ability ability) const { return table_->offers(ability); }

    Position initial_position() const { return table_->initial_position(*table_); }
    Player player_to_move(const Position& position) const { return table_->player_to_move(*table_, position.data()); }
    void generate_moves(const Position& position, MoveList<Move>& moves) const {
        table_->generate_moves(*table_, position.data(), moves);
    }
    void play(Position& position, const Move& move) const { table_->play(*table_, position.data(), move); }
    std::optional<Outcome> outcome(const Position& position) const { return table_->outcome(*table_, position.data()); }

    // The abilities; each requires that the game offers it.
    int players() const { return table_->players(*table_); }
    Score evaluate(const Position& position, Player player) const {
        return table_->evaluate(*table_, position.data(), player);
    }
    std::uint64_t hash(const Position& position) const { return table_->hash(*table_, position.data()); }
    std::uint64_t equivalence_hash(const Position& position) const {
        return table_->equivalence_hash(*table_, position.data());
    }
    std::shared_ptr<void> play_reversibly(Position& position, const Move& move) const {
        return table_->play_reversibly(*table_, position.data(), move);
    }
    void take_back(Position& position, const Move& move, const std::shared_ptr<void>& undo) const {
        table_->take_back(*table_, position.data(), move, undo.get());
    }
    int order_hint(const Position& position, const Move& move) const {
        return table_->order_hint(*table_, position.data(), move);
    }
    void generate_forcing_moves(const Position& position, MoveList<Move>& moves) const {
        table_->generate_forcing_moves(*table_, position.data(), moves);
    }
    void generate_quiet_moves(const Position& position, MoveList<Move>& moves) const {
        table_->generate_quiet_moves(*table_, position.data(), moves);
    }
    int count_moves(const Position& position) const { return table_->count_moves(*table_, position.data()); }
    std::string coordinates(const Position& position, const Move& move) const {
        return table_->coordinates(*table_, position.data(), move);
    }
    void play_nothing(Position& position) const { table_->play_nothing(*table_, position.data()); }
    bool nothing_is_sound(const Position& position) const { return table_->nothing_is_sound(*table_, position.data()); }
    int draw_at_occurrence() const { return table_->draw_at_occurrence(*table_); }
    std::uint64_t repetition_key(const Position& position) const {
        return table_->repetition_key(*table_, position.data());
    }
    Payoff most_payoff() const { return table_->most_payoff(*table_); }
    PayoffBounds payoff_bounds(const Position& position, Player player) const {
        return table_->payoff_bounds(*table_, position.data(), player);
    }
    void generate_sufficient_moves(const Position& position, MoveList<Move>& moves) const {
        table_->generate_sufficient_moves(*table_, position.data(), moves);
    }
    template <class Visit>
    void visit_moves(const Position& position, Visit visit) const {
        table_->visit_moves(
            *table_, position.data(),
            {[](void* state, const Move& move) -> bool { return (*static_cast<Visit*>(state))(move); }, &visit});
    }
    bool chance_is_next(const Position& position) const { return table_->chance_is_next(*table_, position.data()); }
    void generate_events(const Position& position, MoveList<Event<Move>>& events) const {
        table_->generate_events(*table_, position.data(), events);
    }
    Move draw_event(const Position& position, Random& random) const {
        return table_->draw_event(*table_, position.data(), random);
    }
    /// Of a game in which all is in sight: the position, and back.
    View view(const Position& position, Player player) const { return table_->view(*table_, position.data(), player); }
    Position sample(const View& view, Random& random) const { return table_->sample(*table_, view, random); }
    std::string view_text(const View& view) const { return table_->view_text(*table_, view); }
    Move random_move(const Position& position, Random& random) const {
        return table_->random_move(*table_, position.data(), random);
    }
    Outcome play_out(Position& position, Random& random) const {
        return table_->play_out(*table_, position.data(), random);
    }
    double units_per_doubling() const { return table_->units_per_doubling(*table_); }
    /// @}
    /// A game without texts has no text for a position; a move then has a number or "a move".
    std::string position_text(const Position& position) const {
        return table_->position_text(*table_, position.data());
    }
    /// @{
    /// As the game has it, for positions and moves of its own type behind AnyPosition and AnyMove.
    Position read_position(std::string_view text) const { return table_->read_position(*table_, text); }
    std::string move_text(const Position& position, const Move& move) const {
        return table_->move_text(*table_, position.data(), move);
    }
    Move read_move(const Position& position, std::string_view text) const {
        return table_->read_move(*table_, position.data(), text);
    }
    std::string drawing(const Position& position) const { return table_->drawing(*table_, position.data()); }
    Board board(const Position& position, Player viewer) const {
        return table_->board(*table_, position.data(), viewer);
    }
    std::string player_name(Player player) const { return table_->player_name(*table_, player); }
    double salience(const Position& position, const Move& move) const {
        return table_->salience(*table_, position.data(), move);
    }
    LevelChange level_change(int level) const { return table_->level_change(*table_, level); }
    int preference(const Position& position, const Move& move) const {
        return table_->preference(*table_, position.data(), move);
    }
    std::span<const Quantity<AnyGame>> quantities() const { return table_->quantities; }
    std::span<const Suggester<AnyGame>> suggesters() const { return table_->suggesters; }
    std::vector<Pattern> patterns() const { return table_->patterns(*table_); }
    void read_patterns(const Position& position, Player player, std::span<std::uint16_t> ways) const {
        table_->read_patterns(*table_, position.data(), player, ways);
    }
    ActNames act_names() const { return table_->act_names(*table_); }
    Act act(const Position& position, const Move& move) const { return table_->act(*table_, position.data(), move); }
    std::uint64_t move_key(const Position& position, const Move& move, std::size_t place) const {
        return table_->move_key(*table_, position.data(), move, place);
    }
    /// @}

    /// What is behind it.
    const GameTable& table() const { return *table_; }
    /// The same, shared.
    const std::shared_ptr<const GameTable>& shared_table() const { return table_; }

   protected:
    std::shared_ptr<const GameTable> table_;  ///< what is behind it
};

inline double Quantity<AnyGame>::Value::operator()(const AnyGame& game, const AnyPosition& position,
                                                   const AnyMove& move) const {
    return game.table().quantity(game.table(), place, position.data(), move);
}
inline void Suggester<AnyGame>::Suggest::operator()(const AnyGame& game, const AnyPosition& position,
                                                    Proposals<AnyMove>& proposals) const {
    game.table().suggest(game.table(), place, position.data(), proposals);
}

}  // namespace arvek
