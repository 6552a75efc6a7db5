#pragma once
// The game as the searches of the library meet it, compiled once for all games: AnyGame, with what is next after every
// move told by the move itself and kept in the position, so that a node costs a call or two.
//
// There are two, since a search by what is seen is another search: InTheOpen and ByViews.

#include <cstring>
#include <memory>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/search/detail/position_store.hpp"

namespace arvek {

/// What both have. Positions must be settled() before a search begins with them.
class EngineGame : public AnyGame {
   public:
    /// Of a game whose type is gone.
    explicit EngineGame(const AnyGame& game)
        : AnyGame(game),
          abilities_(table().abilities & ~(bit_of(Ability::Visiting) | bit_of(Ability::TakeBack))),
          players_(players_of(game)),
          draw_at_(draw_at_occurrence_of(game)) {}

    /// @{
    /// As AnyGame has it. Requires, of what is next, that the position is settled; whatever is played leads to such.
    bool offers(Ability ability) const { return (abilities_ & bit_of(ability)) != 0; }
    int players() const { return players_; }
    int draw_at_occurrence() const { return draw_at_; }

    Position initial_position() const { return settled(AnyGame::initial_position()); }
    Player player_to_move(const Position& position) const { return position.turn.mover; }
    bool chance_is_next(const Position& position) const { return position.turn.is_chance; }
    std::optional<Outcome> outcome(const Position& position) const {
        if (!position.turn.is_over) [[likely]]
            return std::nullopt;
        return AnyGame::outcome(position);
    }
    void play(Position& position, const Move& move) const {
        position.turn = table_->play_on(*table_, position.data(), move);
    }
    void play_nothing(Position& position) const {
        AnyGame::play_nothing(position);
        position.turn = table_->turn(*table_, position.data());
    }
    Position sample(const View& view, Random& random) const { return settled(AnyGame::sample(view, random)); }
    /// @}

    /// The position, with what is next in it.
    Position settled(Position position) const {
        position.turn = table_->turn(*table_, position.data());
        return position;
    }

    /// @{
    /// What a search asks for in one call, where it may.
    void play_into(const Position& from, Position& to, const Move& move) const {
        if (table_->play_into != nullptr) [[likely]] {
            void* const bytes = to.prepare_like(from);
            to.turn = table_->play_into(*table_, from.data(), bytes, move);
        } else {
            to = from;
            play(to, move);
        }
    }
    Move drawn_event(const Position& position, Random& random) const {
        return table_->drawn_event(*table_, position.data(), random);
    }
    std::uint64_t repetition_mark(const Position& position) const {
        return table_->repetition_mark(*table_, position.data());
    }
    bool mark_tells() const { return table_->mark_tells; }
    /// Whether leaf() may be asked.
    bool has_leaf() const { return table_->leaf != nullptr; }
    bool leaf(const Position& position, const Move& move, Player player, Score& evaluation, Outcome& end) const {
        return table_->leaf(*table_, position.data(), move, player, evaluation, end);
    }
    bool last_ply(const Position& position, HorizonPly& asked) const {
        return table_->last_ply != nullptr && table_->last_ply(*table_, position.data(), asked);
    }
    /// Whether count_ply() may be asked.
    bool has_count() const { return table_->count_ply != nullptr; }
    CountedPly count_ply(const Position& position) const { return table_->count_ply(*table_, position.data()); }
    int play_out_plies(Position& position, Random& random, int most, Outcome& end, bool& is_over) const {
        is_over = false;
        if (table_->play_out_plies == nullptr) return 0;
        const int plies = table_->play_out_plies(*table_, position.data(), random, most, end, is_over);
        if (!is_over) position.turn = table_->turn(*table_, position.data());
        return plies;
    }
    /// @}

    // These are of AnyGame's type, and no search asks for them.
    void quantities() const = delete;
    void suggesters() const = delete;

   private:
    std::uint64_t abilities_;
    int players_, draw_at_;
};

namespace detail {

/// Each takes the bytes of the game's own type, and what is next in it.
template <>
class PositionStore<AnyPosition> {
   public:
    std::size_t size() const { return size_; }
    AnyPosition operator[](std::size_t i) const {
        if (!operations_->is_inside) return boxed_[i];
        AnyPosition position;
        position.take_bytes(*operations_, at(i));
        std::memcpy(&position.turn, at(i) + operations_->size, sizeof(Turn));
        return position;
    }
    bool is(std::size_t i, const AnyPosition& position) const {
        return operations_->is_inside ? operations_->equal(at(i), position.data()) : boxed_[i] == position;
    }
    void push_back(const AnyPosition& position) {
        if (operations_ == nullptr) {
            operations_ = position.operations();
            const std::size_t bytes = operations_->size + sizeof(Turn);
            stride_ = (bytes + operations_->alignment - 1) / operations_->alignment * operations_->alignment;
        }
        if (operations_->is_inside) {
            if (size_ % positions_a_part == 0)
                parts_.emplace_back(new Part[(stride_ * positions_a_part) / sizeof(Part)]);
            std::memcpy(at(size_), position.data(), operations_->size);
            std::memcpy(at(size_) + operations_->size, &position.turn, sizeof(Turn));
        } else {
            boxed_.push_back(position);
        }
        ++size_;
    }
    void clear() {
        parts_.clear();
        boxed_.clear();
        size_ = 0;
        operations_ = nullptr;
    }
    std::size_t bytes_each() const {
        if (operations_ == nullptr) return 0;
        return operations_->is_inside ? stride_ : sizeof(AnyPosition) + operations_->size;
    }

   private:
    struct Part {
        alignas(alignment_inside) std::byte bytes[alignment_inside];
    };
    static constexpr std::size_t positions_a_part = 1'024;
    static_assert(std::is_trivially_copyable_v<Turn>);

    std::byte* at(std::size_t i) const {
        return reinterpret_cast<std::byte*>(parts_[i / positions_a_part].get()) + (i % positions_a_part) * stride_;
    }

    const ValueOperations* operations_ = nullptr;
    std::size_t stride_ = 0, size_ = 0;
    std::vector<std::unique_ptr<Part[]>> parts_;
    InParts<AnyPosition> boxed_;
};

}  // namespace detail

/// With the whole position in sight.
class InTheOpen : public EngineGame {
   public:
    using EngineGame::EngineGame;
    using AllInSight = void;  ///< see ViewedGame
};

/// By what players see.
class ByViews : public EngineGame {
   public:
    using EngineGame::EngineGame;
};

}  // namespace arvek

/// By what a view is recognised.
template <>
struct std::hash<arvek::AnyView> {
    /// Requires: the views of the game can be told by a number (game/view.hpp).
    std::size_t operator()(const arvek::AnyView& view) const noexcept {
        return static_cast<std::size_t>(view.operations()->key(view.data()));
    }
};
