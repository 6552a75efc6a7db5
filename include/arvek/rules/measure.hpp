#pragma once
// Measure: a number that conditions compare: a quantity of the game, a state of the player's own, the turn, how often
// or how long ago something was done; and one such number with another.
//
//     using Number = arvek::Measure<MyGame>;
//     const auto lead = Number::quantity(*arvek::find_quantity(game, "own hands"))
//                           .combined(arvek::Arithmetic::Minus, Number::quantity(*arvek::find_quantity(game, "rival hands")));
//
// A number that is not defined (a share of nothing) meets no comparison.

#include <cstddef>
#include <cstdint>
#include <limits>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/game/quantities.hpp"
#include "arvek/game/text.hpp"
#include "arvek/rules/act_filter.hpp"
#include "arvek/rules/condition_kinds.hpp"
#include "arvek/rules/memory.hpp"

namespace arvek {

/// The quantity of that name; nullptr where the game has none.
template <class G>
const Quantity<G>* find_quantity(const G& game, std::string_view name) {
    if constexpr (MeasuredGame<G>)
        for (const Quantity<G>& quantity : std::span<const Quantity<G>>(game.quantities()))
            if (quantity.name == name) return &quantity;
    return nullptr;
}

namespace detail {

double calculated(double left, Arithmetic operation, double right);
/// A number to four digits behind the point: "0.7778".
std::string short_number(double number);

/// How often, or how many turns ago, somebody did what fits.
struct DeedQuestion {
    bool asks_when = false;
    DoneBy by = DoneBy::Own;
    BoundActFilter filter{};
    std::string text;

    /// `player`: whose turn it is. `actor`: of the move that is weighed, for DoneBy::Actor.
    double answer(const GameMemory& memory, Player player, std::uint16_t actor) const;
};

}  // namespace detail

/// A number that conditions compare.
template <Game G>
class Measure {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// The number 0.
    Measure() = default;

    /// A number that stays.
    static Measure number(double value) {
        Measure measure;
        measure.number_ = value;
        measure.text_ = number_text(value);
        return measure;
    }
    /// A quantity of the game.
    static Measure quantity(const Quantity<G>& quantity) {
        Measure measure;
        measure.kind_ = Kind::Quantity;
        measure.value_ = quantity.value;
        measure.of_position_ = quantity.of == QuantityOf::Position;
        measure.text_ = quantity.name;
        return measure;
    }
    /// `place`: of the state among those of the list.
    static Measure state(const StateInfo& info, std::size_t place) {
        Measure measure;
        measure.kind_ = Kind::State;
        measure.place_ = place;
        measure.is_boolean_ = info.is_boolean;
        measure.text_ = info.name;
        return measure;
    }
    /// Which of its own decisions the player is about to take, from 1.
    static Measure turn() {
        Measure measure;
        measure.kind_ = Kind::Turn;
        measure.text_ = "turn";
        return measure;
    }
    /// How often in the game somebody did what fits. Throws InputError for names that the game does not have.
    static Measure times(const G& game, const ActFilter& filter, DoneBy by) { return done(game, filter, by, false); }
    /// How many of that side's turns ago somebody did what fits: 1, the last one; infinite, never.
    static Measure turns_since(const G& game, const ActFilter& filter, DoneBy by) {
        return done(game, filter, by, true);
    }

    /// This number with another.
    Measure combined(Arithmetic operation, Measure other) const {
        Measure measure;
        measure.kind_ = Kind::Both;
        measure.operation_ = operation;
        measure.of_position_ = of_position_ && other.of_position_;
        measure.text_ = text_ + " " + words_of(operation) + " " + other.text_;
        measure.parts_.push_back(*this);
        measure.parts_.push_back(std::move(other));
        return measure;
    }

    /// Not a number where it is not defined. Without a memory every state is 0 and nothing was done.
    double value(const G& game, const Position& position, const Move& move, const GameMemory* memory = nullptr) const {
        switch (kind_) {
            case Kind::Number: return number_;
            case Kind::Quantity: return value_(game, position, move);
            case Kind::State: return memory != nullptr && place_ < memory->state.size() ? memory->state[place_] : 0.0;
            case Kind::Turn: return memory != nullptr ? memory->turn() : 1.0;
            case Kind::Done: {
                std::uint16_t actor = 0;
                if constexpr (ActingGame<G>)
                    if (question_.front().by == DoneBy::Actor) actor = game.act(position, move).actor;
                return question_.front().answer(memory != nullptr ? *memory : GameMemory(),
                                                game.player_to_move(position), actor);
            }
            case Kind::Both:
                return detail::calculated(parts_[0].value(game, position, move, memory), operation_,
                                          parts_[1].value(game, position, move, memory));
        }
        return 0.0;
    }

    /// Whether it is the same for every move.
    bool of_position() const { return of_position_; }
    bool is_number() const { return kind_ == Kind::Number; }  ///< whether it is a number that stays
    bool is_boolean() const { return is_boolean_; }           ///< whether it is said as true or false
    /// Whether it needs to know what was done earlier.
    bool asks_deeds() const {
        return kind_ == Kind::Done || (kind_ == Kind::Both && (parts_[0].asks_deeds() || parts_[1].asks_deeds()));
    }
    /// As people say it: "own hands minus rival hands".
    const std::string& text() const { return text_; }

   private:
    enum class Kind : std::uint8_t { Number, Quantity, State, Turn, Done, Both };

    static Measure done(const G& game, const ActFilter& filter, DoneBy by, bool asks_when) {
        ActNames names;
        if constexpr (ActingGame<G>)
            if (acts_in(game)) names = game.act_names();
        detail::DeedQuestion question{asks_when, by, BoundActFilter(filter, names), {}};
        question.text = std::string(asks_when ? "turns since " : "times of ") + words_of(by) + question.filter.text();
        Measure measure;
        measure.kind_ = Kind::Done;
        measure.of_position_ = by != DoneBy::Actor;
        measure.text_ = question.text;
        measure.question_.push_back(std::move(question));
        return measure;
    }

    Kind kind_ = Kind::Number;
    Arithmetic operation_ = Arithmetic::Plus;
    bool of_position_ = true;
    bool is_boolean_ = false;
    double number_ = 0.0;
    decltype(Quantity<G>::value) value_{};
    std::size_t place_ = 0;
    std::vector<detail::DeedQuestion> question_;  ///< one, of what was done
    std::vector<Measure> parts_;                  ///< two, of one with another
    std::string text_ = "0";
};

}  // namespace arvek
