// How games a second grow with the number of MPI ranks, by a model: what cannot be measured on one machine.
//
// The model: a game takes a rank a time that is spread as people's games are (log-normal, with a standard deviation of half
// the mean). Rank 0 hands out games and takes them in, one message after another, `hand` seconds each; a message is under way
// for `wire` seconds. Each rank has one game to play and one in hand, as MpiPool does, so that the way there and back is
// hidden behind a game. A league ends when its last game does.

#include <cmath>
#include <cstdio>
#include <functional>
#include <queue>
#include <vector>

#include <arvek/game/random.hpp>

namespace {

struct Arrival {
    double at;
    std::size_t rank;
    bool operator>(const Arrival& other) const { return at > other.at; }
};

/// Games a second over `games` games of `mean` seconds with so many ranks that play.
double games_a_second(std::size_t ranks, int games, double mean, double hand, double wire) {
    arvek::Random random(1);
    const auto length = [&] {
        constexpr double spread = 0.4724;  // of the logarithm, so that the standard deviation is half the mean
        double normal = -6;
        for (int i = 0; i < 12; ++i) normal += random.unit();
        return mean * std::exp(spread * normal - spread * spread / 2);
    };
    std::priority_queue<Arrival, std::vector<Arrival>, std::greater<>> results;
    std::vector<double> free_at(ranks, 0.0);  // when each has played what it has in hand
    double lead = 0.0, last = 0.0;            // when rank 0 is free; when the last game was taken in
    int given = 0;
    const auto give = [&](std::size_t rank) {
        if (given == games) return;
        ++given;
        lead += hand;
        free_at[rank] = std::max(free_at[rank], lead + wire) + length();
        results.push({free_at[rank] + wire, rank});
    };
    for (int turn = 0; turn < 2; ++turn)
        for (std::size_t rank = 0; rank < ranks; ++rank) give(rank);
    while (!results.empty()) {
        const Arrival next = results.top();
        results.pop();
        lead = std::max(lead, next.at) + hand;
        last = lead;
        give(next.rank);
    }
    return games / last;
}

}  // namespace

int main() {
    constexpr double hand = 60e-6, wire = 50e-6;
    std::printf(
        "Games a second by ranks, %.0f us of rank 0 a message, %.0f us on the wire; share of ranks times one rank\n",
        1e6 * hand, 1e6 * wire);
    std::printf("  ranks");
    const double means[] = {0.01, 0.1, 1.0, 10.0};
    for (const double mean : means) std::printf("  %16.2f s a game", mean);
    std::printf("\n");
    for (const std::size_t ranks : {1u, 2u, 8u, 32u, 100u, 300u, 1000u}) {
        std::printf("  %5zu", ranks);
        for (const double mean : means) {
            const double rate = games_a_second(ranks, 200'000, mean, hand, wire);
            std::printf("  %13.1f %6.1f %%", rate, 100 * rate * mean / static_cast<double>(ranks));
        }
        std::printf("\n");
    }
}
