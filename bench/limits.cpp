// How well limits are kept: what a search takes beyond a limit of 100 ms, and how soon it answers to a stop.
//
// A search looks at its clock and its stop token every 512 nodes, or sooner where those would take over half a
// millisecond. On the positions of positions.txt, each with one
// search that is stopped by time and one that another thread stops.

#include <algorithm>
#include <arvek/arena/steady_clock.hpp>
#include <arvek/search/standard.hpp>
#include <atomic>
#include <chrono>
#include <cstdio>
#include <string>
#include <thread>
#include <vector>

#include "lanterns/lanterns.hpp"
#include "shipped_positions.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

constexpr double limit = 0.1;

std::vector<double> over_time, over_stop;

struct Asked {
    std::atomic<bool> stop{false};
    bool stop_requested() const { return stop.load(); }
};

template <class G>
void measure(const G& game, const std::vector<std::string>& texts, int threads) {
    arvek::Standard<G> search(game, {.threads = threads});
    for (const std::string& text : texts) {
        const auto position = game.read_position(text);
        const double began = arvek::steady_seconds();
        const auto timed = search.decide(position, {.seconds = limit, .clock = arvek::steady_seconds});
        if (timed.stats.stopped_by == arvek::StoppedBy::Time)
            over_time.push_back(arvek::steady_seconds() - began - limit);

        Asked asked;
        double asked_at = 0;
        std::thread asks([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(30));
            asked_at = arvek::steady_seconds();
            asked.stop = true;
        });
        const auto stopped = search.decide(position, {.stop = arvek::StopToken::of(asked)});
        const double ended = arvek::steady_seconds();
        asks.join();
        if (stopped.stats.stopped_by == arvek::StoppedBy::Stop) over_stop.push_back(ended - asked_at);
    }
}

void report(const char* what, std::vector<double>& seconds) {
    if (seconds.empty()) return;
    std::sort(seconds.begin(), seconds.end());
    const auto at = [&](double share) {
        return 1e3 * seconds[static_cast<std::size_t>(share * static_cast<double>(seconds.size() - 1))];
    };
    std::printf("  %-34s %4zu searches: median %.2f ms, 99 %% within %.2f ms, worst %.2f ms\n", what, seconds.size(),
                at(0.5), at(0.99), at(1.0));
}

}  // namespace

int main() {
    const auto positions = bench::shipped_positions();
    for (const int threads : {1, 2}) {
        over_time.clear();
        over_stop.clear();
        for (int round = 0; round < 3; ++round) {
            measure(waterway::Lanterns({7, 6, 4, true}), {"......./......./......./......./......./....... T"},
                    threads);
            measure(waterway::Lanterns({6, 5, 4, true}), positions.at("lanterns"), threads);
            measure(waterway::Sluice(), positions.at("sluice"), threads);
            measure(waterway::Windlass(), positions.at("windlass"), threads);
        }
        std::printf("\nKeeping to limits, %d thread%s:\n", threads, threads == 1 ? "" : "s");
        report("over a limit of 100 ms", over_time);
        report("from a stop to the answer", over_stop);
    }
    return 0;
}
