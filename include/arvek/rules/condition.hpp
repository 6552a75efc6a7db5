#pragma once
// Condition: what must hold for a move, over quantities that a game offers.
//
//     const auto stamina = find_quantity(game, "target stamina");
//     auto weak = Condition<MyGame>::test(*stamina, Comparison::Below, 8);
//     auto when = Condition<MyGame>::all({weak, Condition<MyGame>::none({...})});

#include <algorithm>
#include <cstdint>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/quantities.hpp"
#include "arvek/game/text.hpp"
#include "arvek/rules/condition_kinds.hpp"

namespace arvek {

namespace detail {

inline bool compare(double value, Comparison comparison, double with) {
    switch (comparison) {
        case Comparison::Is: return value == with;
        case Comparison::Below: return value < with;
        case Comparison::AtMost: return value <= with;
        case Comparison::Above: return value > with;
        case Comparison::AtLeast: return value >= with;
    }
    return false;
}

}  // namespace detail

/// The quantity of that name; nullptr where the game has none.
template <class G>
const Quantity<G>* find_quantity(const G& game, std::string_view name) {
    if constexpr (MeasuredGame<G>)
        for (const Quantity<G>& quantity : std::span<const Quantity<G>>(game.quantities()))
            if (quantity.name == name) return &quantity;
    return nullptr;
}

template <Game G>
class Condition {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// One that always holds.
    Condition() = default;

    static Condition test(const Quantity<G>& quantity, Comparison comparison, double number) {
        Condition condition(Kind::Test);
        condition.left_ = quantity;
        condition.comparison_ = comparison;
        condition.number_ = number;
        condition.of_position_ = quantity.of == QuantityOf::Position;
        condition.text_ = std::string(quantity.name) + " " + words_of(comparison) + " " + number_text(number);
        return condition;
    }
    /// One quantity against another.
    static Condition test(const Quantity<G>& quantity, Comparison comparison, const Quantity<G>& other) {
        Condition condition = test(quantity, comparison, 0.0);
        condition.right_ = other;
        condition.of_position_ = condition.of_position_ && other.of == QuantityOf::Position;
        condition.text_ = std::string(quantity.name) + " " + words_of(comparison) + " " + other.name;
        return condition;
    }
    static Condition all(std::vector<Condition> parts) { return group(Kind::All, std::move(parts), " and "); }
    static Condition any(std::vector<Condition> parts) { return group(Kind::Any, std::move(parts), " or "); }
    static Condition none(std::vector<Condition> parts) { return group(Kind::None, std::move(parts), " or "); }

    bool holds(const G& game, const Position& position, const Move& move) const {
        const auto part_holds = [&](const Condition& part) { return part.holds(game, position, move); };
        switch (kind_) {
            case Kind::Test: return compares(game, position, move, left_.value(game, position, move));
            case Kind::All: return std::all_of(parts_.begin(), parts_.end(), part_holds);
            case Kind::Any: return std::any_of(parts_.begin(), parts_.end(), part_holds);
            case Kind::None: return std::none_of(parts_.begin(), parts_.end(), part_holds);
        }
        return false;
    }

    /// Takes the moves off for which it does not hold. Where none is left, says why; nothing else is said.
    std::string keep(const G& game, const Position& position, std::vector<Move>& moves) const {
        if (moves.empty()) return "";
        if (kind_ == Kind::All) {
            for (const Condition& part : parts_)
                if (std::string why = part.keep(game, position, moves); moves.empty()) return why;
            return "";
        }
        // Each quantity is asked once a move; one of the position once in all.
        std::size_t kept = 0;
        double least = 0, most = 0;
        const std::size_t asked = of_position_ ? 1 : moves.size();
        for (std::size_t i = 0; i < asked; ++i) {
            bool holds_here = false;
            if (kind_ == Kind::Test) {
                const double value = left_.value(game, position, moves[i]);
                least = i == 0 ? value : std::min(least, value);
                most = i == 0 ? value : std::max(most, value);
                holds_here = compares(game, position, moves[i], value);
            } else {
                holds_here = holds(game, position, moves[i]);
            }
            if (holds_here && of_position_) return "";
            if (holds_here) moves[kept++] = moves[i];
        }
        moves.erase(moves.begin() + static_cast<std::ptrdiff_t>(kept), moves.end());
        if (kept > 0) return "";
        return kind_ == Kind::Test ? why_not(least, most) : "not so: " + text_;
    }

    /// As people say it: "target stamina below 8 and none of (purse at least 6)".
    const std::string& text() const { return text_; }

   private:
    enum class Kind : std::uint8_t { Test, All, Any, None };

    explicit Condition(Kind kind) : kind_(kind) {}

    static Condition group(Kind kind, std::vector<Condition> parts, const char* between) {
        Condition condition(kind);
        condition.of_position_ =
            std::all_of(parts.begin(), parts.end(), [](const auto& part) { return part.of_position_; });
        for (const Condition& part : parts) {
            if (!condition.text_.empty()) condition.text_ += between;
            const bool nested = part.kind_ == Kind::Any || (part.kind_ == Kind::All && kind != Kind::All);
            condition.text_ += nested ? "(" + part.text_ + ")" : part.text_;
        }
        if (kind == Kind::None) condition.text_ = "none of (" + condition.text_ + ")";
        condition.parts_ = std::move(parts);
        return condition;
    }

    bool compares(const G& game, const Position& position, const Move& move, double value) const {
        return detail::compare(value, comparison_,
                               right_.value != nullptr ? right_.value(game, position, move) : number_);
    }

    /// What the quantity was, from `least` to `most`, and should have been.
    std::string why_not(double least, double most) const {
        std::string why;
        why.reserve(80);
        why += left_.name;
        why += " is ";
        why += number_text(least);
        if (most != least) {
            why += " to ";
            why += number_text(most);
        }
        why += ", not ";
        if (comparison_ != Comparison::Is) {
            why += words_of(comparison_);
            why += ' ';
        }
        return right_.value != nullptr ? why += right_.name : why += number_text(number_);
    }

    Kind kind_ = Kind::All;
    Comparison comparison_ = Comparison::Is;
    bool of_position_ = true;
    Quantity<G> left_{}, right_{};
    double number_ = 0.0;
    std::vector<Condition> parts_;
    std::string text_;
};

}  // namespace arvek
