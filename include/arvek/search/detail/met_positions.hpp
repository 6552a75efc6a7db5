#pragma once
// Positions that were met, in order, for the rule of repetition: which of them are the same as another.

#include <cstdint>
#include <type_traits>
#include <vector>

#include "arvek/game/repetition.hpp"

namespace arvek::detail {

/// What a position is recognised by: its key, where the game always gives one, a mark, with the position where two that
/// have the same mark may still differ, or else the position alone.
template <Game G>
struct RepetitionMarks {
    using Position = typename G::Position;

    static constexpr bool by_key = KeyedRepetitionGame<G> && !AnswersAtRunTime<G>;
    static constexpr bool by_mark = requires(const G& game, const Position& position) {
        game.repetition_mark(position);
        game.mark_tells();
    };
    using Mark = std::conditional_t<by_key || by_mark, std::uint64_t, Position>;

    static decltype(auto) of(const G& game, const Position& position) {
        if constexpr (by_mark)
            return game.repetition_mark(position);
        else if constexpr (by_key)
            return game.repetition_key(position);
        else
            return (position);
    }
    /// Whether marks tell all that there is to tell.
    static bool tell(const G& game) {
        if constexpr (by_mark) return game.mark_tells();
        return true;
    }
    static bool are_same(const G& game, const Mark& one, const Mark& other) {
        if constexpr (by_key || by_mark)
            return one == other;
        else
            return is_same_for_repetition(game, one, other);
    }
};

/// The positions of a line, the last one last.
template <Game G>
class MetPositions {
    using Marks = RepetitionMarks<G>;

   public:
    using Position = typename G::Position;

    explicit MetPositions(const G& game) : game_(game), marks_tell_(Marks::tell(game)) {}

    std::size_t size() const { return marks_.size(); }
    void push(const Position& position) {
        marks_.push_back(Marks::of(game_, position));
        if (!marks_tell_) positions_.push_back(position);
    }
    void shorten(std::size_t size) {
        marks_.resize(size);
        if (!marks_tell_) positions_.resize(size);
    }
    bool has(const Position& position) const {
        const auto& mark = Marks::of(game_, position);
        for (std::size_t at = marks_.size(); at-- > 0;)
            if (Marks::are_same(game_, marks_[at], mark) && (marks_tell_ || positions_[at] == position)) return true;
        return false;
    }

   private:
    const G& game_;
    bool marks_tell_;
    std::vector<typename Marks::Mark> marks_;
    std::vector<Position> positions_;  ///< of the same places, where marks do not tell
};

}  // namespace arvek::detail
