// The library's generic search against a search written by hand for one game, and taking moves back against copying, in
// one run.
//
// What is compared: time per node at the same depth from the start, where both visit the same nodes (checked before
// anything is measured). Many short repetitions are interleaved at random and the fastest of each is compared, so that
// what else the machine does falls on both.
//
// How the library keeps up: leaves end in the caller's loop without a call of their own; a node passes six arguments,
// all of them in registers; what the nodes share is reached by one pointer, nodes are counted down, and an outcome is
// never written to memory; the games give their moves one at a time, so that after a cutoff none is generated for
// nothing; a position of up to 64 bytes is copied rather than taken back, and one of 8 bytes travels in a register.
//
// The benchmarks are built with branches kept from crossing 32 bytes where the assembler can do that. On many
// processors such branches cost more, and which of them cross is an accident of the layout that moved the ratios by a
// tenth. Not all of that is gone: of the hand-written Windlass, two builds took 15.1 and 16.7 ns a node.
//
// Lanterns is measured twice: with its evaluation, and with wins and losses alone, where there is next to nothing to
// hide the library's own cost behind, and with the list of all moves, which the hand-written search never makes.

#include <benchmark/benchmark.h>

#include <arvek/search/alpha_beta.hpp>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <string>
#include <vector>

#include "hand_written_lanterns.hpp"
#include "hand_written_sluice.hpp"
#include "hand_written_windlass.hpp"
#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

using arvek::Stepping;
using waterway::Lanterns;
using waterway::Sluice;
using waterway::Windlass;

/// Lanterns without its evaluation.
struct WinsAlone {
    using Position = Lanterns::Position;
    using Move = Lanterns::Move;

    Lanterns game;

    Position initial_position() const { return game.initial_position(); }
    arvek::Player player_to_move(const Position& position) const { return game.player_to_move(position); }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        game.generate_moves(position, moves);
    }
    void play(Position& position, const Move& move) const { game.play(position, move); }
    std::optional<arvek::Outcome> outcome(const Position& position) const { return game.outcome(position); }
};

void note_node_time(benchmark::State& state, std::uint64_t nodes) {
    state.counters["node_time"] =
        benchmark::Counter(static_cast<double>(nodes), benchmark::Counter::kIsRate | benchmark::Counter::kInvert);
}

template <class G, Stepping S>
void library(benchmark::State& state, const G& game, int depth) {
    arvek::AlphaBeta<G, S> search(game);
    std::uint64_t nodes = 0;
    for (auto _ : state) nodes += search.decide(game.initial_position(), {.depth = depth}).stats.nodes;
    note_node_time(state, nodes);
}

template <class ByHand>
void hand_written(benchmark::State& state, ByHand search, int depth) {
    std::uint64_t nodes = 0;
    for (auto _ : state) {
        benchmark::DoNotOptimize(search.solve(depth));
        nodes += search.nodes();
    }
    note_node_time(state, nodes);
}

/// Prints the means and medians, without colours, and keeps the fastest time per node of each benchmark.
class FastestReporter : public benchmark::ConsoleReporter {
   public:
    FastestReporter() : ConsoleReporter(OO_Tabular) {}

    void ReportRuns(const std::vector<Run>& runs) override {
        std::vector<Run> aggregates;
        for (const Run& run : runs) {
            if (run.run_type != Run::RT_Iteration) {
                aggregates.push_back(run);
                continue;
            }
            const double time = run.counters.at("node_time").value;
            auto [entry, fresh] = fastest_.emplace(run.run_name.function_name, time);
            if (!fresh && time < entry->second) entry->second = time;
        }
        if (!aggregates.empty()) ConsoleReporter::ReportRuns(aggregates);
    }

    void print_ratio(const std::string& what, const std::string& a, const std::string& b) const {
        if (fastest_.count(a) == 0 || fastest_.count(b) == 0) return;
        std::printf("  %-52s %6.1f ns / %6.1f ns = %.3f\n", what.c_str(), fastest_.at(a) * 1e9, fastest_.at(b) * 1e9,
                    fastest_.at(a) / fastest_.at(b));
    }

   private:
    std::map<std::string, double> fastest_;
};

std::vector<std::string> measured;

template <class G, class ByHand>
void measure(const std::string& name, const G& game, ByHand by_hand, int depth) {
    const auto decision = arvek::AlphaBeta<G>(game).decide(game.initial_position(), {.depth = depth});
    const int value = by_hand.solve(depth);
    if (by_hand.nodes() != decision.stats.nodes || value != decision.ranked.front().score.number()) {
        std::fprintf(stderr, "%s: the two searches differ: %llu and %llu nodes, values %d and %d\n", name.c_str(),
                     static_cast<unsigned long long>(decision.stats.nodes),
                     static_cast<unsigned long long>(by_hand.nodes()), decision.ranked.front().score.number(), value);
        std::exit(1);
    }
    measured.push_back(name);
    benchmark::RegisterBenchmark((name + "/library").c_str(), library<G, Stepping::Automatic>, game, depth);
    benchmark::RegisterBenchmark((name + "/hand_written").c_str(), hand_written<ByHand>, by_hand, depth);
    if constexpr (arvek::ReversibleGame<G>) {
        benchmark::RegisterBenchmark((name + "/copying").c_str(), library<G, Stepping::Copying>, game, depth);
        benchmark::RegisterBenchmark((name + "/taking_back").c_str(), library<G, Stepping::TakingBack>, game, depth);
    }
}

}  // namespace

int main(int argc, char** argv) {
    const bench::HandWrittenLanterns lanterns_by_hand(5, 5, 4, true), wins_by_hand(5, 5, 4, false);
    measure("lanterns", Lanterns({5, 5, 4, false}), lanterns_by_hand, 7);
    measure("sluice", Sluice({6, 4, false, false}), bench::HandWrittenSluice(6, 4), 10);
    measure("windlass", Windlass({9, 4}), bench::HandWrittenWindlass(9, 4), 9);
    measure("wins_alone", WinsAlone{Lanterns({5, 5, 4, false})}, wins_by_hand, 7);

    std::vector<char*> arguments(argv, argv + argc);
    std::string repetitions = "--benchmark_repetitions=60",
                interleaving = "--benchmark_enable_random_interleaving=true", least_time = "--benchmark_min_time=0.03";
    for (std::string* option : {&repetitions, &interleaving, &least_time})
        arguments.insert(arguments.begin() + 1, option->data());
    int count = static_cast<int>(arguments.size());
    benchmark::Initialize(&count, arguments.data());
    if (benchmark::ReportUnrecognizedArguments(count, arguments.data())) return 2;
    FastestReporter reporter;
    benchmark::RunSpecifiedBenchmarks(&reporter);

    std::printf("\nTime per node of alpha-beta from the start, library / hand-written:\n");
    for (const std::string& name : measured) reporter.print_ratio(name, name + "/library", name + "/hand_written");
    std::printf("\nTime per node, taking back / copying:\n");
    for (const std::string& name : measured) reporter.print_ratio(name, name + "/taking_back", name + "/copying");
    return 0;
}
