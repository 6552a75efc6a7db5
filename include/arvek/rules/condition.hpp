#pragma once
// Condition: what must hold for a move, over numbers that a game offers or a player remembers.
//
//     const auto stamina = find_quantity(game, "target stamina");
//     auto weak = Condition<MyGame>::test(*stamina, Comparison::Below, 8);
//     auto when = Condition<MyGame>::all({weak, Condition<MyGame>::none({...})});

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "arvek/rules/measure.hpp"

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

/// The least and the most of some numbers.
struct Extent {
    double least = 0, most = 0;
    bool any = false;    ///< whether there was a number
    bool noted = false;  ///< or one that is not defined

    void add(double value) {
        noted = true;
        // What is not defined shows as such only where nothing else is.
        if (value != value) {
            if (!any) least = most = value;
            return;
        }
        least = any && least < value ? least : value;
        most = any && most > value ? most : value;
        any = true;
    }
};

/// The numbers that a comparison met, where it held and where it did not.
struct Compared {
    Extent held, held_with, failed, failed_with;
};

/// "target stamina is 9 to 12, not below actor stamina (8)". `holds`: "target stamina is 9, which is below 10".
std::string comparison_text(const std::string& left, const Extent& values, bool holds, Comparison comparison,
                            const std::string& right, const Extent& others, bool right_is_number, bool is_boolean);

}  // namespace detail

/// What must hold for a move.
template <Game G>
class Condition {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// One that always holds.
    Condition() = default;

    /// Of two numbers.
    static Condition test(Measure<G> left, Comparison comparison, Measure<G> right) {
        Condition condition(Kind::Test);
        condition.comparison_ = comparison;
        condition.of_position_ = left.of_position() && right.of_position();
        condition.text_ = left.text();
        const bool is_boolean = left.is_boolean() && comparison == Comparison::Is && right.is_number();
        if (is_boolean && right.text() == "0") condition.text_.insert(0, "not ");
        if (!is_boolean) condition.text_ += std::string(" ") + words_of(comparison) + " " + right.text();
        condition.tests_ = 1;
        condition.left_ = std::move(left);
        condition.right_ = std::move(right);
        return condition;
    }
    /// Of a quantity and a number.
    static Condition test(const Quantity<G>& quantity, Comparison comparison, double number) {
        return test(Measure<G>::quantity(quantity), comparison, Measure<G>::number(number));
    }
    /// One quantity against another.
    static Condition test(const Quantity<G>& quantity, Comparison comparison, const Quantity<G>& other) {
        return test(Measure<G>::quantity(quantity), comparison, Measure<G>::quantity(other));
    }
    /// Each part holds.
    static Condition all(std::vector<Condition> parts) { return group(Kind::All, std::move(parts), " and "); }
    /// At least one part holds.
    static Condition any(std::vector<Condition> parts) { return group(Kind::Any, std::move(parts), " or "); }
    /// No part holds.
    static Condition none(std::vector<Condition> parts) { return group(Kind::None, std::move(parts), " or "); }

    /// The same condition, said by a name: "weak (target stamina below 8)".
    Condition named(const std::string& name) const {
        Condition condition = *this;
        condition.text_ = name + " (" + text_ + ")";
        condition.is_named_ = true;
        return condition;
    }

    bool always_holds() const { return kind_ == Kind::All && parts_.empty(); }  ///< whether it asks nothing
    /// Whether it is the same for every move.
    bool of_position() const { return of_position_; }
    /// Whether it needs to know what was done earlier.
    bool asks_deeds() const {
        if (kind_ == Kind::Test) return left_.asks_deeds() || right_.asks_deeds();
        return std::any_of(parts_.begin(), parts_.end(), [](const auto& part) { return part.asks_deeds(); });
    }

    /// Whether it holds for a move; `memory`: what the player remembers, where the condition asks that.
    bool holds(const G& game, const Position& position, const Move& move, const GameMemory* memory = nullptr) const {
        const auto part_holds = [&](const Condition& part) { return part.holds(game, position, move, memory); };
        switch (kind_) {
            case Kind::Test:
                return detail::compare(left_.value(game, position, move, memory), comparison_,
                                       right_.value(game, position, move, memory));
            case Kind::All: return std::all_of(parts_.begin(), parts_.end(), part_holds);
            case Kind::Any: return std::any_of(parts_.begin(), parts_.end(), part_holds);
            case Kind::None: return std::none_of(parts_.begin(), parts_.end(), part_holds);
        }
        return false;
    }

    /// Takes the moves off for which it does not hold. Where none is left, says why, with the values of both sides of
    /// what was compared; nothing else is said, and nothing at all unless it `explains`.
    std::string keep(const G& game, const Position& position, std::vector<Move>& moves,
                     const GameMemory* memory = nullptr, bool explains = true) const {
        if (moves.empty()) return "";
        if (!explains) {
            keep_silently(game, position, moves, memory);
            return "";
        }
        if (kind_ == Kind::All) {
            const std::size_t all = moves.size();
            for (const Condition& part : parts_) {
                const std::size_t before = moves.size();
                std::string why = part.keep(game, position, moves, memory);
                if (!moves.empty()) continue;
                if (before < all && !part.of_position_) why.insert(0, "of the " + std::to_string(before) + " left, ");
                return why;
            }
            return "";
        }
        // Each quantity is asked once a move; one of the position once in all.
        if (tests_ <= 1) {
            detail::Compared one;
            return keep_noted(game, position, moves, memory, &one);
        }
        if (tests_ <= tests_on_the_stack) {
            std::array<detail::Compared, tests_on_the_stack> few;
            return keep_noted(game, position, moves, memory, few.data());
        }
        std::vector<detail::Compared> many(tests_);
        return keep_noted(game, position, moves, memory, many.data());
    }

    /// As people say it: "target stamina below 8 and none of (purse at least 6)".
    const std::string& text() const { return text_; }

   private:
    enum class Kind : std::uint8_t { Test, All, Any, None };

    static constexpr std::size_t tests_on_the_stack = 4;

    void keep_silently(const G& game, const Position& position, std::vector<Move>& moves,
                       const GameMemory* memory) const {
        if (kind_ == Kind::All) {
            for (const Condition& part : parts_) {
                part.keep_silently(game, position, moves, memory);
                if (moves.empty()) return;
            }
        } else if (of_position_) {
            if (!holds(game, position, moves.front(), memory)) moves.clear();
        } else {
            std::erase_if(moves, [&](const Move& move) { return !holds(game, position, move, memory); });
        }
    }

    std::string keep_noted(const G& game, const Position& position, std::vector<Move>& moves, const GameMemory* memory,
                           detail::Compared* compared) const {
        std::size_t kept = 0;
        const std::size_t asked = of_position_ ? 1 : moves.size();
        for (std::size_t i = 0; i < asked; ++i) {
            const bool holds_here = holds_noted(game, position, moves[i], memory, compared);
            if (holds_here && of_position_) return "";
            if (holds_here) {
                if (kept != i) moves[kept] = moves[i];
                ++kept;
            }
        }
        if (kept > 0) {
            moves.erase(moves.begin() + static_cast<std::ptrdiff_t>(kept), moves.end());
            return "";
        }
        moves.clear();
        return why(compared, false);
    }

    explicit Condition(Kind kind) : kind_(kind) {}

    static Condition group(Kind kind, std::vector<Condition> parts, const char* between) {
        Condition condition(kind);
        condition.of_position_ =
            std::all_of(parts.begin(), parts.end(), [](const auto& part) { return part.of_position_; });
        for (const Condition& part : parts) {
            condition.tests_ += part.tests_;
            if (!condition.text_.empty()) condition.text_ += between;
            const bool nested =
                !part.is_named_ && (part.kind_ == Kind::Any || (part.kind_ == Kind::All && kind != Kind::All));
            condition.text_ += nested ? "(" + part.text_ + ")" : part.text_;
        }
        if (kind == Kind::None) condition.text_ = "none of (" + condition.text_ + ")";
        condition.parts_ = std::move(parts);
        return condition;
    }

    /// Whether it holds; every comparison on the way there is noted, in the order in which they stand.
    bool holds_noted(const G& game, const Position& position, const Move& move, const GameMemory* memory,
                     detail::Compared* noted) const {
        if (kind_ == Kind::Test) {
            const double value = left_.value(game, position, move, memory);
            const double other = right_.value(game, position, move, memory);
            const bool holds_here = detail::compare(value, comparison_, other);
            (holds_here ? noted->held : noted->failed).add(value);
            (holds_here ? noted->held_with : noted->failed_with).add(other);
            return holds_here;
        }
        for (const Condition& part : parts_) {
            const bool holds_here = part.holds_noted(game, position, move, memory, noted);
            noted += part.tests_;
            if (holds_here != (kind_ == Kind::All)) return kind_ == Kind::Any;
        }
        return kind_ != Kind::Any;
    }

    /// Why it held, or did not, by the comparisons that were made; empty where none were.
    std::string why(const detail::Compared* noted, bool held) const {
        if (kind_ == Kind::Test) {
            const detail::Extent& values = held ? noted->held : noted->failed;
            if (!values.noted) return "";
            return detail::comparison_text(left_.text(), values, held, comparison_, right_.text(),
                                           held ? noted->held_with : noted->failed_with, right_.is_number(),
                                           left_.is_boolean());
        }
        // What is none of some holds where they fail.
        const bool of_parts = kind_ == Kind::None ? !held : held;
        const bool all_of_them = kind_ == Kind::All ? held : !of_parts;
        std::string text;
        for (const Condition& part : parts_) {
            const std::string said = part.why(noted, of_parts);
            noted += part.tests_;
            if (said.empty()) continue;
            if (!text.empty()) text += all_of_them ? ", and " : ", or ";
            text += said;
        }
        return text;
    }

    Kind kind_ = Kind::All;
    std::size_t tests_ = 0;  ///< how many comparisons it has, those of its parts included
    Comparison comparison_ = Comparison::Is;
    bool of_position_ = true;
    bool is_named_ = false;
    Measure<G> left_{}, right_{};
    std::vector<Condition> parts_;
    std::string text_;
};

}  // namespace arvek
