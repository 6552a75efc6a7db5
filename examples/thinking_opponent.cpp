// An opponent that thinks while the game runs: in a thread of its own, and in one thread alone, a little in each frame.

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <thread>
#include <vector>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/thinking.hpp>

#include "nightwatch/nightwatch.hpp"

using waterway::Nightwatch;

int main() {
    const Nightwatch game{Nightwatch::Parameters{}};
    const auto opponent = make_opponent(game, arvek::read_opponent("standard@8"));
    const auto position = game.initial_position();
    const arvek::ThinkingOptions options{.clock = arvek::steady_seconds, .pace = arvek::unhurried_pace, .latest = 2.0};

    // In a thread: the game draws, and asks now and then.
    int frames = 0;
    arvek::Thinking<Nightwatch> beside(*opponent, position, 1, {}, options);
    for (; !beside.ready(); ++frames) std::this_thread::sleep_for(std::chrono::milliseconds(16));
    const auto decision = beside.take();
    std::printf("in a thread: %s after %d frames\n", game.move_text(position, decision.move).c_str(), frames);

    // In one thread: so many milliseconds of each frame are the opponent's.
    constexpr double budget = 0.004;
    std::vector<double> over;
    auto endless = arvek::read_opponent("standard");
    endless.depth = arvek::max_depth;
    const auto deep = make_opponent(game, endless);
    arvek::FrameThinking<Nightwatch> framed(*deep, position, 1, {}, {.clock = arvek::steady_seconds});
    for (int frame = 0; frame < 100; ++frame) {
        const double begin = arvek::steady_seconds();
        framed.work(budget);
        over.push_back(arvek::steady_seconds() - begin - budget);
    }
    framed.cancel();
    const auto other = framed.take();
    std::sort(over.begin(), over.end());
    std::printf("in 100 frames: %s, %d plies ahead, %llu positions; 90 frames of 100 were over by less than %.2f ms\n",
                game.move_text(position, other.move).c_str(), other.stats.depth,
                static_cast<unsigned long long>(other.stats.nodes), 1'000 * std::max(over[89], 0.0));
}
