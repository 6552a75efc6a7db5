#pragma once
// Condition: what must hold for a move, over numbers that a game offers or a player remembers.
//
//     const auto stamina = find_quantity(game, "target stamina");
//     auto weak = Condition<MyGame>::test(*stamina, Comparison::Below, 8);
//     auto when = Condition<MyGame>::all({weak, Condition<MyGame>::none({...})});

#include <algorithm>
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
    bool any = false;

    void add(double value);
};

/// "target stamina is 9 to 12, not below actor stamina (8)". `holds`: "target stamina is 9, which is below 10".
std::string comparison_text(const std::string& left, const Extent& values, bool holds, Comparison comparison,
                            const std::string& right, const Extent& others, bool right_is_number, bool is_boolean);

}  // namespace detail

template <Game G>
class Condition {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// One that always holds.
    Condition() = default;

    static Condition test(Measure<G> left, Comparison comparison, Measure<G> right) {
        Condition condition(Kind::Test);
        condition.comparison_ = comparison;
        condition.of_position_ = left.of_position() && right.of_position();
        condition.text_ = left.text();
        const bool is_boolean = left.is_boolean() && comparison == Comparison::Is && right.is_number();
        if (is_boolean && right.text() == "0") condition.text_.insert(0, "not ");
        if (!is_boolean) condition.text_ += std::string(" ") + words_of(comparison) + " " + right.text();
        condition.left_ = std::move(left);
        condition.right_ = std::move(right);
        return condition;
    }
    static Condition test(const Quantity<G>& quantity, Comparison comparison, double number) {
        return test(Measure<G>::quantity(quantity), comparison, Measure<G>::number(number));
    }
    /// One quantity against another.
    static Condition test(const Quantity<G>& quantity, Comparison comparison, const Quantity<G>& other) {
        return test(Measure<G>::quantity(quantity), comparison, Measure<G>::quantity(other));
    }
    static Condition all(std::vector<Condition> parts) { return group(Kind::All, std::move(parts), " and "); }
    static Condition any(std::vector<Condition> parts) { return group(Kind::Any, std::move(parts), " or "); }
    static Condition none(std::vector<Condition> parts) { return group(Kind::None, std::move(parts), " or "); }

    /// The same condition, said by a name: "weak (target stamina below 8)".
    Condition named(const std::string& name) const {
        Condition condition = *this;
        condition.text_ = name + " (" + text_ + ")";
        condition.is_named_ = true;
        return condition;
    }

    bool always_holds() const { return kind_ == Kind::All && parts_.empty(); }
    /// Whether it is the same for every move.
    bool of_position() const { return of_position_; }
    /// Whether it needs to know what was done earlier.
    bool asks_deeds() const {
        if (kind_ == Kind::Test) return left_.asks_deeds() || right_.asks_deeds();
        return std::any_of(parts_.begin(), parts_.end(), [](const auto& part) { return part.asks_deeds(); });
    }

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
    /// what was compared; nothing else is said.
    std::string keep(const G& game, const Position& position, std::vector<Move>& moves,
                     const GameMemory* memory = nullptr) const {
        if (moves.empty()) return "";
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
        detail::Extent values, others;
        std::size_t kept = 0;
        const std::size_t asked = of_position_ ? 1 : moves.size();
        for (std::size_t i = 0; i < asked; ++i) {
            bool holds_here = false;
            if (kind_ == Kind::Test) {
                const double value = left_.value(game, position, moves[i], memory);
                const double other = right_.value(game, position, moves[i], memory);
                values.add(value);
                others.add(other);
                holds_here = detail::compare(value, comparison_, other);
            } else {
                holds_here = holds(game, position, moves[i], memory);
            }
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
        std::string why =
            kind_ == Kind::Test ? compared_text(values, others, false) : why_not(game, position, moves, memory);
        moves.clear();
        return why;
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
            const bool nested =
                !part.is_named_ && (part.kind_ == Kind::Any || (part.kind_ == Kind::All && kind != Kind::All));
            condition.text_ += nested ? "(" + part.text_ + ")" : part.text_;
        }
        if (kind == Kind::None) condition.text_ = "none of (" + condition.text_ + ")";
        condition.parts_ = std::move(parts);
        return condition;
    }

    std::string compared_text(const detail::Extent& values, const detail::Extent& others, bool holds) const {
        return detail::comparison_text(left_.text(), values, holds, comparison_, right_.text(), others,
                                       right_.is_number(), left_.is_boolean());
    }

    /// Why it holds for none of the moves, of which there is one at least, with every number that was compared.
    std::string why_not(const G& game, const Position& position, const std::vector<Move>& moves,
                        const GameMemory* memory) const {
        if (kind_ == Kind::Test) return tested_text(game, position, moves, memory, false);
        std::string text;
        for (const Condition& part : parts_) {
            const auto holds_for = [&](const Move& move) { return part.holds(game, position, move, memory); };
            if (kind_ == Kind::None) {  // what keeps it from holding is a part that holds
                std::vector<Move> met;
                std::copy_if(moves.begin(), moves.end(), std::back_inserter(met), holds_for);
                if (met.empty()) continue;
                if (!text.empty()) text += ", or ";
                text += part.why(game, position, met, memory);
            } else {
                if (kind_ == Kind::All && std::all_of(moves.begin(), moves.end(), holds_for)) continue;
                if (!text.empty()) text += kind_ == Kind::All ? ", or " : ", and ";
                text += part.why_not(game, position, moves, memory);
            }
        }
        return text;
    }

    /// Why it holds for the moves.
    std::string why(const G& game, const Position& position, const std::vector<Move>& moves,
                    const GameMemory* memory) const {
        if (kind_ == Kind::Test) return tested_text(game, position, moves, memory, true);
        std::string text;
        for (const Condition& part : parts_) {
            if (kind_ == Kind::None) {
                if (!text.empty()) text += ", and ";
                text += part.why_not(game, position, moves, memory);
                continue;
            }
            std::vector<Move> met;
            std::copy_if(moves.begin(), moves.end(), std::back_inserter(met),
                         [&](const Move& move) { return part.holds(game, position, move, memory); });
            if (met.empty()) continue;
            if (!text.empty()) text += kind_ == Kind::All ? ", and " : ", or ";
            text += part.why(game, position, met, memory);
        }
        return text;
    }

    std::string tested_text(const G& game, const Position& position, const std::vector<Move>& moves,
                            const GameMemory* memory, bool holds) const {
        detail::Extent values, others;
        for (const Move& move : moves) {
            values.add(left_.value(game, position, move, memory));
            others.add(right_.value(game, position, move, memory));
        }
        return compared_text(values, others, holds);
    }

    Kind kind_ = Kind::All;
    Comparison comparison_ = Comparison::Is;
    bool of_position_ = true;
    bool is_named_ = false;
    Measure<G> left_{}, right_{};
    std::vector<Condition> parts_;
    std::string text_;
};

}  // namespace arvek
