#pragma once
// The laws that hold at every position: what game/game.hpp and the headers of the abilities promise.

#include <cstdint>
#include <string>
#include <vector>

#include "arvek/game/chance.hpp"
#include "checking.hpp"
#include "findings.hpp"

namespace arvek::detail {

class PositionLaws {
   public:
    /// `watcher` may be null.
    PositionLaws(const AnyGame& game, std::uint64_t seed, Findings& findings, CheckWatcher* watcher);

    /// What holds of the game as a whole.
    void examine_game();

    /// Holds a position, and what comes after each of its moves, to the laws. What is next: moves or events; none when
    /// the game is over there.
    MoveList<AnyMove> examine(const AnyPosition& position, const Path& path);
    /// Looks at some moves in a row that are taken back in the end.
    void examine_take_back(const Path& path, const std::vector<AnyPosition>& history);

    std::uint64_t positions() const { return positions_; }
    bool moves_after_end() const { return moves_after_end_; }

   private:
    void fault(const char* law, const char* function, const std::string& what, const Path& path) {
        // What is wrong in a position that was drawn is the drawing's.
        if (drawn_from_.empty())
            findings_.fault(law, function, what, path);
        else
            findings_.fault("samples", "sample", std::string(function) + "(): " + what + drawn_from_, path);
    }
    void note(const Path& path) {
        if (watcher_ != nullptr) watcher_->path(path);
    }
    std::string name(const AnyPosition& position, const AnyMove& move) const;

    /// All of so many moves, or where they are thousands, the first, the last and others that are drawn.
    std::vector<std::size_t> places_to_look_at(std::size_t moves);
    /// The cheaper half of the laws, also asked of every position after a move. Whether play goes on there.
    bool examine_alone(const AnyPosition& position, const Path& path);
    void examine_level_change(int level);
    void examine_outcome(const AnyPosition& position, const Outcome& outcome, const Path& path);
    void examine_hash(const AnyPosition& position, const Path& path);
    void examine_equals(const AnyPosition& position, const Path& path);
    void examine_repetition_key(const AnyPosition& position, const Path& path);
    void examine_texts(const AnyPosition& position, const MoveList<AnyMove>& next, const Path& path);
    void examine_board(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path);
    void examine_patterns(const AnyPosition& position, const Path& path);
    void examine_evaluation(const AnyPosition& position, const Path& path);
    void examine_events(const AnyPosition& position, const Path& path);
    void examine_visits(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path);
    void examine_views(const AnyPosition& position, const MoveList<AnyMove>& moves, Player to_move, const Path& path);
    /// What a player draws from a view is a position like any other, and so is what comes after it.
    bool reads_back(const AnyPosition& position, const Path& path);
    void examine_drawn(const AnyPosition& drawn, Player player, Random& random, const Path& path);
    /// False where the move leaves the position as it is.
    bool examine_move(const AnyPosition& position, const AnyMove& move, const Path& path);
    /// Positions that differ, some plies apart along moves that pass or go to and fro, have hashes that differ; and equal
    /// ones play on alike.
    void examine_relatives(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path);
    /// Whether the rules tell the positions apart, so that their hashes must differ.
    bool are_told_apart(const AnyPosition& a, const AnyPosition& b) const;
    /// In what two positions differ where play goes on, as a sentence: in who or what is next. Empty where they do not.
    std::string difference_of_what_is_next(const AnyPosition& a, const AnyPosition& b) const;
    /// The same of positions that are equal, with how the game ends and what they are worth.
    std::string difference_of_equals(const AnyPosition& a, const AnyPosition& b) const;
    void examine_parts(const AnyPosition& position, const MoveList<AnyMove>& legal, const Path& path);
    void examine_null_move(const AnyPosition& position, const MoveList<AnyMove>& legal, Player player,
                           const Path& path);
    void examine_replies_to_nothing(const AnyPosition& once, const MoveList<AnyMove>& replies,
                                    const AnyPosition& position, const MoveList<AnyMove>& legal, const Path& path);
    void examine_bounds(const AnyPosition& position, const MoveList<AnyMove>& moves, Player player, const Path& path);
    void examine_advice(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path);
    void examine_acts(const AnyPosition& position, const AnyMove& move, const Path& path);
    void examine_quantities(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path);
    /// A position that was changed by other functions than play(), against the one that its text is read to.
    void compare_with_its_text(const AnyPosition& position, const char* function, const std::string& where,
                               const Path& path);

    struct Seen {
        bool known = false;
        std::uint64_t hash = 0;
        AnyPosition position{};
        Path path{};
    };

    const AnyGame& game_;
    std::uint64_t seed_;
    Findings& findings_;
    CheckWatcher* watcher_;
    int players_;
    ActNames names_{};
    std::vector<Pattern> patterns_{};
    std::vector<Seen> seen_, seen_by_text_, seen_by_key_, seen_by_kind_;
    std::uint64_t positions_ = 0;
    bool moves_after_end_ = false;
    std::string drawn_from_;  ///< said of faults in a position that was drawn
};

}  // namespace arvek::detail
