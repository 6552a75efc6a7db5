// What it costs to ask a learned network, as ratios of times within one run, each the median of nine pairs: worked out from
// the start against following what has changed, unrounded numbers against 16 bits, and the game's own evaluation. Positions are
// the leaves of a search of two plies along random games, in its order.

#include <algorithm>
#include <cstdio>
#include <memory>
#include <vector>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/game/random.hpp>
#include <arvek/search/learned_evaluator.hpp>

#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "sluice/sluice.hpp"
#include "windlass/windlass.hpp"

namespace {

template <class G>
std::vector<typename G::Position> leaves_of(const G& game) {
    std::vector<typename G::Position> leaves;
    arvek::Random random(1);
    while (leaves.size() < 20'000) {
        auto position = game.initial_position();
        for (int ply = 0; ply < 40 && !game.outcome(position); ++ply) {
            arvek::MoveList<typename G::Move> moves;
            game.generate_moves(position, moves);
            for (const auto& move : moves) {
                auto after = position;
                game.play(after, move);
                if (game.outcome(after)) continue;
                arvek::MoveList<typename G::Move> replies;
                game.generate_moves(after, replies);
                for (const auto& reply : replies) {
                    auto leaf = after;
                    game.play(leaf, reply);
                    if (!game.outcome(leaf)) leaves.push_back(leaf);
                }
            }
            game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
    }
    return leaves;
}

template <class G>
std::shared_ptr<const arvek::LearnedNetwork> network_of(const G& game, int hidden) {
    arvek::LearnedModel model;
    model.patterns = game.patterns();
    model.hidden = hidden;
    arvek::Random random(2);
    const auto fill = [&](std::vector<float>& weights, std::size_t size) {
        for (std::size_t i = 0; i < size; ++i) weights.push_back(static_cast<float>(0.2 * random.unit() - 0.1));
    };
    fill(model.rows, model.ways() * static_cast<std::size_t>(model.width()));
    fill(model.row_bias, static_cast<std::size_t>(hidden));
    fill(model.last_rows, 2 * static_cast<std::size_t>(hidden));
    fill(model.last_bias, 1);
    return std::make_shared<const arvek::LearnedNetwork>(model);
}

template <class Act>
double seconds_of(Act act) {
    const double before = arvek::steady_seconds();
    act();
    return arvek::steady_seconds() - before;
}

double median(std::vector<double> values) {
    std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2), values.end());
    return values[values.size() / 2];
}

volatile double kept;  // so that nothing is left out

template <class G>
void measure(const char* name, const G& game) {
    const auto leaves = leaves_of(game);
    for (const int hidden : {0, 16, 32, 128}) {
        const auto network = network_of(game, hidden);
        const arvek::LearnedEvaluator<G> evaluator(network);
        const std::size_t count = network->patterns();
        std::vector<double> of_start, of_exact, of_game, of_reading, times;
        for (int pair = 0; pair < 9; ++pair) {
            const double followed = seconds_of([&] {
                double sum = 0;
                for (const auto& leaf : leaves) sum += evaluator.evaluate(game, leaf, arvek::Player::First).number();
                kept = sum;
            });
            const double from_start = seconds_of([&] {
                double sum = 0;
                for (const auto& leaf : leaves) {
                    network->forget();
                    sum += evaluator.evaluate(game, leaf, arvek::Player::First).number();
                }
                kept = sum;
            });
            const double exact = seconds_of([&] {
                double sum = 0;
                std::vector<std::uint16_t> own(count), rivals(count);
                for (const auto& leaf : leaves) {
                    game.read_patterns(leaf, arvek::Player::First, own);
                    game.read_patterns(leaf, arvek::Player::Second, rivals);
                    sum += static_cast<double>(network->exact_output(own, rivals).value);
                }
                kept = sum;
            });
            const double of_own = seconds_of([&] {
                double sum = 0;
                for (const auto& leaf : leaves) sum += game.evaluate(leaf, arvek::Player::First).number();
                kept = sum;
            });
            const double reading = seconds_of([&] {
                double sum = 0;
                std::vector<std::uint16_t> own(count);
                for (const auto& leaf : leaves) {
                    game.read_patterns(leaf, arvek::Player::First, own);
                    sum += own[count / 2];
                }
                kept = sum;
            });
            times.push_back(followed);
            of_start.push_back(from_start / followed);
            of_exact.push_back(exact / followed);
            of_game.push_back(followed / of_own);
            of_reading.push_back(reading / followed);
        }
        std::printf(
            "%-10s %4d units  %6.0f ns  from the start %5.2f  unrounded %5.2f  own evaluation 1/%5.2f  reading %4.2f\n",
            name, hidden, 1e9 * median(times) / static_cast<double>(leaves.size()), median(of_start), median(of_exact),
            median(of_game), median(of_reading));
    }
}

}  // namespace

int main() {
    std::printf("as multiples of following what has changed; reading: its share\n");
    measure("lanterns", waterway::Lanterns());
    measure("windlass", waterway::Windlass());
    measure("sluice", waterway::Sluice());
    measure("nightwatch", waterway::Nightwatch());
}
