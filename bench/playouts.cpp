// Monte Carlo search: playouts a second against a search written by hand for the one game with the same policy, memory a
// node, and two threads against one.
//
// The rival below is what somebody who wants Monte Carlo for Lanterns alone would write: a tree of nodes with moves,
// visits and sums in a row, the plain bandit, random play on the bits of the board. It plays the same rules with the same
// sizes known at run time. Both do the same number of playouts from the same positions, by turns; the median of the ratios
// counts.

#include <algorithm>
#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/expectation.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <cmath>
#include <cstdio>
#include <vector>

#include "downstream/downstream.hpp"
#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"
#include "tolls/tolls.hpp"

namespace {

using waterway::Lanterns;

class HandWritten {
   public:
    explicit HandWritten(int columns, int rows, int line)
        : hooks_(columns * rows), all_((std::uint64_t{1} << hooks_) - 1) {
        for (int column = 0; column < columns; ++column)
            for (int row = 0; row < rows; ++row)
                for (const auto& [right, up] : {std::pair{1, 0}, {0, 1}, {1, 1}, {1, -1}}) {
                    const int end_column = column + (line - 1) * right, end_row = row + (line - 1) * up;
                    if (end_column < columns && end_row >= 0 && end_row < rows)
                        starts_[at(right, up)] |= std::uint64_t{1} << (column * rows + row);
                }
        steps_[0] = rows;
        steps_[1] = 1;
        steps_[2] = rows + 1;
        steps_[3] = rows - 1;
        // Two or three shifts bring a line together.
        int covered = 1;
        for (int& reach : reaches_) {
            reach = std::min(covered, line - covered);
            covered += reach;
        }
        nodes_.resize(1 << 22);
    }

    /// The hook with the most visits.
    int decide(std::uint64_t own, std::uint64_t others, std::uint64_t playouts, std::uint64_t seed) {
        random_ = arvek::Random(seed);
        used_ = 1;
        nodes_[0] = {};
        for (std::uint64_t i = 0; i < playouts; ++i) {
            std::uint64_t mine = own, theirs = others;
            path_[0] = 0;
            std::size_t depth = 0;
            float value = -1;  // of whoever moved last at the leaf
            for (;;) {
                Node& node = nodes_[path_[depth]];
                if (node.count == 0) {
                    if (has_line(theirs)) {
                        value = 1;
                    } else if ((mine | theirs) == all_) {
                        value = 0.5f;
                    } else if (depth == 0 || node.visits > 0) {
                        grow(node, mine | theirs);
                        continue;
                    } else {
                        value = 1 - play_out(mine, theirs);
                    }
                    break;
                }
                const std::uint32_t chosen = select(node);
                path_[++depth] = chosen;
                mine |= std::uint64_t{1} << nodes_[chosen].hook;
                std::swap(mine, theirs);
            }
            for (std::size_t at = depth + 1; at-- > 0; value = 1 - value) {
                Node& node = nodes_[path_[at]];
                ++node.visits;
                node.sum += value;
            }
        }
        const Node& root = nodes_[0];
        const Node* best = &nodes_[root.first];
        for (std::uint32_t i = 1; i < root.count; ++i)
            if (nodes_[root.first + i].visits > best->visits) best = &nodes_[root.first + i];
        return best->hook;
    }

   private:
    struct Node {
        float sum = 0;
        std::uint32_t visits = 0, first = 0;
        std::uint16_t count = 0;
        std::uint8_t hook = 0;
    };

    static std::size_t at(int right, int up) { return right == 1 ? (up == 0 ? 0 : up == 1 ? 2 : 3) : 1; }

    bool has_line(std::uint64_t lanterns) const {
        std::uint64_t found = 0;
        for (std::size_t i = 0; i < 4; ++i) {
            std::uint64_t line = lanterns;
            for (const int reach : reaches_) line &= line >> (reach * steps_[i]);
            found |= line & starts_[i];
        }
        return found != 0;
    }

    void grow(Node& node, std::uint64_t taken) {
        node.first = used_;
        for (std::uint64_t free = all_ & ~taken; free != 0; free &= free - 1) {
            nodes_[used_] = {};
            nodes_[used_++].hook = static_cast<std::uint8_t>(std::countr_zero(free));
            ++node.count;
        }
    }

    std::uint32_t select(const Node& node) const {
        const float reach = 0.7f * std::sqrt(std::log(static_cast<float>(node.visits) + 1.0f));
        std::uint32_t best = node.first;
        float most = -1;
        for (std::uint32_t i = node.first; i < node.first + node.count; ++i) {
            const Node& child = nodes_[i];
            if (child.visits == 0) return i;
            const float visits = static_cast<float>(child.visits);
            const float value = child.sum / visits + reach / std::sqrt(visits);
            if (value > most) most = value, best = i;
        }
        return best;
    }

    /// The value for the side to move.
    float play_out(std::uint64_t mine, std::uint64_t theirs) {
        std::array<std::uint8_t, 64> free;
        std::uint64_t left = 0;
        for (std::uint64_t hooks = all_ & ~(mine | theirs); hooks != 0; hooks &= hooks - 1)
            free[left++] = static_cast<std::uint8_t>(std::countr_zero(hooks));
        for (float value = 1; left > 0; --left, value = 1 - value) {
            const std::uint64_t pick = (random_.next() >> 32) * left >> 32;
            mine |= std::uint64_t{1} << free[pick];
            if (has_line(mine)) return value;
            free[pick] = free[left - 1];
            std::swap(mine, theirs);
        }
        return 0.5f;
    }

    int hooks_;
    std::uint64_t all_;
    std::array<std::uint64_t, 4> starts_{};
    std::array<int, 4> steps_{};
    std::array<int, 3> reaches_{};
    std::vector<Node> nodes_;
    std::uint32_t used_ = 1;
    std::array<std::uint32_t, 80> path_{};
    arvek::Random random_{1};
};

double median(std::vector<double> values) {
    std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2), values.end());
    return values[values.size() / 2];
}

void against_hand_written() {
    constexpr std::uint64_t playouts = 60'000;
    std::vector<double> ratios;
    const Lanterns game;
    HandWritten rival(5, 5, 4);
    arvek::MonteCarlo<Lanterns> search(game, {.memory_mebibytes = 96, .leaf = arvek::LeafValue::PlayOut});
    for (std::uint64_t round = 0; round < 21; ++round) {
        double started = arvek::steady_seconds();
        (void)search.decide(game.initial_position(), {.playouts = playouts}, {.seed = round});
        const double own = arvek::steady_seconds() - started;
        started = arvek::steady_seconds();
        (void)rival.decide(0, 0, playouts, round);
        ratios.push_back((arvek::steady_seconds() - started) / own);
    }
    std::printf("  playouts a second, library / written by hand, Lanterns 5 x 5: %.2f\n", median(ratios));
}

template <class G>
void threads(const char* name, const G& game, const typename G::Position& position, arvek::LeafValue leaf,
             std::uint64_t playouts) {
    std::vector<double> ratios;
    arvek::MonteCarlo<G> one(game, {.leaf = leaf}), two(game, {.threads = 2, .leaf = leaf});
    const auto seen = arvek::seen_by(game, position, game.player_to_move(position));
    for (int round = 0; round < 9; ++round) {
        double seconds[2];
        for (auto* search : {&one, &two}) {
            const double started = arvek::steady_seconds();
            (void)search->decide(seen, {.playouts = playouts});
            seconds[search == &two ? 1 : 0] = arvek::steady_seconds() - started;
        }
        ratios.push_back(seconds[0] / seconds[1]);
    }
    std::printf("  two threads / one, playouts a second, %-28s %.2f\n", name, median(ratios));
}

template <class G>
void memory(const char* name) {
    std::printf("  bytes a node, %-20s %zu, of which its move %zu\n", name, arvek::MonteCarlo<G>::bytes_per_node,
                sizeof(typename G::Move));
}

/// Nodes of the expectation search with chance nodes cut and without. The cuts spare moves of the decisions between the
/// dice, so there is as much to gain as there are moves to choose from.
void cuts(int boats, const std::vector<int>& depths) {
    const waterway::Downstream game({.boats = boats});
    for (const int depth : depths) {
        arvek::Random random(11);
        std::uint64_t nodes[2] = {0, 0};
        std::size_t choices = 0;
        constexpr int positions = 40;
        for (int i = 0; i < positions; ++i) {
            auto position = game.initial_position();
            arvek::settle_chance(game, position, random);
            for (std::uint64_t ply = random.below(16); ply > 0; --ply) {
                auto next = position;
                const auto moves = arvek::legal_moves(game, next);
                game.play(next, moves[static_cast<std::size_t>(random.below(moves.size()))]);
                arvek::settle_chance(game, next, random);
                if (game.outcome(next)) break;
                position = next;
            }
            choices += arvek::legal_moves(game, position).size();
            for (const bool cut : {false, true})
                nodes[cut ? 1 : 0] += arvek::Expectation<waterway::Downstream>(game, {.cut_chance = cut})
                                          .decide(position, {.depth = depth}, {.ranking = arvek::Ranking::Best})
                                          .stats.nodes;
        }
        std::printf(
            "  expectation on Downstream, %d boats (%.1f moves), depth %d: nodes without cuts of chance / with %.2f\n",
            boats, static_cast<double>(choices) / positions, depth,
            static_cast<double>(nodes[0]) / static_cast<double>(nodes[1]));
    }
}

}  // namespace

int main() {
    std::printf("\nPlayouts and luck:\n");
    against_hand_written();
    memory<Lanterns>("Lanterns");
    memory<waterway::Sluice>("Sluice");
    memory<waterway::Downstream>("Downstream");
    const Lanterns lanterns;
    threads("Lanterns, playouts", lanterns, lanterns.initial_position(), arvek::LeafValue::PlayOut, 100'000);
    threads("Lanterns, evaluation", lanterns, lanterns.initial_position(), arvek::LeafValue::Evaluation, 100'000);
    const waterway::Downstream downstream;
    threads("Downstream, playouts", downstream, downstream.read_position("3,9/0,7 T 2"), arvek::LeafValue::PlayOut,
            20'000);
    const waterway::Tolls tolls;
    threads("Tolls", tolls,
            tolls.read_position("T:r1,r5,w2,s3 A:s4,w4,w1,r2 P:w3,w5,s1,s2 table:- took:0,0,0 lacks:- T"),
            arvek::LeafValue::PlayOut, 100'000);
    cuts(2, {5, 7, 9});
    cuts(4, {5, 7});
    return 0;
}
