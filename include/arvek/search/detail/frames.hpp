#pragma once
// The working memory of a search, a frame a ply.

#include <type_traits>
#include <vector>

#include "arvek/game/kernels.hpp"
#include "arvek/game/move_list.hpp"

namespace arvek::detail {

template <class Move>
struct PlyFrame {
    MoveList<Move> moves;
    MoveList<Move> line;  ///< what is expected from this ply on
    int ply = 0;

    void set_line(const Move& move, const MoveList<Move>& rest) {
        line.clear();
        if constexpr (std::is_trivially_copyable_v<Move> && std::is_trivially_destructible_v<Move>) {
            line.append_at_most(rest.size() + 1, [&](Move* end) {
                *end++ = move;
                for (const Move& next : rest) *end++ = next;
                return end;
            });
        } else {
            line.push_back(move);
            line.append(rest.begin(), rest.end());
        }
    }
};

/// Frames for the root and `depth` plies after it.
template <class Frame>
void provide_frames(std::vector<Frame>& frames, int depth) {
    const auto wanted = static_cast<std::size_t>(depth) + 1;
    if (frames.size() < wanted) frames.resize(wanted);
    for (std::size_t ply = 0; ply < frames.size(); ++ply) frames[ply].ply = static_cast<int>(ply);
}

}  // namespace arvek::detail
