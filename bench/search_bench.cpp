// The library's generic search against a search written by hand for one game, in one run.
//
// What is compared: time per node at the same depth from the empty frame, where both visit the same nodes (checked
// before anything is measured). The repetitions of the two are interleaved at random and the fastest of each is
// compared, so that what else the machine does falls on both.
//
// How the library keeps up: leaves end in the caller's loop without a call of their own; a node passes six arguments,
// all of them in registers; the move lists of all plies are made once; a position of up to 64 bytes is copied rather
// than taken back.
//
// Two measures of Lanterns 5 x 5: with its evaluation, and with wins and losses alone, where there is next to nothing
// to hide the library's own cost behind: a node then costs some ten nanoseconds, and the list of all moves, which the
// hand-written search never makes, is the larger part of the difference.

#include <benchmark/benchmark.h>

#include <arvek/search/alpha_beta.hpp>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <string>

#include "hand_written_lanterns.hpp"
#include "lanterns/lanterns.hpp"

namespace {

constexpr int depth = 7;
const waterway::Lanterns::Parameters frame{5, 5, 4, false};

/// Lanterns without its evaluation.
struct WinsAlone {
    using Position = waterway::Lanterns::Position;
    using Move = waterway::Lanterns::Move;

    waterway::Lanterns game{frame};

    Position initial_position() const { return game.initial_position(); }
    arvek::Player player_to_move(const Position& position) const { return game.player_to_move(position); }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        game.generate_moves(position, moves);
    }
    void play(Position& position, const Move& move) const { game.play(position, move); }
    std::optional<arvek::Outcome> outcome(const Position& position) const { return game.outcome(position); }
};

template <class G, arvek::Stepping S>
void library(benchmark::State& state, const G& game) {
    arvek::AlphaBeta<G, S> search(game);
    std::uint64_t nodes = 0;
    for (auto _ : state) nodes += search.decide(game.initial_position(), {.depth = depth}).stats.nodes;
    state.counters["node_time"] =
        benchmark::Counter(static_cast<double>(nodes), benchmark::Counter::kIsRate | benchmark::Counter::kInvert);
}

void hand_written(benchmark::State& state, bool evaluates) {
    bench::HandWrittenLanterns search(frame.columns, frame.rows, frame.line, evaluates);
    std::uint64_t nodes = 0;
    for (auto _ : state) {
        benchmark::DoNotOptimize(search.solve(depth));
        nodes += search.nodes();
    }
    state.counters["node_time"] =
        benchmark::Counter(static_cast<double>(nodes), benchmark::Counter::kIsRate | benchmark::Counter::kInvert);
}

/// Prints what the usual reporter prints, and keeps the fastest time per node of each benchmark.
class FastestReporter : public benchmark::ConsoleReporter {
   public:
    void ReportRuns(const std::vector<Run>& runs) override {
        ConsoleReporter::ReportRuns(runs);
        for (const Run& run : runs) {
            if (run.run_type != Run::RT_Iteration) continue;
            const double time = run.counters.at("node_time").value;
            auto [entry, fresh] = fastest.emplace(run.run_name.function_name, time);
            if (!fresh && time < entry->second) entry->second = time;
        }
    }

    void print_ratio(const char* what, const std::string& a, const std::string& b) const {
        if (fastest.count(a) == 0 || fastest.count(b) == 0) return;
        std::printf("%-58s %6.1f ns / %6.1f ns = %.3f\n", what, fastest.at(a) * 1e9, fastest.at(b) * 1e9,
                    fastest.at(a) / fastest.at(b));
    }

    std::map<std::string, double> fastest;
};

template <class G>
void require_same_nodes(const G& game, bool evaluates) {
    const auto decision = arvek::AlphaBeta<G>(game).decide(game.initial_position(), {.depth = depth});
    bench::HandWrittenLanterns by_hand(frame.columns, frame.rows, frame.line, evaluates);
    const int value = by_hand.solve(depth);
    if (by_hand.nodes() == decision.stats.nodes && value == decision.ranked.front().score.number()) return;
    std::fprintf(stderr, "the two searches differ: %llu and %llu nodes\n",
                 static_cast<unsigned long long>(decision.stats.nodes),
                 static_cast<unsigned long long>(by_hand.nodes()));
    std::exit(1);
}

}  // namespace

int main(int argc, char** argv) {
    using arvek::Stepping;
    const waterway::Lanterns lanterns(frame);
    const WinsAlone wins_alone;
    require_same_nodes(lanterns, true);
    require_same_nodes(wins_alone, false);

    benchmark::RegisterBenchmark("lanterns/library", library<waterway::Lanterns, Stepping::Automatic>, lanterns);
    benchmark::RegisterBenchmark("lanterns/hand_written", hand_written, true);
    benchmark::RegisterBenchmark("lanterns/library_taking_back", library<waterway::Lanterns, Stepping::TakingBack>,
                                 lanterns);
    benchmark::RegisterBenchmark("wins_alone/library", library<WinsAlone, Stepping::Automatic>, wins_alone);
    benchmark::RegisterBenchmark("wins_alone/hand_written", hand_written, false);

    std::vector<char*> arguments(argv, argv + argc);
    std::string repetitions = "--benchmark_repetitions=9", interleaving = "--benchmark_enable_random_interleaving=true",
                least_time = "--benchmark_min_time=0.3";
    for (std::string* option : {&repetitions, &interleaving, &least_time})
        arguments.insert(arguments.begin() + 1, option->data());
    int count = static_cast<int>(arguments.size());
    benchmark::Initialize(&count, arguments.data());
    if (benchmark::ReportUnrecognizedArguments(count, arguments.data())) return 2;
    FastestReporter reporter;
    benchmark::RunSpecifiedBenchmarks(&reporter);

    std::printf("\nTime per node, alpha-beta on Lanterns 5 x 5 line 4 to depth %d:\n", depth);
    reporter.print_ratio("library / hand-written", "lanterns/library", "lanterns/hand_written");
    reporter.print_ratio("library / hand-written, wins and losses alone", "wins_alone/library",
                         "wins_alone/hand_written");
    reporter.print_ratio("taking back / copying", "lanterns/library_taking_back", "lanterns/library");
    return 0;
}
