// Two threads against one, on the positions of positions.txt: nodes a second, and time to the same depth.
//
// Each position is searched with one thread and with two by turns, three times; the fastest of each counts. The figures
// are geometric means over the positions. Needs a machine with two processors that have nothing else to do.
//
// How two are to be faster: neither ever waits. Both search the same tree, but each takes a move that the other has in
// hand last, and by then mostly finds it in the table that they share.

#include <algorithm>
#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/standard.hpp>
#include <cstdio>
#include <string>
#include <vector>

#include "lanterns/lanterns.hpp"
#include "shipped_positions.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

bench::GeometricMean all_rates, all_times;

template <class G>
void measure(const char* name, const G& game, const std::vector<std::string>& texts, int depth) {
    constexpr int repetitions = 3;
    bench::GeometricMean rates, times;
    double seconds_of_one = 0;
    int measured = 0;
    arvek::Standard<G> one(game, {.table_mebibytes = 64}), two(game, {.table_mebibytes = 64, .threads = 2});
    for (const std::string& text : texts) {
        const auto position = game.read_position(text);
        double seconds[2] = {1e9, 1e9}, rate[2] = {};
        for (int i = 0; i < 2 * repetitions; ++i) {
            const auto stats = (i % 2 == 0 ? one : two)
                                   .decide(position, {.depth = depth, .clock = arvek::steady_seconds},
                                           {.ranking = arvek::Ranking::Best})
                                   .stats;
            seconds[i % 2] = std::min(seconds[i % 2], stats.seconds);
            rate[i % 2] = std::max(rate[i % 2], static_cast<double>(stats.nodes) / stats.seconds);
        }
        seconds_of_one += seconds[0];
        // What is over in no time says nothing about threads.
        if (seconds[0] < 0.02) continue;
        ++measured;
        rates.add(rate[1] / rate[0]);
        times.add(seconds[0] / seconds[1]);
        all_rates.add(rate[1] / rate[0]);
        all_times.add(seconds[0] / seconds[1]);
    }
    std::printf("  %-26s depth %2d, %6.3f s a position: ", name, depth,
                seconds_of_one / static_cast<double>(texts.size()));
    if (measured == 0)
        std::printf("over too soon to tell\n");
    else
        std::printf("%.2f times the nodes a second, %.2f times as fast\n", rates.value(), times.value());
}

}  // namespace

int main() {
    const auto positions = bench::shipped_positions();
    std::printf("\nTwo threads against one:\n");
    measure("Lanterns 6 x 5, dropping", waterway::Lanterns({6, 5, 4, true}), positions.at("lanterns"), 18);
    measure("Sluice", waterway::Sluice(), positions.at("sluice"), 20);
    measure("Windlass", waterway::Windlass(), positions.at("windlass"), 30);
    std::printf("  %-26s %.2f times the nodes a second, %.2f times as fast\n", "all of them", all_rates.value(),
                all_times.value());
    return 0;
}
