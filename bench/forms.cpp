// What it costs that searches are compiled once for all games: the same search over a game's own type and over its table
// of functions, in turn, and how many times as long a node of the second takes. Decisions and counters are the same, or
// it says so. Each ratio is the median of the rounds (9, or as many as are asked for); with a second argument, those
// rows alone whose names have it.

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/lab/count.hpp>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/engine_game.hpp>
#include <arvek/search/many_players.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <arvek/search/standard.hpp>

#include "chess/chess.hpp"
#include "lanterns/lanterns.hpp"
#include "lanterns/many_lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

using arvek::AnyGame;
using arvek::InTheOpen;
using arvek::Limits;
using arvek::Stepping;

int rounds = 9;
std::string_view only;

double cpu_seconds() {
    timespec now{};
    clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &now);
    return static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec);
}

struct Run {
    std::uint64_t nodes = 0;
    std::string says;  // the first move's score, and the counters
};

/// `own()` and `by_table()` do the same work.
void compare(const std::string& name, const std::function<Run()>& own, const std::function<Run()>& by_table) {
    if (name.find(only) == std::string::npos) return;
    std::vector<double> ratios, own_times;
    Run one, other;
    for (int round = 0; round < rounds; ++round) {
        const double begin = cpu_seconds();
        one = own();
        const double between = cpu_seconds();
        other = by_table();
        const double end = cpu_seconds();
        ratios.push_back((end - between) / (between - begin));
        own_times.push_back((between - begin) / static_cast<double>(one.nodes));
    }
    std::sort(ratios.begin(), ratios.end());
    std::sort(own_times.begin(), own_times.end());
    std::printf("%-36s %6.2f   %8.1f ns a node of its own type%s\n", name.c_str(), ratios[ratios.size() / 2],
                1e9 * own_times[own_times.size() / 2], one.says == other.says ? "" : "   NOT THE SAME");
    std::fflush(stdout);
}

template <class G, class Search>
std::function<Run()> searching(const G& game, const typename G::Position& position, const Limits& limits, Search make) {
    return [=] {
        auto search = make(game);
        const auto decision = search.decide(position, limits, {.seed = 1});
        return Run{decision.stats.nodes, std::to_string(decision.ranked.front().score.number()) + " " +
                                             std::to_string(decision.stats.nodes) + " " +
                                             std::to_string(decision.stats.cutoffs)};
    };
}

/// A search over both forms, `plies` into a game.
template <template <class> class Search, class G>
void compare_search(const std::string& name, const G& game, const Limits& limits, int plies = 0) {
    const InTheOpen any{AnyGame(game)};
    auto position = game.initial_position();
    auto same = any.initial_position();
    for (int ply = 0; ply < plies; ++ply) {
        const auto moves = arvek::legal_moves(game, position);
        const auto place = static_cast<std::size_t>(ply * 7) % moves.size();
        same = [&] {
            auto next = same;
            any.play(next, arvek::legal_moves(any, same)[place]);
            return next;
        }();
        game.play(position, moves[place]);
    }
    compare(name, searching(game, position, limits, [](const G& own) { return Search<G>(own); }),
            searching(any, same, limits, [](const InTheOpen& own) { return Search<InTheOpen>(own); }));
}

template <class G>
using AlphaBeta = arvek::AlphaBeta<G, Stepping::Automatic>;
template <class G>
using Standard = arvek::Standard<G, Stepping::Automatic>;
template <class G>
using MonteCarlo = arvek::MonteCarlo<G>;
template <class G>
using ManyPlayers = arvek::ManyPlayers<G>;

template <class G>
void compare_count(const std::string& name, const G& game, int depth) {
    const InTheOpen any{AnyGame(game)};
    const auto counting = [depth](const auto& own) {
        return [=] {
            const auto counts = arvek::count_sequences(own, own.initial_position(), depth);
            return Run{counts.back().sequences.in_64_bits(), counts.back().finished.text()};
        };
    };
    compare(name, counting(game), counting(any));
}

}  // namespace

int main(int argc, char** argv) {
    if (argc > 1) rounds = std::max(1, std::atoi(argv[1]));
    if (argc > 2) only = argv[2];
    using namespace waterway;
    const Lanterns square({5, 5, 4, false}), drop({7, 6, 4, true});
    const Sluice sluice;
    const Chess chess;
    const Windlass windlass;
    const Nightwatch nightwatch;
    std::printf("a node by table / by its own type, CPU time\n\n");
    compare_search<Standard>("standard lanterns 5x5", square, {.depth = 9});
    compare_search<Standard>("standard lanterns drop", drop, {.depth = 13});
    compare_search<Standard>("standard sluice", sluice, {.depth = 14});
    compare_search<Standard>("standard chess", chess, {.depth = 8});
    compare_search<Standard>("standard windlass", windlass, {.depth = 19});
    compare_search<Standard>("standard nightwatch", nightwatch, {.depth = 5}, 4);
    compare_search<AlphaBeta>("alphabeta lanterns 5x5", square, {.depth = 7});
    compare_search<AlphaBeta>("alphabeta lanterns drop", drop, {.depth = 10});
    compare_search<AlphaBeta>("alphabeta sluice", sluice, {.depth = 11});
    compare_search<AlphaBeta>("alphabeta chess", chess, {.depth = 5});
    compare_search<AlphaBeta>("alphabeta windlass", windlass, {.depth = 13});
    compare_search<AlphaBeta>("alphabeta nightwatch", nightwatch, {.depth = 4}, 4);
    compare_search<MonteCarlo>("montecarlo lanterns 5x5", square, {.playouts = 50'000});
    compare_search<MonteCarlo>("montecarlo lanterns drop", drop, {.playouts = 50'000});
    compare_search<MonteCarlo>("montecarlo sluice", sluice, {.playouts = 50'000});
    compare_search<MonteCarlo>("montecarlo windlass", windlass, {.playouts = 50'000});
    compare_search<MonteCarlo>("montecarlo for three", ManyLanterns({6, 6, 4, false, 3}), {.playouts = 20'000});
    compare_search<ManyPlayers>("maxn for three", ManyLanterns({6, 6, 4, false, 3}), {.depth = 3});
    compare_count("count lanterns 5x5", square, 5);
    compare_count("count sluice", sluice, 8);
    compare_count("count chess", chess, 4);
    return 0;
}
