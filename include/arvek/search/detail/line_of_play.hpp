#pragma once
// The positions of the game so far and of the line being searched, for what counts where positions repeat: one that
// comes back is a draw.

#include <cstdint>
#include <span>
#include <type_traits>
#include <vector>

#include "arvek/game/hashing.hpp"
#include "arvek/game/kernels.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/search/detail/met_positions.hpp"

namespace arvek::detail {

template <Game G>
class LineOfPlay {
   public:
    using Position = typename G::Position;

    using Marks = RepetitionMarks<G>;
    static constexpr bool by_key = Marks::by_key, by_mark = Marks::by_mark;
    using Mark = typename Marks::Mark;

    /// The search begins at `root`, and the game so far went through `earlier`.
    void begin(const G& game, std::span<const Position> earlier, const Position& root) {
        applies_ = draw_at_occurrence_of(game) > 0;
        if (!applies_) return;
        path_.clear();
        path_.reserve(earlier.size() + 1);
        for (const Position& position : earlier) path_.push_back(Marks::of(game, position));
        path_.push_back(Marks::of(game, root));
        if constexpr (by_mark) {
            mark_tells_ = Marks::tell(game);
            positions_.clear();
            if (!mark_tells_) {
                positions_.assign(earlier.begin(), earlier.end());
                positions_.push_back(root);
            }
        }
        root_ply_ = static_cast<int>(earlier.size());
        root_ = path_.data() + root_ply_;
        turns_.assign(1, {game.player_to_move(root), true});
        met_before_root_.clear();
        // A long game is looked through only for positions that may have been met in it.
        if constexpr (!by_key && !by_mark && HashedGame<G>) {
            if (root_ply_ <= few_positions || !has_hash(game) || !compares_whole(game)) return;
            met_before_root_.assign(parts_of_hash, false);
            for (const Position& position : earlier) met_before_root_[game.hash(position) % parts_of_hash] = true;
        }
    }

    /// Whether the game has a rule of repetition.
    bool applies() const { return applies_; }
    /// Where a position `ply` plies after the root stands; what stands before it came earlier.
    int place_of(int ply) const { return root_ply_ + ply; }

    /// Before a search to that many plies.
    void prepare(int plies) {
        if (!applies_) return;
        const auto wanted = static_cast<std::size_t>(plies) + 2, before_root = static_cast<std::size_t>(root_ply_);
        if (path_.size() < before_root + wanted) path_.resize(before_root + wanted);
        if constexpr (by_mark)
            if (!mark_tells_ && positions_.size() < path_.size()) positions_.resize(path_.size());
        if (turns_.size() < wanted) turns_.resize(wanted);
        root_ = path_.data() + before_root;
    }
    /// The line goes on through a position that is `ply` plies after the root, where `mover` is to move.
    void put(const G& game, int ply, const Position& position, Player mover) {
        root_[ply] = Marks::of(game, position);
        if constexpr (by_mark)
            if (!mark_tells_) positions_[static_cast<std::size_t>(place_of(ply))] = position;
        const Turn last = turns_[static_cast<std::size_t>(ply) - 1];
        turns_[static_cast<std::size_t>(ply)] = {mover, last.alternating && last.mover != mover};
    }

    /// The latest place where a position, met `ply` plies after the root, stood before; -1 if it is new.
    /// Requires: ply > 0, the line up to there was put.
    int place_before(const G& game, const Position& position, Player mover, int ply) const {
        const Turn& last = turns_[static_cast<std::size_t>(ply) - 1];
        // Where the players take turns, only every other position can be the same.
        const int step = last.alternating && last.mover != mover ? 2 : 1;
        const auto& mark = Marks::of(game, position);
        for (int before = ply - step; before >= 0; before -= step)
            if (is_same(game, place_of(before), mark, position)) return place_of(before);
        return root_ply_ == 0 ? -1 : place_before_root(game, mark, position);
    }

    /// Tells a kernel what is behind. False where marks do not tell.
    bool tell(HorizonPly& asked) const {
        if constexpr (by_mark) {
            if (!mark_tells_) return false;
            const Turn& last = turns_[static_cast<std::size_t>(asked.ply) - 1];
            asked.marks = root_;
            asked.earlier = root_ply_;
            asked.alternating = last.alternating;
            asked.last_mover = last.mover;
            return true;
        }
        return false;
    }

   private:
    bool is_same(const G& game, int place, const Mark& mark, const Position& position) const {
        const auto at = static_cast<std::size_t>(place);
        return Marks::are_same(game, path_[at], mark) && (mark_tells_ || positions_[at] == position);
    }
    /// Whether the rule is about positions as they are, which the hash tells apart, and not about a part of them.
    static bool compares_whole(const G& game) {
        if constexpr (KeyedRepetitionGame<G>) return !wants_used<Ability::RepetitionKey>(game);
        return true;
    }

    /// Not made part of the loops, where it is seldom needed.
    [[gnu::noinline]] int place_before_root(const G& game, const Mark& mark, const Position& position) const {
        if constexpr (!by_key && !by_mark && HashedGame<G>)
            if (!met_before_root_.empty() && !met_before_root_[game.hash(position) % parts_of_hash]) return -1;
        int place = root_ply_ - 1;
        while (place >= 0 && !is_same(game, place, mark, position)) --place;
        return place;
    }

    struct Turn {
        Player mover = Player::First;
        bool alternating = true;  ///< whether the player to move changed with every move since the root
    };

    static constexpr int few_positions = 16;
    static constexpr std::size_t parts_of_hash = 4'096;

    bool applies_ = false;
    std::vector<Mark> path_;
    std::vector<Position> positions_;  ///< of the same places, where marks do not tell
    bool mark_tells_ = true;
    Mark* root_ = nullptr;                 ///< where the root stands in it
    std::vector<Turn> turns_;              ///< from the root on
    int root_ply_ = 0;                     ///< the place of that
    std::vector<bool> met_before_root_{};  ///< by a part of the hash: whether a position of the game so far has it
};

}  // namespace arvek::detail
