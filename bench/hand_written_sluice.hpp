#pragma once
// An alpha-beta for Sluice as a good programmer would write it for this one game: no concepts, no move list, no
// limits, no lines, only the value and the number of positions visited. The measure for the library's generic search.

#include <cstdint>
#include <cstring>

namespace bench {

class HandWrittenSluice {
   public:
    HandWrittenSluice(int basins, int buckets) : basins_(basins), last_(2 * basins + 1) {
        for (int i = 0; i < basins; ++i)
            start_.places[i] = start_.places[basins + 1 + i] = static_cast<std::uint16_t>(buckets);
    }

    /// The value for the first player of the start, every first move searched with the same window as the library.
    int solve(int depth) {
        nodes_ = 1;
        int best = -limit;
        for (int basin = 0; basin < basins_; ++basin) {
            Position next = start_;
            pour(next, basin);
            const int alpha = best > -limit ? best - 1 : best;
            const int score =
                next.second ? -visit(next, depth - 1, 1, -limit, -alpha) : visit(next, depth - 1, 1, alpha, limit);
            if (score > best) best = score;
        }
        return best;
    }

    std::uint64_t nodes() const { return nodes_; }

   private:
    static constexpr int limit = 2'100'000'000;

    struct Position {
        std::uint16_t places[26] = {};
        bool second = false;
    };

    void pour(Position& p, int basin) const {
        const int first = p.second ? basins_ + 1 : 0, store = first + basins_;
        const int other_store = p.second ? basins_ : last_;
        int place = first + basin;
        int water = p.places[place];
        p.places[place] = 0;
        while (water > 0) {
            place = place == last_ ? 0 : place + 1;
            if (place == other_store) continue;
            ++p.places[place];
            --water;
        }
        if (place >= first && place < store && p.places[place] == 1) {
            const int opposite = 2 * basins_ - place;
            if (p.places[opposite] > 0) {
                p.places[store] = static_cast<std::uint16_t>(p.places[store] + 1 + p.places[opposite]);
                p.places[place] = p.places[opposite] = 0;
            }
        }
        if (place != store) p.second = !p.second;
        int near = 0, far = 0;
        for (int i = 0; i < basins_; ++i) {
            near += p.places[i];
            far += p.places[basins_ + 1 + i];
        }
        if (near != 0 && far != 0) return;
        p.places[basins_] = static_cast<std::uint16_t>(p.places[basins_] + near);
        p.places[last_] = static_cast<std::uint16_t>(p.places[last_] + far);
        for (int i = 0; i < basins_; ++i) p.places[i] = p.places[basins_ + 1 + i] = 0;
        p.second = false;
    }

    int visit(const Position& p, int depth, int ply, int alpha, int beta) {
        ++nodes_;
        const int first = p.second ? basins_ + 1 : 0;
        const int lead = p.second ? p.places[last_] - p.places[basins_] : p.places[basins_] - p.places[last_];
        int water = 0;
        for (int i = 0; i < basins_; ++i) water |= p.places[first + i];
        if (water == 0) {
            if (lead == 0) return 0;
            return lead > 0 ? 1'000'000'000 + 10'000 * lead - ply : -1'000'000'000 + 10'000 * lead + ply;
        }
        if (depth == 0) return lead;
        int best = -limit;
        for (int basin = 0; basin < basins_; ++basin) {
            if (p.places[first + basin] == 0) continue;
            Position next = p;
            pour(next, basin);
            const int score = next.second == p.second ? visit(next, depth - 1, ply + 1, alpha, beta)
                                                      : -visit(next, depth - 1, ply + 1, -beta, -alpha);
            if (score > best) {
                best = score;
                if (score > alpha) {
                    alpha = score;
                    if (alpha >= beta) break;
                }
            }
        }
        return best;
    }

    int basins_, last_;
    Position start_;
    std::uint64_t nodes_ = 0;
};

}  // namespace bench
